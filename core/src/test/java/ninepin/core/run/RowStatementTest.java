package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.destination.Destinations;
import ninepin.core.destination.support.TargetContext;
import ninepin.core.destination.tables.TablesSupport;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.Layout;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.DriverDatabase;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.OneDatabase;
import ninepin.core.testing.PostgreSqlServer;
import ninepin.core.testing.TestDatabase;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** A statement of the job's own, or a procedure, for each row: in every database, once, with rows that it refuses as rejects. */
class RowStatementTest {

    private static final Layout LAYOUT = Definitions.layout(
            """
            {"name":"slips","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[{"name":"slip","fields":[
             {"name":"no","column":1,"type":{"is":"integer"}},{"name":"farm","column":2,"type":{"is":"text","length":20}},
             {"name":"litres","column":3,"type":{"is":"decimal","precision":9,"scale":2}}]}]}
            """);
    private static final RunFacts FACTS = new RunFacts(7, "slips.csv", LocalDate.of(2026, 11, 23), Map.of());

    @TempDir
    Path folder;

    static Stream<Arguments> databases() {
        return Stream.of(
                Arguments.of("mariadb", MariaDbServer.shared()),
                Arguments.of("postgresql", PostgreSqlServer.shared()),
                Arguments.of("h2", DriverDatabase.h2()),
                Arguments.of("sqlite", DriverDatabase.sqlite()));
    }

    static Stream<Arguments> withProcedures() {
        return databases().limit(2);
    }

    private static Job job(String statement, String more) {
        return Definitions.job(
                """
                {"name":"slips","layout":"slips","deliveries":[{"to":{"connection":"c","table":"slips taken","mode":"statement",
                 "statement":"%s"},"shaping":[
                 {"target":"no","take":{"from":"field","field":"no"}},{"target":"farm","take":{"from":"field","field":"farm"}},
                 {"target":"litres","take":{"from":"field","field":"litres"}}]}]%s}
                """
                        .formatted(statement, more));
    }

    private RunFixture fixture(TestDatabase server, String database, Job job) throws IOException {
        RunFixture f = new RunFixture(server, Files.createDirectories(folder.resolve(database)), database, job);
        f.layout = LAYOUT;
        server.execute(
                database,
                "CREATE TABLE slip (no INTEGER NOT NULL PRIMARY KEY, farm VARCHAR(20), litres DECIMAL(9,2), day_ VARCHAR(20))",
                "CREATE TABLE total (farm VARCHAR(20) NOT NULL PRIMARY KEY, litres DECIMAL(12,2) NOT NULL)");
        return f;
    }

    /** Runs, asked to stop at each commit, until it is through. */
    private RunOutcome inPieces(RunFixture f) throws Exception {
        Leg leg = f.job.legs().get(0);
        RunPlan plan =
                f.job.plan(LAYOUT, ShapingContext.of(FACTS), Tally.ZERO, leg).withChunkRows(7);
        RunOutcome outcome;
        do {
            StopSignal stop = new StopSignal();
            RunListener listener = new RunListener() {
                @Override
                public void committed(ninepin.core.deliver.Mark mark) {
                    stop.request();
                }
            };
            try (Target target = Destinations.of(f.job, leg)
                    .open(new TargetContext(new OneDatabase(f.database, true), FACTS, "run-7", f.journal, stop))) {
                outcome = new Run(plan, f.file, f.journal, target, listener, stop).execute();
            }
        } while (outcome.state() == RunOutcome.State.STOPPED);
        return outcome;
    }

