package ninepin.server.runs;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;

/**
 * The three folders a job keeps its files in: working, done and failed. They stand beside the files that are picked up,
 * so that a move between them is one step of the file system.
 */
public record FileHome(Path folder) {

    private static final String HIDDEN = ".ninepin";

    /** The home of a job below the folder it picks files up from. */
    public static FileHome below(Path pickUpFolder, String job) {
        return new FileHome(pickUpFolder.resolve(HIDDEN).resolve(job));
    }

    public Path working() {
        return folder.resolve("working");
    }

    /** Moves a file into one of the folders in one step, under its own name or the next free one. */
    public Path move(Path file, String to, String name) throws IOException {
        Path into = Files.createDirectories(folder.resolve(to));
        for (int n = 1; ; n++) {
            Path target = into.resolve(n == 1 ? name : numbered(name, n));
            try {
                // An atomic move replaces silently, so the name is taken first.
                Files.createFile(target);
            } catch (FileAlreadyExistsException taken) {
                continue;
            }
            try {
                return Files.move(file, target, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
            } catch (IOException e) {
                Files.deleteIfExists(target);
                throw e;
            }
        }
    }

    private static String numbered(String name, int n) {
        int dot = name.lastIndexOf('.');
        return dot <= 0 ? name + "~" + n : name.substring(0, dot) + "~" + n + name.substring(dot);
    }
}
