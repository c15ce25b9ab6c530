package ninepin.core.format;

import java.io.IOException;
import java.math.BigDecimal;
import java.math.MathContext;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import ninepin.core.bytes.ByteSource;
import ninepin.core.infer.Proposal;
import ninepin.core.infer.Proposal.Guess;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.infer.Samples;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.FileCheck;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Severity;
import ninepin.core.record.Opening;
import ninepin.core.record.RawRecord;
import ninepin.core.record.RecordReader;
import ninepin.core.value.Value;
import ninepin.core.value.ValueParser;

/**
 * Numbers of a record that stands once in a file (a header, a trailer) that say how many records of a type there are,
 * or what a field of them adds up to. One that is nearly so is proposed too, as unsure: the sample may be wrong.
 */
final class FileCheckGuess {

    /** How far a number may be off to be taken for a wrong total, as a share of it. */
    private static final BigDecimal NEAR = new BigDecimal("0.1");
    /** How much farther off the next best has to be. */
    private static final BigDecimal CLEARLY = BigDecimal.valueOf(3);
    /** Smaller numbers are near to others by chance. */
    private static final BigDecimal LARGE = BigDecimal.valueOf(100);

    private static final int SMALLEST = 2;

    private final Layout layout;
    private final long[] counts;
    private final BigDecimal[][] sums;
    private final BigDecimal[][] last;

    private FileCheckGuess(Layout layout) {
        this.layout = layout;
        int types = layout.recordTypes().size();
        this.counts = new long[types];
        this.sums = new BigDecimal[types][];
        this.last = new BigDecimal[types][];
        for (int t = 0; t < types; t++) {
            int fields = layout.recordTypes().get(t).fields().size();
            sums[t] = new BigDecimal[fields];
            last[t] = new BigDecimal[fields];
        }
    }

    /** A proposal with the checks of the file as a whole that its sample speaks for. */
    static Proposal added(Proposal proposal, ByteSource sample) throws IOException {
        Layout layout = proposal.layout();
        if (layout.recordTypes().size() < 2 || !Samples.isWhole(sample)) {
            return proposal;
        }
        FileCheckGuess guess = new FileCheckGuess(layout);
        guess.read(sample);
        List<Guess> guesses = new ArrayList<>(proposal.guesses());
        List<FileCheck> checks = guess.checks(guesses);
        Layout with = new Layout(layout.name(), layout.title(), layout.format(), layout.recordTypes(), checks);
        return new Proposal(with, guesses, proposal.fields(), proposal.alternatives());
    }

    private void read(ByteSource sample) throws IOException {
        Opening opening = Formats.open(sample, layout);
        if (opening.fault() != null) {
            return;
        }
        List<List<ValueParser>> parsers = layout.recordTypes().stream()
                .map(t -> t.fields().stream()
                        .map(f -> number(f) ? ValueParser.of(f.type(), FileCharset.UTF_8) : null)
                        .toList())
                .toList();
        Value value = new Value();
        RecordReader reader = opening.reader(sample, opening.body());
        for (RecordReader.Item item = reader.next(); item != RecordReader.Item.END; item = reader.next()) {
            RawRecord record = reader.record();
            if (item == RecordReader.Item.BLANK || record.fault() != null || record.type() < 0) {
                continue;
            }
            int type = record.type();
            counts[type]++;
            int[] slices = opening.slices(type);
            for (int f = 0; f < slices.length; f++) {
                ValueParser parser = parsers.get(type).get(f);
                if (parser != null) {
                    keep(type, f, parsed(parser, text(record, slices[f], opening.charset()), value));
                }
            }
        }
    }

    private static boolean number(Field field) {
        return field.type() instanceof DataType.IntegerNumber || field.type() instanceof DataType.Decimal;
    }

    private String text(RawRecord record, int slice, Charset held) {
        if (slice < 0 || slice >= record.fieldCount()) {
            return "";
        }
        boolean apart = record.valueBytes() != null;
        return record.text(slice, apart ? layout.format().charset().ofValues().charset() : held, '"');
    }

    private static BigDecimal parsed(ValueParser parser, String text, Value value) {
        byte[] bytes = text.strip().getBytes(StandardCharsets.UTF_8);
        if (bytes.length == 0 || parser.parse(bytes, 0, bytes.length, value) != null || value.isNull()) {
            return null;
        }
        return value.ordered();
    }

    private void keep(int type, int field, BigDecimal number) {
        last[type][field] = number;
        if (number != null) {
            sums[type][field] = sums[type][field] == null ? number : sums[type][field].add(number);
        }
    }

    private List<FileCheck> checks(List<Guess> guesses) {
        List<FileCheck> checks = new ArrayList<>();
        for (int t = 0; t < counts.length; t++) {
            RecordType type = layout.recordTypes().get(t);
            if (counts[t] != 1 || type.parent() != null) {
                continue;
            }
            for (int f = 0; f < last[t].length; f++) {
                if (last[t][f] != null && last[t][f].compareTo(BigDecimal.valueOf(SMALLEST)) >= 0) {
                    Found found = best(t, f);
                    if (found != null) {
                        checks.add(found.check);
                        guesses.add(found.guess);
                    }
                }
            }
        }
        return checks;
    }

    private record Found(FileCheck check, Guess guess, BigDecimal off) {}

    /** The count or total that a number says; the nearest one when none is equal and only one is near. */
    private Found best(int type, int field) {
        String name = name(type, field);
        BigDecimal said = last[type][field];
        List<Found> all = new ArrayList<>();
        for (int t = 0; t < counts.length; t++) {
            if (t == type || counts[t] < SMALLEST) {
                continue;
            }
            String of = layout.recordTypes().get(t).name();
            if (layout.recordTypes().get(type).fields().get(field).type() instanceof DataType.IntegerNumber) {
                consider(
                        all,
                        said,
                        BigDecimal.valueOf(counts[t]),
                        new FileCheck.Count(name, of, Severity.HALT),
                        name + " is the number of " + of + " records",
                        "there are");
            }
            for (int f = 0; f < sums[t].length; f++) {
                if (sums[t][f] != null) {
                    consider(
                            all,
                            said,
                            sums[t][f],
                            new FileCheck.Total(name, name(t, f), Severity.HALT),
                            name + " is the total of " + name(t, f),
                            "they add up to");
                }
            }
        }
        Found nearest = all.stream().min(Comparator.comparing(Found::off)).orElse(null);
        if (nearest == null || nearest.off.signum() == 0) {
            return nearest;
        }
        // A number that is only near is a wrong total when nothing else is anything like as near.
        BigDecimal far = nearest.off.multiply(CLEARLY);
        boolean alone = all.stream().allMatch(a -> a == nearest || a.off.compareTo(far) > 0);
        return alone && said.compareTo(LARGE) >= 0 ? nearest : null;
    }

    private String name(int type, int field) {
        RecordType t = layout.recordTypes().get(type);
        return t.name() + "." + t.fields().get(field).name();
    }

    private static void consider(
            List<Found> all, BigDecimal said, BigDecimal is, FileCheck check, String words, String verb) {
        BigDecimal off = said.subtract(is).abs().divide(said, MathContext.DECIMAL32);
        if (off.compareTo(NEAR) <= 0) {
            boolean same = off.signum() == 0;
            String why = "The sample says " + said.toPlainString() + "; " + verb + " " + is.toPlainString() + ".";
            all.add(new Found(
                    check, new Guess("check of the file", words, same ? Sureness.LIKELY : Sureness.UNSURE, why), off));
        }
    }
}
