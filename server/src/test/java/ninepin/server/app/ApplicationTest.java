package ninepin.server.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.Quality;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** The application as a real process against a real database: what it promises through its API. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class ApplicationTest {

    @TempDir
    static Path folder;

    private static MariaDbServer database;
    private static ServerProcess server;

    @BeforeAll
    static void start() throws Exception {
        database = MariaDbServer.shared();
        database.database("ninepin");
        database.database("warehouse");
        database.execute("warehouse", Quality.TABLE);
        server = new ServerProcess(folder, database);
        server.start();
    }

    @AfterAll
    static void stop() throws InterruptedException {
        server.close();
    }

    private static String draft(String pickUp, int revision) {
        ObjectNode job = (ObjectNode) Definitions.mapper().valueToTree(Quality.job(Mode.ADD, null));
        if (pickUp != null) {
            job.set("pickUp", Definitions.mapper().readTree(pickUp));
        }
        job.put("afterCrash", "offer");
        return "{\"revision\":" + revision + ",\"job\":" + job + ",\"layout\":"
                + Definitions.mapper().writeValueAsString(Quality.layout()) + "}";
    }

    @Test
    @Order(1)
    void nothing_is_told_without_a_sign_in_and_errors_are_problem_details() throws Exception {
        for (String path : new String[] {"/api/jobs", "/api/runs", "/api/connections", "/api/openapi.json"}) {
            assertThat(server.send("GET", path, null, null).statusCode())
                    .as(path)
                    .isEqualTo(401);
        }
        assertThat(server.send("POST", "/api/session", "{\"name\":\"admin\",\"password\":\"for the test\"}", null)
                        .statusCode())
                .as("a change without the token of the cookie")
                .isEqualTo(403);
        HttpResponse<String> missing = server.send("GET", "/api/jobs/nothing", null);
        assertThat(missing.statusCode()).isEqualTo(404);
        assertThat(missing.headers().firstValue("content-type")).hasValue("application/problem+json");
        assertThat(missing.body()).contains("There is no job named nothing.");
    }

    @Test
    @Order(2)
    void a_connection_answers_and_its_password_never_comes_out() throws Exception {
        String body = "{\"title\":\"Warehouse\",\"host\":\"127.0.0.1\",\"port\":" + database.port()
                + ",\"database\":\"warehouse\",\"user\":\"root\",\"password\":%s}";
        assertThat(server.ask("POST", "/api/connections/warehouse/test", body.formatted("\"wrong-4711\""))
                        .toString())
                .contains("refuses the login");
        server.ask("PUT", "/api/connections/warehouse", body.formatted("\"wrong-4711\""));
        assertThat(server.get("/api/connections").toString()).doesNotContain("4711");
        server.ask("PUT", "/api/connections/warehouse", body.formatted("\"\""));
        assertThat(server.get("/api/connections/warehouse/tables").toString()).isEqualTo("[\"quality_result\"]");
        assertThat(Files.readString(server.log())).doesNotContain("4711").doesNotContain("for the test");
        assertThat(database.rows("ninepin", "SELECT sealed_password FROM connection")
                        .toString())
                .doesNotContain("4711");
    }

    @Test
    @Order(3)
    void a_code_list_has_versions_is_read_from_a_file_or_a_query_and_written_back() throws Exception {
        String list =
                "{\"basedOn\":%d,\"note\":\"\",\"list\":{\"name\":\"tests\",\"columns\":[\"test\",\"name\"],\"entries\":%s}}";
        server.ask("POST", "/api/code-lists", list.formatted(0, "[{\"values\":[\"FAT\",\"fat\"]}]"));
        String two = "[{\"values\":[\"FAT\",\"fat; cream\"]},{\"values\":[\"PROT\",null],\"from\":\"2026-01-01\"}]";
        server.ask("PUT", "/api/code-lists/tests", list.formatted(1, two));
        assertThat(server.send("PUT", "/api/code-lists/tests", list.formatted(1, "[]"))
                        .body())
                .contains("Meanwhile admin saved version 2");
        assertThat(server.send("PUT", "/api/code-lists/tests", list.formatted(2, two))
                        .body())
                .contains("Nothing differs from version 2.");
        assertThat(server.send(
                                "PUT",
                                "/api/code-lists/tests",
                                list.formatted(2, "[{\"values\":[\"FAT\"]},{\"values\":[\"FAT\"]}]"))
                        .body())
                .contains("stands twice for the same days");
        assertThat(server.get("/api/code-lists/tests/changes?version=2").toString())
                .contains("fat; cream", "PROT from 2026-01-01");
        byte[] exported =
                server.send("GET", "/api/code-lists/tests/export", null).body().getBytes(StandardCharsets.UTF_8);
        JsonNode read = server.upload("/api/code-lists/read", "tests.csv", exported);
        assertThat(read.path("columns").toString()).isEqualTo("[\"test\",\"name\"]");
        assertThat(read.path("entries").get(0).path("values").toString()).isEqualTo("[\"FAT\",\"fat; cream\"]");
        assertThat(read.path("entries").get(1).path("from").asString()).isEqualTo("2026-01-01");
        assertThat(server.ask(
                                "POST",
                                "/api/code-lists/query",
                                "{\"connection\":\"warehouse\",\"statement\":\"SELECT 'R7' AS route, 'South' AS valley\"}")
                        .path("entries")
                        .toString())
                .contains("[\"R7\",\"South\"]");
        assertThat(server.send(
                                "POST",
                                "/api/code-lists/query",
                                "{\"connection\":\"warehouse\",\"statement\":\"DELETE FROM quality_result\"}")
                        .body())
                .contains("a query is one SELECT");
        server.ask("DELETE", "/api/code-lists/tests", null);
    }

    @Test
    @Order(3)
    void a_job_goes_live_only_when_it_fits_its_table() throws Exception {
        server.ask("POST", "/api/jobs", draft(null, 0));
        database.execute("warehouse", "ALTER TABLE quality_result ADD weight INT NOT NULL");
        JsonNode blocked = server.ask("POST", "/api/jobs/quality/live", null);
        assertThat(blocked.path("version").isNull()).isTrue();
        assertThat(blocked.toString()).contains("weight must have a value (NOT NULL, no default) and has no rule.");
        database.execute("warehouse", "ALTER TABLE quality_result DROP weight");
        assertThat(server.ask("POST", "/api/jobs/quality/live", null)
                        .path("version")
                        .asInt())
                .isEqualTo(1);
        HttpResponse<String> late = server.send("PUT", "/api/jobs/quality/draft", draft(null, 99));
        assertThat(late.statusCode())
                .as("a draft that another has changed meanwhile")
                .isEqualTo(409);
        HttpResponse<String> outside = server.send(
                "PUT",
                "/api/jobs/quality/draft",
                draft(
                        "{\"root\":\"partners\",\"folder\":\"../data\",\"pattern\":\"*\",\"readySeconds\":1,\"sameFileAgain\":false}",
                        1));
        assertThat(outside.statusCode()).as("a draft is kept in whatever state").isEqualTo(200);
        assertThat(server.send("POST", "/api/jobs/quality/live", null).body()).contains("stays below its root");
    }

    @Test
    @Order(4)
    void a_folder_is_watched_a_growing_file_left_and_the_same_file_refused() throws Exception {
        int revision = server.get("/api/jobs/quality").path("revision").asInt();
        server.ask(
                "PUT",
                "/api/jobs/quality/draft",
                draft(
                        "{\"root\":\"partners\",\"folder\":\"in\",\"pattern\":\"q_*.csv\",\"everySeconds\":1,\"readySeconds\":1,\"sameFileAgain\":false}",
                        revision));
        server.ask("POST", "/api/jobs/quality/live", null);
        server.ask("PUT", "/api/jobs/quality/schedule?on=true", null);
        Path in = Files.createDirectories(folder.resolve("partners/in"));
        String content = Quality.HEADER + Quality.line(1) + "x;x;x;x;x;x\r\n";
        Path growing = in.resolve("q_growing.csv");
        for (int i = 0; i < 12; i++) {
            Files.writeString(growing, Quality.HEADER + "#".repeat(i), Quality.CHARSET);
            Thread.sleep(250);
        }
        assertThat(server.get("/api/runs").size())
                .as("a file that still grows is left alone")
                .isZero();
        Files.delete(growing);
        Files.writeString(in.resolve("q_1.csv"), content, Quality.CHARSET);
        JsonNode run = server.await(
                        "/api/runs",
                        r -> r.size() == 1 && r.get(0).path("state").asString().equals("FINISHED"))
                .get(0);
        assertThat(run.path("tally").toString())
                .contains("\"read\":2,\"delivered\":1")
                .contains("\"rejected\":1");
        assertThat(in.resolve(".ninepin/quality/done/q_1.csv")).exists();
        Files.writeString(in.resolve("q_2.csv"), content, Quality.CHARSET);
        JsonNode second = server.await(
                        "/api/runs",
                        r -> r.size() == 2 && r.get(0).path("state").asString().equals("REFUSED"))
                .get(0);
        assertThat(second.path("message").asString())
                .contains("was delivered by run " + run.path("id").asLong());
        assertThat(in.resolve(".ninepin/quality/failed/q_2.csv")).exists();

        long id = run.path("id").asLong();
        assertThat(server.send("GET", "/api/runs/" + id + "/rejects.csv", null)
                        .body()
                        .lines()
                        .toList())
                .satisfies(lines -> assertThat(lines.get(0)).isEqualTo("Reason;" + Quality.HEADER.strip()))
                .satisfies(lines ->
                        assertThat(lines.get(1)).startsWith("\"line 3 · Farm").endsWith(";x;x;x;x;x;x"));
        assertThat(server.get("/api/runs/" + id + "/rejects")
                        .get(0)
                        .path("bad")
                        .get(0)
                        .path("from")
                        .asInt())
                .isEqualTo(2);
    }

    @Test
    @Order(5)
    void the_library_keeps_what_others_did_and_files_stay_inside_their_roots() throws Exception {
        JsonNode layout = server.get("/api/layouts").get(0);
        String name = layout.path("name").asString();
        assertThat(layout.path("usedBy").toString()).isEqualTo("[\"quality\"]");
        assertThat(layout.path("version").asInt()).isEqualTo(1);
        String own = server.get("/api/layouts/" + name).path("layout").toString();
        String other = own.replace("\"length\":12}", "\"length\":13}");
        assertThat(other).isNotEqualTo(own);
        String path = "/api/layouts/" + name;
        String version = "{\"layout\":%s,\"basedOn\":%d,\"jobs\":[]}";
        assertThat(server.send("POST", path + "/versions", version.formatted(own, 1))
                        .body())
                .contains("Nothing differs from version 1.");
        JsonNode impact = server.ask("POST", path + "/impact", other);
        assertThat(impact.path("changes").toString()).contains("\"before\":\"12\",\"after\":\"13\"");
        assertThat(impact.path("jobs").get(0).path("version").asInt()).isEqualTo(1);
        server.ask("POST", path + "/versions", version.formatted(other, 1));
        assertThat(server.send("POST", path + "/versions", version.formatted(own, 1))
                        .statusCode())
                .as("a version made without seeing the latest")
                .isEqualTo(409);
        assertThat(server.get("/api/jobs/quality").path("layout").toString())
                .as("a job that the version was not handed to")
                .isEqualTo(server.get("/api/jobs/quality/versions")
                        .get(0)
                        .path("layout")
                        .toString());
        assertThat(server.send("DELETE", path, null).body()).contains("is used by quality");

        long run = server.get("/api/runs?state=FINISHED").get(0).path("id").asLong();
        assertThat(server.get("/api/raw/run/" + run + "?line=3")
                        .path("piece")
                        .path("lines")
                        .toString())
                .contains("\"number\":3")
                .contains("x;x;x;x;x;x");
        assertThat(server.get("/api/raw/run/" + run + "/find?text=x%3Bx")
                        .path("line")
                        .asInt())
                .isEqualTo(3);
        assertThat(server.send("GET", "/api/raw/run/x", null).statusCode()).isEqualTo(404);
        assertThat(server.send("GET", "/api/runs/x", null).statusCode()).isEqualTo(400);

        Files.writeString(folder.resolve("secret.txt"), "not yours");
        Files.createSymbolicLink(folder.resolve("partners/in/link.txt"), folder.resolve("secret.txt"));
        for (String file : List.of("../secret.txt", "in/../../secret.txt", "in/link.txt", "/etc/passwd")) {
            HttpResponse<String> answer = server.send(
                    "GET", "/api/roots/partners/start?file=" + URLEncoder.encode(file, StandardCharsets.UTF_8), null);
            assertThat(answer.statusCode()).as(file).isBetween(400, 499);
            assertThat(answer.body()).doesNotContain("not yours");
        }
        assertThat(server.send("GET", "/api/roots/partners/entries?folder=..", null)
                        .statusCode())
                .isBetween(400, 499);
        assertThat(server.get("/api/roots/partners/entries?folder=in").toString())
                .contains(".ninepin");
    }

    @Test
    @Order(6)
    void killed_in_a_large_load_it_offers_the_run_for_restart_and_the_tally_balances() throws Exception {
        StringBuilder file = new StringBuilder(Quality.HEADER);
        for (int i = 0; i < 300_000; i++) {
            file.append(i % 1000 == 7 ? "bad;x;x;x;x;x\r\n" : Quality.line(1_000_000 + i));
        }
        long id = server.upload(
                        "/api/jobs/quality/runs", "large.csv", file.toString().getBytes(Quality.CHARSET))
                .path("id")
                .asLong();
        server.await("/api/runs/" + id, r -> r.path("commits").asLong() >= 2);
        server.kill();
        server.start();
        JsonNode offered = server.get("/api/runs/" + id);
        assertThat(offered.path("state").asString()).isEqualTo("INTERRUPTED");
        long marked = Long.parseLong(database.rows("warehouse", "SELECT rows_read FROM ninepin_mark WHERE complete = 0")
                .get(0));
        assertThat(offered.path("tally").path("read").asLong())
                .as("the account comes from the mark")
                .isEqualTo(marked)
                .isPositive();
        assertThat(server.get("/api/jobs/quality").path("next").isNull())
                .as("the schedule has survived")
                .isFalse();
        assertThat(server.get("/api/today").path("needs").toString()).contains("interrupted");

        server.ask("POST", "/api/runs/" + id + "/restart", null);
        JsonNode done =
                server.await("/api/runs/" + id, r -> r.path("state").asString().equals("FINISHED"));
        assertThat(done.path("tally").toString())
                .contains("\"read\":300000,\"delivered\":299700,\"added\":299700")
                .contains("\"rejected\":300");
        assertThat(done.path("balances").asBoolean()).isTrue();
        assertThat(database.rows("warehouse", "SELECT COUNT(*) FROM quality_result WHERE run = " + id))
                .containsExactly("299700");
        assertThat(server.get("/api/runs/" + id + "/reasons")
                        .get(0)
                        .path("count")
                        .asLong())
                .isEqualTo(300);
        assertThat(server.send("POST", "/api/runs/" + id + "/restart", null).statusCode())
                .isEqualTo(409);
    }

    @Test
    @Order(7)
    void the_api_is_the_one_that_the_interface_was_built_for() throws Exception {
        JsonNode served = server.get("/api/openapi.json");
        JsonNode built =
                Definitions.mapper().readTree(Files.readString(Path.of("../web/openapi.json"), StandardCharsets.UTF_8));
        assertThat(served).isEqualTo(built);
    }
}
