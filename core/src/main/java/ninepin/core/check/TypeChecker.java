package ninepin.core.check;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import ninepin.core.bytes.Words;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.NumberForm;
import ninepin.core.layout.Overpunch;
import ninepin.core.layout.Place;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Severity;
import ninepin.core.layout.Shown;
import ninepin.core.record.Fault;
import ninepin.core.record.Opening;
import ninepin.core.record.RawRecord;
import ninepin.core.record.ValueForm;
import ninepin.core.value.Problem;
import ninepin.core.value.Value;
import ninepin.core.value.ValueParser;

/** Types and checks the records of one type, field by field. */
final class TypeChecker {

    private final Charset charset;
    private final Charset valueCharset;
    private final boolean transcodes;
    private final boolean padded;
    /** Whether every value stands in the file as it is parsed: fixed-length, in a charset like ASCII. */
    private final boolean direct;

    private final boolean trailingDelimiter;
    private final boolean raggedRows;
    private final byte quote;
    private final int width;
    private final CheckedField[] fields;
    /** What stands without quotes for NULL, or null. */
    private final byte[] nullText;
    /** Those that have a place in every record, or null where the layout gives them none. */
    private final PlacedFields placed;

    private final List<UniqueCheck> unique = new ArrayList<>();
    private final Places places;
    private final List<Finding> findings;
    private final boolean weighs;

    final Value[] values;

    /**
     * @param type the index of the record type
     * @param findings where findings go
     * @param weighs whether only the severity of a finding is asked for, and words and places need not be made
     */
    TypeChecker(Layout layout, int type, Opening opening, Places places, List<Finding> findings, boolean weighs) {
        RecordType recordType = layout.recordTypes().get(type);
        FileCharset fileCharset = layout.format().charset();
        int n = recordType.fields().size();
        this.charset = fileCharset.held().charset();
        this.valueCharset = fileCharset.ofValues().charset();
        this.transcodes = fileCharset.ofValues() != fileCharset.held();
        ValueForm form = opening.values();
        this.trailingDelimiter = form.trailingDelimiter();
        this.raggedRows = form.endingEarly();
        this.nullText = form.nullText();
        this.padded = form.padded();
        this.direct = padded && !transcodes;
        this.quote = form.quote();
        this.width = opening.width(type);
        this.places = places;
        this.findings = findings;
        this.weighs = weighs;
        int[] slices = opening.slices(type);
        this.fields = new CheckedField[n];
        for (int f = 0; f < n; f++) {
            this.fields[f] = compile(recordType, f, slices[f], fileCharset.ofValues());
        }
        this.placed = direct ? new PlacedFields(fields) : null;
        this.values = Arrays.stream(this.fields).map(f -> f.value).toArray(Value[]::new);
    }

    private CheckedField compile(RecordType type, int f, int slice, FileCharset written) {
        Field field = type.fields().get(f);
        Severity typeFits = Severity.REJECT;
        Severity required = null;
        Severity present = null;
        List<FieldCheck> ready = new ArrayList<>();
        for (Check check : field.checks()) {
            if (check instanceof Check.Required c) {
                required = c.severity();
            } else if (check instanceof Check.Present c) {
                present = c.severity();
            } else if (check instanceof Check.TypeFits c) {
                typeFits = c.severity();
            } else if (check instanceof Check.Unique c) {
                unique.add(uniqueCheck(type, f, c));
            } else {
                ready.add(FieldCheck.of(check, field.type(), valueCharset));
            }
        }
        ValueParser parser = ValueParser.of(field.type(), written);
        return new CheckedField(
                field.name(),
                slice,
                parser,
                direct && field.place() instanceof Place.Span span
                        ? parser.placed(span.start() - 1, span.length())
                        : null,
                ValueParser.raw(field.type()),
                NumberForm.of(field.type()).punched(),
                field.type() instanceof DataType.CharacterVarying,
                typeFits,
                required,
                present,
                ready.toArray(FieldCheck[]::new));
    }

