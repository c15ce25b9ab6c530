package ninepin.core.formula;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalTime;

/**
 * A value of an expression. Every node of an expression owns one and writes it again for each record, so that numbers,
 * dates and truth values cost no object. Which fields hold it is said by the node's type.
 */
public final class Datum {

    private static final long NANOS = 1_000_000_000L;

    private boolean isNull = true;
    /** An unscaled number; days since 1970-01-01; nanoseconds of the day; months; nanoseconds; 1 or 0 for truth. */
    long number;
    /** The digits of the number that stand after the point. */
    int scale;
    /** The number where a long is too short for it, else null. */
    BigDecimal big;
    /** The nanoseconds of the day of a timestamp. */
    long nanos;

    String text;

    public boolean isNull() {
        return isNull;
    }

    /** An unscaled number; days since 1970-01-01; the nanoseconds of the day; 1 or 0 for truth. */
    public long number() {
        return number;
    }

    /** The nanoseconds of the day of a timestamp. */
    public long nanos() {
        return nanos;
    }

    /** The nanoseconds of the day of a date or timestamp; a date has none. */
    long nanos(SqlType type) {
        return type.is(SqlType.Kind.TIMESTAMP) ? nanos : 0;
    }

    /** A text; only of {@link SqlType.Kind#CHARACTER}. */
    public String text() {
        return text;
    }

    Datum setNull() {
        isNull = true;
        return this;
    }

    Datum set(long newNumber) {
        return set(newNumber, 0);
    }

    Datum set(long newNumber, int newScale) {
        isNull = false;
        number = newNumber;
        scale = newScale;
        big = null;
        return this;
    }

    Datum set(BigDecimal value) {
        isNull = false;
        scale = value.scale();
        if (value.unscaledValue().bitLength() < Long.SIZE) {
            number = value.unscaledValue().longValue();
            big = null;
        } else {
            big = value;
        }
        return this;
    }

    Datum set(boolean truth) {
        return set(truth ? 1 : 0);
    }

    Datum set(String newText) {
        isNull = newText == null;
        text = newText;
        return this;
    }

    Datum setTimestamp(long days, long newNanos) {
        set(days);
        nanos = newNanos;
        return this;
    }

    Datum setTo(Datum other) {
        isNull = other.isNull;
        number = other.number;
        scale = other.scale;
        big = other.big;
        nanos = other.nanos;
        text = other.text;
        return this;
    }

    /** One of its own with the same value. */
    public Datum copy() {
        return new Datum().setTo(this);
    }

    boolean isTrue() {
        return !isNull && number == 1;
    }

    /** Whether the number is held unscaled in {@link #number()}, with {@link #scale()} digits behind the point. */
    public boolean isShort() {
        return big == null;
    }

    /** The digits of the number behind its point. */
    public int scale() {
        return scale;
    }

    /** The exact number. */
    public BigDecimal decimal() {
        return big != null ? big : BigDecimal.valueOf(number, scale);
    }

    /** The value as SQL writes it when it is cast to text: no sign for plus, ISO 8601 for dates and times. */
    public String written(SqlType type) {
        return switch (type.kind()) {
            case CHARACTER -> text;
            case NUMERIC -> decimal().toPlainString();
            case BOOLEAN -> number == 1 ? "TRUE" : "FALSE";
            case DATE -> LocalDate.ofEpochDay(number).toString();
            case TIME -> time(number, type.scale());
            case TIMESTAMP -> LocalDate.ofEpochDay(number) + " " + time(nanos, type.scale());
            case MONTHS -> number + " MONTH";
            case SECONDS -> BigDecimal.valueOf(number, 9).stripTrailingZeros().toPlainString() + " SECOND";
            case NOTHING -> "NULL";
        };
    }

    /** A time with no more digits of the second than it has, and no fewer than two. */
    private static String time(long nanos, int fraction) {
        LocalTime time = LocalTime.ofNanoOfDay(nanos - nanos % NANOS);
        String seconds = String.format("%02d:%02d:%02d", time.getHour(), time.getMinute(), time.getSecond());
        String rest = String.format("%09d", nanos % NANOS).substring(0, fraction);
        String kept = fraction == 9 ? rest.replaceFirst("0+$", "") : rest;
        return kept.isEmpty() ? seconds : seconds + "." + kept;
    }
}
