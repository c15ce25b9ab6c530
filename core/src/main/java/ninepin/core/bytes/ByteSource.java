package ninepin.core.bytes;

import java.io.Closeable;
import java.io.IOException;

/** Bytes of a known number that can be read from any position. Used by one thread at a time. */
public interface ByteSource extends Closeable {

    /** The number of bytes when the source was opened. */
    long size();

    /**
     * Reads bytes from a position.
     *
     * @param position the byte to start at, from 0
     * @param into where the bytes go
     * @param offset the first place in {@code into}
     * @param length the most bytes to read
     * @return the number of bytes read, or -1 at the end
     * @throws IOException when the bytes cannot be had, such as a file that was cut short since it was opened
     */
    int read(long position, byte[] into, int offset, int length) throws IOException;

    /** Reads exactly {@code length} bytes, fewer only where the source ends. */
    default byte[] slice(long position, int length) throws IOException {
        byte[] bytes = new byte[(int) Math.max(0, Math.min(length, size() - position))];
        int done = 0;
        while (done < bytes.length) {
            int n = read(position + done, bytes, done, bytes.length - done);
            if (n < 0) {
                return java.util.Arrays.copyOf(bytes, done);
            }
            done += n;
        }
        return bytes;
    }

    @Override
    void close() throws IOException;
}
