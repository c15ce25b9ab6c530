package ninepin.server.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.Quality;
import ninepin.core.testing.SmallDisk;
import ninepin.server.testing.ServerProcess;
import ninepin.server.testing.SmallJobs;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** Ordinary situations in which work could be lost: a stop, a restart, a database that is away, a full disk, a fault at the end. */
@Timeout(value = 20, unit = TimeUnit.MINUTES)
class OrdinaryTroubleTest {

    private static final int MANY = 150_000;
    private static final String GOES_ON = "\"afterCrash\":\"restart\"";

    @TempDir
    static Path folder;

    private static MariaDbServer database;
    private static ServerProcess server;
    private static SmallJobs jobs;

    @BeforeAll
    static void start() throws Exception {
        database = MariaDbServer.start();
        server = new ServerProcess(folder.resolve("one"), database).set("NINEPIN_PAUSESECONDS", "1");
        server.start();
        jobs = new SmallJobs(server, database, "warehouse");
    }

    @AfterAll
    static void end() throws InterruptedException {
        server.close();
        database.close();
    }

    private static void delivered(String job, long run, int rows) throws Exception {
        JsonNode done = jobs.await(run, "FINISHED");
        assertThat(done.path("tally").path("delivered").asInt()).isEqualTo(rows);
        assertThat(done.path("balances").asBoolean()).isTrue();
        assertThat(jobs.rows(job)).isEqualTo(rows + "|" + rows);
        assertThat(server.get("/api/v1/runs?job=" + job).path("items").size())
                .as("one run for one file")
                .isEqualTo(1);
    }

    @Test
    void an_orderly_stop_of_the_application_is_a_non_event() throws Exception {
        jobs.adds("stopped", GOES_ON);
        long run = jobs.give("stopped", "large.csv", SmallJobs.lines(0, MANY));
        jobs.awaitCommits(run, 2);
        server.stop();
        server.start();
        delivered("stopped", run, MANY);
        assertThat(server.get("/api/v1/runs/" + run + "/timeline").findValuesAsString("kind"))
                .contains("handed over", "went on", "finished");
    }

    /** The database ends before the application can record anything; a job asks for a person after a crash, which this is not. */
    @Test
    void a_reboot_in_which_all_end_at_once_is_a_non_event() throws Exception {
        jobs.adds("rebooted", "\"afterCrash\":\"offer\"");
        long run = jobs.give("rebooted", "large.csv", SmallJobs.lines(0, MANY));
        jobs.awaitCommits(run, 2);
        database.kill();
        server.stop();
        database.launch();
        server.start();
        delivered("rebooted", run, MANY);
    }

    @Test
    void a_second_application_on_the_same_database_leaves_the_runs_of_the_first_alone() throws Exception {
        jobs.adds("shared", GOES_ON);
        // Each commit waits for the gate, so that the run is still under way when the second one is up.
        database.execute(
                "warehouse",
                "CREATE TRIGGER gate BEFORE UPDATE ON ninepin_mark FOR EACH ROW"
                        + " DO GET_LOCK('gate', 300) + RELEASE_LOCK('gate')");
        try (Connection gate = database.connect("warehouse");
                Statement s = gate.createStatement();
                ServerProcess second = new ServerProcess(folder.resolve("two"), database)) {
            s.execute("DO GET_LOCK('gate', 0)");
            long run = jobs.give("shared", "large.csv", SmallJobs.lines(0, MANY));
            jobs.await(run, "RUNNING");
            second.start();
            assertThat(server.get("/api/v1/runs/" + run).path("state").asString())
                    .isEqualTo("RUNNING");
            s.execute("DO RELEASE_LOCK('gate')");
            delivered("shared", run, MANY);
        } finally {
            database.execute("warehouse", "DROP TRIGGER gate");
        }
    }

    /** Two runs take all the room there is; the third waits for its turn although its own job has nothing else to do. */
    @Test
    void a_run_that_was_stopped_before_its_turn_never_runs() throws Exception {
        for (String job : List.of("busy-one", "busy-two", "queued")) {
            jobs.adds(job, GOES_ON);
        }
        long one = jobs.give("busy-one", "first.csv", SmallJobs.lines(0, MANY));
        long two = jobs.give("busy-two", "second.csv", SmallJobs.lines(0, MANY));
        long queued = jobs.give("queued", "third.csv", SmallJobs.lines(0, 10));
        server.ask("POST", "/api/v1/runs/" + queued + "/stop", null);
        jobs.await(one, "FINISHED");
        jobs.await(two, "FINISHED");
        TimeUnit.SECONDS.sleep(3);
        assertThat(server.get("/api/v1/runs/" + queued).path("state").asString())
                .isEqualTo("STOPPED");
        assertThat(jobs.rows("queued")).isEqualTo("0|0");
        server.ask("POST", "/api/v1/runs/" + queued + "/restart", null);
        delivered("queued", queued, 10);
    }

