package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.database.OwnStatements;
import ninepin.core.deliver.database.StagedTarget;
import ninepin.core.destination.tables.TableMaking;
import ninepin.core.destination.tables.TablesSupport;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.DriverDatabase;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.PostgreSqlServer;
import ninepin.core.testing.TestDatabase;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import tools.jackson.databind.node.ObjectNode;

/** What deliveries do with rows that are there already: each mode, by a compound key, in each database, whole and in parts. */
class DeliveryModesTest {

    private static final Layout LAYOUT = Definitions.layout(
            """
            {"name":"stock","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[{"name":"line","fields":[
             {"name":"article","column":1,"type":{"is":"text","length":20}},{"name":"shelf","column":2,"type":{"is":"integer"}},
             {"name":"number","column":3,"type":{"is":"decimal","precision":12,"scale":4}},
             {"name":"counted","column":4,"type":{"is":"timestamp","pattern":"yyyy-MM-dd HH:mm:ss.SSSSSS"}},
             {"name":"remark","column":5,"type":{"is":"text","length":200}},{"name":"open","column":6,"type":{"is":"boolean"}}]}]}
            """);
    private static final List<String> FIELDS = List.of("article", "shelf", "number", "counted", "remark", "open");

    @TempDir
    Path folder;

    static Stream<Arguments> databases() {
        return Stream.of(
                Arguments.of("mariadb", MariaDbServer.shared()), Arguments.of("postgresql", PostgreSqlServer.shared()));
    }

    /** With those of which no more is known than their drivers tell. */
    static Stream<Arguments> allDatabases() {
        return Stream.concat(
                databases(),
                Stream.of(Arguments.of("h2", DriverDatabase.h2()), Arguments.of("sqlite", DriverDatabase.sqlite())));
    }

    static Stream<Arguments> allModes() {
        return allDatabases().flatMap(d -> Stream.of(Mode.values())
                .filter(m -> m != Mode.STATEMENT)
                .map(m -> Arguments.of(d.get()[0], d.get()[1], m)));
    }

    static Stream<Arguments> modes() {
        return databases().flatMap(d -> Stream.of(Mode.values())
                .filter(m -> m != Mode.STATEMENT)
                .map(m -> Arguments.of(d.get()[0], d.get()[1], m)));
    }

    private RunFixture fixture(TestDatabase server, String name, Mode mode, String table) throws IOException {
        StringBuilder rules = new StringBuilder();
        for (String field : FIELDS) {
            // The names of columns are taken as the table writes them.
            String target = field.equals("article") ? "Article" : field;
            rules.append(rules.isEmpty() ? "" : ",")
                    .append("{\"target\":\"%s\",\"take\":{\"from\":\"field\",\"field\":\"%s\"}}"
                            .formatted(target, field));
        }
        String key = mode.byKey() ? ",\"key\":[\"article\",\"shelf\"]" : "";
        RunFixture f = new RunFixture(
                server,
                Files.createDirectories(folder.resolve(name)),
                name,
                Definitions.job(
                        "{\"name\":\"stock\",\"layout\":\"stock\",\"deliveries\":[{\"to\":{\"connection\":\"c\",\"table\":\"stock\",\"mode\":\""
                                + mode + "\"" + key + "},\"shaping\":[" + rules + "]}]}"));
        f.layout = LAYOUT;
        f.chunkRows = 9;
        f.server.execute(name, table);
        return f;
    }

    private static final String TABLE =
            "CREATE TABLE stock (article VARCHAR(10) NOT NULL, shelf INT NOT NULL, number DECIMAL(8,2),"
                    + " counted TIMESTAMP NULL, remark VARCHAR(30), open BOOLEAN, PRIMARY KEY (article, shelf))";

    /** Each line, done one after the other, to a table in memory. */
    private static final class Model {
        final Map<String, String> rows = new LinkedHashMap<>();
        long added;
        long changed;
        long unchanged;
        long removed;
        long refused;

