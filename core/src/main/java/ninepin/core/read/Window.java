package ninepin.core.read;

import java.io.IOException;
import java.util.Arrays;
import ninepin.core.source.ByteSource;

/**
 * A sliding piece of a source. The bytes from {@code start} on stay in it while more are fetched behind them, so that
 * a record is always in one piece. Behind the last byte stands a line feed as a sentinel: a scan for line ends needs
 * no other bound.
 */
final class Window {

    private static final int INITIAL = 1 << 18;

    private final ByteSource source;
    byte[] bytes = new byte[INITIAL + 1];

    /** The first byte still needed. */
    int start;
    /** The byte after the last one fetched. */
    int limit;
    /** The byte of the source that stands at {@code bytes[0]}. */
    private long origin;

    Window(ByteSource source, long position) {
        this.source = source;
        this.origin = position;
        bytes[0] = '\n';
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
        if (limit == bytes.length - 1) {
            bytes = Arrays.copyOf(bytes, (bytes.length - 1) * 2 + 1);
        }
        int n = source.read(origin + limit, bytes, limit, bytes.length - 1 - limit);
        if (n > 0) {
            limit += n;
        }
        bytes[limit] = '\n';
        return n > 0;
    }

    /** Moves to a position of the source and forgets what was fetched. */
    void seek(long position) {
        origin = position;
        start = 0;
        limit = 0;
        bytes[0] = '\n';
    }
}
