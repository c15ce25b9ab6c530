package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TrialTarget;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.deliver.database.OwnStatements;
import ninepin.core.destination.tables.TablesSupport;
import ninepin.core.job.Job;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.CuttingProxy;
import ninepin.core.testing.CuttingProxy.Cut;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.PostgreSqlServer;
import ninepin.core.testing.Quality;
import ninepin.core.testing.SmallDisk;
import ninepin.core.testing.TestDatabase;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** The faults of docs/faults.md, in the order of its table. After each of them a restart brings every row in, once. */
class FaultsTest {

    private static final int LINES = 600;

    @TempDir
    Path folder;

    static Stream<Arguments> databases() {
        return Stream.of(
                Arguments.of("mariadb", MariaDbServer.shared()), Arguments.of("postgresql", PostgreSqlServer.shared()));
    }

    static Stream<Arguments> cuts() {
        return databases().flatMap(d -> Stream.of(Cut.values()).map(c -> Arguments.of(d.get()[0], d.get()[1], c)));
    }

    private RunFixture fixture(String name, TestDatabase server, Mode mode) throws IOException {
        Job job = Quality.job(mode, null);
        RunFixture f = new RunFixture(server, Files.createDirectories(folder.resolve(name)), "faults", job);
        f.server.execute("faults", Quality.TABLE.replace(" ENGINE=InnoDB", ""));
        StringBuilder file = new StringBuilder(Quality.HEADER);
        IntStream.rangeClosed(1, LINES).forEach(n -> file.append(Quality.line(n)));
        return f.file(file.toString());
    }

    private static RunOutcome run(RunFixture f, DatabaseAddress address, RunListener listener) {
        try (DatabaseTarget target = new DatabaseTarget(address, TablesSupport.loadsOf(f.job), "faults-7")) {
            return run(f, target, listener);
        }
    }

    private static RunOutcome run(RunFixture f, Target target, RunListener listener) {
        RunFacts facts = new RunFacts(7, "quality.csv", LocalDate.of(2026, 11, 23), Map.of());
        RunPlan plan =
                f.job.plan(f.layout, ShapingContext.of(facts), Tally.ZERO).withChunkRows(50);
        return new Run(plan, f.file, f.journal, target, listener, new StopSignal()).execute();
    }

    private static void everyRowIsInOnce(RunFixture f, RunOutcome outcome) {
        assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(outcome.tally().delivered()).isEqualTo(LINES);
        assertThat(f.rows("SELECT COUNT(*), COUNT(DISTINCT sample), MAX(line) FROM quality_result"))
                .containsExactly(LINES + "|" + LINES + "|" + (LINES + 1));
    }

    @ParameterizedTest(name = "{0} {2}", autoCloseArguments = false)
    @MethodSource("cuts")
    void the_connection_is_cut_in_the_middle_of_a_commit(String name, TestDatabase server, Cut cut) throws Exception {
        RunFixture f = fixture(name, server, Mode.ADD);
        DatabaseAddress direct = f.database;
        try (CuttingProxy proxy = new CuttingProxy(direct.port(), cut, 2)) {
            DatabaseAddress through = new DatabaseAddress(
                    direct.kind(), "127.0.0.1", proxy.port(), direct.database(), direct.user(), direct.password());
            RunOutcome outcome = run(f, through, RunListener.NONE);
            assertThat(proxy.hasCut()).isTrue();
            assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FAILED);
            assertThat(outcome.code()).isEqualTo("DBS-01");
        }
        everyRowIsInOnce(f, run(f, direct, RunListener.NONE));
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void another_transaction_holds_a_row_for_longer_than_the_server_waits(String name, TestDatabase server)
            throws Exception {
        RunFixture f = fixture(name, server, Mode.ADD_OR_CHANGE);
        try (Connection other = server.connect("faults");
                Statement s = other.createStatement()) {
            other.setAutoCommit(false);
            s.executeUpdate(
                    "INSERT INTO quality_result (sample, farm, test, taken_on) VALUES ('S500', 1, 'FAT', '2026-01-01')");
            CompletableFuture<Void> freed = CompletableFuture.runAsync(
                    () -> end(other), CompletableFuture.delayedExecutor(7, TimeUnit.SECONDS));
            everyRowIsInOnce(f, run(f, f.database, RunListener.NONE));
            freed.join();
        }
    }