    /** The insert of the event fails for a while, as it does on a full disk. */
    @Test
    void a_fault_while_the_end_is_recorded_loses_nothing() throws Exception {
        jobs.adds("recorded", GOES_ON);
        database.execute(
                "ninepin",
                "CREATE TRIGGER no_end BEFORE INSERT ON run_event FOR EACH ROW IF NEW.kind = 'finished' THEN"
                        + " SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'no room'; END IF");
        long run = jobs.give("recorded", "small.csv", SmallJobs.lines(0, 50));
        TimeUnit.SECONDS.sleep(4);
        assertThat(server.get("/api/v1/runs/" + run).path("state").asString()).isIn("RUNNING", "WAITING");
        database.execute("ninepin", "DROP TRIGGER no_end");
        delivered("recorded", run, 50);
    }

    @Test
    void a_broken_run_does_not_keep_the_application_from_starting() throws Exception {
        jobs.adds("broken", GOES_ON);
        jobs.adds("whole", GOES_ON);
        long broken = jobs.give("broken", "large.csv", SmallJobs.lines(0, MANY));
        long whole = jobs.give("whole", "large.csv", SmallJobs.lines(0, MANY));
        jobs.awaitCommits(broken, 1);
        server.kill();
        database.execute(
                "ninepin",
                "UPDATE job_version SET definition = '{\"name\":' WHERE job_id = (SELECT id FROM job WHERE name = 'broken')");
        server.start();
        delivered("whole", whole, MANY);
        assertThat(jobs.await(broken, "FAILED").path("message").asString()).contains("Ninepin itself failed");
    }

    @Test
    void a_database_that_is_away_for_a_while_is_a_non_event() throws Exception {
        jobs.adds("away", GOES_ON);
        long run = jobs.give("away", "large.csv", SmallJobs.lines(0, MANY));
        jobs.awaitCommits(run, 2);
        database.kill();
        HttpResponse<String> signIn =
                server.send("POST", "/api/v1/session", "{\"name\":\"admin\",\"password\":\"for the test\"}");
        assertThat(signIn.statusCode()).isEqualTo(503);
        assertThat(signIn.body()).contains("own database does not answer");
        HttpResponse<String> today = server.send("GET", "/api/v1/today", null);
        assertThat(today.statusCode()).isEqualTo(503);
        assertThat(today.body()).contains("own database does not answer").doesNotContain("SELECT");
        TimeUnit.SECONDS.sleep(3);
        database.launch();
        delivered("away", run, MANY);
        assertThat(server.get("/api/v1/runs/" + run).path("restarts").asInt())
                .as("nobody had to restart it")
                .isZero();
        assertThat(server.send("GET", "/api/v1/today", null).statusCode()).isEqualTo(200);
    }

    /** The target is another database than Ninepin's own: the run says what it waits for, and its job waits with it. */
    @Test
    void a_target_that_is_away_pauses_the_job_and_fails_no_file() throws Exception {
        try (MariaDbServer target = MariaDbServer.start()) {
            SmallJobs elsewhere = new SmallJobs(server, target, "elsewhere");
            elsewhere.adds("paused", GOES_ON);
            target.kill();
            long first = jobs.give("paused", "a.csv", SmallJobs.lines(0, 20));
            long second = jobs.give("paused", "b.csv", SmallJobs.lines(20, 40));
            JsonNode paused = jobs.await(first, "PAUSED");
            assertThat(paused.path("code").asString()).isIn("DBS-01", "JOB-20");
            assertThat(paused.path("resumeAt").asString()).isNotEmpty();
            assertThat(server.get("/api/v1/today").path("needs").toString()).contains("goes on by itself");
            assertThat(server.get("/api/v1/runs/" + second).path("state").asString())
                    .as("the next file of the job waits")
                    .isEqualTo("WAITING");
            target.launch();
            jobs.await(first, "FINISHED");
            jobs.await(second, "FINISHED");
            assertThat(elsewhere.rows("paused")).isEqualTo("40|40");
        }
    }

