package ninepin.core.check;

import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import ninepin.core.layout.Check;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.read.DelimitedOpening;
import ninepin.core.read.Problem;
import ninepin.core.read.RawRecord;
import ninepin.core.read.Shown;
import ninepin.core.read.Value;
import ninepin.core.read.ValueParser;

/**
 * Types and checks records of one type. All findings of a record are collected. Belongs to one thread and one pass
 * over a file, because it remembers the keys that may stand once.
 */
public final class RecordChecker {

    private final Charset charset;
    private final byte quote;
    private final int columns;
    private final String[] names;
    private final int[] columnOf;
    private final ValueParser[] parsers;
    private final Severity[] typeSeverity;
    private final Severity[] required;
    private final FieldCheck[][] checks;
    private final List<UniqueCheck> unique = new ArrayList<>();
    private final Value[] values;
    private final Places places;
    private final List<Finding> findings = new ArrayList<>();

    /**
     * @param layout the layout, with all checks that apply
     * @param opening what stood at the start of the file
     */
    public RecordChecker(Layout layout, DelimitedOpening opening) {
        Delimited format = (Delimited) layout.format();
        List<Field> fields = layout.onlyType().fields();
        int n = fields.size();
        this.charset = format.charset().charset();
        this.quote = format.quote() == null ? 0 : (byte) format.quote().charValue();
        this.columnOf = opening.columnOf();
        this.columns = format.header()
                ? opening.columns().size()
                : Arrays.stream(columnOf).max().orElse(0) + 1;
        this.names = fields.stream().map(Field::name).toArray(String[]::new);
        this.parsers = new ValueParser[n];
        this.typeSeverity = new Severity[n];
        this.required = new Severity[n];
        this.checks = new FieldCheck[n][];
        this.values = new Value[n];
        this.places = new Places(charset);
        for (int f = 0; f < n; f++) {
            values[f] = new Value();
            compile(layout, fields.get(f), f, format);
        }
    }

    private void compile(Layout layout, Field field, int f, Delimited format) {
        parsers[f] = ValueParser.of(field.type(), format.charset());
        typeSeverity[f] = Severity.REJECT;
        List<FieldCheck> ready = new ArrayList<>();
        for (Check check : field.checks()) {
            if (check instanceof Check.Required c) {
                required[f] = c.severity();
            } else if (check instanceof Check.TypeFits c) {
                typeSeverity[f] = c.severity();
            } else if (check instanceof Check.Unique c) {
                unique.add(uniqueCheck(layout, f, c));
            } else {
                ready.add(FieldCheck.of(check, field.type(), charset));
            }
        }
        checks[f] = ready.toArray(FieldCheck[]::new);
    }

    private UniqueCheck uniqueCheck(Layout layout, int f, Check.Unique check) {
        int[] key = new int[check.with().size() + 1];
        key[0] = f;
        for (int i = 0; i < check.with().size(); i++) {
            key[i + 1] = layout.onlyType().indexOf(check.with().get(i));
            if (key[i + 1] < 0) {
                throw new DefinitionException(
                        "fields." + names[f] + ".checks.unique",
                        "there is no field " + check.with().get(i));
            }
        }
        String together = check.with().isEmpty() ? "" : " together with " + String.join(", ", check.with());
        return new UniqueCheck(f, key, check.severity(), "each value once in the file" + together, charset);
    }

    /** The typed values of the record checked last, by the index of the field. */
    public Value[] values() {
        return values;
    }

    /** The findings of the record checked last. */
    public List<Finding> findings() {
        return findings;
    }

    /** Whether records have to be remembered from the start of the file, which a restart then has to read again. */
    public boolean remembers() {
        return !unique.isEmpty();
    }

    /**
     * Types and checks a record.
     *
     * @return the weight of its worst finding, or null when there is none
     */
    public Severity check(RawRecord r) {
        findings.clear();
        if (r.fault() != null) {
            int column = r.fault().column();
            findings.add(places.ofFault(r.fault(), r, nameAtColumn(column)));
            return Severity.REJECT;
        }
        if (r.fieldCount() != columns) {
            findings.add(ragged(r));
            return Severity.REJECT;
        }
        for (int f = 0; f < values.length; f++) {
            checkField(r, f);
        }
        for (UniqueCheck check : unique) {
            long first = check.add(values, r.line());
            if (first > 0) {
                add(check.severity, "UNQ-01", r, check.field, check.expected, "It stands first on line " + first + ".");
            }
        }
        return worst();
    }

