package ninepin.core.format.workbook;

import java.nio.charset.StandardCharsets;
import java.util.regex.Pattern;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.record.Fault;
import ninepin.core.record.GatheredValues;
import ninepin.core.value.UnwritableException;
import ninepin.core.value.ValueFormat;

/**
 * What the cells of a field come to: a number as the type of the field writes numbers, a date as it writes dates, whatever the cell is
 * shown as. Also what a spreadsheet may have done to a value, each a note.
 */
final class CellValues {

    private static final Pattern NUMBER = Pattern.compile("\\s*[-+]?[\\d.,' ]*\\d[\\d.,' ]*\\s*");
    private static final int LENGTH_OF_DATE = 10;

    private enum Kind {
        TEXT,
        NUMBER,
        TRUTH,
        MOMENT
    }

    private final Field field;
    private final int index;
    private final Kind kind;
    /** Whether a number of a cell stands as the type of the field writes it. */
    private final boolean plainNumber;

    private final int fewest;
    private final MomentForm moments;
    private byte[] comma = new byte[32];

    /**
     * @param index the index of the field in its record type
     */
    CellValues(Field field, int index) {
        this.field = field;
        this.index = index;
        DataType type = field.type();
        this.kind = type instanceof DataType.CharacterVarying
                ? Kind.TEXT
                : type instanceof DataType.Bool
                        ? Kind.TRUTH
                        : type instanceof DataType.IntegerNumber || type instanceof DataType.Decimal
                                ? Kind.NUMBER
                                : Kind.MOMENT;
        this.plainNumber = !(type instanceof DataType.Decimal d) || d.decimalSign() == '.';
        this.moments = new MomentForm(field);
        this.fewest = field.checks().stream()
                .mapToInt(c -> c instanceof Check.Length length && length.min() != null ? length.min() : 0)
                .max()
                .orElse(0);
    }

    /**
     * Takes the value of a cell.
     *
     * @param cell the cell, which is not empty
     */
    void take(WorkbookRecord r, Cell cell, byte[] line, GatheredValues values) {
        if (cell.text) {
            takeText(r, cell, line, values);
            return;
        }
        byte first = line[cell.from];
        if (first == CellText.ERROR) {
            r.breach(new Fault(
                    "WBK-05",
                    index,
                    r.from(index),
                    r.to(index),
                    "the error " + cell.value(line),
                    "a value",
                    "A formula of the workbook fails. Ask the sender to correct it."));
        } else if (first == CellText.NO_VALUE) {
            r.breach(
                    new Fault(
                            "WBK-06",
                            index,
                            r.from(index),
                            r.to(index),
                            "a formula without its value",
                            "a value",
                            "The program that wrote the workbook did not calculate it. Open it in an office program and save it."));
        } else if (first == 'T' || first == 'F') {
            put(
                    r,
                    kind == Kind.TRUTH
                            ? formatted(first == 'T' ? "true" : "false", cell.value(line))
                            : cell.value(line),
                    values);
        } else if (isMoment(line, cell.from, cell.to)) {
            moments.take(line, cell.from, cell.to);
            values.put(r, index, moments.bytes(), 0, moments.length());
        } else {
            takeNumber(r, cell, line, values);
        }
    }

    private void takeText(WorkbookRecord r, Cell cell, byte[] line, GatheredValues values) {
        if (!cell.escaped) {
            values.put(r, index, line, cell.from, cell.to);
        } else {
            put(r, cell.value(line), values);
        }
        if (kind == Kind.NUMBER && NUMBER.matcher(cell.value(line)).matches()) {
            note(r, "WBK-08", "a cell that holds a number", "It holds a text that looks like one.");
        } else if (kind == Kind.MOMENT && !cell.value(line).isBlank()) {
            note(
                    r,
                    "WBK-09",
                    "a cell that holds a date or a time",
                    "It holds a text, which is read by the pattern of the field.");
        }
    }

    private void takeNumber(WorkbookRecord r, Cell cell, byte[] line, GatheredValues values) {
        if (kind != Kind.MOMENT && isLong(line, cell.from, cell.to)) {
            note(
                    r,
                    "WBK-07",
                    "a number of " + CellNumbers.KEPT_DIGITS + " digits at most",
                    "Spreadsheets keep no more of a number: the digits behind may have been lost before. A long number has to be a text.");
        }
        int shown = cell.shownTo - cell.shownFrom;
        int length = cell.to - cell.from;
        if (kind == Kind.TEXT && length < Math.max(shown, fewest)) {
            note(
                    r,
                    "WBK-10",
                    "a text of " + Math.max(shown, fewest) + " characters",
                    "The cell holds a number: zeros in front of it are "
                            + (shown > length ? "shown, but not there." : "lost, if there were some."));
        }
        if (kind == Kind.NUMBER && !plainNumber) {
            values.put(r, index, withComma(line, cell.from, cell.to), 0, cell.to - cell.from);
        } else {
            values.put(r, index, line, cell.from, cell.to);
        }
    }

    /** Whether a number has more digits before its decimal point than a spreadsheet keeps. Behind it they come of reckoning. */
    private static boolean isLong(byte[] line, int from, int to) {
        int digits = 0;
        for (int i = from; i < to && line[i] != '.'; i++) {
            digits += line[i] >= '0' && line[i] <= '9' ? 1 : 0;
            if (line[i] == 'E') {
                return true;
            }
        }
        return digits > CellNumbers.KEPT_DIGITS;
    }

    private byte[] withComma(byte[] line, int from, int to) {
        if (comma.length < to - from) {
            comma = new byte[to - from];
        }
        for (int i = from; i < to; i++) {
            comma[i - from] = line[i] == '.' ? (byte) ',' : line[i];
        }
        return comma;
    }

    /** A date has a hyphen behind its year, a time a colon behind its hour. */
    static boolean isMoment(byte[] line, int from, int to) {
        int length = to - from;
        return length >= LENGTH_OF_DATE && line[from + 4] == '-' || length >= 8 && line[from + 2] == ':';
    }

    private String formatted(String value, String otherwise) {
        try {
            return ValueFormat.text(field, value);
        } catch (UnwritableException e) {
            return otherwise;
        }
    }

    private void put(WorkbookRecord r, String value, GatheredValues values) {
        byte[] bytes = value.getBytes(StandardCharsets.UTF_8);
        values.put(r, index, bytes, 0, bytes.length);
    }

    private void note(WorkbookRecord r, String code, String expected, String advice) {
        r.note(new Fault(code, index, 0, 0, "", expected, advice));
    }
}
