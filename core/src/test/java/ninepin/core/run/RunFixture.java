package ninepin.core.run;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.destination.tables.TablesSupport;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.Quality;
import ninepin.core.testing.TestDatabase;

/** A job ready to be run on a file against a database of its own on the shared server. */
final class RunFixture {

    final TestDatabase server;
    final DatabaseAddress database;
    final Path folder;
    final Path file;
    Job job;
    Layout layout = Quality.layout();
    int chunkRows = 100;
    Tally accepted = Tally.ZERO;
    TakeUp as = TakeUp.ALONE;
    LookUpTables lookUps = LookUpTables.NONE;
    StopSignal stop = new StopSignal();
    RunListener listener = RunListener.NONE;
    Path journal;
    /** What {@link #runInPieces} ended with. */
    RunOutcome last;

    RunFixture(Path folder, String name, Job job) {
        this(MariaDbServer.shared(), folder, name, job);
        server.execute(name, Quality.TABLE);
    }

    RunFixture(TestDatabase server, Path folder, String name, Job job) {
        this.server = server;
        this.database = server.database(name);
        this.folder = folder;
        this.file = folder.resolve("quality.csv");
        this.journal = folder.resolve("journal.ndjson");
        this.job = job;
    }

    /** The same run of the same file, as another process would begin it. */
    RunFixture(RunFixture other) {
        this.server = other.server;
        this.database = other.database;
        this.folder = other.folder;
        this.file = other.file;
        this.journal = other.journal;
        this.job = other.job;
        this.layout = other.layout;
        this.chunkRows = other.chunkRows;
    }

    RunFixture file(String content) throws IOException {
        Files.write(file, content.getBytes(Quality.CHARSET));
        return this;
    }

    RunOutcome run() {
        RunFacts facts = new RunFacts(7, "quality.csv", LocalDate.of(2026, 11, 23), Map.of());
        RunPlan small = job.plan(layout, ShapingContext.of(facts).with(lookUps), accepted)
                .withChunkRows(chunkRows);
        try (DatabaseTarget target = new DatabaseTarget(database, TablesSupport.loadsOf(job), "test-7")) {
            return new Run(small, file, journal, target, listener, stop, as).execute();
        }
    }

    /** Runs, asked to stop at the first commit of each start, until it is through; how often it was started. */
    int runInPieces() {
        int starts = 0;
        do {
            StopSignal asked = new StopSignal();
            stop = asked;
            listener = new RunListener() {
                @Override
                public void committed(Mark mark) {
                    asked.request();
                }
            };
            last = run();
            starts++;
        } while (last.state() == RunOutcome.State.STOPPED);
        stop = new StopSignal();
        listener = RunListener.NONE;
        return starts;
    }

    List<JournalEntry> journal() throws IOException {
        List<JournalEntry> entries = new ArrayList<>();
        Journal.read(journal, 0, Files.size(journal), entries::add);
        return entries;
    }

    List<String> messages() throws IOException {
        return journal().stream()
                .flatMap(e -> e.findings().stream())
                .map(f -> f.severity() + " " + f.message())
                .toList();
    }

    List<String> rows(String query) {
        return server.rows(database.database(), query);
    }
}
