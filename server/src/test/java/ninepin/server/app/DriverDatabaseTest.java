package ninepin.server.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.job.Definitions;
import ninepin.core.testing.DriverDatabase;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.Quality;
import ninepin.server.testing.ServerProcess;
import ninepin.server.testing.SmallJobs;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** A driver in a folder gives a connection; rows go through it once, whatever becomes of the application. */
@Timeout(300)
class DriverDatabaseTest {

    private static final int LINES = 40_000;

    @TempDir
    static Path folder;

    private static MariaDbServer own;
    private static ServerProcess server;
    private static SmallJobs jobs;
    private static final DriverDatabase SQLITE = DriverDatabase.sqlite();

    @BeforeAll
    static void start() throws Exception {
        own = MariaDbServer.start();
        server = new ServerProcess(folder, own)
                .set("NINEPIN_DRIVERS", DriverDatabase.driversFolder().toString())
                .set("NINEPIN_PAUSESECONDS", "1");
        server.start();
        jobs = new SmallJobs(server, own, "warehouse");
        SQLITE.database("dairy");
        SQLITE.execute("dairy", Quality.TABLE.replace(" ENGINE=InnoDB", ""));
        server.ask("PUT", "/api/v1/connections/dairy", connection("dairy"));
    }

    @AfterAll
    static void end() throws InterruptedException {
        server.close();
        own.close();
    }

    private static String connection(String database) {
        return "{\"title\":\"Dairy\",\"kind\":\"sqlite\",\"host\":\"localhost\",\"port\":0,\"database\":\"" + database
                + "\",\"user\":\"\",\"password\":\"\"}";
    }

    private static JsonNode job(String name, String more) {
        ObjectNode job = Definitions.mapper()
                .readTree(Definitions.write(Quality.job(Mode.ADD, null)).replace("\"warehouse\"", "\"dairy\""))
                .asObject();
        job.put("name", name).put("layout", name);
        job.setAll(Definitions.mapper().readTree("{" + more + "}").asObject());
        return job;
    }

    private static JsonNode layout(String name) {
        return Definitions.mapper()
                .readTree(Definitions.write(Quality.layout()))
                .asObject()
                .put("name", name);
    }

    @Test
    void a_driver_gives_a_connection_whose_tables_are_seen() throws Exception {
        assertThat(server.get("/api/v1/connections/kinds").toString())
                .contains("\"name\":\"h2\"", "\"title\":\"SQLite\"")
                .contains("\"name\":\"mariadb\"");
        JsonNode tested = server.ask("POST", "/api/v1/connections/dairy/test", connection("dairy"));
        assertThat(tested.path("message").asString()).startsWith("Answers: SQLite");
        assertThat(server.get("/api/v1/connections/dairy/tables").toString()).contains("quality_result");
        assertThat(server.send("PUT", "/api/v1/connections/evil", connection("x;load_extension"))
                        .statusCode())
                .isEqualTo(422);
        assertThat(server.send(
                                "PUT",
                                "/api/v1/connections/other",
                                connection("x").replace("sqlite", "oracle"))
                        .statusCode())
                .isEqualTo(422);
    }

    @Test
    void what_it_cannot_do_is_said_before_the_job_goes_live() throws Exception {
        server.ask(
                "POST",
                "/api/v1/jobs",
                "{\"revision\":0,\"job\":" + job("staged", "\"commit\":\"staged\"") + ",\"layout\":" + layout("staged")
                        + "}");
        JsonNode live = server.ask("POST", "/api/v1/jobs/staged/live", null);
        assertThat(live.path("version").isNull()).isTrue();
        assertThat(live.toString()).contains("JOB-53", "Ninepin makes no staging tables in SQLite");
    }

    @Test
    void killed_in_the_middle_a_run_delivers_once() throws Exception {
        jobs.live("results", job("results", "\"afterCrash\":\"restart\""), layout("results"));
        long run = jobs.give("results", "results.csv", SmallJobs.lines(0, LINES));
        jobs.awaitCommits(run, 1);
        server.kill();
        server.start();
        assertThat(jobs.await(run, "FINISHED").path("tally").path("delivered").asInt())
                .isEqualTo(LINES);
        assertThat(SQLITE.rows("dairy", "SELECT COUNT(*), COUNT(DISTINCT sample) FROM quality_result"))
                .containsExactly(LINES + "|" + LINES);
        JsonNode outlook = server.get("/api/v1/runs/" + run + "/take-back");
        assertThat(outlook.toString()).contains("Rows in SQLite are not taken back from here.");
    }
}
