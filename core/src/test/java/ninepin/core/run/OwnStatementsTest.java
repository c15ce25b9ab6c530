package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.destination.Destinations;
import ninepin.core.destination.support.TargetContext;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.ready.StatementReadiness;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.OneDatabase;
import ninepin.core.testing.PostgreSqlServer;
import ninepin.core.testing.TestDatabase;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** The job's own statements run once for a run, however often it is broken off, and see what they should see. */
class OwnStatementsTest {

    private static final Layout LAYOUT = Definitions.layout(
            """
            {"name":"farms","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[
             {"name":"farm","fields":[{"name":"no","column":1,"type":{"is":"integer"}}]}]}
            """);

    private static final RunFacts FACTS =
            new RunFacts(7, "farms.txt", LocalDate.of(2026, 11, 23), Map.of("who", "O'Hara"));

    @TempDir
    Path folder;

    static Stream<Arguments> databases() {
        return Stream.of(
                Arguments.of("mariadb", MariaDbServer.shared()), Arguments.of("postgresql", PostgreSqlServer.shared()));
    }

    static Stream<Arguments> ways() {
        return Stream.of("parts", "whole").flatMap(w -> databases().map(d -> Arguments.of(d.get()[0], d.get()[1], w)));
    }

    private static String statement(String when, boolean alone, String sql) {
        return "{\"connection\":\"c\",\"when\":\"%s\",\"alone\":%s,\"sql\":\"%s\"}".formatted(when, alone, sql);
    }

    private static Job job(String commit, String... statements) {
        return Definitions.job(
                "{\"name\":\"farms\",\"layout\":\"farms\",\"asked\":[{\"name\":\"who\"}],\"commit\":\"" + commit
                        + "\",\"statements\":[" + String.join(",", statements)
                        + "],\"deliveries\":[{\"to\":{\"connection\":\"c\",\"table\":\"farm\"},\"shaping\":[{\"target\":\"no\",\"take\":{\"from\":\"field\",\"field\":\"no\"}}]}]}");
    }

    private RunOutcome run(RunFixture f, Job job, boolean stopAtCommit) throws Exception {
        StopSignal stop = new StopSignal();
        RunListener listener = new RunListener() {
            @Override
            public void committed(Mark mark) {
                if (stopAtCommit) {
                    stop.request();
                }
            }
        };
        OneDatabase places = new OneDatabase(f.database, true);
        try (Target target = Destinations.of(job, job.legs().get(0))
                .open(new TargetContext(places, FACTS, "run-7", f.journal, stop))) {
            RunPlan plan = job.plan(
                    LAYOUT, ShapingContext.of(FACTS), Tally.ZERO, job.legs().get(0));
            return new Run(plan.withChunkRows(40), f.file, f.journal, target, listener, stop).execute();
        }
    }

    private RunFixture fixture(String name, TestDatabase server) throws Exception {
        RunFixture f =
                new RunFixture(server, Files.createDirectories(folder.resolve(name)), "own_statements", job("parts"));
        f.server.execute(
                "own_statements",
                "CREATE TABLE farm (no INT PRIMARY KEY)",
                "CREATE TABLE told (at_ VARCHAR(40), day_ DATE, farms INT)",
                "INSERT INTO farm VALUES (1), (1000)");
        return f.file(
                Stream.iterate(1, i -> i + 1).limit(300).map(String::valueOf).collect(Collectors.joining("\n")) + "\n");
    }

    @ParameterizedTest(name = "{0} {2}", autoCloseArguments = false)
    @MethodSource("ways")
    void each_runs_once_and_in_its_place(String name, TestDatabase server, String commit) throws Exception {
        RunFixture f = fixture(name, server);
        String tell = "INSERT INTO told SELECT '%s', :today, COUNT(*) FROM farm";
        Job job = job(
                commit,
                statement(
                        "before",
                        true,
                        "INSERT INTO told SELECT concat('before by ', CAST(:who AS CHAR(6))), :today, COUNT(*) FROM farm;"),
                // Where it did not come first, or came twice, farm 1 would be refused, or farms lost.
                statement("before", false, "DELETE FROM farm"),
                statement("after", false, tell.formatted("after ':today'".replace("'", "''"))),
                statement("after", true, tell.formatted("at last")));
        RunOutcome outcome;
        int starts = 0;
        do {
            outcome = run(f, job, commit.equals("parts"));
            starts++;
        } while (outcome.state() == RunOutcome.State.STOPPED);
        assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(starts).isGreaterThan(commit.equals("parts") ? 1 : 0);
        assertThat(run(f, job, false).state()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(f.rows("SELECT at_, day_, farms FROM told"))
                .containsExactly(
                        "before by O'Hara|2026-11-23|2", "after ':today'|2026-11-23|300", "at last|2026-11-23|300");
        assertThat(f.rows("SELECT COUNT(*) FROM farm")).containsExactly("300");
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void one_that_fails_ends_the_run_and_a_restart_goes_on(String name, TestDatabase server) throws Exception {
        RunFixture f = fixture(name, server);
        f.server.execute("own_statements", "DELETE FROM farm", "CREATE TABLE late (n INT NOT NULL)");
        Job job = job("parts", statement("after", true, "INSERT INTO late SELECT MAX(farms) FROM told"));
        RunOutcome outcome = run(f, job, false);
        assertThat(outcome.code()).as("%s", outcome).isEqualTo("SQL-01");
        assertThat(outcome.message()).contains("after the rows", "INSERT INTO late SELECT");
        assertThat(f.rows("SELECT COUNT(*) FROM farm")).containsExactly("300");
        f.server.execute("own_statements", "INSERT INTO told VALUES ('x', NULL, 5)");
        assertThat(run(f, job, false).state()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(run(f, job, false).state()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(f.rows("SELECT n FROM late")).containsExactly("5");
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void what_keeps_one_from_running_is_said_before(String name, TestDatabase server) throws Exception {
        RunFixture f = fixture(name, server);
        OneDatabase places = new OneDatabase(f.database, true);
        Job job = job(
                "parts",
                statement("before", false, "DELETE FROM farm WHERE no > :most"),
                statement("before", false, "DELETE FROM farm; DELETE FROM told"),
                statement("before", false, "DELETE FROM nowhere WHERE no = 'it''s :not one' -- :nor this"),
                statement("before", false, "TRUNCATE TABLE told"),
                statement("after", false, "DELETE FROM told WHERE day_ = :today AND at_ = 'a;b?'"),
                statement("after", false, "DELETE FROM told WHERE at_ = 'open"),
                "{\"connection\":\"d\",\"sql\":\"DELETE FROM farm\"}");
        List<String> found = StatementReadiness.check(job, FACTS, places).stream()
                .map(s -> s.code() + (s.blocks() ? " " : " note ") + s.message())
                .toList();
        assertThat(found).hasSize(6);
        assertThat(found.get(0))
                .startsWith("JOB-46 Statement 1: there is no host variable :most. There are :file, :job");
        assertThat(found.get(1)).startsWith("JOB-46 ").contains("is one statement");
        assertThat(found.get(2))
                .startsWith("JOB-48 Statement 3: the database does not take it: ")
                .contains("nowhere");
        assertThat(found.get(3)).startsWith("JOB-47 note Statement 4: ");
        assertThat(found.get(4)).startsWith("JOB-46 ").contains("a quote is not closed");
        assertThat(found.get(5)).startsWith("JOB-45 Statement 7: no delivery goes to its connection d.");
    }
}
