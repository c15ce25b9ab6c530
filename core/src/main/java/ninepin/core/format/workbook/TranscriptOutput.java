package ninepin.core.format.workbook;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/** A transcript that is being written. */
final class TranscriptOutput implements Closeable {

    private static final int CAPACITY = 1 << 18;

    private final FileChannel channel;
    private final byte[] pending = new byte[CAPACITY];
    private int length;
    private long written;
    private long lines;

    TranscriptOutput(Path file) throws IOException {
        channel = FileChannel.open(
                file, StandardOpenOption.CREATE, StandardOpenOption.WRITE, StandardOpenOption.TRUNCATE_EXISTING);
    }

    void line(String text) throws IOException {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        put(bytes, 0, bytes.length);
        endLine();
    }

    void put(byte[] bytes, int from, int count) throws IOException {
        if (length + count > CAPACITY) {
            flush();
        }
        if (count > CAPACITY) {
            write(ByteBuffer.wrap(bytes, from, count));
            return;
        }
        System.arraycopy(bytes, from, pending, length, count);
        length += count;
    }

    void put(byte b) throws IOException {
        if (length == CAPACITY) {
            flush();
        }
        pending[length++] = b;
    }

    void endLine() throws IOException {
        put((byte) '\n');
        lines++;
    }

    /** The byte that is written next. */
    long offset() {
        return written + length;
    }

    /** How many lines are written. */
    long lines() {
        return lines;
    }

    /** Forgets all behind a place. */
    void cutBack(long offset, long newLines) throws IOException {
        flush();
        channel.truncate(offset);
        channel.position(offset);
        written = offset;
        lines = newLines;
    }

    private void flush() throws IOException {
        write(ByteBuffer.wrap(pending, 0, length));
        length = 0;
    }

    private void write(ByteBuffer bytes) throws IOException {
        written += bytes.remaining();
        while (bytes.hasRemaining()) {
            channel.write(bytes);
        }
    }

    @Override
    public void close() throws IOException {
        try {
            flush();
        } finally {
            channel.close();
        }
    }
}