    /** No file of the application can grow for some seconds; several files are waiting. */
    @Test
    void a_full_disk_fails_no_file() throws Exception {
        jobs.adds("full", GOES_ON);
        SmallDisk.shell("prlimit --pid " + server.pid() + " --fsize=1:unlimited");
        try {
            // The files are put where they are picked up: an upload would need room itself.
            Path home = Files.createDirectories(folder.resolve("one/partners/full"));
            for (int n = 0; n < 3; n++) {
                // A reject, which is kept on the disk, comes with each.
                String file = new String(SmallJobs.lines(n * 100, n * 100 + 100), Quality.CHARSET);
                Files.writeString(home.resolve("f" + n + ".csv"), file + "bad;x;x;x;x;x\r\n", Quality.CHARSET);
            }
            int revision = server.get("/api/v1/jobs/full").path("revision").asInt();
            ObjectNode job = server.get("/api/v1/jobs/full").path("job").asObject();
            job.set(
                    "pickUp",
                    Definitions.mapper()
                            .readTree(
                                    "{\"root\":\"partners\",\"folder\":\"full\",\"pattern\":\"*.csv\",\"everySeconds\":1,"
                                            + "\"readySeconds\":0,\"sameFileAgain\":false}"));
            server.ask(
                    "PUT",
                    "/api/v1/jobs/full/draft",
                    "{\"revision\":" + revision + ",\"job\":" + job + ",\"layout\":"
                            + server.get("/api/v1/jobs/full").path("layout") + "}");
            server.ask("POST", "/api/v1/jobs/full/live", null);
            server.ask("PUT", "/api/v1/jobs/full/schedule?on=true", null);
            TimeUnit.SECONDS.sleep(5);
            assertThat(server.get("/api/v1/runs?job=full&state=FAILED")
                            .path("items")
                            .size())
                    .isZero();
        } finally {
            SmallDisk.shell("prlimit --pid " + server.pid() + " --fsize=unlimited:unlimited");
        }
        server.await(
                "/api/v1/runs?job=full&state=FINISHED", r -> r.path("items").size() == 3);
        assertThat(jobs.rows("full")).isEqualTo("300|300");
        for (int n = 0; n < 3; n++) {
            ServerProcess.awaitFile(folder.resolve("one/partners/full/.ninepin/full/done/f" + n + ".csv"));
        }
    }

    /** Only a run that delivered something may refuse another. */
    @Test
    void a_run_that_delivered_nothing_refuses_nobody() throws Exception {
        jobs.adds("nothing", GOES_ON);
        byte[] file = SmallJobs.lines(0, 500);
        try (Connection lock = database.connect("warehouse");
                Statement s = lock.createStatement()) {
            s.execute("LOCK TABLES nothing WRITE");
            long first = jobs.give("nothing", "first.csv", file);
            jobs.await(first, "RUNNING");
            TimeUnit.SECONDS.sleep(1);
            server.ask("POST", "/api/v1/runs/" + first + "/stop", null);
            assertThat(jobs.await(first, "STOPPED")
                            .path("tally")
                            .path("delivered")
                            .asInt())
                    .isZero();
            s.execute("UNLOCK TABLES");
        }
        long second = jobs.give("nothing", "second.csv", file);
        assertThat(jobs.await(second, "FINISHED")
                        .path("tally")
                        .path("delivered")
                        .asInt())
                .isEqualTo(500);
        long third = jobs.give("nothing", "third.csv", file);
        assertThat(jobs.await(third, "REFUSED").path("message").asString()).contains("was delivered by run " + second);
    }

