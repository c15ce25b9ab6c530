package ninepin.core.usable;

import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;
import ninepin.core.layout.DataType;
import ninepin.core.layout.TemporalPattern;

/** Whether values of a type go into a column without loss. What does not fit is refused row by row, never changed. */
public final class TypeFit {

    /**
     * @param blocks whether no value can fit
     * @param message what does not fit, to stand after the column's name
     */
    public record Result(boolean blocks, String message) {}

    /** The digits of the second that databases keep at most. */
    private static final int MOST_FRACTION = 6;

    private TypeFit() {}

    /** What does not fit, or null when every value does. */
    public static Result of(DataType type, Column column) {
        Family to = column.family();
        if (to == Family.BINARY || to == Family.OTHER) {
            return new Result(true, "is " + column.label() + ", which cannot be delivered to yet.");
        }
        if (type instanceof DataType.CharacterVarying text) {
            return ofText(text, column);
        }
        if (type instanceof DataType.IntegerNumber) {
            return ofNumber(column, type, 18, 0);
        }
        if (type instanceof DataType.Decimal d) {
            return ofNumber(column, type, d.precision() - d.scale(), d.scale());
        }
        if (type instanceof DataType.Bool) {
            boolean fits = to == Family.WHOLE || to == Family.BOOLEAN_BIT || to == Family.EXACT || to == Family.TEXT;
            return fits ? null : cannot(type, column);
        }
        return ofTemporal(type, column);
    }

    private static Result ofText(DataType.CharacterVarying text, Column column) {
        switch (column.family()) {
            case TEXT:
                if (column.length() > 0 && column.length() < text.length()) {
                    return new Result(
                            false,
                            "is " + column.label() + " and " + text.label()
                                    + " goes into it: longer values are refused, never cut.");
                }
                return null;
            case CHOICE:
                return new Result(false, "is " + column.label() + ": other values are refused.");
            default:
                return cannot(text, column);
        }
    }

    private static Result ofNumber(Column column, DataType type, int whole, int scale) {
        switch (column.family()) {
            case TEXT:
                long needed = whole + scale + (scale > 0 ? 2 : 1);
                return column.length() > 0 && column.length() < needed
                        ? new Result(false, "is " + column.label() + ": numbers longer than that are refused.")
                        : null;
            case WHOLE:
                if (scale > 0) {
                    return new Result(
                            true, "is " + column.label() + " and cannot hold the fraction of " + type.label() + ".");
                }
                return whole > column.precision()
                        ? new Result(false, "is " + column.label() + ": values too large for it are refused.")
                        : null;
            case EXACT:
                if (scale > column.scale()) {
                    return new Result(
                            false,
                            "is " + column.label() + " and " + type.label()
                                    + " goes into it: values with more digits after the point are refused, never rounded.");
                }
                return whole > column.precision() - column.scale()
                        ? new Result(false, "is " + column.label() + ": values too large for it are refused.")
                        : null;
            case FLOATING:
                return new Result(
                        true,
                        "is " + column.label() + ", which holds decimals only nearly. Make the column a DECIMAL.");
            case YEAR:
                return new Result(false, "is " + column.label() + ": only years from 1901 to 2155 fit.");
            default:
                return cannot(type, column);
        }
    }

    private static Result ofTemporal(DataType type, Column column) {
        Family to = column.family();
        if (to == Family.TEXT) {
            return column.length() > 0 && column.length() < 10
                    ? new Result(true, "is " + column.label() + ", too short for " + type.label() + ".")
                    : null;
        }
        if (type instanceof DataType.Date) {
            return to == Family.DATE || to == Family.TIMESTAMP ? null : cannot(type, column);
        }
        boolean time = type instanceof DataType.Time;
        if (to != (time ? Family.TIME : Family.TIMESTAMP)) {
            return cannot(type, column);
        }
        String pattern = time ? ((DataType.Time) type).pattern() : ((DataType.Timestamp) type).pattern();
        int fraction = TemporalPattern.parse(pattern).fractionDigits();
        if (fraction > MOST_FRACTION && column.scale() >= MOST_FRACTION) {
            return new Result(
                    false,
                    "is " + column.label() + ": a row with more than " + MOST_FRACTION
                            + " digits of the second is refused.");
        }
        return fraction > column.scale()
                ? new Result(
                        true,
                        "is " + column.label() + " and would lose digits of the second: make it " + type.label() + "("
                                + Math.min(fraction, MOST_FRACTION) + ").")
                : null;
    }

    private static Result cannot(DataType type, Column column) {
        return new Result(true, "is " + column.label() + " and cannot take " + type.label() + ".");
    }
}