    /** Remembers the keys of a record that was delivered before a restart, without checking it. */
    public void remember(RawRecord r) {
        if (r.fault() != null || r.fieldCount() != columns) {
            return;
        }
        for (int f = 0; f < values.length; f++) {
            parse(r, f);
        }
        for (UniqueCheck check : unique) {
            check.add(values, r.line());
        }
    }

    /** The note for a blank row that is passed over. */
    public Finding blankRow(RawRecord r) {
        return places.whole(Severity.NOTE, "ROW-03", r, "a blank row", "a record", null);
    }

    /** The note for a file without a record. */
    public Finding noRecords(RawRecord r) {
        return places.whole(
                Severity.NOTE,
                "FIL-05",
                r,
                "the end of the file",
                "at least one record",
                "Ask the sender whether that is meant.");
    }

    private Severity worst() {
        Severity worst = null;
        for (Finding finding : findings) {
            if (worst == null || finding.severity().compareTo(worst) > 0) {
                worst = finding.severity();
            }
        }
        return worst;
    }

    private void checkField(RawRecord r, int f) {
        Value value = values[f];
        Problem problem = parse(r, f);
        if (problem != null) {
            add(typeSeverity[f], problem.code(), r, f, problem.expected(), problem.advice());
            return;
        }
        if (required[f] != null && blank(value)) {
            add(required[f], "REQ-01", r, f, "a value", null);
            return;
        }
        if (value.isNull()) {
            return;
        }
        for (FieldCheck check : checks[f]) {
            if (!check.holds(value)) {
                add(check.severity, check.code, r, f, check.expected, check.advice(value));
            }
        }
    }

    private Problem parse(RawRecord r, int f) {
        int column = columnOf[f];
        int from = r.start() + r.from(column);
        int to = r.start() + r.to(column);
        if (from == to && !r.quoted(column)) {
            values[f].setNull();
            return null;
        }
        if (!r.doubled(column)) {
            return parsers[f].parse(r.buffer(), from, to, values[f]);
        }
        byte[] own = new byte[to - from];
        int length = undouble(r.buffer(), from, to, own);
        return parsers[f].parse(own, 0, length, values[f]);
    }

    private int undouble(byte[] bytes, int from, int to, byte[] into) {
        int n = 0;
        for (int i = from; i < to; i++) {
            into[n++] = bytes[i];
            if (bytes[i] == quote) {
                i++;
            }
        }
        return n;
    }

    private static boolean blank(Value value) {
        if (value.isNull()) {
            return true;
        }
        if (value.kind() != Value.Kind.TEXT) {
            return false;
        }
        for (int i = value.from(); i < value.to(); i++) {
            if (value.bytes()[i] != ' ' && value.bytes()[i] != '\t') {
                return false;
            }
        }
        return true;
    }

    private void add(Severity severity, String code, RawRecord r, int f, String expected, String advice) {
        int column = columnOf[f];
        int from = r.from(column);
        int to = r.to(column);
        String found = from == to
                ? "nothing"
                : Shown.quoted(new String(r.buffer(), r.start() + from, Math.min(to - from, 400), charset));
        findings.add(places.finding(severity, code, r, names[f], from, to, found, expected, advice));
    }

    private Finding ragged(RawRecord r) {
        String advice = r.fieldCount() < columns
                ? "The line may be cut short or broken, or a line break inside text may lack its quotes."
                : "A delimiter inside text may lack its quotes.";
        return places.whole(Severity.REJECT, "ROW-01", r, r.fieldCount() + " columns", columns + " columns", advice);
    }

    private String nameAtColumn(int column) {
        for (int f = 0; f < columnOf.length; f++) {
            if (columnOf[f] == column) {
                return names[f];
            }
        }
        return column < 0 ? null : "column " + (column + 1);
    }
}
