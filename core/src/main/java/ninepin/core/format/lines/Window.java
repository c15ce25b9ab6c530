package ninepin.core.format.lines;

import java.io.IOException;
import java.util.Arrays;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.Words;

/**
 * A sliding piece of a source. The bytes from {@code start} on stay in it while more are fetched behind them, so that
 * a record is always in one piece. Behind the last byte stands a sentinel that ends a line: a scan for line ends needs
 * no other bound.
 */
class Window {

    private static final int INITIAL = 1 << 18;
    /** Room behind the limit for the sentinel, and for a scan that looks at eight bytes at once. */
    static final int SLACK = 1 + Words.SLACK;

    final ByteSource source;
    final byte sentinel;
    byte[] bytes = new byte[INITIAL + SLACK];

    /** The first byte still needed. */
    int start;
    /** The byte after the last one fetched. */
    int limit;
    /** The byte of the source that stands at {@code bytes[0]}. */
    long origin;

    /**
     * @param sentinel the byte that stands behind the last one; one that ends a line in the charset
     */
    Window(ByteSource source, long position, byte sentinel) {
        this.source = source;
        this.sentinel = sentinel;
        this.origin = position;
        bytes[0] = sentinel;
    }

    long offsetOf(int index) {
        return origin + index;
    }

    /**
     * Fetches more bytes behind the limit, moving what is still needed to the front. Indexes of bytes change; places
     * counted from {@code start} do not.
     *
     * @return false at the end of the source
     */
    boolean more() throws IOException {
        if (start > 0) {
            System.arraycopy(bytes, start, bytes, 0, limit - start);
            origin += start;
            limit -= start;
            start = 0;
        }
        if (limit == bytes.length - SLACK) {
            bytes = Arrays.copyOf(bytes, (bytes.length - SLACK) * 2 + SLACK);
        }
        int n = source.read(origin + limit, bytes, limit, bytes.length - SLACK - limit);
        if (n > 0) {
            limit += n;
        }
        bytes[limit] = sentinel;
        return n > 0;
    }
}
