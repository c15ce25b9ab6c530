package ninepin.server.cli;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.util.HexFormat;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.QueryCopy;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.pickup.From;
import ninepin.core.pickup.NewRows;

/**
 * The rows of a job's query as the file of a run on the command line. The copy is kept until its run is through, so that a
 * run that broke off goes on with the same rows.
 */
final class AskedRows {

    private final Path state;
    private final Job job;

    AskedRows(Path state, Job job) {
        this.state = state;
        this.job = job;
    }

    /** The copy of a run that broke off, or a new one; null where there are no rows. */
    Path file(QueryCopy query, Layout layout) throws IOException, TargetException {
        Files.createDirectories(state);
        try (DirectoryStream<Path> copies = Files.newDirectoryStream(state, job.name() + "-rows-*.copy")) {
            for (Path copy : copies) {
                return copy;
            }
        }
        From.Query source = job.pickUp().query();
        String number = HexFormat.of().toHexDigits(System.nanoTime()).substring(4);
        Path part = state.resolve(job.name() + "-rows.part");
        NewRows known = known(source);
        String upTo = known.upTo(Instant.now(), source.lagSeconds());
        if (source.lagSeconds() > 0 && upTo == null) {
            see(known, query.highest(source.key()));
            return null;
        }
        QueryCopy.Copied copied = query.write(layout, source.key(), known.taken(), upTo, 0, part);
        if (copied.rows() == 0) {
            Files.delete(part);
            return null;
        }
        if (copied.lastKey() != null) {
            Files.write(next(), copied.lastKey().getBytes(StandardCharsets.UTF_8));
        }
        return Files.move(
                part, state.resolve(job.name() + "-rows-" + number + ".copy"), StandardCopyOption.ATOMIC_MOVE);
    }

    private NewRows known(From.Query source) throws IOException {
        if (!source.onlyNew()) {
            return NewRows.NONE;
        }
        String taken = Files.exists(key()) ? Files.readString(key()) : null;
        if (!Files.exists(seen())) {
            return new NewRows(taken, null, null);
        }
        String[] at = Files.readString(seen()).split("\n", 2);
        return new NewRows(taken, at[1], Instant.parse(at[0]));
    }

    private void see(NewRows known, String highest) throws IOException {
        NewRows now = known.seeing(highest, Instant.now());
        if (now != known) {
            Files.writeString(seen(), now.seenAt() + "\n" + now.seen());
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
