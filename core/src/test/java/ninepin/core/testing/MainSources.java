package ninepin.core.testing;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** The main sources of all modules, read as text: a cast leaves too little in the classes. */
public final class MainSources {

    private MainSources() {}

    /**
     * The names of the files in which a pattern is found.
     *
     * @param butIn a part of the paths that are left out
     */
    public static List<String> with(Pattern what, String butIn) {
        return with(
                what,
                butIn,
                Stream.of("core", "doors", "server", "bench", "standins")
                        .map(module -> Path.of("..", module, "src", "main", "java")));
    }

    /** The same in the sources of the interface. */
    public static List<String> ofInterface(Pattern what, String butIn) {
        return with(what, butIn, Stream.of(Path.of("..", "web", "src")));
    }

    private static List<String> with(Pattern what, String butIn, Stream<Path> folders) {
        try (Stream<Path> files = folders.flatMap(MainSources::filesIn)) {
            return files.filter(file -> !file.toString().contains(butIn))
                    .filter(file -> what.matcher(text(file)).find())
                    .map(file -> file.getFileName().toString())
                    .toList();
        }
    }

    private static Stream<Path> filesIn(Path folder) {
        try {
            return Files.walk(folder)
                    .filter(file -> file.toString().endsWith(".java")
                            || file.toString().endsWith(".ts")
                            || file.toString().endsWith(".tsx"));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static String text(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
