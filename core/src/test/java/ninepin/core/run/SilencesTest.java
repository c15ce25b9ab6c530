package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.deliver.database.OwnStatements;
import ninepin.core.destination.tables.TablesSupport;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.PostgreSqlServer;
import ninepin.core.testing.Quality;
import ninepin.core.testing.SilencingProxy;
import ninepin.core.testing.TestDatabase;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * A database that falls silent at whatever moment, also while a connection to it is being opened: the run is given up in the
 * end, never hangs, and goes on to every row once when the database is back.
 */
class SilencesTest {

    /** After how many answers it falls silent; opening one connection alone takes several. */
    private static final int[] AFTER = {0, 1, 2, 3, 4, 5, 6, 8, 10, 12, 15, 19, 24, 30, 40};

    private static final int LINES = 600;

    @TempDir
    Path folder;

    private RunFixture fixture(TestDatabase server, String name) throws Exception {
        RunFixture f = new RunFixture(
                server, Files.createDirectories(folder.resolve(name)), name, Quality.job(Mode.ADD, null));
        server.execute(name, Quality.TABLE.replace(" ENGINE=InnoDB", ""));
        StringBuilder file = new StringBuilder(Quality.HEADER);
        IntStream.rangeClosed(1, LINES).forEach(n -> file.append(Quality.line(n)));
        return f.file(file.toString());
    }

    private static RunOutcome run(RunFixture f, DatabaseAddress address) {
        RunFacts facts = new RunFacts(7, "quality.csv", LocalDate.of(2026, 11, 23), Map.of());
        RunPlan plan =
                f.job.plan(f.layout, ShapingContext.of(facts), Tally.ZERO).withChunkRows(50);
        StopSignal stop = new StopSignal();
        try (DatabaseTarget target = new DatabaseTarget(
                address, TablesSupport.loadsOf(f.job), f.database.database(), OwnStatements.NONE, stop::requested)) {
            return new Run(plan, f.file, f.journal, target, RunListener.NONE, stop, TakeUp.ALONE).execute();
        }
    }

    /** All at once, since each of them waits for answers that never come. */
    @Test
    void at_whatever_moment_it_falls_silent_the_run_is_given_up_and_goes_on_later() throws Exception {
        Map<String, TestDatabase> servers =
                Map.of("mariadb", MariaDbServer.shared(), "postgresql", PostgreSqlServer.shared());
        ExecutorService runs = Executors.newCachedThreadPool();
        Map<String, Future<RunOutcome>> outcomes = new LinkedHashMap<>();
        List<RunFixture> fixtures = new ArrayList<>();
        for (Map.Entry<String, TestDatabase> server : servers.entrySet()) {
            for (int answers : AFTER) {
                String name = "silence_" + server.getKey() + "_" + answers;
                RunFixture f = fixture(server.getValue(), name);
                fixtures.add(f);
                outcomes.put(name, runs.submit(() -> {
                    try (SilencingProxy proxy = new SilencingProxy(f.database.port(), answers)) {
                        DatabaseAddress direct = f.database;
                        RunOutcome outcome = run(
                                f,
                                new DatabaseAddress(
                                        direct.kind(),
                                        "127.0.0.1",
                                        proxy.port(),
                                        direct.database(),
                                        direct.user(),
                                        direct.password()));
                        assertThat(proxy.isSilent() || outcome.state() == RunOutcome.State.FINISHED)
                                .as("%s: %s", name, outcome)
                                .isTrue();
                        return outcome;
                    }
                }));
            }
        }
        runs.shutdown();
        for (Map.Entry<String, Future<RunOutcome>> of : outcomes.entrySet()) {
            RunOutcome outcome = of.getValue().get(3, TimeUnit.MINUTES);
            if (outcome.state() != RunOutcome.State.FINISHED) {
                assertThat(outcome.state()).as("%s: %s", of.getKey(), outcome).isEqualTo(RunOutcome.State.FAILED);
                assertThat(outcome.mayPass()).as("%s: %s", of.getKey(), outcome).isTrue();
            }
        }
        for (RunFixture f : fixtures) {
            RunOutcome outcome = run(f, f.database);
            assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FINISHED);
            assertThat(f.rows("SELECT COUNT(*), COUNT(DISTINCT sample) FROM quality_result"))
                    .containsExactly(LINES + "|" + LINES);
        }
    }
}