    /** A file that a table refused whole is given again; what was refused first cannot arrive beside it. */
    @Test
    void rejects_of_a_file_that_another_run_has_delivered_are_not_sent_again() throws Exception {
        jobs.adds("refused", GOES_ON);
        database.execute("warehouse", "ALTER TABLE refused ADD CONSTRAINT shut CHECK (sample = 'none')");
        byte[] file = SmallJobs.lines(0, 3);
        long first = jobs.give("refused", "first.csv", file);
        assertThat(jobs.await(first, "FINISHED").path("tally").path("rejected").asInt())
                .isEqualTo(3);
        String one = "{\"keys\":[{\"run\":" + first + ",\"leg\":0,\"record\":1}]}";
        long again = server.ask("POST", "/api/v1/rejects/resubmit", one)
                .path("runs")
                .path(0)
                .asLong();
        assertThat(jobs.await(again, "FINISHED").path("tally").path("delivered").asInt())
                .isZero();

        database.execute("warehouse", "ALTER TABLE refused DROP CONSTRAINT shut");
        long second = jobs.give("refused", "second.csv", file);
        jobs.await(second, "FINISHED");
        assertThat(jobs.rows("refused")).isEqualTo("3|3");
        for (String reject : List.of(
                "{\"keys\":[{\"run\":" + first + ",\"leg\":0,\"record\":2}]}",
                "{\"keys\":[{\"run\":" + again + ",\"leg\":0,\"record\":1}]}")) {
            HttpResponse<String> answer = server.send("POST", "/api/v1/rejects/resubmit", reject);
            assertThat(answer.statusCode()).as(answer.body()).isEqualTo(409);
            assertThat(answer.body()).contains("The file of run " + first + " was delivered by run " + second);
        }
        assertThat(jobs.rows("refused")).isEqualTo("3|3");
    }

    /** The other way round: what was corrected and sent again counts as delivered. */
    @Test
    void a_file_of_which_rejects_were_sent_again_is_not_delivered_by_another_run() throws Exception {
        jobs.adds("corrected", GOES_ON);
        database.execute("warehouse", "ALTER TABLE corrected ADD CONSTRAINT shut CHECK (sample = 'none')");
        byte[] file = SmallJobs.lines(0, 3);
        long first = jobs.give("corrected", "first.csv", file);
        jobs.await(first, "FINISHED");
        database.execute("warehouse", "ALTER TABLE corrected DROP CONSTRAINT shut");
        long child = server.ask(
                        "POST",
                        "/api/v1/rejects/resubmit",
                        "{\"keys\":[{\"run\":" + first + ",\"leg\":0,\"record\":1}]}")
                .path("runs")
                .path(0)
                .asLong();
        jobs.await(child, "FINISHED");
        long second = jobs.give("corrected", "second.csv", file);
        assertThat(jobs.await(second, "REFUSED").path("message").asString()).contains("was delivered by run " + first);
        assertThat(jobs.rows("corrected")).isEqualTo("1|1");
    }

    /** A run that fails for a fault of Ninepin keeps its file; nobody else takes it at the next start. */
    @Test
    void a_failed_run_keeps_its_file_and_can_be_restarted() throws Exception {
        jobs.adds(
                "kept",
                GOES_ON
                        + ",\"pickUp\":{\"root\":\"partners\",\"folder\":\"kept\",\"pattern\":\"*.csv\",\"everySeconds\":1,"
                        + "\"readySeconds\":0,\"sameFileAgain\":false}");
        Path inbox = Files.createDirectories(folder.resolve("one/partners/kept"));
        server.ask("PUT", "/api/v1/jobs/kept/schedule?on=true", null);
        String of = " WHERE job_id = (SELECT id FROM job WHERE name = 'kept')";
        database.execute(
                "ninepin",
                "CREATE TABLE aside SELECT * FROM job_version" + of,
                "CREATE TRIGGER broken BEFORE INSERT ON run FOR EACH ROW IF NEW.file_name = 'kept.csv' THEN"
                        + " UPDATE job_version SET definition = '{\"name\":' WHERE job_id = NEW.job_id; END IF");
        Files.write(inbox.resolve("kept.csv"), SmallJobs.lines(0, 70));
        JsonNode failed = server.await(
                        "/api/v1/runs?job=kept",
                        r -> r.path("items").path(0).path("state").asString("").equals("FAILED"))
                .path("items")
                .get(0);
        long run = failed.path("id").asLong();
        database.execute(
                "ninepin",
                "DROP TRIGGER broken",
                "UPDATE job_version SET definition = (SELECT definition FROM aside)" + of,
                "DROP TABLE aside");
        server.kill();
        server.start();
        TimeUnit.SECONDS.sleep(3);
        assertThat(server.get("/api/v1/runs?job=kept").path("items").size()).isEqualTo(1);
        server.ask("POST", "/api/v1/runs/" + run + "/restart", null);
        delivered("kept", run, 70);
    }

