package ninepin.core.format.lines;

import java.io.IOException;
import ninepin.core.bytes.ByteSource;
import ninepin.core.layout.FileCharset;

/** Lines at the end of a file that are no records. */
public final class Footer {

    private static final int PIECE = 1 << 16;

    private Footer() {}

    /**
     * Where the last lines of a file begin, looking back from its end; line ends behind the last one do not count.
     *
     * @param lines how many lines
     * @param least no earlier byte than this
     */
    public static long start(ByteSource source, int lines, long least, FileCharset charset) throws IOException {
        int unit = charset == FileCharset.UTF_16 ? 2 : 1;
        long end = source.size();
        int left = lines;
        boolean text = false;
        for (long to = end; to > least; to -= PIECE) {
            long from = Math.max(least, to - PIECE);
            byte[] bytes = source.slice(from, (int) (to - from));
            for (int i = bytes.length - unit; i >= 0; i -= unit) {
                // One of the two bytes of a unit is zero where it ends a line, whatever their order.
                int c = unit == 1 ? bytes[i] : bytes[i] == 0 ? bytes[i + 1] : bytes[i + 1] == 0 ? bytes[i] : 0;
                boolean ends = c == '\n' || c == '\r';
                if (ends && text && --left == 0) {
                    return from + i + unit;
                }
                // CR and LF together end one line, and blank lines are none.
                text = !ends;
            }
        }
        return least;
    }
}
