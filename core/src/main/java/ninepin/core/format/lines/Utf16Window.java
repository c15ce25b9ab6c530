package ninepin.core.format.lines;

import java.io.IOException;
import java.util.Arrays;
import ninepin.core.bytes.ByteSource;

/**
 * A window over a file in UTF-16 that holds its text as UTF-8, so that readers find delimiters and digits among bytes.
 * Offsets stay those of the file: a character of UTF-8 takes two bytes there, one of four bytes takes four. Half a
 * character becomes bytes that are no UTF-8, so that it is found wrong; they stand for one unit of the file.
 */
final class Utf16Window extends Window {

    private static final int PIECE = 1 << 16;
    private static final int MOST_BYTES_A_UNIT = 3;
    /** A surrogate; in UTF-8 there is none. */
    private static final int HALF = 0xd800;

    private final byte[] raw = new byte[PIECE];
    private long next;
    private char pending;
    private boolean ordered;
    private boolean little;
    private int knownIndex;
    private long knownOffset;

    Utf16Window(ByteSource source, long position, byte sentinel) {
        super(source, position, sentinel);
        this.next = position;
        this.knownOffset = position;
    }

    /** The bytes that a piece of text takes in UTF-16. */
    static long width(byte[] utf8, int from, int to) {
        long units = 0;
        for (int i = from; i < to; i++) {
            int b = utf8[i] & 0xff;
            units += (b & 0xc0) == 0x80 ? 0 : b >= 0xf0 ? 2 : 1;
        }
        return units * 2;
    }

    /** Places are asked for in rising order; a place before the last one is counted from the start of the window. */
    @Override
    long offsetOf(int index) {
        if (index < knownIndex) {
            knownIndex = 0;
            knownOffset = origin;
        }
        knownOffset += width(bytes, knownIndex, index);
        knownIndex = index;
        return Math.min(source.size(), knownOffset);
    }

    @Override
    boolean more() throws IOException {
        if (start > 0) {
            long begins = offsetOf(start);
            System.arraycopy(bytes, start, bytes, 0, limit - start);
            origin = begins;
            limit -= start;
            start = 0;
            knownIndex = 0;
            knownOffset = origin;
        }
        int most = raw.length / 2 * MOST_BYTES_A_UNIT + MOST_BYTES_A_UNIT;
        if (bytes.length - SLACK - limit < most) {
            bytes = Arrays.copyOf(bytes, Math.max((bytes.length - SLACK) * 2, limit + most) + SLACK);
        }
        int before = limit;
        while (limit == before && fetch()) {
            // A piece may end inside a pair of surrogates and make no character by itself.
        }
        bytes[limit] = sentinel;
        return limit > before;
    }

    private boolean fetch() throws IOException {
        if (!ordered) {
            byte[] mark = source.slice(0, 2);
            little = mark.length == 2 && mark[0] == (byte) 0xff && mark[1] == (byte) 0xfe;
            ordered = true;
        }
        int n = 0;
        while (n < raw.length) {
            int got = source.read(next + n, raw, n, raw.length - n);
            if (got <= 0) {
                break;
            }
            n += got;
        }
        next += n;
        for (int i = 0; i + 1 < n; i += 2) {
            int high = raw[little ? i + 1 : i] & 0xff;
            int low = raw[little ? i : i + 1] & 0xff;
            unit((char) (high << 8 | low));
        }
        if (n < raw.length && pending != 0) {
            put(HALF);
            pending = 0;
        }
        if ((n & 1) == 1) {
            put(HALF);
        }
        return n > 0;
    }

    private void unit(char c) {
        if (pending != 0) {
            char high = pending;
            pending = 0;
            if (Character.isLowSurrogate(c)) {
                put(Character.toCodePoint(high, c));
                return;
            }
            put(HALF);
        }
        if (Character.isHighSurrogate(c)) {
            pending = c;
        } else {
            put(Character.isLowSurrogate(c) ? HALF : c);
        }
    }

    private void put(int c) {
        if (c < 0x80) {
            bytes[limit++] = (byte) c;
        } else if (c < 0x800) {
            bytes[limit++] = (byte) (0xc0 | c >> 6);
            bytes[limit++] = (byte) (0x80 | c & 0x3f);
        } else if (c < 0x10000) {
            bytes[limit++] = (byte) (0xe0 | c >> 12);
            bytes[limit++] = (byte) (0x80 | c >> 6 & 0x3f);
            bytes[limit++] = (byte) (0x80 | c & 0x3f);
        } else {
            bytes[limit++] = (byte) (0xf0 | c >> 18);
            bytes[limit++] = (byte) (0x80 | c >> 12 & 0x3f);
            bytes[limit++] = (byte) (0x80 | c >> 6 & 0x3f);
            bytes[limit++] = (byte) (0x80 | c & 0x3f);
        }
    }
}
