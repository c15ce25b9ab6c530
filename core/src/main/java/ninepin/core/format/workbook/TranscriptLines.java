package ninepin.core.format.workbook;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import ninepin.core.bytes.ByteSource;

/** The lines of a transcript from a place on, one at a time. */
final class TranscriptLines {

    private static final int INITIAL = 1 << 16;
    private static final int MOST = 32 << 20;

    private final ByteSource source;
    private byte[] bytes = new byte[INITIAL];
    /** The byte of the source that stands first. */
    private long origin;

    private int start;
    private int end;
    private int next;
    private int limit;

    TranscriptLines(ByteSource source, long from) {
        this.source = source;
        this.origin = from;
    }

    /** Goes to the next line; false at the end of the source, or where a line is too long to be one of a transcript. */
    boolean next() throws IOException {
        start = next;
        int at = start;
        while (true) {
            while (at < limit && bytes[at] != '\n') {
                at++;
            }
            if (at < limit) {
                end = at;
                next = at + 1;
                return true;
            }
            int length = at - start;
            if (!more()) {
                end = limit;
                next = limit;
                return end > start;
            }
            at = start + length;
        }
    }

    private boolean more() throws IOException {
        if (start > 0) {
            System.arraycopy(bytes, start, bytes, 0, limit - start);
            origin += start;
            limit -= start;
            next -= start;
            start = 0;
        }
        if (limit == bytes.length) {
            if (limit >= MOST) {
                return false;
            }
            bytes = Arrays.copyOf(bytes, limit * 2);
        }
        int n = source.read(origin + limit, bytes, limit, bytes.length - limit);
        limit += Math.max(0, n);
        return n > 0;
    }

    byte[] bytes() {
        return bytes;
    }

    /** Where the line starts among the bytes. */
    int start() {
        return start;
    }

    /** Where it ends, without its line end. */
    int end() {
        return end;
    }

    /** Where the line starts in the source. */
    long offset() {
        return origin + start;
    }

    /** Where the next line starts in the source. */
    long offsetBehind() {
        return origin + next;
    }

    boolean startsWith(String ascii) {
        byte[] wanted = ascii.getBytes(StandardCharsets.US_ASCII);
        return end - start >= wanted.length
                && Arrays.equals(bytes, start, start + wanted.length, wanted, 0, wanted.length);
    }
}
