package ninepin.core.lookup;

import java.io.IOException;
import java.nio.charset.Charset;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.bytes.ByteSource;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.format.Formats;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordReader;
import ninepin.core.value.Value;

/** Reads what a look-up looks into from a file: that of a partner, or what a table was written to. */
public final class LookUpReader {

    private final LookUp lookUp;
    private final Layout layout;
    private final int type;

    private LookUpReader(LookUp lookUp, Layout layout) throws LookUpException {
        this.lookUp = lookUp;
        this.layout = layout;
        String name = lookUp.from() instanceof LookUp.InFile in ? in.type() : null;
        this.type = name == null ? 0 : layout.typeIndex(name);
        if (type < 0) {
            throw new LookUpException("There is no record type " + name + " in the layout " + layout.name() + ".");
        }
    }

    /**
     * Reads a file to its end.
     *
     * @param layout how it is written, with its checks
     * @throws LookUpException where a record of it is refused, it lacks a column, or there is too much of it
     */
    public static LookUpTable read(LookUp lookUp, Layout layout, ByteSource source, LocalDate today)
            throws IOException, LookUpException {
        return new LookUpReader(lookUp, layout).read(source, today);
    }

    private LookUpTable read(ByteSource source, LocalDate today) throws IOException, LookUpException {
        int[] keys = indexes(lookUp.key().stream().map(LookUp.Key::column).toList());
        int[] taken = lookUp.take().isEmpty() ? rest(keys) : indexes(lookUp.take());
        Opening opening = Formats.open(source, layout);
        if (opening.fault() != null) {
            throw new LookUpException("It cannot be read: " + opening.fault().found() + ".");
        }
        FileCharset charset = layout.format().charset().ofValues();
        RecordChecker checker = new RecordChecker(layout, opening, today);
        LookUpTable.Builder builder = new LookUpTable.Builder(lookUp, fields(taken), fields(keys), charset);
        KeyText key = new KeyText();
        Value[] row = new Value[taken.length];
        try (RecordReader reader = opening.reader(source, opening.body())) {
            for (RecordReader.Item item = reader.next(); item != RecordReader.Item.END; item = reader.next()) {
                if (item == RecordReader.Item.BLANK) {
                    continue;
                }
                Severity worst = checker.check(reader.record());
                if (worst == Severity.REJECT || worst == Severity.HALT) {
                    throw refused(checker.findings());
                }
                if (reader.record().type() == type) {
                    Value[] values = checker.values()[type];
                    for (int f = 0; f < taken.length; f++) {
                        row[f] = values[taken[f]];
                    }
                    if (isWhole(key, keys, values, charset.charset())) {
                        builder.add(key.toString(), row);
                    }
                }
            }
        }
        return builder.table();
    }

    private static boolean isWhole(KeyText key, int[] keys, Value[] values, Charset charset) {
        key.clear();
        for (int k : keys) {
            if (!key.value(values[k], charset)) {
                return false;
            }
        }
        return true;
    }

    private static LookUpException refused(List<Finding> findings) {
        Finding worst = findings.stream()
                .filter(f -> f.severity() != Severity.NOTE)
                .findFirst()
                .orElseThrow();
        return new LookUpException("Line " + worst.line() + ": " + worst.message());
    }

    private int[] rest(int[] keys) {
        return java.util.stream.IntStream.range(
                        0, layout.recordTypes().get(type).fields().size())
                .filter(f -> java.util.Arrays.stream(keys).noneMatch(k -> k == f))
                .toArray();
    }

    private int[] indexes(List<String> names) throws LookUpException {
        List<Field> all = layout.recordTypes().get(type).fields();
        int[] indexes = new int[names.size()];
        for (int i = 0; i < indexes.length; i++) {
            String name = names.get(i);
            indexes[i] = java.util.stream.IntStream.range(0, all.size())
                    .filter(f -> all.get(f).name().equalsIgnoreCase(name))
                    .findFirst()
                    .orElse(-1);
            if (indexes[i] < 0) {
                throw new LookUpException("It has no column " + name + ".");
            }
        }
        return indexes;
    }

    private List<Field> fields(int[] indexes) {
        List<Field> fields = new ArrayList<>();
        for (int f : indexes) {
            fields.add(layout.recordTypes().get(type).fields().get(f));
        }
        return fields;
    }
}
