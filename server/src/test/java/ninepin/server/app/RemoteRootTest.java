package ninepin.server.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import ninepin.server.testing.ServerProcess;
import ninepin.server.testing.SmallWorld;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** The application sends files to a root on another machine, whose receiver takes each the moment it is there. */
class RemoteRootTest {

    private static final int FILES = 150;

    @TempDir
    static Path folder;

    private static MariaDbServer database;
    private static ServerProcess server;
    private static Path share;

    @BeforeAll
    static void start() throws Exception {
        share = folder.resolve("share");
        database = MariaDbServer.start();
        server = new ServerProcess(folder, database)
                .set("NINEPIN_ROOTS_SHARE", share.toString())
                .set("NINEPIN_REMOTEROOTS", "share")
                .set("NINEPIN_PAUSESECONDS", "1");
        server.start();
    }

    @AfterAll
    static void stop() throws Exception {
        server.close();
        database.close();
    }

    /** Takes every file that has a name, as the receiver's own job would. */
    private static final class Receiver extends Thread {
        private final ConcurrentLinkedQueue<String> taken = new ConcurrentLinkedQueue<>();

        Receiver() {
            super("receiver");
            setDaemon(true);
        }

        @Override
        public void run() {
            while (!isInterrupted()) {
                try (Stream<Path> all = Files.list(share.resolve("in"))) {
                    for (Path file :
                            all.filter(f -> f.toString().endsWith(".csv")).toList()) {
                        taken.add(file.getFileName() + "="
                                + Files.readString(file).replace("\r\n", "\n"));
                        Files.delete(file);
                    }
                } catch (IOException e) {
                    // The folder is not there yet.
                }
            }
        }
    }

    private static long give(String job) throws Exception {
        ObjectNode draft = Definitions.mapper().createObjectNode();
        draft.set("job", SmallWorld.job(job, SmallWorld.FILES_TO_SHARE));
        draft.set("layout", SmallWorld.layout(job));
        server.ask("POST", "/api/v1/jobs", draft.put("revision", 0).toString());
        server.ask("POST", "/api/v1/jobs/" + job + "/live", null);
        return server.upload("/api/v1/jobs/" + job + "/runs", "results.csv", SmallWorld.lines(0, FILES, 0))
                .path("id")
                .asLong();
    }

    @Test
    void each_file_is_taken_once_however_often_the_application_is_killed() throws Exception {
        long run = give("to-share");
        server.await("/api/v1/runs/" + run, r -> r.path("state").asString().equals("FINISHED"));
        JsonNode need = server.await("/api/v1/today", t -> !t.path("needs").isEmpty())
                .path("needs")
                .get(0);
        assertThat(need.path("kind").asString()).isEqualTo("unsent");
        assertThat(need.path("text").asString())
                .isEqualTo(
                        FILES + " files wait to be sent to share/in. The root folder share is on another machine and is"
                                + " not there now.");
        JsonNode first = server.get("/api/v1/runs/" + run + "/written").get(0);
        assertThat(first.path("sending").path("state").asString()).isEqualTo("waiting");
        assertThat(first.path("there").asBoolean())
                .as("it can be looked at here")
                .isTrue();
        assertThat(server.bytes("/api/v1/runs/" + run + "/written/0/1"))
                .asString()
                .startsWith("farm;sample");

        Receiver receiver = new Receiver();
        receiver.start();
        Files.createDirectories(share);
        server.ask("POST", "/api/v1/runs/" + run + "/written/send", null);
        for (int part = 1; part <= 2; part++) {
            awaitTaken(receiver, part * FILES / 5);
            server.kill();
            server.start();
        }
        awaitTaken(receiver, FILES);
        server.await("/api/v1/runs/" + run + "/written", files -> files.valueStream()
                .allMatch(f -> f.path("sending").path("state").asString().equals("sent")));
        receiver.interrupt();
        receiver.join();
        assertThat(receiver.taken)
                .containsExactlyInAnyOrderElementsOf(IntStream.range(0, FILES)
                        .mapToObj(n -> "farm_" + (n + 1) + ".csv=farm;sample\n" + (n + 1) + ";s" + n + "\n")
                        .toList());
        try (Stream<Path> left = Files.list(share.resolve("in"))) {
            assertThat(left).as("nothing half sent is left").isEmpty();
        }
        assertThat(server.get("/api/v1/today").path("needs")).isEmpty();
        assertThat(server.get("/api/v1/runs/" + run + "/timeline").findValuesAsString("kind"))
                .containsSubsequence(List.of("finished", "sent"));
    }

    private static void awaitTaken(Receiver receiver, int files) throws InterruptedException {
        for (int i = 0; i < 3000 && receiver.taken.size() < files; i++) {
            TimeUnit.MILLISECONDS.sleep(20);
        }
        assertThat(receiver.taken.size()).isGreaterThanOrEqualTo(files);
    }
}