        void line(Mode mode, String key, String row) {
            boolean there = rows.containsKey(key);
            switch (mode) {
                case ADD, REPLACE -> {
                    if (there) {
                        refused++;
                    } else {
                        added++;
                        rows.put(key, row);
                    }
                }
                case REMOVE -> {
                    if (there) {
                        removed++;
                        rows.remove(key);
                    } else {
                        unchanged++;
                    }
                }
                default -> {
                    if (!there && mode == Mode.CHANGE) {
                        refused++;
                    } else if (!there) {
                        added++;
                        rows.put(key, row);
                    } else if (mode == Mode.ADD_MISSING || rows.get(key).equals(row)) {
                        unchanged++;
                    } else {
                        changed++;
                        rows.put(key, row);
                    }
                }
            }
        }
    }

    @ParameterizedTest(name = "{0} {2}", autoCloseArguments = false)
    @MethodSource("allModes")
    void every_mode_does_what_its_lines_say_one_after_the_other(String name, TestDatabase server, Mode mode)
            throws IOException {
        long seed = System.nanoTime();
        Random random = new Random(seed);
        Model model = new Model();
        List<String> before = new ArrayList<>();
        for (int i = 0; i < 12; i++) {
            before.add("('A" + i + "', 1, " + i + ".00, NULL, 'r" + i + "', NULL)");
            model.rows.put("A" + i + "|1", i + ".00|r" + i);
        }
        if (mode == Mode.REPLACE) {
            model.removed = model.rows.size();
            model.rows.clear();
        }
        StringBuilder file = new StringBuilder();
        for (int i = 0; i < 150; i++) {
            int article = random.nextInt(20);
            int shelf = random.nextInt(5) == 0 ? 2 : 1;
            int number = random.nextInt(3) == 0 ? article : random.nextInt(4);
            file.append("A%d;%d;%d.00;;r%d;\n".formatted(article, shelf, number, article));
            model.line(mode, "A" + article + "|" + shelf, number + ".00|r" + article);
        }
        for (boolean pieces : new boolean[] {false, true}) {
            RunFixture f = fixture(server, "mode_" + mode.ordinal() + pieces, mode, TABLE);
            f.server.execute("mode_" + mode.ordinal() + pieces, "INSERT INTO stock VALUES " + String.join(",", before));
            f.file(file.toString());
            RunOutcome outcome = f.run();
            if (pieces) {
                f.server.execute("mode_" + mode.ordinal() + pieces, "DELETE FROM stock", "DELETE FROM ninepin_mark");
                f.server.execute(
                        "mode_" + mode.ordinal() + pieces, "INSERT INTO stock VALUES " + String.join(",", before));
                if (mode == Mode.REPLACE) {
                    // Stopped in the middle, all is as it was; then it is all done at once.
                    StopSignal asked = f.stop;
                    f.listener = new RunListener() {
                        @Override
                        public void loaded(Mark mark) {
                            asked.request();
                        }
                    };
                    RunOutcome stopped = f.run();
                    assertThat(stopped.state()).isEqualTo(RunOutcome.State.STOPPED);
                    assertThat(stopped.seen().tally().read()).isPositive();
                    assertThat(stopped.tally().read()).isZero();
                    assertThat(f.rows("SELECT COUNT(*) FROM stock")).containsExactly("12");
                    f.stop = new StopSignal();
                    f.listener = RunListener.NONE;
                    outcome = f.run();
                } else {
                    assertThat(f.runInPieces()).isGreaterThan(2);
                    outcome = f.last;
                }
            }
            assertThat(outcome.state()).as("%s with the seed %d", outcome, seed).isEqualTo(RunOutcome.State.FINISHED);
            // A database that has no decimals of its own writes 7 for 7.00.
            assertThat(f.rows("SELECT article, shelf, number, remark FROM stock").stream()
                            .map(r -> r.replaceFirst("\\|(\\d+)\\|r", "|$1.00|r")))
                    .as("with the seed %d", seed)
                    .containsExactlyInAnyOrderElementsOf(model.rows.entrySet().stream()
                            .map(e -> e.getKey() + "|" + e.getValue())
                            .toList());
            assertThat(List.of(
                            outcome.tally().added(),
                            outcome.tally().changed(),
                            outcome.tally().unchanged(),
                            outcome.tally().removed(),
                            outcome.tally().rejected()))
                    .as("added, changed, unchanged, removed, refused with the seed %d", seed)
                    .isEqualTo(List.of(model.added, model.changed, model.unchanged, model.removed, model.refused));
        }
    }

