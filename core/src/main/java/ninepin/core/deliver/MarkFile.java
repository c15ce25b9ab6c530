package ninepin.core.deliver;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * The mark of a target that has no transactions to keep it in. Written beside its place, forced to disk and moved there in
 * one step, so that after any stop it is the old one or the new one, and whole.
 */
public final class MarkFile {

    /**
     * What is kept.
     *
     * @param mark the mark
     * @param length the bytes of the target's own file that belong to what is committed
     * @param again how many requests have had to be sent again
     */
    public record Kept(Mark mark, long length, long again) {}

    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final Path path;

    /**
     * @param path the file of the mark
     */
    public MarkFile(Path path) {
        this.path = path.toAbsolutePath();
    }

    /** The mark that is kept with a run's files: their path with an ending of its own. */
    public static MarkFile of(Path files) {
        return new MarkFile(files.resolveSibling(files.getFileName() + ".mark"));
    }

    /** What was kept last, or empty where nothing was. */
    public Optional<Kept> read() throws IOException {
        if (!Files.exists(path)) {
            return Optional.empty();
        }
        try {
            return Optional.of(JSON.readValue(Files.readAllBytes(path), Kept.class));
        } catch (JacksonException e) {
            throw new IOException("The mark " + path.getFileName() + " cannot be read: " + e.getOriginalMessage());
        }
    }

    /** Forgets what was kept. */
    public void remove() throws IOException {
        Files.deleteIfExists(path);
    }

    /** Keeps a mark in place of the one before. */
    public void write(Kept kept) throws IOException {
        Files.createDirectories(path.getParent());
        Path next = path.resolveSibling(path.getFileName() + ".next");
        try (FileChannel out = FileChannel.open(
                next, StandardOpenOption.CREATE, StandardOpenOption.WRITE, StandardOpenOption.TRUNCATE_EXISTING)) {
            ByteBuffer bytes = ByteBuffer.wrap(JSON.writeValueAsBytes(kept));
            while (bytes.hasRemaining()) {
                out.write(bytes);
            }
            out.force(true);
        }
        Files.move(next, path, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        forceFolder(path.getParent());
    }

    /** Makes what happened to the names in a folder outlive a crash of the machine. */
    public static void forceFolder(Path folder) throws IOException {
        try (FileChannel entries = FileChannel.open(folder, StandardOpenOption.READ)) {
            entries.force(true);
        }
    }
}
