package ninepin.core.value;

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
    /** Bytes that are this value's own. */
    private byte[] copied;

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
        become(Kind.NULL);
    }

    void set(Kind newKind, long newNumber) {
        become(newKind);
        number = newNumber;
    }

    /** Becomes a number of so many units of its last decimal place. */
    void setNumber(long units, int newScale) {
        become(Kind.NUMBER);
        number = units;
        scale = newScale;
    }

    /** Writes a reference only where it changes: a collector's barrier at every field of every record is felt. */
    private void become(Kind newKind) {
        if (kind != newKind) {
            kind = newKind;
        }
    }

    /** A value of its own with the same content. */
    public Value copy() {
        Value copy = new Value();
        copy.copyOf(this);
        return copy;
    }

    /** Becomes the same as another; of a text the bytes are copied, into those it has where they are its own. */
    public void copyOf(Value other) {
        become(other.kind);
        number = other.number;
        scale = other.scale;
        nanos = other.nanos;
        big = other.big;
        characters = other.characters;
        if (kind == Kind.TEXT) {
            int length = other.to - other.from;
            makeRoom(length);
            System.arraycopy(other.bytes, other.from, copied, 0, length);
            bytes = copied;
            from = 0;
            to = length;
        }
    }

    /** Becomes the same as another, once and for good: of a text just its own bytes are copied. */
    public void takeExactly(Value other) {
        if (other.kind == Kind.TEXT) {
            copied = new byte[other.to - other.from];
        }
        copyOf(other);
        copied = null;
    }

    /** Copies the bytes of a text, so that it outlives the record it stands in. */
    public void own() {
        if (kind == Kind.TEXT) {
            int length = to - from;
            makeRoom(length);
            System.arraycopy(bytes, from, copied, 0, length);
            bytes = copied;
            from = 0;
            to = length;
        }
    }

    private void makeRoom(int length) {
        if (copied == null || copied.length < length) {
            copied = new byte[Math.max(16, length)];
        }
    }

    /** Whether this and another are the same value of one field; NULL is the same as NULL. */
    public boolean sameAs(Value other) {
        if (kind != other.kind) {
            return ordered(kind) && ordered(other.kind) && ordered().compareTo(other.ordered()) == 0;
        }
        return switch (kind) {
            case NULL -> true;
            case TEXT -> java.util.Arrays.equals(bytes, from, to, other.bytes, other.from, other.to);
            case NUMBER ->
                number == other.number && scale == other.scale || ordered().compareTo(other.ordered()) == 0;
            case BIG_NUMBER -> big.compareTo(other.big) == 0;
            case TIMESTAMP -> number == other.number && nanos == other.nanos;
            default -> number == other.number;
        };
    }

    private static boolean ordered(Kind kind) {
        return kind == Kind.NUMBER || kind == Kind.BIG_NUMBER;
    }

    /** Makes this a text of bytes that are not copied. */
    public void setText(byte[] newBytes, int newFrom, int newTo, int newCharacters) {
        become(Kind.TEXT);
        if (bytes != newBytes) {
            bytes = newBytes;
        }
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
