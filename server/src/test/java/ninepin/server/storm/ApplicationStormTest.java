package ninepin.server.storm;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.SmallDisk;
import ninepin.server.testing.Storm;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/**
 * The application with all jobs of the demo in a storm: killed, stopped, frozen and started again, its databases killed, away and
 * silent, Farm Accounts killed and failing, its disk full, runs stopped and restarted by people meanwhile. What stands in the end
 * is what a calm day leaves, nothing waits for a hand that no person would know to lend, and what the screens said was true.
 */
class ApplicationStormTest {

    private static final int TIMES = Integer.getInteger("ninepin.storm.files", 3 * Storm.times());

    @TempDir
    Path folder;

    private final Object application = new Object();
    private final Object server = new Object();
    private final Object vouchers = new Object();

    @Test
    @Timeout(value = 12, unit = TimeUnit.HOURS)
    void whatever_happens_the_end_is_that_of_a_calm_day() throws Exception {
        try (MariaDbServer database = MariaDbServer.start()) {
            Map<String, String> calm;
            try (Dairy dairy = new Dairy(folder, database, "calm")) {
                dairy.bringRegister();
                dairy.bringFiles(TIMES);
                dairy.awaitQuiet(100 * TIMES);
                dairy.askStatement();
                dairy.awaitQuiet(60);
                calm = dairy.outcome();
            }
            assertThat(calm.keySet()).as("what a calm day leaves").hasSizeGreaterThan(30);
            assertThat(calm.get("table voucher")).doesNotStartWith("0|");
            assertThat(calm.keySet()).anyMatch(k -> k.startsWith("statement "));

            try (Dairy dairy = new Dairy(folder, database, "stormy")) {
                dairy.bringRegister();
                dairy.accounts.misbehave("slow=2&fail=10&busy=0&refuse=0");
                dairy.bringFiles(TIMES);
                Watcher watcher = new Watcher(dairy);
                watcher.start();
                storm(dairy, database).rage(() -> isOver(dairy), 2_500);
                dairy.accounts.misbehave("slow=0&fail=0&busy=0&refuse=0");
                come(dairy);
                ask(dairy);
                come(dairy);
                watcher.end();
                assertThat(differences(calm, dairy.outcome())).isEmpty();
            }
        }
    }

    private static List<String> differences(Map<String, String> calm, Map<String, String> stormy) {
        return Stream.concat(calm.keySet().stream(), stormy.keySet().stream())
                .distinct()
                .filter(k -> !Objects.equals(calm.get(k), stormy.get(k)))
                .map(k -> "\n" + k + "\n  calm   " + calm.get(k) + "\n  stormy " + stormy.get(k))
                .toList();
    }

    /** It goes on by itself, but for what a person has stopped or is asked to restart. */
    private static void come(Dairy dairy) throws Exception {
        for (int i = 0; i < 5; i++) {
            dairy.awaitQuiet(400 + 10 * TIMES);
            dairy.restartWhatWaitsForAPerson();
        }
        dairy.awaitQuiet(400);
    }

    private static void ask(Dairy dairy) throws Exception {
        dairy.askStatement();
    }

    private static boolean isOver(Dairy dairy) {
        try {
            return dairy.isQuiet();
        } catch (Exception e) {
            return false;
        }
    }

    private Storm storm(Dairy dairy, MariaDbServer database) {
        return new Storm("application", Duration.ofMinutes(3))
                .event("application killed", 4, random -> restart(dairy, random, true))
                .event("application stopped in order", 3, random -> restart(dairy, random, false))
                .event("application killed while it starts", 2, random -> killWhileItStarts(dairy, random))
                .event("application frozen", 2, random -> freeze(dairy, random))
                .event("database killed", 3, random -> killDatabase(database, random, 300))
                .event("database away", 1, random -> killDatabase(database, random, 12_000))
                .event("database silent", 1, random -> silence(database, random))
                .event("Farm Accounts killed", 2, random -> killAccounts(dairy, random))
                .event("disk full", 2, random -> fillDisk(dairy, random))
                .event("a person stops a run", 3, random -> person(dairy, random, "RUNNING", "stop"))
                .event("a person stops a waiting run", 1, random -> person(dairy, random, "WAITING", "stop"))
                .event("a person restarts a run", 3, random -> person(dairy, random, "STOPPED", "restart"))
                .event(
                        "a person restarts an interrupted run",
                        3,
                        random -> person(dairy, random, "INTERRUPTED", "restart"));
    }

    private void restart(Dairy dairy, Random random, boolean kill) throws Exception {
        synchronized (application) {
            if (kill) {
                dairy.app.kill();
            } else {
                dairy.app.stop();
            }
            TimeUnit.MILLISECONDS.sleep(random.nextInt(300));
            start(dairy);
        }
    }

