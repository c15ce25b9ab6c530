package ninepin.core.run;

import static java.nio.charset.StandardCharsets.US_ASCII;
import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Stream;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.MemorySource;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.database.RehearsalTarget;
import ninepin.core.destination.tables.TablesSupport;
import ninepin.core.job.Definitions;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.preview.Preview;
import ninepin.core.preview.Previewer;
import ninepin.core.preview.RuleProbe;
import ninepin.core.ready.Readiness;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.shape.Touch;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.PostgreSqlServer;
import ninepin.core.testing.TestDatabase;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** Keys that the database gives to parents reach their children, three tables deep, in bulk, with refusals in between. */
class GeneratedKeysTest {

    private static final Layout LAYOUT = Definitions.layout(
            """
            {"name":"tours","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[
             {"name":"tour","when":{"by":"tag","column":1,"values":["T"]},"fields":[{"name":"no","column":2,"type":{"is":"text","length":20}}]},
             {"name":"call","parent":"tour","when":{"by":"tag","column":1,"values":["C"]},"fields":[{"name":"farm","column":2,"type":{"is":"text","length":20}}]},
             {"name":"can","parent":"call","when":{"by":"tag","column":1,"values":["K"]},"fields":[{"name":"litres","column":2,"type":{"is":"text","length":20}}]}]}
            """);

    private static final String JOIN =
            "SELECT t.no, c.farm, k.litres FROM can k JOIN call_ c ON c.id = k.call_id JOIN tour t ON t.id = c.tour_id";

    @TempDir
    Path folder;

    static Stream<Arguments> ways() {
        return Stream.of("add", "add-or-change", "add-missing")
                .flatMap(mode -> Stream.of(
                        Arguments.of("mariadb", MariaDbServer.shared(), mode),
                        Arguments.of("postgresql", PostgreSqlServer.shared(), mode)));
    }

    private static String delivery(String of, String table, String mode, String rules) {
        String key = mode.equals("add") ? "" : ",\"key\":[\"no\"]";
        return "{\"of\":\"" + of + "\",\"to\":{\"connection\":\"c\",\"table\":\"" + table + "\",\"mode\":\"" + mode
                + "\"" + key + "},\"shaping\":[" + rules + "]}";
    }

    private static String field(String target, String field) {
        return "{\"target\":\"" + target + "\",\"take\":{\"from\":\"field\",\"field\":\"" + field + "\"}}";
    }

    private static String key(String target, String table) {
        return "{\"target\":\"" + target + "\",\"take\":{\"from\":\"key\",\"table\":\"" + table + "\"}}";
    }

    private static Job job(String mode) {
        return Definitions.job("{\"name\":\"tours\",\"layout\":\"tours\",\"deliveries\":["
                + delivery("tour", "tour", mode, field("no", "no")) + ","
                + delivery("call", "call_", "add", key("tour_id", "tour") + "," + field("farm", "farm")) + ","
                + delivery("can", "can", "add", field("litres", "litres") + "," + key("call_id", "call_")) + "]}");
    }

    private RunFixture fixture(String name, TestDatabase server, String mode) throws IOException {
        String database = "keys_" + mode.replace('-', '_');
        RunFixture f = new RunFixture(server, Files.createDirectories(folder.resolve(name)), database, job(mode));
        f.layout = LAYOUT;
        f.chunkRows = 30;
        String numbered = name.startsWith("mariadb")
                ? "INT PRIMARY KEY AUTO_INCREMENT"
                : "INT PRIMARY KEY GENERATED ALWAYS AS IDENTITY";
        f.server.execute(
                database,
                "CREATE TABLE tour (id " + numbered + ", no VARCHAR(12) NOT NULL"
                        + (mode.equals("add") ? "" : " UNIQUE") + ")",
                "CREATE TABLE call_ (id " + numbered
                        + ", tour_id INT NOT NULL, farm VARCHAR(4) NOT NULL, FOREIGN KEY (tour_id) REFERENCES tour (id))",
                "CREATE TABLE can (id " + numbered
                        + ", call_id INT NOT NULL, litres INT NOT NULL, FOREIGN KEY (call_id) REFERENCES call_ (id))",
                // Numbers have begun before, and not at one.
                "INSERT INTO tour (no) VALUES ('old 1'), ('old 2'), ('T3')");
        return f;
    }

    @Test
    void the_bench_names_the_row_whose_key_is_taken() throws IOException {
        ByteSource sample = new MemorySource("T;T1\nC;A\nK;5\nC;B\nK;6\nT;T2\nC;C\nK;7\n".getBytes(US_ASCII));
        ShapingContext context = ShapingContext.of(new RunFacts(0, "a.csv", LocalDate.of(2026, 11, 23), Map.of()));
        Preview preview = Previewer.of(sample, LAYOUT, job("add"), context, 1, 50);
        assertThat(preview.findings()).isEmpty();
        assertThat(preview.rows().stream().filter(r -> r.delivery() == 2).map(Preview.Row::values))
                .containsExactly(
                        List.of("5", "key of row 1 of call_"),
                        List.of("6", "key of row 2 of call_"),
                        List.of("7", "key of row 1 of call_"));
        assertThat(RuleProbe.ofDelivery(sample, LAYOUT, job("add"), context, 1, 1, List.of())
                        .rules()
                        .get(0))
                .returns("given when the row is there", RuleProbe.Said::value)
                .returns(null, RuleProbe.Said::problem);
        Rule changed =
                new Rule("tour_id", new Origin.OfKey("tour"), List.of(new Touch(Touch.Kind.UPPER, null, null)), null);
        assertThat(RuleProbe.of(sample, LAYOUT, job("add"), context, 1, 1, List.of(changed))
                        .get(0)
                        .problem())
                .contains("nothing is to be changed in it");
    }

