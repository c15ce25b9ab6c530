package ninepin.server.runs;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import ninepin.doors.folder.FileMove;

/**
 * The folders a job keeps its files in: working, done and failed. They stand beside the files that are picked up, so that a
 * move between them is one step of the file system.
 */
public record FileHome(Path folder) {

    /** As many bytes as file systems keep of a name. */
    private static final int MOST_BYTES = 255;

    private static final String HIDDEN = ".ninepin";

    /** The home of a job below the folder it picks files up from. */
    public static FileHome below(Path pickUpFolder, String job) {
        return new FileHome(pickUpFolder.resolve(HIDDEN).resolve(job));
    }

    /** Where the file of a run is worked on: under its own name, in a folder that no other run has. */
    Path working(String runKey, String name) {
        return folder.resolve("working").resolve(runKey).resolve(name);
    }

    /** A free place in one of the folders, under the file's own name or the next free one. */
    Path free(String in, String name) {
        Path into = folder.resolve(in);
        for (int n = 1; ; n++) {
            Path target = into.resolve(n == 1 ? name : numbered(name, n));
            if (!Files.exists(target)) {
                return target;
            }
        }
    }

    private static String numbered(String name, int n) {
        int dot = name.lastIndexOf('.');
        String end = "~" + n + (dot <= 0 ? "" : name.substring(dot));
        int room = MOST_BYTES - end.getBytes(StandardCharsets.UTF_8).length;
        String start = dot <= 0 ? name : name.substring(0, dot);
        while (start.getBytes(StandardCharsets.UTF_8).length > room && !start.isEmpty()) {
            start = start.substring(0, start.offsetByCodePoints(start.length(), -1));
        }
        return start + end;
    }

    /** Moves a file, and the folder it had for itself goes with it. */
    static void move(Path file, Path to) throws IOException {
        FileMove.move(file, to);
        removeOwnFolder(file);
    }

    /** The folder of one run's file goes with the file. */
    private static void removeOwnFolder(Path file) throws IOException {
        Path folder = file.getParent();
        if (folder.getParent() != null && folder.getParent().endsWith("working")) {
            try {
                Files.deleteIfExists(folder);
            } catch (java.nio.file.DirectoryNotEmptyException e) {
                // Somebody has put something there.
            }
        }
    }
}