    private static void end(Connection other) {
        try {
            other.rollback();
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void another_transaction_and_the_run_wait_for_each_other(String name, TestDatabase server) throws Exception {
        RunFixture f = fixture(name, server, Mode.ADD_OR_CHANGE);
        run(f, f.database, RunListener.NONE);
        f.server.execute("faults", "DELETE FROM ninepin_mark", "UPDATE quality_result SET remark = 'x'");
        Files.delete(f.journal);
        // It holds the last row of a part, and wants the first one while the run wants its own.
        CompletableFuture<Void> other;
        try (Connection connection = server.connect("faults");
                Statement s = connection.createStatement()) {
            connection.setAutoCommit(false);
            s.executeUpdate("UPDATE quality_result SET farm = 9 WHERE sample = 'S249'");
            other = CompletableFuture.runAsync(
                    () -> {
                        try {
                            s.executeUpdate("UPDATE quality_result SET farm = 9 WHERE sample = 'S202'");
                            connection.commit();
                        } catch (SQLException e) {
                            end(connection);
                        }
                    },
                    CompletableFuture.delayedExecutor(1_500, TimeUnit.MILLISECONDS));
            everyRowIsInOnce(f, run(f, f.database, RunListener.NONE));
            other.join();
        }
        assertThat(f.rows("SELECT COUNT(*) FROM quality_result WHERE remark = 'x'"))
                .containsExactly("0");
    }

    @Test
    void the_disk_of_the_target_is_full() throws Exception {
        PostgreSqlServer server = PostgreSqlServer.shared();
        RunFixture f = fixture("full", server, Mode.ADD);
        try (SmallDisk small = SmallDisk.at(SmallDisk.place(), "2m", server.pid(), 20L << 20)) {
            Path space = Files.createDirectory(small.folder().resolve("space"));
            SmallDisk.shell("chown -R postgres " + space);
            f.server.execute("postgres", "CREATE TABLESPACE small LOCATION '" + space + "'");
            f.server.execute("faults", "DROP TABLE quality_result", wide() + " TABLESPACE small");
            manyLines(f);
            RunOutcome outcome = run(f, f.database, RunListener.NONE);
            assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FAILED);
            assertThat(outcome.code()).as("%s", outcome).isEqualTo("DBS-07");
            long there =
                    Long.parseLong(f.rows("SELECT COUNT(*) FROM quality_result").get(0));
            assertThat(there).isEqualTo(outcome.tally().delivered()).isLessThan(MANY);
            goesOnWithRoom(f, small);
            f.server.execute("faults", "DROP TABLE quality_result");
            f.server.execute("postgres", "DROP TABLESPACE small");
        }
    }

    /** This server gives up altogether, so it has to be started again. */
    @Test
    void the_disk_of_a_server_that_gives_up_is_full() throws Exception {
        try (MariaDbServer server = MariaDbServer.start()) {
            RunFixture f = fixture("full", server, Mode.ADD);
            try (SmallDisk small = SmallDisk.at(SmallDisk.place(), "2m", server.pid(), 20L << 20)) {
                f.server.execute(
                        "faults", "DROP TABLE quality_result", wide() + " DATA DIRECTORY='" + small.folder() + "'");
                manyLines(f);
                RunOutcome outcome = run(f, f.database, RunListener.NONE);
                assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FAILED);
                assertThat(outcome.code()).as("%s", outcome).isIn("DBS-07", "DBS-01");
                server.kill();
                small.makeRoom();
                server.launch();
                goesOnWithRoom(f, small);
            }
        }
    }

    private static final int MANY = 20_000;

    private static String wide() {
        return Quality.TABLE
                .replace(" ENGINE=InnoDB", "")
                .replace(
                        "remark VARCHAR(60)",
                        "remark VARCHAR(60), fill CHAR(250) DEFAULT 'x', more VARCHAR(1300) DEFAULT '"
                                + "y".repeat(1_200) + "'");
    }

    private static void manyLines(RunFixture f) throws IOException {
        StringBuilder file = new StringBuilder(Quality.HEADER);
        IntStream.rangeClosed(1, MANY).forEach(n -> file.append(Quality.line(n)));
        f.file(file.toString());
    }

    private static void goesOnWithRoom(RunFixture f, SmallDisk small) throws IOException {
        small.makeRoom();
        RunOutcome outcome = run(f, f.database, RunListener.NONE);
        assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(f.rows("SELECT COUNT(*), COUNT(DISTINCT sample) FROM quality_result"))
                .containsExactly(MANY + "|" + MANY);
    }

