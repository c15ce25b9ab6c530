package ninepin.server.config;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.stream.Stream;

/**
 * A folder for temporary files of this process. What processes that were killed have left in theirs is removed, which nobody
 * does in the machine's own folder for temporary files.
 */
public final class TemporaryFolder {

    private static final String PROPERTY = "java.io.tmpdir";

    private TemporaryFolder() {}

    /**
     * Makes the folder and has all temporary files of this process go there. To be called before the first one is made.
     *
     * @param parent where the folders of processes stand
     */
    public static void use(Path parent) {
        try {
            Path all = Files.createDirectories(parent.toAbsolutePath().normalize());
            String host = hostName();
            removeThoseOfTheDead(all, host);
            Path own = Files.createDirectories(
                    all.resolve(host + "-" + ProcessHandle.current().pid()));
            System.setProperty(PROPERTY, own.toString());
            Runtime.getRuntime().addShutdownHook(new Thread(() -> remove(own), "temporary files"));
        } catch (IOException e) {
            throw new UncheckedIOException("There is no place for temporary files in " + parent, e);
        }
    }

    private static String hostName() {
        String name = System.getenv("HOSTNAME");
        return name == null ? "here" : name.replaceAll("[^A-Za-z0-9.]", "_");
    }

    private static void removeThoseOfTheDead(Path all, String host) throws IOException {
        try (DirectoryStream<Path> folders = Files.newDirectoryStream(all, host + "-*")) {
            for (Path folder : folders) {
                String number = folder.getFileName().toString().substring(host.length() + 1);
                // One that has ended but still has a number has no command any more.
                boolean dead = number.matches("\\d{1,18}")
                        && ProcessHandle.of(Long.parseLong(number))
                                .flatMap(p -> p.info().command())
                                .isEmpty();
                if (dead) {
                    remove(folder);
                }
            }
        }
    }

    private static void remove(Path folder) {
        try (Stream<Path> all = Files.walk(folder)) {
            all.sorted(Comparator.reverseOrder()).forEach(p -> p.toFile().delete());
        } catch (IOException | UncheckedIOException e) {
            // The next process tries again.
        }
    }
}
