package ninepin.core.format.workbook;

import java.math.BigDecimal;
import java.math.MathContext;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.temporal.ChronoField;

/** Numbers of cells, which programs write as the decimals of binary fractions, and the dates that some of them stand for. */
final class CellNumbers {

    /** A spreadsheet keeps so many digits of a number. */
    static final int KEPT_DIGITS = 15;

    /** A number of more digits is not written out. */
    private static final int MOST_WRITTEN = 60;

    private static final int MOST_TEXT = 400;
    private static final long MILLISECONDS_OF_DAY = 86_400_000L;
    private static final long NANOSECONDS_OF_MILLISECOND = 1_000_000L;
    /** The day that was never there: 1900 was no leap year, but spreadsheets count one (18.17.4.1). */
    private static final int NO_DAY = 60;

    private static final LocalDate BEFORE_1900 = LocalDate.of(1899, 12, 31);
    private static final LocalDate DAY_0_OF_1904 = LocalDate.of(1904, 1, 1);
    private static final int LAST_YEAR = 9999;

    /** As a time is written in a transcript: seconds always, fractions where there are some. */
    static final DateTimeFormatter TIME = new DateTimeFormatterBuilder()
            .appendPattern("HH:mm:ss")
            .appendFraction(ChronoField.NANO_OF_SECOND, 0, 9, true)
            .toFormatter();

    private CellNumbers() {}

    /**
     * A number as it was meant: the decimal of at most 15 digits that is kept as the same binary fraction, where there is one; else as
     * it is written. Without exponent, unless it would be very long.
     *
     * @return null where the text is no number
     */
    static String decimal(String text) {
        if (text.length() > MOST_TEXT) {
            return null;
        }
        BigDecimal written;
        try {
            written = new BigDecimal(text);
        } catch (NumberFormatException e) {
            return null;
        }
        BigDecimal meant = written;
        if (written.precision() > KEPT_DIGITS && written.scale() > 0) {
            BigDecimal shorter = written.round(new MathContext(KEPT_DIGITS, RoundingMode.HALF_EVEN));
            meant = shorter.doubleValue() == written.doubleValue() ? shorter.stripTrailingZeros() : written;
        }
        long digits =
                Math.max(meant.precision(), (long) meant.precision() - meant.scale()) + Math.max(0, meant.scale());
        return digits > MOST_WRITTEN
                ? meant.toString()
                : meant.scale() < 0 ? meant.setScale(0).toPlainString() : meant.toPlainString();
    }

    /**
     * The date or time that a number stands for, as it is written in a transcript.
     *
     * @param from1904 whether days count from 1904-01-01
     * @return null where the number stands for none
     */
    static String moment(String decimal, CellFormats.Meaning meaning, boolean from1904) {
        double serial = Double.parseDouble(decimal);
        if (!(serial >= 0) || serial > 3_000_000) {
            return null;
        }
        long days = (long) Math.floor(serial);
        long ofDay = Math.round((serial - days) * MILLISECONDS_OF_DAY);
        if (ofDay == MILLISECONDS_OF_DAY) {
            days++;
            ofDay = 0;
        }
        LocalTime time = LocalTime.ofNanoOfDay(ofDay * NANOSECONDS_OF_MILLISECOND);
        if (days == 0 && (meaning == CellFormats.Meaning.TIME || ofDay > 0 && !from1904)) {
            return time.format(TIME);
        }
        if (!from1904 && (days == 0 || days == NO_DAY)) {
            return null;
        }
        LocalDate day = from1904 ? DAY_0_OF_1904.plusDays(days) : BEFORE_1900.plusDays(days > NO_DAY ? days - 1 : days);
        if (day.getYear() > LAST_YEAR) {
            return null;
        }
        boolean timed = meaning == CellFormats.Meaning.TIMESTAMP || ofDay > 0;
        return timed ? day + "T" + time.format(TIME) : day.toString();
    }

    /**
     * The date or time of a cell that has it as a text of ISO 8601.
     *
     * @return null where the text is none
     */
    static String moment(String iso) {
        try {
            if (iso.indexOf('T') < 0) {
                return iso.indexOf(':') < 0
                        ? LocalDate.parse(iso).toString()
                        : LocalTime.parse(iso).format(TIME);
            }
            LocalDateTime at = LocalDateTime.parse(iso.endsWith("Z") ? iso.substring(0, iso.length() - 1) : iso);
            return at.toLocalDate() + "T" + at.toLocalTime().format(TIME);
        } catch (RuntimeException e) {
            return null;
        }
    }

    /** The number that a date stands for, days counted from 1900. */
    static long serial(LocalDate day) {
        long days = day.toEpochDay() - BEFORE_1900.toEpochDay();
        return days >= NO_DAY ? days + 1 : days;
    }

    /** The part of a day that a time stands for. */
    static BigDecimal partOfDay(LocalTime time) {
        return BigDecimal.valueOf(time.toNanoOfDay() / NANOSECONDS_OF_MILLISECOND)
                .divide(BigDecimal.valueOf(MILLISECONDS_OF_DAY), KEPT_DIGITS, RoundingMode.HALF_EVEN);
    }
}
