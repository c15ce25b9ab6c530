package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.database.DatabaseSequences;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.destination.tables.TablesSupport;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.PostgreSqlServer;
import ninepin.core.testing.Quality;
import ninepin.core.testing.TestDatabase;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** A run belongs to whoever took it up last; nobody else can commit to it. */
class TakingUpTest {

    private static final int LINES = 4_000;

    @TempDir
    Path folder;

    static Stream<Arguments> databases() {
        return Stream.of(
                Arguments.of("mariadb", MariaDbServer.shared()), Arguments.of("postgresql", PostgreSqlServer.shared()));
    }

    /**
     * @param keyed whether the table refuses a row that is there already
     */
    private RunFixture fixture(TestDatabase server, boolean keyed) throws Exception {
        RunFixture f = new RunFixture(server, folder, "taking_up", Quality.job(Mode.ADD, null));
        server.execute(
                "taking_up", Quality.TABLE.replace(" ENGINE=InnoDB", "").replace(", PRIMARY KEY (sample, test)", ""));
        StringBuilder file = new StringBuilder(Quality.HEADER);
        IntStream.rangeClosed(1, LINES).forEach(n -> file.append(Quality.line(n)));
        return f.file(file.toString());
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void two_processes_that_start_one_run_at_once_deliver_its_file_once(String name, TestDatabase server)
            throws Exception {
        RunFixture one = fixture(server, false);
        RunFixture two = new RunFixture(one);
        CompletableFuture<RunOutcome> other = CompletableFuture.supplyAsync(two::run);
        RunOutcome first = one.run();
        RunOutcome second = other.join();
        assertThat(one.rows("SELECT COUNT(*), COUNT(DISTINCT sample) FROM quality_result"))
                .as("%s and %s", first, second)
                .containsExactly(LINES + "|" + LINES);
        assertThat(List.of(first.state(), second.state())).contains(RunOutcome.State.FINISHED);
    }

    /** Whoever had the run before is stopped in the middle, with rows that are not committed and lock those of the other. */
    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void who_had_a_run_before_commits_nothing_more(String name, TestDatabase server) throws Exception {
        RunFixture one = fixture(server, true);
        RunFixture two = new RunFixture(one);
        one.as = TakeUp.ofOwner(1);
        two.as = TakeUp.ofOwner(2);
        CountDownLatch asleep = new CountDownLatch(1);
        CountDownLatch wakes = new CountDownLatch(1);
        one.listener = new RunListener() {
            @Override
            public void committed(Mark mark) {
                if (mark.commits() == 7) {
                    asleep.countDown();
                    await(wakes);
                }
            }
        };
        CompletableFuture<RunOutcome> first = CompletableFuture.supplyAsync(one::run);
        await(asleep);
        RunOutcome second = two.run();
        wakes.countDown();
        assertThat(second.state()).as("%s", second).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(first.join().state()).isEqualTo(RunOutcome.State.FAILED);
        assertThat(first.join().code()).isIn("RUN-04", "DBS-01");
        assertThat(one.rows("SELECT COUNT(*), COUNT(DISTINCT sample) FROM quality_result"))
                .containsExactly(LINES + "|" + LINES);
        assertThat(second.tally().delivered()).isEqualTo(LINES);

        RunOutcome late = one.run();
        assertThat(late.code()).as("an owner whose lease is over").isEqualTo("RUN-04");
    }

    private static void await(CountDownLatch latch) {
        try {
            assertThat(latch.await(2, TimeUnit.MINUTES)).isTrue();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** A mark of nothing would say that it has begun to deliver. */
    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void a_run_that_stops_before_its_first_record_leaves_no_mark(String name, TestDatabase server) throws Exception {
        RunFixture f = fixture(server, true);
        f.listener = new RunListener() {
            @Override
            public void started(Mark mark, long size) {
                f.stop.request();
            }
        };
        RunOutcome stopped = f.run();
        assertThat(stopped.state()).isEqualTo(RunOutcome.State.STOPPED);
        assertThat(stopped.mark().commits()).isZero();
        try (DatabaseTarget target = new DatabaseTarget(f.database, TablesSupport.loadsOf(f.job), "test-7")) {
            assertThat(target.look()).isEmpty();
        }
    }

    /** What is only looked at stays as it is, whoever has the run. */
    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void looking_at_a_mark_changes_nothing(String name, TestDatabase server) throws Exception {
        RunFixture f = fixture(server, true);
        try (DatabaseTarget target = new DatabaseTarget(f.database, TablesSupport.loadsOf(f.job), "test-7")) {
            assertThat(target.look()).isEmpty();
        }
        assertThat(server.rows(
                        "taking_up",
                        "SELECT COUNT(*) FROM information_schema.tables WHERE table_name = 'ninepin_mark' AND table_schema IN ('taking_up', '"
                                + (name.equals("mariadb") ? "taking_up" : "public") + "')"))
                .containsExactly("0");
        f.run();
        List<String> before = f.rows("SELECT * FROM ninepin_mark");
        try (DatabaseTarget target = new DatabaseTarget(f.database, TablesSupport.loadsOf(f.job), "test-7")) {
            assertThat(target.look().orElseThrow().complete()).isTrue();
        }
        assertThat(f.rows("SELECT * FROM ninepin_mark")).isEqualTo(before);
    }

    @Test
    void deliveries_that_run_side_by_side_draw_no_number_twice() throws Exception {
        Path unused = Files.createDirectories(folder.resolve("x"));
        RunFixture f = new RunFixture(unused, "side_by_side", Quality.job(Mode.ADD, null));
        ExecutorService threads = Executors.newFixedThreadPool(4);
        try (DatabaseSequences sequences = new DatabaseSequences(f.database)) {
            List<Future<List<Long>>> drawn = new ArrayList<>();
            for (int t = 0; t < 4; t++) {
                drawn.add(threads.submit(() -> IntStream.range(0, 20_000)
                        .mapToObj(i -> sequences.draw("voucher", 1))
                        .toList()));
            }
            Set<Long> all = new HashSet<>();
            for (Future<List<Long>> numbers : drawn) {
                all.addAll(numbers.get());
            }
            assertThat(all).hasSize(80_000);
        } finally {
            threads.shutdown();
        }
    }
}
