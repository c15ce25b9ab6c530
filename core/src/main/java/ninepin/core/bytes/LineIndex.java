package ninepin.core.bytes;

import java.io.IOException;
import java.nio.charset.Charset;
import java.util.Arrays;

/**
 * Where the lines of a file stand, whatever its size: for every so many bytes it keeps how many lines have begun, and
 * looks at the bytes between when asked. Grows as far as it is asked; holds eight bytes for each step of the file. A
 * file of blocks has its blocks for lines.
 */
public final class LineIndex {

    private static final int STEP = 1 << 20;

    private final int step;
    private final int blockSize;
    private final LineEnds ends;
    /** The lines that begin before each step, the first line counted. */
    private long[] begun = {0};

    private int known;
    private long lines = -1;

    /**
     * @param blockSize the bytes of a block, or 0 for a file of lines
     * @param charset the charset of the file's bytes
     */
    public LineIndex(int blockSize, Charset charset) {
        this(blockSize, charset, STEP);
    }

    LineIndex(int blockSize, Charset charset, int step) {
        this.step = step;
        this.blockSize = blockSize;
        this.ends = LineEnds.of(charset);
    }

    LineEnds ends() {
        return ends;
    }

    int blockSize() {
        return blockSize;
    }

    /** The number of lines of the file. */
    public synchronized long lines(ByteSource source) throws IOException {
        if (blockSize > 0) {
            return (source.size() + blockSize - 1) / blockSize;
        }
        while (lines < 0) {
            grow(source);
        }
        return lines;
    }

    /** The byte at which a line starts, counted from 1; the last line's for a number that is too high. */
    public synchronized long offsetOf(ByteSource source, long line) throws IOException {
        if (line <= 1) {
            return 0;
        }
        if (blockSize > 0) {
            return Math.min(line, Math.max(1, lines(source))) * blockSize - blockSize;
        }
        while (lines < 0 && begun[known] < line) {
            grow(source);
        }
        long wanted = lines < 0 ? line : Math.min(line, lines);
        int at = lastBelow(wanted);
        long[] counted = {at == 0 ? 1 : begun[at]};
        long[] found = {0};
        if (counted[0] >= wanted) {
            return 0;
        }
        ends.each(source, (long) at * step, source.size(), next -> {
            counted[0]++;
            found[0] = next;
            return counted[0] < wanted;
        });
        return found[0];
    }

    /** The last step before which fewer lines have begun. */
    private int lastBelow(long line) {
        int low = 0;
        int high = known;
        while (low < high) {
            int middle = (low + high + 1) >>> 1;
            if (begun[middle] < line) {
                low = middle;
            } else {
                high = middle - 1;
            }
        }
        return low;
    }

    /** The number of the line in which a byte stands, counted from 1. */
    public synchronized long lineAt(ByteSource source, long offset) throws IOException {
        long within = Math.max(0, Math.min(offset, source.size() - 1));
        if (blockSize > 0) {
            return within / blockSize + 1;
        }
        int at = (int) (within / step);
        while (lines < 0 && known < at) {
            grow(source);
        }
        long[] counted = {at == 0 ? 1 : begun[at]};
        ends.each(source, (long) at * step, within + 1, next -> {
            if (next <= within) {
                counted[0]++;
            }
            return next <= within;
        });
        return counted[0];
    }

    /** Looks at one more step. A line that begins at its last edge counts for the step behind. */
    private void grow(ByteSource source) throws IOException {
        long from = (long) known * step;
        long to = Math.min(source.size(), from + step);
        long[] counted = {known == 0 ? 1 : begun[known]};
        ends.each(source, from, to, next -> {
            if (next < source.size()) {
                counted[0]++;
            }
            return true;
        });
        if (to == source.size()) {
            lines = source.size() == 0 ? 0 : counted[0];
            return;
        }
        known++;
        if (known == begun.length) {
            begun = Arrays.copyOf(begun, begun.length * 2);
        }
        begun[known] = counted[0];
    }

    /** The bytes that end lines in a charset. */
    record LineEnds(int carriageReturn, int lineFeed, int newLine, boolean wide) {

        /** Told where the next line starts; answers whether to go on. */
        interface Sink {
            boolean next(long start) throws IOException;
        }

        static LineEnds of(Charset charset) {
            boolean wide = Bytes.isUtf16(charset);
            boolean ebcdic = !wide && charset.encode("A").get(0) != 'A';
            return ebcdic ? new LineEnds('\r', 0x25, 0x15, false) : new LineEnds('\r', '\n', '\n', wide);
        }

        boolean ends(int b) {
            return b == lineFeed || b == carriageReturn || b == newLine;
        }

        /** Tells the start behind every line end whose last byte stands from one place up to another. */
        void each(ByteSource source, long from, long to, Sink sink) throws IOException {
            if (wide) {
                eachUnit(source, from & ~1L, to, sink);
                return;
            }
            byte[] bytes = new byte[(int) Math.min(STEP, Math.max(1, to - from))];
            long at = from;
            while (at < to) {
                int n = source.read(at, bytes, 0, (int) Math.min(bytes.length, to - at));
                if (n <= 0) {
                    return;
                }
                for (int i = 0; i < n; i++) {
                    int b = bytes[i] & 0xff;
                    if (b <= 0x25 && ends(b)) {
                        boolean pair = b == carriageReturn
                                && (i + 1 < n ? bytes[i + 1] == (byte) lineFeed : isLineFeed(source, at + i + 1));
                        if (!pair && !sink.next(at + i + 1)) {
                            return;
                        }
                    }
                }
                at += n;
            }
        }

        /** The same in UTF-16: one of the two bytes of a line end is zero, whatever their order. */
        private void eachUnit(ByteSource source, long from, long to, Sink sink) throws IOException {
            for (long at = from; at < to; at += STEP) {
                byte[] bytes = source.slice(at, (int) Math.min(STEP, to - at) + 3);
                for (int i = 0; i + 1 < bytes.length && at + i < to && i < STEP; i += 2) {
                    int unit = unit(bytes, i);
                    boolean pair = unit == carriageReturn && i + 3 < bytes.length && unit(bytes, i + 2) == lineFeed;
                    if (ends(unit) && !pair && !sink.next(at + i + 2)) {
                        return;
                    }
                }
            }
        }

        /** A unit that may end a line, or -1: one whose bytes are both set does not. */
        static int unit(byte[] bytes, int at) {
            return bytes[at] == 0 ? bytes[at + 1] : bytes[at + 1] == 0 ? bytes[at] : -1;
        }

        private boolean isLineFeed(ByteSource source, long at) throws IOException {
            byte[] one = source.slice(at, 1);
            return one.length == 1 && one[0] == (byte) lineFeed;
        }
    }
}
