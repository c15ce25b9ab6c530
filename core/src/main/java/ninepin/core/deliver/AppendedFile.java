package ninepin.core.deliver;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;

/**
 * A file beside the mark of a run, to which only whoever opened it last can append. Opening puts a copy of what is committed
 * in its place, so a process that had it open before goes on writing to a file that has no name any more.
 */
public final class AppendedFile implements Closeable {

    private final FileChannel channel;
    private long length;

    private AppendedFile(FileChannel channel, long length) {
        this.channel = channel;
        this.length = length;
    }

    /**
     * Opens a file.
     *
     * @param path the file; made when there is none
     * @param committed the bytes that belong to what is committed; what stands behind them is cut off
     * @throws IOException where it has fewer bytes, among other reasons
     */
    public static AppendedFile open(Path path, long committed) throws IOException {
        Path file = path.toAbsolutePath();
        Files.createDirectories(file.getParent());
        if (Files.exists(file) && !Files.isRegularFile(file)) {
            throw new IOException(file + " is no regular file");
        }
        long there = Files.exists(file) ? Files.size(file) : 0;
        if (there < committed) {
            throw new IOException(file.getFileName() + " has " + there + " bytes, but the mark counts " + committed
                    + ": what was kept in it would be lost.");
        }
        Path next = file.resolveSibling(file.getFileName() + ".next");
        Files.deleteIfExists(next);
        FileChannel channel = FileChannel.open(next, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
        try {
            copy(file, committed, channel);
            channel.force(true);
            Files.move(next, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
            return new AppendedFile(channel, committed);
        } catch (IOException e) {
            channel.close();
            throw e;
        }
    }

    /**
     * Copies the beginning of a file that another process may still have open, and forces the copy to disk.
     *
     * @param length how many bytes
     * @param to the copy, which is not there yet
     * @throws IOException where the file has fewer bytes, among other reasons
     */
    public static void copy(Path from, long length, Path to) throws IOException {
        try (FileChannel out = FileChannel.open(to, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE)) {
            copy(from, length, out);
            out.force(true);
        }
    }

    private static void copy(Path from, long length, FileChannel to) throws IOException {
        if (length == 0) {
            return;
        }
        try (FileChannel in = FileChannel.open(from, StandardOpenOption.READ)) {
            for (long done = 0; done < length; ) {
                long n = in.transferTo(done, length - done, to);
                if (n <= 0) {
                    throw new IOException(from.getFileName() + " became shorter while it was copied");
                }
                done += n;
            }
        }
    }

    /** Appends bytes and forces them to disk; the length of the file with them. */
    public long append(byte[] bytes) throws IOException {
        ByteBuffer rest = ByteBuffer.wrap(bytes);
        while (rest.hasRemaining()) {
            length += channel.write(rest);
        }
        channel.force(false);
        return length;
    }

    /** The bytes it has. */
    public long length() {
        return length;
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }
}
