package ninepin.server.storm;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import ninepin.core.testing.MariaDbServer;
import ninepin.server.testing.ServerProcess;
import ninepin.server.testing.SmallJobs;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import tools.jackson.databind.JsonNode;

/**
 * The application is killed at each step that a file goes: a trigger of the database holds the statement of the step, and with it
 * the application, which is killed there. The statement of the step may come through or not; that of the step before did.
 */
@Timeout(value = 20, unit = TimeUnit.MINUTES)
class NamedInstantsTest {

    private static final int LINES = 30_000;
    private static final int HELD_SECONDS = 3;

    /** A step, and the statement that makes it. */
    enum Instant {
        CLAIM_ON_RECORD("ninepin", "claim", "BEFORE INSERT", "TRUE"),
        RUN_ON_RECORD("ninepin", "run", "BEFORE INSERT", "TRUE"),
        CLAIM_OVER("ninepin", "claim", "BEFORE DELETE", "TRUE"),
        TAKEN_UP("ninepin", "run", "BEFORE UPDATE", "OLD.state = 'WAITING' AND NEW.state = 'RUNNING'"),
        FIRST_COMMIT("warehouse", "ninepin_mark", "BEFORE UPDATE", "NEW.commits = 1"),
        LAST_COMMIT("warehouse", "ninepin_mark", "BEFORE UPDATE", "NEW.complete = 1 AND OLD.complete = 0"),
        END_ON_RECORD("ninepin", "run", "BEFORE UPDATE", "OLD.state = 'RUNNING' AND NEW.state = 'FINISHED'"),
        FILE_MOVED("ninepin", "run", "BEFORE UPDATE", "OLD.state = 'FINISHED' AND NEW.moving_to IS NULL");

        private final String database;
        private final String table;
        private final String when;
        private final String condition;

        Instant(String database, String table, String when, String condition) {
            this.database = database;
            this.table = table;
            this.when = when;
            this.condition = condition;
        }
    }

    @TempDir
    static Path folder;

    private static MariaDbServer database;
    private static ServerProcess server;
    private static SmallJobs jobs;

    @BeforeAll
    static void start() throws Exception {
        database = MariaDbServer.start();
        server = new ServerProcess(folder, database).set("NINEPIN_PAUSESECONDS", "1");
        server.start();
        jobs = new SmallJobs(server, database, "warehouse");
        // Makes the table of marks.
        jobs.adds("first", "");
        jobs.await(jobs.give("first", "first.csv", SmallJobs.lines(0, 1)), "FINISHED");
    }

    @AfterAll
    static void end() throws InterruptedException {
        server.close();
        database.close();
    }

    @ParameterizedTest
    @EnumSource
    void killed_at_a_step_the_file_is_delivered_once_and_lies_in_done(Instant instant) throws Exception {
        String name = instant.name().toLowerCase().replace('_', '-');
        jobs.adds(
                name,
                "\"afterCrash\":\"restart\",\"pickUp\":{\"root\":\"partners\",\"folder\":\"" + name
                        + "\",\"pattern\":\"*.csv\",\"everySeconds\":1,\"readySeconds\":0,\"sameFileAgain\":false}");
        Path inbox = Files.createDirectories(folder.resolve("partners").resolve(name));
        hold(instant);
        server.ask("PUT", "/api/v1/jobs/" + name + "/schedule?on=true", null);
        Files.write(folder.resolve("part"), SmallJobs.lines(0, LINES));
        Files.move(folder.resolve("part"), inbox.resolve("file.csv"));
        awaitHeld();
        server.kill();
        // The statement that was held comes to its end, whether its transaction does or not.
        TimeUnit.SECONDS.sleep(HELD_SECONDS);
        database.execute(instant.database, "DROP TRIGGER held");
        server.start();

        JsonNode done = server.await(
                        "/api/v1/runs?job=" + name,
                        r -> r.path("items").size() > 0
                                && r.path("items")
                                        .get(0)
                                        .path("state")
                                        .asString()
                                        .equals("FINISHED"))
                .path("items")
                .get(0);
        assertThat(done.path("tally").path("delivered").asInt()).isEqualTo(LINES);
        assertThat(jobs.rows(name)).isEqualTo(LINES + "|" + LINES);
        assertThat(server.get("/api/v1/runs?job=" + name).path("items").size()).isEqualTo(1);
        Path home = inbox.resolve(".ninepin").resolve(name);
        for (int i = 0; i < 100 && !names(home.resolve("working")).isEmpty(); i++) {
            TimeUnit.MILLISECONDS.sleep(100);
        }
        assertThat(names(home.resolve("done"))).containsExactly("file.csv");
        assertThat(names(home.resolve("working"))).isEmpty();
        assertThat(names(home.resolve("failed"))).isEmpty();
        assertThat(Files.exists(inbox.resolve("file.csv"))).isFalse();
    }

    private static void hold(Instant instant) {
        database.execute(
                instant.database,
                "CREATE TRIGGER held " + instant.when + " ON " + instant.table + " FOR EACH ROW IF " + instant.condition
                        + " THEN DO SLEEP(" + HELD_SECONDS + "); END IF");
    }

    private static void awaitHeld() throws InterruptedException {
        for (int i = 0; i < 600; i++) {
            boolean held = !database.rows(
                            "mysql", "SELECT 1 FROM information_schema.processlist WHERE state = 'User sleep'")
                    .isEmpty();
            if (held) {
                return;
            }
            TimeUnit.MILLISECONDS.sleep(50);
        }
        throw new IllegalStateException("The step was never made");
    }

    private static List<String> names(Path of) throws java.io.IOException {
        if (!Files.isDirectory(of)) {
            return List.of();
        }
        try (Stream<Path> all = Files.list(of)) {
            return all.map(p -> p.getFileName().toString()).toList();
        }
    }
}
