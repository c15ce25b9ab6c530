package ninepin.core.bytes;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/**
 * Bytes looked at eight at a time, as a word whose lowest byte stands first. What short fields need: taken whole,
 * compared, and read as digits without a loop.
 */
public final class Words {

    /** What an array needs behind the last byte for eight to be looked at. */
    public static final int SLACK = Long.BYTES;

    public static final long EACH = 0x0101010101010101L;
    public static final long HIGH = 0x8080808080808080L;

    private static final VarHandle WORD = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);
    public static final long BLANKS = ' ' * EACH;
    public static final long ZEROS = '0' * EACH;
    private static final long UPPER = 0xf0f0f0f0f0f0f0f0L;
    private static final long SIXES = 0x0606060606060606L;
    private static final long THREES = 0x3333333333333333L;

    private Words() {}

    /** Eight bytes, all of which the array must hold. */
    public static long at(byte[] bytes, int from) {
        return (long) WORD.get(bytes, from);
    }

    /** Up to eight bytes, the others of the word zero. */
    public static long upToEight(byte[] bytes, int from, int length) {
        if (length == 0) {
            return 0;
        }
        if (from + Long.BYTES <= bytes.length) {
            return at(bytes, from) & -1L >>> (Long.BYTES - length << 3);
        }
        long word = 0;
        for (int i = length - 1; i >= 0; i--) {
            word = word << 8 | bytes[from + i] & 0xff;
        }
        return word;
    }

    /** The byte after the last one that is no blank (0x20). */
    public static int withoutBlanksBehind(byte[] bytes, int from, int to) {
        int end = to;
        for (; end - Long.BYTES >= from; end -= Long.BYTES) {
            long other = at(bytes, end - Long.BYTES) ^ BLANKS;
            if (other != 0) {
                return end - (Long.numberOfLeadingZeros(other) >>> 3);
            }
        }
        if (end == from) {
            return from;
        }
        int free = Long.BYTES - (end - from) << 3;
        long other = upToEight(bytes, from, end - from) ^ BLANKS >>> free;
        return from + Long.BYTES - (Long.numberOfLeadingZeros(other) >>> 3);
    }

    /** Of eight bytes those that stand before nothing but blanks (0x20). */
    public static int usedBytes(long word) {
        return Long.BYTES - (Long.numberOfLeadingZeros(word ^ BLANKS) >>> 3);
    }

    /** Not zero where one of the eight bytes is. */
    public static long zeros(long word) {
        return word - EACH & ~word & HIGH;
    }

    /** Whether one of the eight bytes is zero. */
    public static boolean hasZero(long word) {
        return zeros(word) != 0;
    }

    /** The index of the first byte equal to another, or eight; bytes above a match may look like matches. */
    public static int indexOf(byte wanted, long word) {
        long x = word ^ EACH * (wanted & 0xff);
        return Long.numberOfTrailingZeros(x - EACH & ~x & HIGH) >>> 3;
    }

    /** The number that up to eight ASCII digits stand for, or -1 where another byte is among them. */
    public static long digits(long word, int length) {
        int free = Long.BYTES - length << 3;
        return eightDigits(free == 0 ? word : word << free | ZEROS >>> 64 - free);
    }

    /** The number that eight ASCII digits stand for, or -1 where another byte is among them. */
    public static long eightDigits(long eight) {
        if (!areDigits(eight)) {
            return -1;
        }
        long pairs = pairs(eight);
        return (pairs & 0x000000ff000000ffL) * 0x000f424000000064L
                        + (pairs >>> 16 & 0x000000ff000000ffL) * 0x0000271000000001L
                >>> 32;
    }

    /** Whether all eight bytes are ASCII digits. */
    public static boolean areDigits(long eight) {
        return (eight & UPPER | (eight + SIXES & UPPER) >>> 4) == THREES;
    }

    /** Of eight ASCII digits each two as a number; of the bytes of the word every other one counts, from the first. */
    public static long pairs(long eight) {
        return (eight - ZEROS) * 10 + (eight - ZEROS >>> 8);
    }
}
