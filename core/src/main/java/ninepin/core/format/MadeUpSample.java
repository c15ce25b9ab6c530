package ninepin.core.format;

import com.github.curiousoddman.rgxgen.RgxGen;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCheck;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.record.RecordWriter;

/**
 * Makes up a file that a layout fits: values of the types, that pass the checks of their fields as far as they can be
 * foreseen, with the counts and totals that the file's own checks ask for. The same layout makes the same file.
 */
public final class MadeUpSample {

    private static final int RECORDS = 8;
    private static final int CHILDREN = 3;
    private static final int MOST_TEXT = 24;
    private static final long SEED = 20_261_123L;

    private record Made(int type, List<String> values) {}

    private final Layout layout;
    private final LocalDate today;
    private final Random random = new Random(SEED);
    private final List<Made> records = new ArrayList<>();
    private final Set<Integer> once = new TreeSet<>();
    private int number;

    private MadeUpSample(Layout layout, LocalDate today) {
        this.layout = layout;
        this.today = today;
        for (FileCheck check : layout.fileChecks()) {
            if (check instanceof FileCheck.Count c) {
                once.add(typeOf(c.field()));
            } else if (check instanceof FileCheck.Total t) {
                once.add(typeOf(t.field()));
            } else if (check instanceof FileCheck.Same s) {
                once.add(typeOf(s.field()));
                once.add(typeOf(s.as()));
            } else if (check instanceof FileCheck.NotOlder n) {
                once.add(typeOf(n.field()));
            }
        }
    }

    /**
     * Makes a file.
     *
     * @param today what dates are made up around
     */
    public static byte[] of(Layout layout, LocalDate today) throws IOException {
        MadeUpSample sample = new MadeUpSample(layout, today);
        sample.make();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (RecordWriter writer = Formats.writer(out, layout)) {
            for (Made record : sample.records) {
                writer.write(record.type, record.values);
            }
        }
        return Transcripts.composed(out.toByteArray(), layout);
    }

    private void make() {
        List<Integer> last = new ArrayList<>();
        for (int t = 0; t < layout.recordTypes().size(); t++) {
            RecordType type = layout.recordTypes().get(t);
            if (type.parent() != null) {
                continue;
            }
            if (type.when() instanceof Recognition.LastLine) {
                last.add(t);
            } else {
                repeat(t, RECORDS);
            }
        }
        last.forEach(t -> repeat(t, 1));
        layout.fileChecks().forEach(this::satisfy);
    }

    private void repeat(int t, int wanted) {
        RecordType type = layout.recordTypes().get(t);
        boolean single = type.when() instanceof Recognition.FirstLine || once.contains(t);
        int times = single ? 1 : wanted;
        times = Math.max(times, type.min() == null ? 0 : Math.min(type.min(), RECORDS * RECORDS));
        times = Math.min(times, type.max() == null ? times : type.max());
        for (int i = 0; i < times; i++) {
            records.add(new Made(t, values(type)));
            for (int c = 0; c < layout.recordTypes().size(); c++) {
                if (type.name().equals(layout.recordTypes().get(c).parent())) {
                    repeat(c, CHILDREN);
                }
            }
        }
    }

    private List<String> values(RecordType type) {
        number++;
        String[] values = new String[type.fields().size()];
        for (int f = 0; f < values.length; f++) {
            values[f] = value(type.fields().get(f));
        }
        return Arrays.asList(values);
    }

    private String value(Field field) {
        DataType type = field.type();
        int room = Math.min(MOST_TEXT, field.room());
        Check.Range range = null;
        for (Check check : field.checks()) {
            if (check instanceof Check.OneOf one) {
                return one.values().get(number % one.values().size());
            }
            if (check instanceof Check.Matches matches && type instanceof DataType.CharacterVarying) {
                return RgxGen.parse(matches.pattern()).generate(random);
            }
            range = check instanceof Check.Range r ? r : range;
        }
        if (range != null) {
            return range.min() != null ? range.min() : range.max();
        }
        return made(field, type, room);
    }

    private String made(Field field, DataType type, int room) {
        if (type instanceof DataType.IntegerNumber) {
            return String.valueOf(number % (long) Math.pow(10, Math.min(room, 9) - (room > 2 ? 1 : 0)));
        }
        if (type instanceof DataType.Decimal d) {
            int digits = Math.max(1, Math.min(Math.min(d.precision(), room - 1), 6));
            return BigDecimal.valueOf(number * 7L % (long) Math.pow(10, digits), Math.min(d.scale(), digits))
                    .setScale(d.scale(), RoundingMode.DOWN)
                    .toPlainString();
        }
        if (type instanceof DataType.Bool) {
            return String.valueOf(number % 2 == 0);
        }
        if (type instanceof DataType.Date) {
            return today.minusDays(number % 28).toString();
        }
        if (type instanceof DataType.Time) {
            return LocalTime.of(number % 24, number * 7 % 60).toString();
        }
        if (type instanceof DataType.Timestamp) {
            return LocalDateTime.of(today.minusDays(number % 28), LocalTime.of(number % 24, number * 7 % 60))
                    .toString();
        }
        return text(field, (DataType.CharacterVarying) type, room);
    }

    private String text(Field field, DataType.CharacterVarying type, int room) {
        int most = Math.min(type.length(), room);
        int least = 0;
        for (Check check : field.checks()) {
            if (check instanceof Check.Length length) {
                least = length.min() == null ? least : length.min();
                most = length.max() == null ? most : Math.min(most, length.max());
            }
        }
        String tail = String.valueOf(number);
        String stem = field.name().replaceAll("[^A-Za-z]", " ").strip();
        int left = most - tail.length() - 1;
        String text = left < 1
                ? tail.substring(Math.max(0, tail.length() - most))
                : stem.substring(0, Math.min(stem.length(), left)).strip() + " " + tail;
        return text.length() >= least
                ? text.strip()
                : text.strip() + "x".repeat(least - text.strip().length());
    }

    private int typeOf(String field) {
        return layout.typeIndex(field.substring(0, field.indexOf('.')));
    }

    private int fieldOf(String field) {
        return layout.recordTypes().get(typeOf(field)).indexOf(field.substring(field.indexOf('.') + 1));
    }

    private void satisfy(FileCheck check) {
        if (check instanceof FileCheck.Count c) {
            int of = layout.typeIndex(c.of());
            set(
                    c.field(),
                    String.valueOf(records.stream().filter(r -> r.type == of).count()));
        } else if (check instanceof FileCheck.Total t) {
            int of = typeOf(t.of());
            int field = fieldOf(t.of());
            BigDecimal sum = records.stream()
                    .filter(r -> r.type == of)
                    .map(r -> new BigDecimal(r.values.get(field)))
                    .reduce(BigDecimal.ZERO, BigDecimal::add);
            set(t.field(), sum.toPlainString());
        } else if (check instanceof FileCheck.Sequence s) {
            long next = 1;
            for (Made r : records) {
                if (r.type == typeOf(s.field())) {
                    r.values.set(fieldOf(s.field()), String.valueOf(next++));
                }
            }
        } else if (check instanceof FileCheck.Same s) {
            records.stream()
                    .filter(r -> r.type == typeOf(s.as()))
                    .findFirst()
                    .ifPresent(r -> set(s.field(), r.values.get(fieldOf(s.as()))));
        } else if (check instanceof FileCheck.NotOlder n) {
            set(n.field(), today.toString());
        }
    }

    private void set(String field, String value) {
        records.stream().filter(r -> r.type == typeOf(field)).forEach(r -> r.values.set(fieldOf(field), value));
    }
}