    /** It takes connections and says nothing: the run is broken off after a while, and a stop does not wait even that long. */
    @Test
    void a_database_that_has_gone_silent_is_given_up_and_a_stop_reaches_its_statement() throws Exception {
        try (MariaDbServer server = MariaDbServer.start()) {
            RunFixture f = fixture("silent", server, Mode.ADD);
            RunOutcome silent = runFrozen(f, server, false);
            assertThat(silent.state()).as("%s", silent).isEqualTo(RunOutcome.State.FAILED);
            assertThat(silent.code()).isEqualTo("DBS-01");
            assertThat(silent.mayPass()).isTrue();

            RunOutcome stopped = runFrozen(f, server, true);
            assertThat(stopped.state()).as("%s", stopped).isEqualTo(RunOutcome.State.STOPPED);

            everyRowIsInOnce(f, run(f, f.database, RunListener.NONE));
        }
    }

    /** Runs with the server frozen after a commit; asks to stop then, where that is wanted. */
    private static RunOutcome runFrozen(RunFixture f, MariaDbServer server, boolean asksToStop) {
        StopSignal stop = new StopSignal();
        RunListener freezing = new RunListener() {
            private boolean done;

            @Override
            public void committed(Mark mark) {
                if (!done) {
                    done = true;
                    server.freeze();
                    if (asksToStop) {
                        stop.request();
                    }
                }
            }
        };
        RunFacts facts = new RunFacts(7, "quality.csv", LocalDate.of(2026, 11, 23), Map.of());
        RunPlan plan =
                f.job.plan(f.layout, ShapingContext.of(facts), Tally.ZERO).withChunkRows(50);
        try (DatabaseTarget target = new DatabaseTarget(
                f.database, TablesSupport.loadsOf(f.job), "faults-7", OwnStatements.NONE, stop::requested)) {
            return new Run(plan, f.file, f.journal, target, freezing, new StopSignal(), TakeUp.ALONE).execute();
        } finally {
            server.thaw();
        }
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void the_table_is_changed_while_the_run_is_under_way(String name, TestDatabase server) throws Exception {
        RunFixture f = fixture(name, server, Mode.ADD);
        CompletableFuture<?>[] altered = new CompletableFuture<?>[1];
        RunOutcome outcome = run(f, f.database, new RunListener() {
            @Override
            public void committed(Mark mark) {
                if (altered[0] == null) {
                    altered[0] = CompletableFuture.runAsync(
                            () -> f.server.execute("faults", "ALTER TABLE quality_result DROP COLUMN remark"));
                }
                pause(30);
            }
        });
        altered[0].join();
        assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FAILED);
        assertThat(outcome.message()).contains("remark");
        f.server.execute("faults", "ALTER TABLE quality_result ADD COLUMN remark VARCHAR(60)");
        everyRowIsInOnce(f, run(f, f.database, RunListener.NONE));
    }

    private static void pause(int millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    /** However slow the target, no more than a few parts of the file are held: the same buffers come again and again. */
    @Test
    void a_slow_target_holds_the_reader_back() throws Exception {
        RunFixture f = fixture("slow", MariaDbServer.shared(), Mode.ADD);
        Set<Batch> batches = Collections.newSetFromMap(new IdentityHashMap<>());
        int[] loads = {0};
        RunOutcome outcome = run(f, new SlowTarget(batches, loads), RunListener.NONE);
        assertThat(outcome.state()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(loads[0]).isEqualTo(LINES / 50 + 1);
        assertThat(batches.size()).isLessThanOrEqualTo(5);
    }

    private record SlowTarget(Set<Batch> batches, int[] loads) implements TrialTarget {

        @Override
        public int maxConnections() {
            return 1;
        }

        @Override
        public LoadConnection connect() {
            return new LoadConnection() {
                @Override
                public Loaded load(Batch batch) {
                    pause(20);
                    batches.add(batch);
                    loads[0]++;
                    return Loaded.of(new RowCounts[] {RowCounts.added(batch.allRows())}, List.of());
                }

                @Override
                public void commit(Mark mark) {
                    // Kept nowhere.
                }

                @Override
                public void rollback() {
                    // Kept nowhere.
                }

                @Override
                public void close() {
                    // Kept nowhere.
                }
            };
        }

        @Override
        public void close() {
            // Kept nowhere.
        }
    }
}
