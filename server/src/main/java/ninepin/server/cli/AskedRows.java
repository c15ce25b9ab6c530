package ninepin.server.cli;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Clock;
import java.time.Instant;
import java.util.HexFormat;
import java.util.Optional;
import ninepin.core.deliver.Places;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.pickup.NewRows;
import ninepin.core.shape.RunFacts;
import ninepin.doors.source.Asked;
import ninepin.doors.source.Fetched;
import ninepin.doors.source.Item;
import ninepin.doors.source.Source;
import ninepin.doors.source.SourceContext;
import ninepin.doors.source.SourceException;

/**
 * The rows of a job's query as the file of a run on the command line. The copy is kept until its run is through, so that a
 * run that broke off goes on with the same rows.
 */
final class AskedRows implements SourceContext.Progress {

    private final Path state;
    private final Job job;

    AskedRows(Path state, Job job) {
        this.state = state;
        this.job = job;
    }

    /** The copy of a run that broke off, or a new one; null where there are no rows. */
    Path file(Asked support, Layout layout, RunFacts facts, Places places) throws IOException, SourceException {
        Files.createDirectories(state);
        try (DirectoryStream<Path> copies = Files.newDirectoryStream(state, job.name() + "-rows-*.copy")) {
            for (Path copy : copies) {
                return copy;
            }
        }
        SourceContext context = new SourceContext(job, layout, facts, places, this, Clock.systemDefaultZone());
        try (Source source = support.open(context)) {
            for (Item item : source.list()) {
                Path part = state.resolve(job.name() + "-rows.part");
                Optional<Fetched> fetched = source.fetch(item, part);
                if (fetched.isPresent()) {
                    return kept(part, fetched.get());
                }
            }
        }
        return null;
    }

    private Path kept(Path part, Fetched fetched) throws IOException {
        if (fetched.reached() != null) {
            Files.writeString(next(), fetched.reached());
        }
        String number = HexFormat.of().toHexDigits(System.nanoTime()).substring(4);
        return Files.move(
                part, state.resolve(job.name() + "-rows-" + number + ".copy"), StandardCopyOption.ATOMIC_MOVE);
    }

    @Override
    public NewRows known() {
        try {
            String taken = Files.exists(key()) ? Files.readString(key()) : null;
            if (!Files.exists(seen())) {
                return new NewRows(taken, null, null);
            }
            String[] at = Files.readString(seen()).split("\n", 2);
            return new NewRows(taken, at[1], Instant.parse(at[0]));
        } catch (IOException e) {
            throw new UncheckedIOException("It cannot be read how far the rows were taken", e);
        }
    }

    @Override
    public void see(NewRows now) {
        try {
            Files.writeString(seen(), now.seenAt() + "\n" + now.seen());
        } catch (IOException e) {
            throw new UncheckedIOException("It cannot be kept how far the rows were seen", e);
        }
    }

    /** A key that the query was seen to reach, behind the moment at which that was. */
    private Path seen() {
        return state.resolve(job.name() + "-rows.seen");
    }

    private Path key() {
        return state.resolve(job.name() + "-rows.key");
    }

    private Path next() {
        return state.resolve(job.name() + "-rows.next");
    }

    /** What tells the run of a copy from others of the same rows. */
    String nameOf(Path copy) {
        String name = copy.getFileName().toString();
        return name.substring(name.lastIndexOf('-'), name.lastIndexOf('.'));
    }

    /** Forgets a copy. */
    void drop(Path copy, boolean delivered) throws IOException {
        if (delivered && Files.exists(next())) {
            Files.move(next(), key(), StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
            Files.deleteIfExists(seen());
        }
        Files.deleteIfExists(copy);
    }
}
