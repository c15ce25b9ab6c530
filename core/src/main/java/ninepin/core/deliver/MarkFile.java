package ninepin.core.deliver;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.Optional;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * The mark of a target that has no transactions to keep it in. Written beside its place, forced to disk and moved there in
 * one step, so that after any stop it is the old one or the new one, and whole.
 *
 * <p>It also keeps others out. What is moved bears the epoch in its name, and whoever moves it has seen its own epoch announced
 * (a file of its own) after writing it. A take-up announces its epoch first and then removes what those before may be about to
 * move: either they moved it by then, and the take-up sees it, or they never will, even if they were frozen in between. An
 * announcement that one of an earlier epoch has written over is made again.
 */
public final class MarkFile {

    /**
     * What is kept.
     *
     * @param mark the mark
     * @param length the bytes of the target's own file that belong to what is committed
     * @param again how many requests have had to be sent again
     * @param epoch the take-up that may write
     */
    public record Kept(Mark mark, long length, long again, long epoch) {
        Kept with(long newEpoch) {
            return new Kept(mark, length, again, newEpoch);
        }
    }

    private static final int MOST_LEFT = 64;

    private static final Kept NOTHING = new Kept(Mark.none(""), 0, 0, 0);

    private static final JsonMapper JSON = JsonMapper.builder()
            .disable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .build();

    private final Path path;
    private volatile long epoch;

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

    /** What was kept last, or empty where nothing is committed. */
    public Optional<Kept> read() throws IOException {
        return Optional.of(latest()).filter(k -> k.mark().commits() > 0);
    }

    private Kept latest() throws IOException {
        if (!Files.exists(path)) {
            return NOTHING;
        }
        try {
            return JSON.readValue(Files.readAllBytes(path), Kept.class);
        } catch (JacksonException e) {
            throw new IOException("The mark " + path.getFileName() + " cannot be read: " + e.getOriginalMessage());
        }
    }

    /**
     * Takes the run up: nobody who did so before can write any more.
     *
     * @return what was kept; its epoch is that of the take-up before
     */
    public Kept takeUp(TakeUp as) throws IOException, TargetException {
        Files.createDirectories(path.getParent());
        long last = Math.max(latest().epoch(), announced());
        epoch = as.after(last);
        while (true) {
            announce();
            removeNext(Math.max(0, last - MOST_LEFT), epoch - 1);
            Kept before = latest();
            if (before.epoch() > epoch) {
                throw TargetException.fenced();
            }
            store(next(epoch), before.with(epoch));
            if (announced() == epoch) {
                moveUnlessTakenOver(next(epoch));
                return before;
            }
        }
    }

    /** Says that this process has taken the run up; one that did so later may have said so already. */
    private void announce() throws IOException, TargetException {
        while (true) {
            long known = announced();
            if (known == epoch) {
                return;
            }
            if (known > epoch) {
                throw TargetException.fenced();
            }
            Path next = announcement(".next-" + epoch);
            write(next, Long.toString(epoch).getBytes(StandardCharsets.US_ASCII));
            Files.move(next, announcement(""), StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        }
    }

    /** The epoch that was announced last; 0 where none was. */
    private long announced() throws IOException {
        try {
            return Long.parseLong(Files.readString(announcement("")).strip());
        } catch (NoSuchFileException e) {
            return 0;
        }
    }

    private Path announcement(String ending) {
        return path.resolveSibling(path.getFileName() + ".epoch" + ending);
    }

    /** Removes what those before may be about to move; a take-up that was killed may have left some to do. */
    private void removeNext(long first, long last) throws IOException {
        for (long old = first; old <= last; old++) {
            Files.deleteIfExists(next(old));
        }
    }

    /** The epoch under which this process has taken the run up. */
    public long epoch() {
        return epoch;
    }

    /** Whether a later take-up has been seen. */
    public boolean isTakenOver() throws IOException {
        return Math.max(latest().epoch(), announced()) != epoch;
    }

    private Path next(long of) {
        return path.resolveSibling(path.getFileName() + ".next-" + of);
    }

    /** Forgets what was kept. */
    public void remove() throws IOException {
        Files.deleteIfExists(path);
        Files.deleteIfExists(announcement(""));
    }

    /**
     * Keeps a mark in place of the one before.
     *
     * @param length the bytes of the target's own file that belong to what is committed
     * @param again how many requests have had to be sent again
     * @throws TargetException where another process has taken the run over
     */
    public Kept write(Mark mark, long length, long again) throws IOException, TargetException {
        Kept kept = new Kept(mark, length, again, epoch);
        Path next = next(epoch);
        store(next, kept);
        try {
            if (announced() < epoch) {
                // One before has announced itself behind this one.
                announce();
                removeNext(Math.max(0, epoch - MOST_LEFT), epoch - 1);
            }
            if (isTakenOver()) {
                throw TargetException.fenced();
            }
        } catch (TargetException e) {
            Files.deleteIfExists(next);
            throw e;
        }
        moveUnlessTakenOver(next);
        return kept;
    }

    /** Whoever has taken the run over since has removed what was to be moved. */
    private void moveUnlessTakenOver(Path next) throws IOException, TargetException {
        try {
            move(next);
        } catch (NoSuchFileException e) {
            throw TargetException.fenced();
        }
    }

    private static void store(Path next, Kept kept) throws IOException {
        write(next, JSON.writeValueAsBytes(kept));
    }

    private static void write(Path next, byte[] content) throws IOException {
        try (FileChannel out = FileChannel.open(
                next, StandardOpenOption.CREATE, StandardOpenOption.WRITE, StandardOpenOption.TRUNCATE_EXISTING)) {
            ByteBuffer bytes = ByteBuffer.wrap(content);
            while (bytes.hasRemaining()) {
                out.write(bytes);
            }
            out.force(true);
        }
    }

    private void move(Path next) throws IOException {
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