    /** A job that delivers the same to tables of its name in the warehouse and in another database. */
    private static void twoPlaces(String name, String other, String columns) throws Exception {
        database.database(other);
        jobs.connect(other, other);
        StringBuilder deliveries = new StringBuilder();
        for (String place : List.of("warehouse", other)) {
            database.execute(place, "CREATE TABLE " + name + " " + columns);
            deliveries
                    .append(deliveries.isEmpty() ? "" : ",")
                    .append(
                            """
                            {"to":{"connection":"%s","table":"%s","mode":"add"},"shaping":[
                             {"target":"sample","take":{"from":"field","field":"Sample"}},
                             {"target":"farm","take":{"from":"field","field":"Farm"}}]}
                            """
                                    .formatted(place, name));
        }
        ObjectNode layout = Definitions.mapper()
                .readTree(Definitions.write(Quality.layout()))
                .asObject();
        layout.put("name", name);
        jobs.live(
                name,
                Definitions.mapper()
                        .readTree("{\"name\":\"" + name + "\",\"layout\":\"" + name + "\",\"deliveries\":[" + deliveries
                                + "]}"),
                layout);
    }

    /** Two places refuse each record: a page of rejects may end between the two of one record. */
    @Test
    void every_reject_is_on_some_page() throws Exception {
        twoPlaces("refusing", "annex", "(sample VARCHAR(12) CHECK (sample NOT LIKE 'S%'), farm INT)");
        long run = jobs.give("refusing", "refused.csv", SmallJobs.lines(0, 151));
        jobs.await(run, "FINISHED");
        for (String of : List.of("/api/v1/runs/" + run + "/rejects?most=101", "/api/v1/rejects?most=101&run=" + run)) {
            List<String> all = new ArrayList<>();
            String after = "";
            do {
                JsonNode page = server.get(of + "&after=" + after);
                page.path("items")
                        .forEach(r -> all.add(r.path("record") + "/"
                                + r.path("place").asString(r.path("leg").asString(""))));
                after = page.path("next").asString(null);
            } while (after != null);
            assertThat(all).as(of).hasSize(302).doesNotHaveDuplicates();
        }
        assertThat(server.send("GET", "/api/v1/rejects?after=elsewhere", null).statusCode())
                .isEqualTo(422);
    }

    /** Killed while the second of two places is taken back: the first is not taken back again, and the counts are whole. */
    @Test
    void taking_back_goes_on_where_it_was_broken_off() throws Exception {
        twoPlaces("undone", "store", "(sample VARCHAR(12) PRIMARY KEY, farm INT)");
        long run = jobs.give("undone", "undone.csv", SmallJobs.lines(0, 300));
        jobs.await(run, "FINISHED");
        database.execute("store", "CREATE TRIGGER slow BEFORE DELETE ON undone FOR EACH ROW DO SLEEP(0.1)");
        long undo = server.ask("POST", "/api/v1/runs/" + run + "/take-back", null)
                .path("id")
                .asLong();
        jobs.await(undo, "RUNNING");
        while (!database.rows("warehouse", "SELECT COUNT(*) FROM undone").get(0).equals("0")) {
            JsonNode underWay = server.get("/api/v1/runs/" + undo);
            assertThat(underWay.path("state").asString()).as("%s", underWay).isEqualTo("RUNNING");
            TimeUnit.MILLISECONDS.sleep(20);
        }
        assertThat(server.send("POST", "/api/v1/runs/" + run + "/restart", null).statusCode())
                .as("a run that is being taken back cannot be restarted")
                .isEqualTo(409);
        server.kill();
        for (String id : database.rows(
                "store",
                "SELECT id FROM information_schema.processlist WHERE db = 'store'" + " AND id <> CONNECTION_ID()")) {
            database.execute("mysql", "KILL " + id);
        }
        database.execute("store", "DROP TRIGGER slow");
        server.start();
        jobs.await(undo, "FINISHED");
        assertThat(server.get("/api/v1/runs/" + run).path("state").asString()).isEqualTo("TAKEN_BACK");
        assertThat(server.get("/api/v1/runs/" + undo + "/taken-back")
                        .valueStream()
                        .map(o -> o.path("removed").asInt())
                        .toList())
                .isEqualTo(List.of(300, 300));
        assertThat(database.rows("store", "SELECT COUNT(*) FROM undone")).containsExactly("0");
        server.ask("POST", "/api/v1/runs/" + run + "/restart", null);
        jobs.await(run, "FINISHED");
        assertThat(database.rows("store", "SELECT COUNT(*) FROM undone")).containsExactly("300");
    }
}
