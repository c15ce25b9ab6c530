package ninepin.core.testing;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;

/**
 * A disk that is soon full: a small file system where mounting one is allowed, otherwise a limit on the size of the files
 * that a process may write, which it meets with the same kind of error.
 */
public final class SmallDisk implements AutoCloseable {

    private static final boolean MOUNTS = Boolean.parseBoolean(System.getProperty("ninepin.mounts", "true"));

    private static final int MOST_FILLED = 100_000;

    private final Path folder;
    private final long process;
    private final boolean mounted;

    private SmallDisk(Path folder, long process, boolean mounted) {
        this.folder = folder;
        this.process = process;
        this.mounted = mounted;
    }

    /**
     * Makes one.
     *
     * @param folder where it is; there, and empty
     * @param size what it holds, such as {@code 2m}
     * @param process the process that writes to it
     * @param limit the size of its files in bytes, where there is no file system to be had
     */
    public static SmallDisk at(Path folder, String size, long process, long limit) throws IOException {
        boolean mounted = MOUNTS && shell("mount -t tmpfs -o size=" + size + ",mode=777 tmpfs " + folder);
        if (!mounted && !limit(process, String.valueOf(limit))) {
            throw new IOException("There is neither a right to mount nor one to limit the process " + process);
        }
        if (!mounted) {
            // Whoever the process runs as, as on a file system of its own.
            Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("rwxrwxrwx"));
        }
        return new SmallDisk(folder, process, mounted);
    }

    public Path folder() {
        return folder;
    }

    /** Leaves no room. */
    public void fill() {
        try (OutputStream out = Files.newOutputStream(folder.resolve("filling"))) {
            for (int i = 0; i < MOST_FILLED; i++) {
                out.write(0);
            }
        } catch (IOException e) {
            // It is full.
        }
    }

    /** Makes room. */
    public void makeRoom() throws IOException {
        boolean made = mounted
                ? shell("mount -o remount,size=200m " + folder)
                : !ProcessHandle.of(process).map(ProcessHandle::isAlive).orElse(false) || limit(process, "unlimited");
        if (!made) {
            throw new IOException("No room could be made");
        }
    }

    /** Limits the files of a process; where its owner alone may do so, as its owner. */
    private static boolean limit(long process, String size) throws IOException {
        String limit = "prlimit --pid " + process + " --fsize=" + size + ":unlimited";
        String owner = "--reuid=$(stat -c %u /proc/" + process + ") --regid=$(stat -c %g /proc/" + process + ")";
        return shell(limit) || shell("setpriv " + owner + " --clear-groups -- " + limit);
    }

    /** Runs a command of the shell; whether it went well. */
    public static boolean shell(String command) throws IOException {
        Process process = new ProcessBuilder("sh", "-c", command)
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start();
        try {
            return process.waitFor() == 0;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException(e);
        }
    }

    /** A new folder for one. */
    public static Path place() throws IOException {
        return Files.createTempDirectory("ninepin-small");
    }

    @Override
    public void close() throws IOException {
        if (mounted) {
            shell("umount -l " + folder);
        } else {
            makeRoom();
        }
    }
}
