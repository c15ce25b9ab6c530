package ninepin.server.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import ninepin.server.testing.ServerProcess;
import ninepin.server.testing.SmallJobs;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** A job to a file and to tables of two databases: what it is said to have delivered is what stands there. */
class PlacesTest {

    private static final String LAYOUT =
            """
            {"name":"slips","format":{"kind":"delimited","delimiter":";","quote":"\\"","header":false},"recordTypes":[
             TYPE("in","I"),TYPE("both","B"),TYPE("out","O"),TYPE("note","N")]}
            """
                    .replaceAll(
                            "TYPE\\((\"\\w+\"),(\"\\w\")\\)",
                            """
                            {"name":$1,"when":{"by":"tag","column":1,"values":[$2]},"fields":[
                             {"name":"Slip","column":2,"type":{"is":"text","length":10}},
                             {"name":"Amount","column":3,"type":{"is":"decimal","precision":9,"scale":2}}]}""");

    private static final String FILE =
            """
            {"kind":"file","file":{"root":"partners","name":"slips.csv","layout":{"name":"out",
             "format":{"kind":"delimited","delimiter":";","header":true},"recordTypes":[{"name":"slip","fields":[
              {"name":"slip","header":"Slip","type":{"is":"text","length":10}},
              {"name":"amount","header":"Amount","type":{"is":"decimal","precision":9,"scale":2}}]}]}}}
            """;

    /** Seven are for the file, six for the table of slips, four for the table of outgoing ones, three for the second database. */
    private static final String LINES =
            """
            N;N1;0
            I;I1;1.00
            I;I2;2.00
            I;I3;3.00
            I;I4;x
            B;B1;4.00
            B;B2;5.00
            B;TWICE;6.00
            O;O1;7.00
            O;O2;8.00
            O;O2;9.00
            O;O4;10.00
            N;N2;0
            """;

    @TempDir
    static Path folder;

    private static MariaDbServer database;
    private static ServerProcess server;
    private static SmallJobs jobs;

    @BeforeAll
    static void start() throws Exception {
        database = MariaDbServer.start();
        database.database("ninepin");
        database.database("second");
        server = new ServerProcess(folder, database);
        server.start();
        Files.createDirectories(folder.resolve("partners"));
        jobs = new SmallJobs(server, database, "shop");
        jobs.connect("second", "second");
        String table = " (slip VARCHAR(10) PRIMARY KEY, amount DECIMAL(9,2))";
        database.execute("shop", "CREATE TABLE slip" + table);
        database.execute("shop", "CREATE TABLE outgoing (slip VARCHAR(10), amount DECIMAL(9,2), KEY by_slip (slip))");
        database.execute("second", "CREATE TABLE slip" + table);
        for (String name : new String[] {"shop", "second"}) {
            database.execute(name, "INSERT INTO slip VALUES ('TWICE', 0)");
        }
        database.execute("second", "INSERT INTO slip VALUES ('B2', 0)");
        jobs.live(
                "places",
                Definitions.mapper()
                        .readTree(
                                "{\"name\":\"places\",\"layout\":\"slips\",\"together\":{\"whenOneFails\":\"go-on\"},\"deliveries\":["
                                        + to("in", FILE) + "," + to("both", FILE) + ","
                                        + to("both", table("shop", "slip")) + "," + to("out", table("shop", "slip"))
                                        + ","
                                        + to("out", table("shop", "outgoing")) + ","
                                        + to("both", table("second", "slip"))
                                        + "]}"),
                Definitions.mapper().readTree(LAYOUT));
    }

    private static String to(String type, String to) {
        return """
               {"of":"%s","to":%s,"shaping":[
                {"target":"slip","take":{"from":"field","field":"Slip"}},
                {"target":"amount","take":{"from":"field","field":"Amount"}}]}
               """
                .formatted(type, to);
    }

    private static String table(String connection, String table) {
        return "{\"connection\":\"" + connection + "\",\"table\":\"" + table + "\",\"mode\":\"add\"}";
    }

