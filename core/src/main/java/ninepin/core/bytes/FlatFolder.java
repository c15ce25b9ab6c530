package ninepin.core.bytes;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;

/** A folder that has files and no folders, such as one for what a run took at its start. */
public final class FlatFolder {

    private FlatFolder() {}

    /** Removes a folder with its files, where it is there. */
    public static void remove(Path folder) throws IOException {
        if (!Files.isDirectory(folder)) {
            return;
        }
        try (Stream<Path> all = Files.list(folder)) {
            for (Path file : all.toList()) {
                Files.deleteIfExists(file);
            }
        }
        Files.deleteIfExists(folder);
    }
}
