package ninepin.doors.folder;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;

/** A move of a file that can be gone on with wherever it was broken off, and never takes the place of another file. */
public final class FileMove {

    private FileMove() {}

    /**
     * Moves a file, or goes on with that.
     *
     * @throws FileAlreadyExistsException where another file has the place
     * @throws NoSuchFileException where the file is neither here nor there
     */
    public static void move(Path file, Path to) throws IOException {
        Files.createDirectories(to.getParent());
        if (!Files.exists(file) && Files.exists(to)) {
            return;
        }
        try {
            // A second name takes no other file's place, as moving could.
            Files.createLink(to, file);
        } catch (FileAlreadyExistsException e) {
            if (!Files.isSameFile(file, to)) {
                throw e;
            }
        } catch (NoSuchFileException e) {
            throw e;
        } catch (UnsupportedOperationException | FileSystemException e) {
            // No second names here, or not for files of other users.
            Files.move(file, to);
            return;
        }
        Files.deleteIfExists(file);
    }
}
