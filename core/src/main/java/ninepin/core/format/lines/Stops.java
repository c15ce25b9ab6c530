package ninepin.core.format.lines;

import ninepin.core.bytes.Words;

/**
 * Finds the next of three bytes, eight bytes at a step. A byte equal to the wanted one is zero after an exclusive or;
 * a zero byte is the only one whose high bit stays clear when 0x7F is added to its low seven bits and the byte itself
 * is put on top (H. S. Warren, Hacker's Delight, 6-1: the exact form, without borrows).
 */
public final class Stops {

    private static final long LOW = 0x7f7f7f7f7f7f7f7fL;

    private final long first;
    private final long second;
    private final long third;
    /** Whether only two of them differ, which is the usual case and the quicker one. */
    private final boolean two;

    public Stops(byte first, byte second, byte third) {
        this.first = Words.EACH * (first & 0xff);
        this.second = Words.EACH * (second & 0xff);
        this.third = Words.EACH * (third & 0xff);
        this.two = third == first;
    }

    /** The index of the next of the three bytes; the array must hold one at some place. */
    int next(byte[] bytes, int from) {
        return two ? nextOfTwo(bytes, from) : nextOfThree(bytes, from);
    }

    private int nextOfTwo(byte[] bytes, int from) {
        int i = from;
        while (true) {
            long word = Words.at(bytes, i);
            long a = word ^ first;
            long b = word ^ second;
            long none = ((a & LOW) + LOW | a) & ((b & LOW) + LOW | b) | LOW;
            if (none != -1L) {
                return i + (Long.numberOfTrailingZeros(~none) >>> 3);
            }
            i += Long.BYTES;
        }
    }

    private int nextOfThree(byte[] bytes, int from) {
        int i = from;
        while (true) {
            long word = Words.at(bytes, i);
            long a = word ^ first;
            long b = word ^ second;
            long c = word ^ third;
            long none = ((a & LOW) + LOW | a) & ((b & LOW) + LOW | b) & ((c & LOW) + LOW | c) | LOW;
            if (none != -1L) {
                return i + (Long.numberOfTrailingZeros(~none) >>> 3);
            }
            i += Long.BYTES;
        }
    }
}
