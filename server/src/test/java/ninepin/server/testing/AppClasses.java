package ninepin.server.testing;

import java.io.File;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/**
 * The classes of the application for its processes, read from an archive of the virtual machine's (JEP 350), as the launcher does
 * it: a start takes half as long. The first process that ends in order leaves the archive behind. The virtual machine archives
 * classes of jars only, so those of the server are put into one.
 */
final class AppClasses {

    private static final Path CLASSES = Path.of("target", "classes");
    private static final Path JAR = Path.of("target", "under-test.jar");
    private static final Path ARCHIVE = Path.of("target", "under-test.jsa");

    private static final int KILLED = 128 + 9;

    private static String path;

    /** Held while a process of this one may leave the archive behind. */
    private FileLock making;

    private Path part;

    /** The options of a start. */
    List<String> options() throws IOException {
        List<String> options = new ArrayList<>(List.of("-cp", path()));
        if (Files.exists(ARCHIVE)) {
            options.add("-XX:SharedArchiveFile=" + ARCHIVE.toAbsolutePath());
            options.add("-Xshare:auto");
        } else if (mayMake()) {
            part = Files.createTempFile(ARCHIVE.toAbsolutePath().getParent(), "under-test", ".part");
            Files.delete(part);
            options.add("-XX:ArchiveClassesAtExit=" + part);
        }
        return options;
    }

    private boolean mayMake() throws IOException {
        FileChannel lock = FileChannel.open(
                ARCHIVE.resolveSibling("under-test.lock"), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        try {
            making = lock.tryLock();
        } catch (OverlappingFileLockException e) {
            making = null;
        }
        if (making == null) {
            lock.close();
        }
        return making != null;
    }

    /** The process has ended; one that was killed may have left half an archive. */
    void ended(int exit) {
        if (making == null) {
            return;
        }
        try {
            if (exit != KILLED && Files.exists(part)) {
                Files.move(part, ARCHIVE, StandardCopyOption.ATOMIC_MOVE);
            }
            Files.deleteIfExists(part);
            making.channel().close();
            making = null;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static synchronized String path() throws IOException {
        if (path == null) {
            List<String> jars = Arrays.stream(
                            System.getProperty("java.class.path").split(File.pathSeparator))
                    .filter(entry -> !Path.of(entry)
                            .toAbsolutePath()
                            .startsWith(Path.of("target").toAbsolutePath()))
                    .toList();
            path = Stream.concat(Stream.of(jar().toString()), jars.stream())
                    .collect(Collectors.joining(File.pathSeparator));
        }
        return path;
    }

    /** Each process of tests makes it alike; one that is newer than all classes stays. */
    private static Path jar() throws IOException {
        Path jar = JAR.toAbsolutePath();
        List<Path> classes;
        try (Stream<Path> all = Files.walk(CLASSES)) {
            classes = all.filter(file -> !file.equals(CLASSES)).sorted().toList();
        }
        if (Files.exists(jar) && classes.stream().noneMatch(c -> isNewer(c, jar))) {
            return jar;
        }
        Path part = Files.createTempFile(jar.getParent(), "under-test", ".part");
        try (OutputStream out = Files.newOutputStream(part);
                ZipOutputStream zip = new ZipOutputStream(out)) {
            for (Path file : classes) {
                boolean directory = Files.isDirectory(file);
                // Packages are looked through by way of the entries of their folders.
                zip.putNextEntry(new ZipEntry(CLASSES.relativize(file) + (directory ? "/" : "")));
                if (!directory) {
                    Files.copy(file, zip);
                }
            }
        }
        Files.deleteIfExists(ARCHIVE);
        Files.move(part, jar, StandardCopyOption.ATOMIC_MOVE);
        return jar;
    }

    private static boolean isNewer(Path file, Path than) {
        try {
            return Files.getLastModifiedTime(file).compareTo(Files.getLastModifiedTime(than)) > 0;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