    @ParameterizedTest(name = "{0} {2}", autoCloseArguments = false)
    @MethodSource("ways")
    void children_get_the_keys_of_their_parents(String name, TestDatabase server, String mode) throws IOException {
        Random random = new Random(7);
        List<String> expected = new ArrayList<>();
        StringBuilder file = new StringBuilder();
        int refused = 0;
        for (int t = 0; t < 150; t++) {
            // By key, a tour may come twice, and one is there before.
            String no = "T" + (mode.equals("add") ? t : random.nextInt(100));
            boolean tooLong = random.nextInt(12) == 0;
            List<String> own = new ArrayList<>();
            file.append("T;").append(no).append('\n');
            int records = 1;
            for (int c = random.nextInt(4); c > 0; c--) {
                String farm = "F" + random.nextInt(99);
                file.append("C;").append(farm).append('\n');
                records++;
                for (int k = random.nextInt(3); k > 0; k--) {
                    int litres = random.nextInt(1_000);
                    file.append("K;").append(litres).append('\n');
                    own.add(no + "|" + farm + "|" + litres);
                    records++;
                }
            }
            if (tooLong) {
                file.append("C;much too long\n");
                refused += records + 1;
            } else {
                expected.addAll(own);
            }
        }
        RunFixture f = fixture(name, server, mode).file(file.toString());
        assertThat(f.runInPieces()).isGreaterThan(2);
        assertThat(f.last.state()).as("%s", f.last).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(f.last.tally().rejected()).isEqualTo(refused).isPositive();
        assertThat(f.rows(JOIN)).containsExactlyInAnyOrderElementsOf(expected);
        // Side by side by two connections as well, all in one go.
        RunFixture g = fixture(name + "-at-once", server, mode).file(file.toString());
        assertThat(g.run().state()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(g.rows(JOIN)).containsExactlyInAnyOrderElementsOf(expected);
        try (Target rehearsal = new RehearsalTarget(g.database, TablesSupport.loadsOf(g.job))) {
            RunFacts facts = new RunFacts(7, "x", LocalDate.of(2026, 11, 23), Map.of());
            RunPlan plan = g.job.plan(LAYOUT, ShapingContext.of(facts), Tally.ZERO);
            RunOutcome rehearsed = new Run(
                            plan, g.file, folder.resolve("rehearsal"), rehearsal, RunListener.NONE, new StopSignal())
                    .execute();
            assertThat(rehearsed.tally().rejected()).as("%s", rehearsed).isEqualTo(refused);
        }
        assertThat(g.rows(JOIN)).hasSize(expected.size());
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "tour_id | call_ | no delivery to the same database | 'table':'nowhere'",
                "tour_id | call_ | has to stand before               | 'table':'can'",
                "call_id | can   | a rule fills id there             | 'table':'filled'"
            })
    void what_cannot_be_taken_is_said_before_the_run(String target, String of, String expected, String take)
            throws Exception {
        RunFixture f = fixture("mariadb", MariaDbServer.shared(), "add");
        f.server.execute("keys_add", "CREATE TABLE filled (id INT PRIMARY KEY AUTO_INCREMENT, farm VARCHAR(4))");
        String json = Definitions.write(f.job)
                .replaceFirst(
                        "(\"target\" : \"" + target
                                + "\",\\s*\"take\" : \\{\\s*\"from\" : \"key\",\\s*)\"table\" : \"\\w+\"",
                        "$1" + take.strip().replace('\'', '"'));
        Job job = Definitions.job(json);
        List<Delivery> deliveries = new ArrayList<>(job.deliveries());
        deliveries.add(
                0,
                Definitions.job("{\"name\":\"x\",\"layout\":\"x\",\"deliveries\":["
                                + delivery("call", "filled", "add", field("id", "farm") + "," + field("farm", "farm"))
                                + "]}")
                        .deliveries()
                        .get(0));
        job = job.withDeliveries(deliveries);
        List<Optional<TableDescription>> tables = new ArrayList<>();
        Dialect dialect = Dialect.of(f.database);
        try (java.sql.Connection c = dialect.connect(f.database, Dialect.Use.LOADS)) {
            for (Delivery d : job.deliveries()) {
                tables.add(dialect.catalog(c).describe(d.to().label()));
            }
        }
        RunFacts facts = new RunFacts(7, "x", LocalDate.of(2026, 11, 23), Map.of());
        assertThat(Readiness.check(job, LAYOUT, ShapingContext.of(facts), tables))
                .filteredOn(s -> s.code().equals("JOB-44"))
                .singleElement()
                .satisfies(s -> assertThat(s.message()).contains(expected.strip()));
    }
}
