package ninepin.core.read;

import java.math.BigDecimal;
import java.nio.charset.Charset;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneOffset;

/**
 * A typed value, written by a {@link ValueParser} and used again for the next record. What the fields mean depends on
 * the kind.
 */
public final class Value {

    /** What a value is. */
    public enum Kind {
        NULL,
        /** Bytes in the file's charset. */
        TEXT,
        /** {@code number} times ten to the power of minus {@code scale}. */
        NUMBER,
        /** A number too long for 18 digits, in {@code big}. */
        BIG_NUMBER,
        /** {@code number} is 1 or 0. */
        BOOLEAN,
        /** {@code number} is the days since 1970-01-01. */
        DATE,
        /** {@code number} is the nanoseconds of the day. */
        TIME,
        /** {@code number} is the days since 1970-01-01, {@code nanos} the nanoseconds of the day. */
        TIMESTAMP
    }

    private Kind kind = Kind.NULL;
    byte[] bytes;
    int from;
    int to;
    int characters;
    long number;
    int scale;
    long nanos;
    BigDecimal big;

    public Kind kind() {
        return kind;
    }

    public boolean isNull() {
        return kind == Kind.NULL;
    }

    public void setNull() {
        kind = Kind.NULL;
    }

    void set(Kind newKind, long newNumber) {
        kind = newKind;
        number = newNumber;
    }

    /** Makes this a text of bytes that are not copied. */
    public void setText(byte[] newBytes, int newFrom, int newTo, int newCharacters) {
        kind = Kind.TEXT;
        bytes = newBytes;
        from = newFrom;
        to = newTo;
        characters = newCharacters;
    }

    public byte[] bytes() {
        return bytes;
    }

    public int from() {
        return from;
    }

    public int to() {
        return to;
    }

    /** The number of characters of a text. */
    public int characters() {
        return characters;
    }

    public long number() {
        return number;
    }

    public int scale() {
        return scale;
    }

    public long nanos() {
        return nanos;
    }

    public BigDecimal big() {
        return big;
    }

    /** A number as an exact decimal; dates and times as {@link ninepin.core.layout.Bounds} orders them. */
    public BigDecimal ordered() {
        switch (kind) {
            case NUMBER:
                return BigDecimal.valueOf(number, scale);
            case BIG_NUMBER:
                return big;
            case TIMESTAMP:
                return BigDecimal.valueOf(number * 86_400L + nanos / 1_000_000_000L)
                        .add(BigDecimal.valueOf(nanos % 1_000_000_000L, 9));
            default:
                return BigDecimal.valueOf(number);
        }
    }

    /** The value as people and databases read it: ISO 8601, a decimal point, {@code true} or {@code false}; null for NULL. */
    public String text(Charset charset) {
        switch (kind) {
            case NULL:
                return null;
            case TEXT:
                return new String(bytes, from, to - from, charset);
            case NUMBER:
                return BigDecimal.valueOf(number, scale).toPlainString();
            case BIG_NUMBER:
                return big.toPlainString();
            case BOOLEAN:
                return number == 1 ? "true" : "false";
            case DATE:
                return LocalDate.ofEpochDay(number).toString();
            case TIME:
                return LocalTime.ofNanoOfDay(number).toString();
            default:
                return LocalDateTime.ofEpochSecond(
                                number * 86_400L + nanos / 1_000_000_000L,
                                (int) (nanos % 1_000_000_000L),
                                ZoneOffset.UTC)
                        .toString();
        }
    }
}
