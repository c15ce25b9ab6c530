package ninepin.core.bytes;

import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/** A file on disk. A file that shrinks while it is read is an error, not an early end. */
public final class FileSource implements ByteSource {

    private final Path path;
    private final FileChannel channel;
    private final long size;

    private FileSource(Path path, FileChannel channel, long size) {
        this.path = path;
        this.channel = channel;
        this.size = size;
    }

    public static FileSource open(Path path) throws IOException {
        FileChannel channel = FileChannel.open(path, StandardOpenOption.READ);
        return new FileSource(path, channel, channel.size());
    }

    @Override
    public long size() {
        return size;
    }

    @Override
    public int read(long position, byte[] into, int offset, int length) throws IOException {
        if (position >= size) {
            return -1;
        }
        int wanted = (int) Math.min(length, size - position);
        int n = channel.read(ByteBuffer.wrap(into, offset, wanted), position);
        if (n < 0) {
            throw new EOFException(path.getFileName() + " ends at byte " + channel.size() + "; it had " + size
                    + " bytes when it was opened");
        }
        return n;
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }
}