    private static String lines(int count) {
        StringBuilder lines = new StringBuilder();
        for (int n = 1; n <= count; n++) {
            lines.append(n == 30 ? 29 : n)
                    .append(";farm ")
                    .append(n % 3)
                    .append(";")
                    .append(n)
                    .append(".50\n");
        }
        return lines.toString();
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void each_row_is_given_to_the_statement_once(String name, TestDatabase server) throws Exception {
        RunFixture f = fixture(
                server,
                "row_statement",
                job("INSERT INTO slip (no, farm, litres, day_) VALUES (:no, UPPER(:farm), :litres, :today)", ""));
        f.file(lines(60));
        RunOutcome outcome = inPieces(f);
        assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(outcome.tally().delivered()).isEqualTo(59);
        assertThat(outcome.tally().rejected()).as("one number came twice").isEqualTo(1);
        assertThat(f.messages()).hasSize(1).allMatch(m -> m.contains("line 30"));
        assertThat(f.rows("SELECT COUNT(*), MIN(farm), MAX(farm), MIN(day_), MAX(day_) FROM slip"))
                .containsExactly("59|FARM 0|FARM 2|2026-11-23|2026-11-23");
        assertThat(f.rows("SELECT litres FROM slip WHERE no = 7"))
                .first()
                .asString()
                .startsWith("7.5");
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("withProcedures")
    void a_procedure_is_called_for_each_row_and_may_refuse_it(String name, TestDatabase server) throws Exception {
        RunFixture f = fixture(server, "row_procedure", job("CALL take_slip(:no, :farm, :litres)", ""));
        server.execute(
                "row_procedure",
                name.equals("mariadb")
                        ? "CREATE PROCEDURE take_slip(n INT, f VARCHAR(20), l DECIMAL(9,2)) BEGIN"
                                + " IF n = 13 THEN SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'thirteen is not taken'; END IF;"
                                + " INSERT INTO total VALUES (f, l) ON DUPLICATE KEY UPDATE litres = litres + l;"
                                + " SELECT litres FROM total WHERE farm = f; END"
                        : "CREATE PROCEDURE take_slip(n INT, f VARCHAR, l DECIMAL) LANGUAGE plpgsql AS $$ BEGIN"
                                + " IF n = 13 THEN RAISE EXCEPTION 'thirteen is not taken'; END IF;"
                                + " INSERT INTO total VALUES (f, l) ON CONFLICT (farm) DO UPDATE SET litres = total.litres + l;"
                                + " END $$");
        f.file(lines(20));
        RunOutcome outcome = inPieces(f);
        assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(f.messages()).hasSize(1).allMatch(m -> m.contains("line 13") && m.contains("thirteen is not taken"));
        // 1 to 20 with a half each, without 13.
        assertThat(f.rows("SELECT SUM(litres) FROM total")).containsExactly("206.50");
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void a_rehearsal_runs_nothing_and_rules_fill_the_variables(String name, TestDatabase server) throws Exception {
        Job job = job("UPDATE total SET litres = litres + :litres WHERE farm = :farm AND :no > 0", "");
        RunFixture f = fixture(server, "row_rehearsal", job);
        server.execute("row_rehearsal", "INSERT INTO total VALUES ('farm 1', 1), ('farm 2', 2)");
        f.file(lines(20));
        Leg leg = job.legs().get(0);
        Places places = new OneDatabase(f.database, true);
        try (Target target = Destinations.of(job, leg).rehearsal(places, FACTS)) {
            RunPlan plan = job.plan(LAYOUT, ShapingContext.of(FACTS), Tally.ZERO, leg);
            RunOutcome outcome = new Run(plan, f.file, f.journal, target, RunListener.NONE, new StopSignal()).execute();
            assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FINISHED);
        }
        assertThat(f.rows("SELECT COUNT(*) FROM total WHERE litres > 2")).containsExactly("0");
        assertThat(Destinations.describe(leg.to(), places).orElseThrow().columns())
                .extracting(Column::name)
                .containsExactly("litres", "farm", "no");
    }

    /** A statement fills no table whose rows others could belong to; it may stand before one that others belong to. */
    @Test
    void rows_beside_a_statement_take_keys_of_tables_alone() {
        Job job = Definitions.job(
                """
                {"name":"slips","layout":"slips","deliveries":[
                 {"to":{"connection":"c","mode":"statement","statement":"CALL x(:no)"},"shaping":[
                  {"target":"no","take":{"from":"field","field":"no"}}]},
                 {"to":{"connection":"c","table":"farm"},"shaping":[{"target":"name","take":{"from":"field","field":"farm"}}]},
                 {"to":{"connection":"c","table":"slip"},"shaping":[{"target":"farm_id","take":{"from":"key","table":"farm"}}]}]}
                """);
        assertThat(TablesSupport.loadsOf(job).get(2).parents()).containsExactly(new TableLoad.ParentKey(0, 1));
    }

    private static List<String> found(Job job, Places places) {
        return Destinations.check(job, FACTS, places).stream()
                .map(Shortcoming::code)
                .toList();
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void what_keeps_a_statement_from_running_is_said_before(String name, TestDatabase server) throws Exception {
        Places places = new OneDatabase(server.database("row_checks"), true);
        assertThat(found(job("CALL x(:no, :today)", ""), places)).doesNotContain("JOB-46", "JOB-56", "JOB-57");
        assertThat(found(job("CALL x(:nobody)", ""), places)).contains("JOB-57");
        assertThat(found(job("COMMIT", ""), places)).contains("JOB-46");
        assertThat(found(job("CALL x(:no); DROP TABLE slip", ""), places)).contains("JOB-46");
        assertThat(found(job("CALL x(:no)", ",\"commit\":\"staged\""), places)).contains("JOB-56");
        Places closed = new OneDatabase(server.database("row_checks"), false);
        assertThat(found(job("CALL x(:no)", ""), closed)).contains("JOB-46");
        Job job = job("CALL x(:no)", "");
        org.assertj.core.api.Assertions.assertThatThrownBy(
                        () -> Destinations.of(job, job.legs().get(0))
                                .open(new TargetContext(closed, FACTS, "run-7", folder.resolve("j"), new StopSignal())))
                .isInstanceOf(TargetException.class)
                .hasMessage(Places.OWN_SQL_OFF);
    }
}