    private UniqueCheck uniqueCheck(RecordType type, int f, Check.Unique check) {
        int[] key = new int[check.with().size() + 1];
        key[0] = f;
        for (int i = 0; i < check.with().size(); i++) {
            key[i + 1] = type.indexOf(check.with().get(i));
            if (key[i + 1] < 0) {
                throw new DefinitionException(
                        "fields." + type.fields().get(f).name() + ".checks.unique",
                        "there is no field " + check.with().get(i));
            }
        }
        String together = check.with().isEmpty() ? "" : " together with " + String.join(", ", check.with());
        return new UniqueCheck(f, key, check.severity(), "each value once in the file" + together, valueCharset);
    }

    /** Whether records have to be remembered from the start of the file. */
    boolean remembers() {
        return !unique.isEmpty();
    }

    /** Takes over what another remembers of records behind these; false where a value stands in both. */
    boolean join(TypeChecker behind) {
        boolean same = true;
        for (int i = 0; i < unique.size(); i++) {
            same &= unique.get(i).join(behind.unique.get(i));
        }
        return same;
    }

    /** Types and checks a record of this type. */
    void check(RawRecord r) {
        if (width >= 0 && r.fieldCount() != width && !endsWithDelimiter(r)) {
            findings.add(ragged(r));
            if (!raggedRows) {
                return;
            }
        }
        for (Fault note : r.notes()) {
            add(Severity.NOTE, note.code(), r, fields[note.column()], note.expected(), note.advice());
        }
        boolean usual = placed != null && r.placed() && placed.take(r.buffer(), r.start());
        for (CheckedField field : usual ? placed.others() : fields) {
            checkField(r, field);
        }
        for (int i = 0; i < unique.size(); i++) {
            UniqueCheck check = unique.get(i);
            long first = check.add(values, r.line());
            if (first > 0) {
                add(
                        check.severity,
                        "UNQ-01",
                        r,
                        fields[check.field],
                        check.expected,
                        "It stands first on line " + first + ".");
            }
        }
    }

    private boolean endsWithDelimiter(RawRecord r) {
        return trailingDelimiter && r.fieldCount() == width + 1 && r.from(width) == r.to(width) && !r.quoted(width);
    }

    private void checkField(RawRecord r, CheckedField f) {
        if (f.present != null && (lacks(r, f.slice) || r.isMissing(f.slice))) {
            add(f.present, "REQ-02", r, f, "the field, with a value or without", null);
        }
        Value value = f.value;
        Problem problem = parse(r, f);
        if (problem != null) {
            add(f.typeSeverity, problem.code(), r, f, problem.expected(), problem.advice());
            return;
        }
        if (f.required != null && (value.isNull() || f.text && blank(value))) {
            add(f.required, "REQ-01", r, f, "a value", null);
            return;
        }
        if (value.isNull()) {
            return;
        }
        for (FieldCheck check : f.checks) {
            if (!check.holds(value)) {
                add(check.severity, check.code, r, f, check.expected, weighs ? null : check.advice(value));
            }
        }
    }

    private Problem parse(RawRecord r, CheckedField f) {
        int slice = f.slice;
        if (direct) {
            int start = r.start();
            return parsePadded(r.buffer(), start + r.from(slice), start + r.to(slice), f);
        }
        if (lacks(r, slice)) {
            f.value.setNull();
            return null;
        }
        if (nullText != null && !r.quoted(slice) && isNullText(r, slice)) {
            f.value.setNull();
            return null;
        }
        if (r.valueBytes() != null) {
            return parseGathered(r, f);
        }
        int from = r.start() + r.from(slice);
        int to = r.start() + r.to(slice);
        if (from == to && !r.quoted(slice)) {
            f.value.setNull();
            return null;
        }
        if (transcodes && !f.raw) {
            String text = new String(r.buffer(), from, to - from, charset);
            if (f.text && text.indexOf('\ufffd') >= 0) {
                f.value.setNull();
                return Undecodable.at(r.buffer(), from, to, charset);
            }
            byte[] utf8 =
                    (f.punched ? Overpunch.ofEbcdic(text, r.buffer(), from) : text).getBytes(StandardCharsets.UTF_8);
            return parsePadded(utf8, 0, utf8.length, f);
        }
        if (padded) {
            return parsePadded(r.buffer(), from, to, f);
        }
        if (!r.doubled(slice)) {
            return ValueParser.parse(f.parser, r.buffer(), from, to, f.value);
        }
        byte[] own = new byte[to - from];
        int length = undouble(r.buffer(), from, to, own);
        return ValueParser.parse(f.parser, own, 0, length, f.value);
    }