    @AfterAll
    static void stop() throws Exception {
        server.close();
        database.close();
    }

    @Test
    void what_it_says_of_each_place_and_of_all_of_them_is_what_stands_there() throws Exception {
        long id = jobs.give("places", "slips.txt", LINES.getBytes(StandardCharsets.UTF_8));
        JsonNode run = jobs.await(id, "FINISHED");

        // Refused: I4 by a check, TWICE by both databases, B2 by the second, O2 the second time by the first.
        assertThat(figures(run.path("tally")))
                .containsEntry("read", 13L)
                .containsEntry("delivered", 7L)
                .containsEntry("rejected", 4L)
                .containsEntry("withoutRows", 2L)
                .containsEntry(
                        "added",
                        stands("slips.csv")
                                + stands("shop", "slip")
                                + stands("shop", "outgoing")
                                + stands("second", "slip"));
        assertThat(run.path("open").asLong()).isZero();
        assertThat(run.path("balances").asBoolean()).isTrue();

        JsonNode places = server.get("/api/v1/runs/" + id + "/places");
        assertThat(places).hasSize(3);
        assertThat(figures(places.get(0).path("tally")))
                .as("the file")
                .containsEntry("delivered", 6L)
                .containsEntry("elsewhere", 4L)
                .containsEntry("rejected", 1L)
                .containsEntry("added", stands("slips.csv"));
        assertThat(figures(places.get(1).path("tally")))
                .as("the tables of the first database")
                .containsEntry("delivered", 5L)
                .containsEntry("elsewhere", 3L)
                .containsEntry("rejected", 3L)
                .containsEntry("added", stands("shop", "slip") + stands("shop", "outgoing"));
        assertThat(figures(places.get(2).path("tally")))
                .as("the table of the second")
                .containsEntry("delivered", 1L)
                .containsEntry("elsewhere", 7L)
                .containsEntry("rejected", 3L)
                .containsEntry("added", stands("second", "slip"));
        for (JsonNode place : places) {
            assertThat(place.path("balances").asBoolean()).as(place.toString()).isTrue();
        }
        JsonNode deliveries = places.get(1).path("deliveries");
        assertThat(deliveries).hasSize(3);
        assertThat(deliveries.get(0).path("rows").path("added").asLong()
                        + deliveries.get(1).path("rows").path("added").asLong())
                .isEqualTo(stands("shop", "slip"));
        assertThat(deliveries.get(2).path("to").asString()).isEqualTo("outgoing");
        assertThat(deliveries.get(2).path("rows").path("added").asLong()).isEqualTo(stands("shop", "outgoing"));
        assertThat(deliveries.get(1).path("refused").asLong())
                .as("the second O2")
                .isEqualTo(1);

        assertThat(server.get("/api/v1/runs?job=places").path("items").get(0).path("tally"))
                .isEqualTo(run.path("tally"));
        String report = new String(server.bytes("/api/v1/runs/" + id + "/report.csv"), StandardCharsets.UTF_8);
        assertThat(report)
                .contains("tally,delivered,7,,", "tally,rejected,4,,", "delivery outgoing,rows added,3,,")
                .contains("\"place slip, outgoing\",for other places,3,,");
    }

    private static Map<String, Long> figures(JsonNode tally) {
        Map<String, Long> figures = new LinkedHashMap<>();
        tally.properties().forEach(f -> figures.put(f.getKey(), f.getValue().asLong()));
        return figures;
    }

    /** The rows of a table that were not there before. */
    private static long stands(String name, String table) {
        return Long.parseLong(database.rows(name, "SELECT COUNT(*) FROM " + table + " WHERE amount > 0")
                .get(0));
    }

    /** The records of a file, its line of titles not among them. */
    private static long stands(String file) throws Exception {
        return Files.readAllLines(folder.resolve("partners").resolve(file)).size() - 1;
    }
}
