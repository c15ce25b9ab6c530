package ninepin.core.layout;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneOffset;

/**
 * Bounds of a range as numbers that order as the values of the type do: numbers as they are, dates as days since
 * 1970-01-01, times as nanoseconds of the day, timestamps as seconds since then with a fraction.
 */
public final class Bounds {

    private Bounds() {}

    /** Reads a bound for the type; throws a {@link RuntimeException} of its parser when it is none. */
    public static BigDecimal of(DataType type, String text) {
        if (type instanceof DataType.Date) {
            return BigDecimal.valueOf(LocalDate.parse(text).toEpochDay());
        }
        if (type instanceof DataType.Time) {
            return BigDecimal.valueOf(LocalTime.parse(text).toNanoOfDay());
        }
        if (type instanceof DataType.Timestamp) {
            LocalDateTime t = LocalDateTime.parse(text.replace(' ', 'T'));
            return BigDecimal.valueOf(t.toEpochSecond(ZoneOffset.UTC)).add(BigDecimal.valueOf(t.getNano(), 9));
        }
        if (type instanceof DataType.IntegerNumber || type instanceof DataType.Decimal) {
            return new BigDecimal(text);
        }
        throw new DefinitionException("check.range", "a range is for numbers, dates and times, not " + type.label());
    }
}
