package ninepin.core.deliver;

import java.io.Closeable;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;

/**
 * A lock that the operating system lets go when its process ends, however that happens. It is on a file of its own, because
 * closing any other channel of a locked file would let the lock go too.
 */
public final class ProcessLock implements Closeable {

    private static final long NAP_MILLIS = 50;
    /** How long a process that was just killed may still hold its lock. */
    private static final int GRACE_MILLIS = 3_000;

    private final FileChannel channel;

    private ProcessLock(FileChannel channel) {
        this.channel = channel;
    }

    /**
     * Takes a lock.
     *
     * @param path the file of the lock; made where there is none, and never removed
     * @param waitMillis how long to wait for it at most
     * @return empty where another process, or another part of this one, has it
     */
    public static Optional<ProcessLock> take(Path path, long waitMillis) throws IOException {
        Files.createDirectories(path.toAbsolutePath().getParent());
        long until = System.nanoTime() + waitMillis * 1_000_000;
        while (true) {
            FileChannel channel = FileChannel.open(path, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
            if (locked(channel)) {
                return Optional.of(new ProcessLock(channel));
            }
            channel.close();
            if (System.nanoTime() >= until) {
                return Optional.empty();
            }
            pause();
        }
    }

    /**
     * Takes the lock beside the files of a run.
     *
     * @param files the path whose name gets an ending
     * @param target where the run delivers to, for the message
     * @return empty where another process has it that is only to be overtaken
     * @throws TargetException of the kind HELD where another process has it and is not to be overtaken
     */
    public static Optional<ProcessLock> beside(Path files, TakeUp as, String target)
            throws IOException, TargetException {
        Path path = files.resolveSibling(files.getFileName() + ".lock");
        Optional<ProcessLock> lock = take(path, as.preempts() ? 0 : GRACE_MILLIS);
        if (lock.isEmpty() && !as.preempts()) {
            throw TargetException.held(target);
        }
        return lock;
    }

    private static boolean locked(FileChannel channel) throws IOException {
        try {
            FileLock lock = channel.tryLock();
            return lock != null;
        } catch (OverlappingFileLockException e) {
            return false;
        } catch (IOException e) {
            channel.close();
            throw e;
        }
    }

    private static void pause() throws IOException {
        try {
            Thread.sleep(NAP_MILLIS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("Interrupted while waiting for a lock", e);
        }
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }
}