    /** By staging tables nothing is visible before the file is complete, and a restart goes on, in every mode. */
    @ParameterizedTest(name = "{0} {2}", autoCloseArguments = false)
    @MethodSource("modes")
    void staging_tables_do_the_same_all_at_once_and_go_on(String name, TestDatabase server, Mode mode)
            throws IOException {
        String database = "staged_" + mode.ordinal();
        RunFixture f = fixture(server, database, mode, TABLE);
        Model model = new Model();
        List<String> before = new ArrayList<>();
        for (int i = 0; i < 12; i++) {
            before.add("('A" + i + "', 1, " + i + ".00, NULL, 'r" + i + "', NULL)");
            model.rows.put("A" + i + "|1", i + ".00|r" + i);
        }
        f.server.execute(database, "INSERT INTO stock VALUES " + String.join(",", before));
        if (mode == Mode.REPLACE) {
            model.removed = model.rows.size();
            model.rows.clear();
        }
        Random random = new Random(5);
        StringBuilder file = new StringBuilder();
        for (int i = 0; i < 150; i++) {
            // Of rows that are there already, and of those that are not, as many as the mode takes.
            int article =
                    mode == Mode.ADD ? 100 + i / 2 : mode == Mode.CHANGE ? random.nextInt(12) : random.nextInt(20);
            file.append("A%d;1;%d.00;;r%d;\n".formatted(article, article % 4, article));
            model.line(mode, "A" + article + "|1", article % 4 + ".00|r" + article);
        }
        f.file(file.append("TOOLONGANARTICLE;1;1.00;;;\n").toString());
        List<String> visible = f.rows("SELECT COUNT(*), SUM(number) FROM stock");
        RunOutcome outcome;
        int starts = 0;
        do {
            StopSignal asked = new StopSignal();
            RunListener listener = new RunListener() {
                @Override
                public void committed(Mark mark) {
                    asked.request();
                }
            };
            assertThat(f.rows("SELECT COUNT(*), SUM(number) FROM stock")).isEqualTo(visible);
            RunFacts facts = new RunFacts(7, "x", LocalDate.of(2026, 11, 23), Map.of());
            try (StagedTarget target = new StagedTarget(
                    f.database, TablesSupport.loadsOf(f.job), "staged-7", OwnStatements.NONE, () -> false)) {
                RunPlan plan = new RunPlan(
                        f.job.documentPlan(LAYOUT), ShapingContext.of(facts), Limits.NONE, Tally.ZERO, false, 9);
                outcome = new Run(plan, f.file, f.journal, target, listener, asked).execute();
            }
            starts++;
        } while (outcome.state() == RunOutcome.State.STOPPED);
        assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(starts).isGreaterThan(3);
        assertThat(f.rows("SELECT article, shelf, number, remark FROM stock"))
                .containsExactlyInAnyOrderElementsOf(model.rows.entrySet().stream()
                        .map(e -> e.getKey() + "|" + e.getValue())
                        .toList());
        Tally tally = outcome.tally();
        assertThat(List.of(tally.added(), tally.changed(), tally.unchanged(), tally.removed(), tally.rejected()))
                .isEqualTo(List.of(model.added, model.changed, model.unchanged, model.removed, model.refused + 1));
        assertThat(f.rows("SELECT COUNT(*) FROM information_schema.tables WHERE table_name LIKE 'ninepin_whole%'"))
                .containsExactly("0");
    }