    /** Whether what stands for NULL stands in a field, as it is in the file. */
    private boolean isNullText(RawRecord r, int slice) {
        int from = r.start() + r.from(slice);
        return Arrays.equals(r.buffer(), from, r.start() + r.to(slice), nullText, 0, nullText.length);
    }

    /** Whether a row ends before a column, or the file has no such column. */
    private boolean lacks(RawRecord r, int slice) {
        return slice < 0 || slice >= r.fieldCount() && raggedRows;
    }

    private Problem parseGathered(RawRecord r, CheckedField f) {
        int from = r.valueFrom(f.slice);
        if (from < 0) {
            f.value.setNull();
            return null;
        }
        return ValueParser.parse(f.parser, r.valueBytes(), from, r.valueTo(f.slice), f.value);
    }

    /** The blanks that fill a fixed-length text are no part of it; nothing but blanks is NULL. */
    private Problem parsePadded(byte[] bytes, int from, int to, CheckedField f) {
        int end = to;
        if (from == to) {
            f.value.setNull();
            return null;
        }
        if (f.text) {
            end = Words.withoutBlanksBehind(bytes, from, to);
            if (end == from) {
                f.value.setNull();
                return null;
            }
        }
        return ValueParser.parse(f.parser, bytes, from, end, f.value);
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
        for (int i = value.from(); i < value.to(); i++) {
            if (value.bytes()[i] != ' ' && value.bytes()[i] != '\t') {
                return false;
            }
        }
        return true;
    }

    private void add(Severity severity, String code, RawRecord r, CheckedField f, String expected, String advice) {
        findings.add(weighs ? Finding.weight(severity) : at(severity, code, r, f, found(r, f), expected, advice));
    }

    /** A finding at the place of a field. */
    Finding at(Severity severity, String code, RawRecord r, int field, String found, String expected, String advice) {
        return at(severity, code, r, fields[field], found, expected, advice);
    }

    private Finding at(
            Severity severity, String code, RawRecord r, CheckedField f, String found, String expected, String advice) {
        int slice = f.slice;
        int from = lacks(r, slice) ? r.length() : r.from(slice);
        int to = lacks(r, slice) ? r.length() : r.to(slice);
        return places.finding(severity, code, r, f.name, from, to, found, expected, advice);
    }

    /** What stands in a field, fit to be shown. */
    String found(RawRecord r, int field) {
        return found(r, fields[field]);
    }

    private String found(RawRecord r, CheckedField f) {
        int slice = f.slice;
        if (lacks(r, slice)) {
            return "nothing";
        }
        if (r.valueBytes() != null) {
            int from = r.valueFrom(slice);
            return from < 0 || from == r.valueTo(slice)
                    ? "nothing"
                    : Shown.quoted(
                            new String(r.valueBytes(), from, Math.min(r.valueTo(slice) - from, 400), valueCharset));
        }
        int from = r.from(f.slice);
        int to = r.to(f.slice);
        if (from == to) {
            return "nothing";
        }
        if (f.raw) {
            StringBuilder hex = new StringBuilder("the bytes");
            for (int i = from; i < to; i++) {
                hex.append(String.format(" %02X", r.buffer()[r.start() + i]));
            }
            return hex.toString();
        }
        return Shown.quoted(new String(r.buffer(), r.start() + from, Math.min(to - from, 400), charset));
    }

    private Finding ragged(RawRecord r) {
        String advice = r.fieldCount() < width
                ? "The line may be cut short or broken, or a line break inside text may lack its quotes."
                : "A delimiter inside text may lack its quotes.";
        Severity severity = raggedRows ? Severity.NOTE : Severity.REJECT;
        return places.whole(severity, "ROW-01", r, columns(r.fieldCount()), columns(width), advice);
    }

    private static String columns(int count) {
        return count + (count == 1 ? " column" : " columns");
    }

    /** The name of the field in a column, or of the column where it is no field's. */
    String nameOf(int column) {
        for (CheckedField f : fields) {
            if (f.slice == column) {
                return f.name;
            }
        }
        return column < 0 || column > 100_000 ? null : "column " + (column + 1);
    }

    /** Keeps the values when the record's bytes are gone. */
    void own() {
        for (Value value : values) {
            value.own();
        }
    }
}
