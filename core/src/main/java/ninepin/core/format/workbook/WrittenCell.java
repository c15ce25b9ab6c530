package ninepin.core.format.workbook;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeParseException;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.value.UnwritableException;

/** Values as cells of a transcript, with the way that they are shown. */
final class WrittenCell {

    /** The most characters of a cell (ISO/IEC 29500-1, 18.18.1). */
    static final int MOST_CHARACTERS = 32_767;

    private static final LocalDate FIRST_DAY = LocalDate.of(1900, 1, 1);
    private static final int LAST_YEAR = 9999;
    private static final int NANOSECONDS_OF_MILLISECOND = 1_000_000;

    private WrittenCell() {}

    /**
     * A value of a field as a cell.
     *
     * @throws UnwritableException where a cell cannot keep the value as it is
     */
    static String of(Field field, String value) {
        DataType type = field.type();
        if (type instanceof DataType.CharacterVarying) {
            if (value.length() > MOST_CHARACTERS) {
                throw new UnwritableException(
                        field.name(),
                        "has " + value.length() + " characters; a cell has " + MOST_CHARACTERS + " at most");
            }
            return new String(CellText.quoted(value), StandardCharsets.UTF_8);
        }
        if (type instanceof DataType.Bool) {
            return Boolean.parseBoolean(value) ? "TRUE" : "FALSE";
        }
        try {
            if (type instanceof DataType.Date) {
                return day(field, LocalDate.parse(value)).toString();
            }
            if (type instanceof DataType.Time) {
                return time(field, LocalTime.parse(value));
            }
            if (type instanceof DataType.Timestamp) {
                LocalDateTime at = LocalDateTime.parse(value);
                return day(field, at.toLocalDate()) + "T" + time(field, at.toLocalTime());
            }
            return number(field, new BigDecimal(value));
        } catch (DateTimeParseException | NumberFormatException e) {
            throw new UnwritableException(field.name(), "\"" + value + "\" is no " + type.label());
        }
    }

    private static LocalDate day(Field field, LocalDate day) {
        if (day.isBefore(FIRST_DAY) || day.getYear() > LAST_YEAR) {
            throw new UnwritableException(field.name(), "is " + day + "; a workbook has days from 1900 to 9999");
        }
        return day;
    }

    private static String time(Field field, LocalTime time) {
        if (time.getNano() % NANOSECONDS_OF_MILLISECOND != 0) {
            throw new UnwritableException(field.name(), "is " + time + "; a workbook keeps milliseconds, no less");
        }
        return time.format(CellNumbers.TIME);
    }

    private static String number(Field field, BigDecimal number) {
        BigDecimal bare = number.stripTrailingZeros();
        if (bare.precision() > CellNumbers.KEPT_DIGITS) {
            throw new UnwritableException(
                    field.name(),
                    "has " + bare.precision() + " digits; a workbook keeps " + CellNumbers.KEPT_DIGITS
                            + " of a number. Let the field be a text");
        }
        if (field.type() instanceof DataType.Decimal d) {
            BigDecimal exact = number.setScale(d.scale(), java.math.RoundingMode.UNNECESSARY);
            return exact.toPlainString() + (d.scale() == 0 ? "{0}" : "{0." + "0".repeat(d.scale()) + "}");
        }
        return number.toPlainString() + "{0}";
    }
}