    /** What a server would round, cut or skip is refused, whichever it is, and the finding says which row and column. */
    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("allDatabases")
    void nothing_is_changed_on_the_way_in(String name, TestDatabase server) throws IOException {
        for (Mode mode : List.of(Mode.ADD, Mode.ADD_OR_CHANGE)) {
            String database = "silent_" + mode.ordinal();
            RunFixture f = fixture(
                    server,
                    database,
                    mode,
                    "CREATE TABLE stock (article VARCHAR(4) NOT NULL, shelf SMALLINT NOT NULL, number DECIMAL(6,2), counted DATE,"
                            + " remark VARCHAR(5), open BOOLEAN, PRIMARY KEY (article, shelf))");
            f.file(
                    """
                    A;1;1.2500;2026-11-24 00:00:00.000000;ok;true
                    B;1;1.2510;;;
                    C;1;1234567.00;;;
                    D;1;;2026-11-24 10:00:00.000000;;
                    E;1;;;toolong;
                    F;99999;;;;
                    TOOLONG;1;;;;
                    G;1;0.5;;ab\\t;false
                    ;1;;;;
                    """);
            RunOutcome outcome = f.run();
            assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FINISHED);
            assertThat(f.rows("SELECT article FROM stock ORDER BY 1"))
                    .as("%s", f.messages())
                    .isEqualTo(List.of("A", "G"));
            assertThat(f.messages()).hasSize(7).allMatch(m -> m.contains("The database says"));
            assertThat(f.journal().stream().map(JournalEntry::line)).containsExactly(2L, 3L, 4L, 5L, 6L, 7L, 9L);
        }
    }

    /** A table that is made of the fields of a layout takes their values as they are; a key becomes its primary key. */
    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("allDatabases")
    void a_table_made_of_the_shaping_takes_its_rows(String name, TestDatabase server) throws IOException {
        String definition =
                "{\"name\":\"stock\",\"layout\":\"stock\",\"deliveries\":[{\"to\":{\"connection\":\"c\",\"table\":\"made\","
                        + "\"mode\":\"add-or-change\",\"key\":[\"article\",\"shelf\"]}}]}";
        RunFixture f = new RunFixture(
                server, Files.createDirectories(folder.resolve(name)), "made_table", Definitions.job(definition));
        f.layout = LAYOUT;
        ShapingContext context = ShapingContext.of(new RunFacts(0, "x", LocalDate.EPOCH, Map.of()));
        Dialect made = Dialect.of(f.database);
        TableMaking making = TableMaking.of(f.job, LAYOUT, context, 0, made);
        f.server.execute("made_table", making.statement());
        ObjectNode job = Definitions.mapper().readTree(definition).asObject();
        job.path("deliveries")
                .path(0)
                .asObject()
                .set("shaping", Definitions.mapper().valueToTree(making.rules()));
        f.job = Definitions.job(job.toString());
        f.file(
                """
                A;1;12345678.1234;2026-11-24 10:11:12.000345;ok;true
                B;2;;;;
                A;1;-0.5;2026-11-24 00:00:00.000000;;false
                """);
        RunOutcome outcome = f.run();
        assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(List.of(
                        outcome.tally().added(),
                        outcome.tally().changed(),
                        outcome.tally().rejected()))
                .as("%s", f.messages())
                .isEqualTo(List.of(2L, 1L, 0L));
        assertThat(f
                        .rows("SELECT " + made.listed(List.of("article", "shelf", "number", "remark")) + " FROM "
                                + made.quoted("made") + " ORDER BY 1")
                        .stream()
                        .map(r -> r.replace("|-0.5|", "|-0.5000|")))
                .containsExactly("A|1|-0.5000|null", "B|2|null|null");
        assertThat(making.statement()).contains("PRIMARY KEY", "(6)");
    }

    private static void rollback(Connection connection) {
        try {
            connection.rollback();
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Another transaction holds a row that a later part of the file needs: what was loaded before it must not get lost. */
    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void a_whole_file_whose_way_is_blocked_in_the_middle_fails_whole(String name, TestDatabase server)
            throws IOException, SQLException {
        RunFixture f = fixture(server, "blocked", Mode.ADD, TABLE);
        ObjectNode job = Definitions.mapper().valueToTree(f.job);
        f.job = Definitions.job(job.put("commit", "whole").toString());
        StringBuilder file = new StringBuilder();
        for (int i = 0; i < 60; i++) {
            file.append("A%d;1;;;;\n".formatted(i));
        }
        f.file(file.toString());
        try (Connection other = server.connect("blocked");
                Statement s = other.createStatement()) {
            other.setAutoCommit(false);
            s.executeUpdate("INSERT INTO stock (article, shelf) VALUES ('A40', 1)");
            // Given free after the first wait has ended: a part that is tried again alone would now go in, without the
            // rest.
            CompletableFuture<Void> freed = CompletableFuture.runAsync(
                    () -> rollback(other), CompletableFuture.delayedExecutor(6_500, TimeUnit.MILLISECONDS));
            RunOutcome blocked = f.run();
            assertThat(blocked.state()).isEqualTo(RunOutcome.State.FAILED);
            assertThat(blocked.code()).isEqualTo("DBS-05");
            freed.join();
        }
        assertThat(f.rows("SELECT COUNT(*) FROM stock")).containsExactly("0");
        assertThat(f.run().state()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(f.rows("SELECT COUNT(*) FROM stock")).containsExactly("60");
    }

    /** A row of another key that has the value of a further unique index is not changed in place of being refused. */
    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void adding_or_changing_never_changes_a_row_of_another_key(String name, TestDatabase server) throws IOException {
        RunFixture f = fixture(
                server,
                "modes_second_" + name,
                Mode.ADD_OR_CHANGE,
                TABLE.replace("remark VARCHAR(30)", "remark VARCHAR(30) UNIQUE"));
        f.server.execute(
                f.database.database(),
                "INSERT INTO stock (article, shelf, number, remark) VALUES ('twine', 1, 1, 'mine'), ('salt', 1, 1, 'yours')");
        Files.writeString(f.file, "boots;2;5;;mine;\nsalt;1;9;;yours;\nrope;1;3;;ours;\n");
        RunOutcome outcome = f.run();
        assertThat(f.rows("SELECT article, shelf, number, remark FROM stock ORDER BY article"))
                .containsExactly("rope|1|3.00|ours", "salt|1|9.00|yours", "twine|1|1.00|mine");
        assertThat(outcome.tally()).isEqualTo(new Tally(3, 2, 1, 1, 0, 1, 0, 0, 0));
        assertThat(f.journal()).hasSize(1);
    }

    /** A savepoint of each part that is never released costs PostgreSQL a subtransaction until the end of the file. */
    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void a_whole_file_keeps_no_savepoint_of_each_part(String name, TestDatabase server) throws IOException {
        RunFixture f = fixture(server, "modes_savepoints_" + name, Mode.REPLACE, TABLE);
        StringBuilder lines = new StringBuilder();
        for (int n = 0; n < 900; n++) {
            lines.append("a").append(n).append(";1;1;;;\n");
        }
        Files.writeString(f.file, lines);
        List<Integer> held = new ArrayList<>();
        f.listener = new RunListener() {
            @Override
            public void committed(Mark mark) {
                if (name.equals("postgresql") && !mark.complete()) {
                    held.add(server.rows(
                                    f.database.database(),
                                    "SELECT pid FROM pg_locks WHERE locktype = 'transactionid' AND pid <> pg_backend_pid()")
                            .size());
                }
            }
        };
        assertThat(f.run().tally().added()).isEqualTo(900);
        assertThat(held).allMatch(n -> n <= 1);
    }
}
