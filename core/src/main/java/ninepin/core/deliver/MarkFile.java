package ninepin.core.deliver;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
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
 * <p>It also keeps others out. What is moved bears the epoch in its name, and whoever moves it has seen its own epoch in the
 * mark before. A take-up writes its epoch into the mark first and then removes what those of the epoch before may be about to
 * move; if one of them moved at that very moment, the take-up begins again with what they wrote. After that none of them can
 * write any more, even if it was frozen in between.
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
        Kept before = latest();
        epoch = as.after(before.epoch());
        while (true) {
            put(before.with(epoch));
            removeNext(before.epoch());
            Kept now = latest();
            if (now.epoch() == epoch) {
                return before;
            }
            if (now.epoch() > epoch) {
                throw TargetException.fenced();
            }
            before = now;
        }
    }

    /** Removes what those before may be about to move; a take-up that was killed may have left some to do. */
    private void removeNext(long last) throws IOException {
        for (long old = Math.max(0, last - MOST_LEFT); old <= last; old++) {
            Files.deleteIfExists(next(old));
        }
    }

    /** The epoch under which this process has taken the run up. */
    public long epoch() {
        return epoch;
    }

    /** Whether a later take-up has been seen. */
    public boolean isTakenOver() throws IOException {
        return latest().epoch() != epoch;
    }

    private Path next(long of) {
        return path.resolveSibling(path.getFileName() + ".next-" + of);
    }

    /** Forgets what was kept. */
    public void remove() throws IOException {
        Files.deleteIfExists(path);
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
        if (isTakenOver()) {
            Files.deleteIfExists(next);
            throw TargetException.fenced();
        }
        moveUnlessTakenOver(next);
        return kept;
    }

    private void put(Kept kept) throws IOException, TargetException {
        Files.createDirectories(path.getParent());
        store(next(kept.epoch()), kept);
        moveUnlessTakenOver(next(kept.epoch()));
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
        try (FileChannel out = FileChannel.open(
                next, StandardOpenOption.CREATE, StandardOpenOption.WRITE, StandardOpenOption.TRUNCATE_EXISTING)) {
            ByteBuffer bytes = ByteBuffer.wrap(JSON.writeValueAsBytes(kept));
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