    /** It may end at its start while the database is away; whoever keeps it up starts it again. */
    private static void start(Dairy dairy) throws Exception {
        for (int i = 0; ; i++) {
            try {
                dairy.app.launch();
                dairy.app.awaitAnswer(90);
                return;
            } catch (IllegalStateException e) {
                if (i == 5) {
                    throw e;
                }
                if (dairy.app.isAlive()) {
                    dairy.app.kill();
                }
                TimeUnit.SECONDS.sleep(2);
            }
        }
    }

    private void killWhileItStarts(Dairy dairy, Random random) throws Exception {
        synchronized (application) {
            dairy.app.kill();
            dairy.app.launch();
            TimeUnit.MILLISECONDS.sleep(1_000 + random.nextInt(8_000));
            dairy.app.kill();
            start(dairy);
        }
    }

    private void freeze(Dairy dairy, Random random) throws Exception {
        synchronized (application) {
            SmallDisk.shell("kill -STOP " + dairy.app.pid());
            TimeUnit.MILLISECONDS.sleep(500 + random.nextInt(5_000));
            SmallDisk.shell("kill -CONT " + dairy.app.pid());
        }
    }

    private void killDatabase(MariaDbServer database, Random random, int awayMillis) throws Exception {
        synchronized (server) {
            database.kill();
            TimeUnit.MILLISECONDS.sleep(awayMillis / 2 + random.nextInt(awayMillis / 2));
            database.launch();
        }
    }

    private void silence(MariaDbServer database, Random random) throws Exception {
        synchronized (server) {
            database.freeze();
            TimeUnit.MILLISECONDS.sleep(1_000 + random.nextInt(9_000));
            database.thaw();
        }
    }

    private void killAccounts(Dairy dairy, Random random) throws Exception {
        synchronized (vouchers) {
            dairy.accounts.kill();
            TimeUnit.MILLISECONDS.sleep(random.nextInt(2_000));
            dairy.accounts.launch();
            dairy.accounts.misbehave("slow=2&fail=10&busy=0&refuse=0");
        }
    }

    /** No file of the application can grow for a while. */
    private void fillDisk(Dairy dairy, Random random) throws Exception {
        synchronized (application) {
            String limit = "prlimit --pid " + dairy.app.pid() + " --fsize=";
            SmallDisk.shell(limit + "1:unlimited");
            TimeUnit.MILLISECONDS.sleep(500 + random.nextInt(4_000));
            SmallDisk.shell(limit + "unlimited:unlimited");
        }
    }

    /** What a person asks for while the application may be away is asked in vain. */
    private static void person(Dairy dairy, Random random, String state, String what) {
        try {
            List<Long> runs = dairy.app
                    .get("/api/v1/runs?state=" + state)
                    .path("items")
                    .valueStream()
                    .map(r -> r.path("id").asLong())
                    .toList();
            if (!runs.isEmpty()) {
                long id = runs.get(random.nextInt(runs.size()));
                dairy.app.send("POST", "/api/v1/runs/" + id + "/" + what, null);
            }
        } catch (Exception e) {
            // It did not answer.
        }
    }

    /** Looks at what the application says all the while. */
    private static final class Watcher extends Thread {
        private final Dairy dairy;
        private final java.util.Map<Long, JsonNode> last = new java.util.HashMap<>();
        private volatile boolean over;
        private volatile String lie;

        Watcher(Dairy dairy) {
            super("watcher");
            this.dairy = dairy;
            setDaemon(true);
        }

        @Override
        public void run() {
            while (!over && lie == null) {
                try {
                    dairy.ask("GET", "/api/v1/runs?most=200", null)
                            .path("items")
                            .forEach(this::look);
                    TimeUnit.MILLISECONDS.sleep(250);
                } catch (Exception e) {
                    // It does not answer, or says that its database is away.
                }
            }
        }

        private void look(JsonNode run) {
            long id = run.path("id").asLong();
            JsonNode before = last.put(id, run);
            if (!run.path("balances").asBoolean()) {
                lie = "the tally does not balance: " + run;
            }
            if (before == null) {
                return;
            }
            String was = Dairy.state(before);
            String is = Dairy.state(run);
            if (List.of("FINISHED", "REFUSED").contains(was) && !is.equals(was)) {
                lie = "a run that had ended is " + is + ": " + before + " then " + run;
            }
            // While it waits or works, what is shown comes from marks, which never go back.
            boolean ends = is.equals("FINISHED") || is.equals("STOPPED") || is.equals("INTERRUPTED");
            if (ends && before.path("commits").asLong() > run.path("commits").asLong()) {
                lie = "commits went back: " + before + " then " + run;
            }
        }

        void end() throws InterruptedException {
            over = true;
            join(10_000);
            assertThat(lie).as("what the screens said").isNull();
        }
    }
}
