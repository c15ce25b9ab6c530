package ninepin.server.pickup;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ninepin.core.pickup.From;
import ninepin.core.pickup.Settlement;
import ninepin.doors.source.Fetched;
import ninepin.doors.source.Item;
import ninepin.doors.source.Source;
import ninepin.doors.source.SourceException;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.runs.Claims;
import ninepin.server.runs.FileHome;
import ninepin.server.runs.RunMapper;
import ninepin.server.runs.RunMapper.RunRow;
import ninepin.server.testing.Services;
import ninepin.server.testing.SmallWorld;
import ninepin.server.transfer.Transfers;
import org.assertj.core.api.ThrowableAssert.ThrowingCallable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What is found at a source becomes one run each, whoever looks at the same moment and wherever taking it was broken off. */
class PickUpsTest {

    @TempDir
    static Path folder;

    private static Services services;
    private static SmallWorld world;
    private static RunMapper runs;
    private static PickUps pickUps;
    private static Claims claims;

    @BeforeAll
    static void start() throws IOException {
        services = Services.start(folder, "pick_ups_test");
        world = new SmallWorld(services);
        runs = services.get(RunMapper.class);
        pickUps = services.get(PickUps.class);
        claims = services.get(Claims.class);
    }

    @AfterAll
    static void stop() {
        services.close();
    }

    private static JobRow live(String job, String in) throws IOException {
        Files.createDirectories(folder.resolve("files").resolve(in));
        return world.live(
                job,
                "\"pickUp\":{\"from\":{\"kind\":\"folder\",\"root\":\"files\",\"folder\":\"" + in
                        + "\",\"pattern\":\"*.csv\"},\"schedule\":{\"everySeconds\":86400}}");
    }

    private static Path file(String in, String name, int first) throws IOException {
        Path file = folder.resolve("files").resolve(in).resolve(name);
        Path part = Files.write(folder.resolve("part"), SmallWorld.lines(first, first + 5, 0));
        Files.setLastModifiedTime(part, FileTime.from(Instant.ofEpochSecond(1_000_000 + first)));
        return Files.move(part, file);
    }

    private static List<String> open() {
        return services.database()
                .rows(services.tables(), "SELECT state, file_name FROM claim WHERE state <> 'LEFT' ORDER BY id");
    }

    private static List<RunRow> runsOf(String job) {
        return runs.page(job, null, null, 100);
    }

    @Test
    void files_become_runs_in_their_order_and_no_claim_is_left() throws Exception {
        live("in-order", "in-order");
        for (int n = 0; n < 20; n++) {
            file("in-order", "stock_" + (99 - n) + ".csv", 10 * n);
        }
        pickUps.look("in-order");
        List<RunRow> made = Services.await(() -> runsOf("in-order"), r -> r.size() == 20);
        assertThat(made)
                .extracting(RunRow::fileName)
                .containsExactlyElementsOf(IntStream.range(0, 20)
                        .mapToObj(n -> "stock_" + (80 + n) + ".csv")
                        .toList());
        Services.await(PickUpsTest::open, List::isEmpty);
        for (RunRow run : made) {
            world.await(run.id(), "FINISHED");
        }
        assertThat(world.rows("in-order")).isEqualTo(100);
    }

    /** Two jobs on one folder: each file goes to one of them. */
    @Test
    void of_many_who_look_at_once_one_has_each_file() throws Exception {
        live("first-of-two", "shared");
        live("second-of-two", "shared");
        for (int n = 0; n < 30; n++) {
            file("shared", "stock_" + n + ".csv", 10 * n);
        }
        ExecutorService threads = Executors.newFixedThreadPool(8);
        List<Future<?>> looks = IntStream.range(0, 16)
                .<Future<?>>mapToObj(
                        n -> threads.submit(() -> pickUps.look(n % 2 == 0 ? "first-of-two" : "second-of-two")))
                .toList();
        for (Future<?> look : looks) {
            look.get();
        }
        threads.shutdown();
        Services.await(
                () -> runsOf("first-of-two").size() + runsOf("second-of-two").size(), n -> n == 30);
        assertThat(Stream.of("first-of-two", "second-of-two").flatMap(job -> runsOf(job).stream()))
                .extracting(RunRow::fileName)
                .doesNotHaveDuplicates()
                .hasSize(30);
        Services.await(PickUpsTest::open, List::isEmpty);
    }

    /** Where the process ended that took a file. */
    enum BrokenOff {
        CLAIMED,
        LINKED,
        MOVED
    }

    @ParameterizedTest
    @EnumSource
    void what_was_broken_off_is_gone_on_with_and_before_what_came_later(BrokenOff at) throws Exception {
        String job = "broken-off-" + at.name().toLowerCase();
        JobRow row = live(job, job);
        Path file = file(job, "stock_1.csv", 10);
        Path working = FileHome.below(file.getParent(), job).folder().resolve("working/key-" + at + "/stock_1.csv");
        services.database()
                .execute(
                        services.tables(),
                        "INSERT INTO claim (job_id, version, taken_from, item, item_version, held, run_key, file_name,"
                                + " file_path, file_home, started_by, asked, settlement, state, owner, claimed_at) VALUES ("
                                + row.id() + ", 1, '{\"kind\":\"folder\",\"root\":\"files\",\"folder\":\"" + job
                                + "\",\"pattern\":\"*.csv\"}', 'stock_1.csv', 'v', 'held-" + at + "', 'key-" + at
                                + "', 'stock_1.csv', '" + working + "', '"
                                + working.getParent().getParent().getParent()
                                + "', 'schedule', '{}', 'NONE', 'CLAIMED', 'gone', '2026-01-01')");
        Files.createDirectories(working.getParent());
        if (at == BrokenOff.LINKED) {
            Files.createLink(working, file);
        } else if (at == BrokenOff.MOVED) {
            Files.move(file, working);
        }
        file(job, "stock_2.csv", 20);
        pickUps.look(job);
        List<RunRow> made = Services.await(() -> runsOf(job), r -> r.size() == 2);
        assertThat(made).extracting(RunRow::fileName).containsExactly("stock_2.csv", "stock_1.csv");
        assertThat(made.get(1).runKey()).isEqualTo("key-" + at);
        for (RunRow run : made) {
            world.await(run.id(), "FINISHED");
        }
        assertThat(world.rows(job)).isEqualTo(10);
        Services.await(PickUpsTest::open, List::isEmpty);
        assertThat(file).doesNotExist();
    }

    @Test
    void a_claim_whose_file_went_away_is_forgotten_without_a_run() throws Exception {
        JobRow row = live("went-away", "went-away");
        Claims.Taking taking = taking(row, Settlement.NONE);
        assertThat(claims.take(taking, item("1", "a"), new Kept(), (r, run) -> {}))
                .isPresent();
        assertThat(claims.take(taking, item("gone", "a"), new Kept(), (r, run) -> {}))
                .isEmpty();
        assertThat(open()).isEmpty();
    }

    /** On the thread of the job, as all that works on its claims is. */
    private static void onItsThread(String job, ThrowingCallable doing) {
        services.get(Transfers.class).now(job, "test", () -> {
            assertThatCode(doing).doesNotThrowAnyException();
            return null;
        });
    }

    private static Claims.Taking taking(JobRow row, Settlement settlement) {
        return new Claims.Taking(
                row,
                new From.Folder("files", "", "*"),
                "a place for " + row.name(),
                new FileHome(folder.resolve("data/uploads").resolve(row.name())),
                settlement,
                "tester",
                Map.of());
    }

    private static Item item(String id, String version) {
        return new Item(id, "stock_" + id + ".csv", -1, null, version);
    }

    /** A source that keeps what was taken from it, unless it is told to delete it. */
    private static final class Kept implements Source {
        private final List<String> settled = new java.util.ArrayList<>();
        private boolean away;
        private boolean refuses;

        @Override
        public List<Item> list() {
            return List.of();
        }

        @Override
        public Optional<Fetched> fetch(Item item, Path into) throws SourceException, IOException {
            if (item.id().equals("gone")) {
                return Optional.empty();
            }
            if (away) {
                throw new SourceException("FIL-03", "The server is away.", true, null);
            }
            Files.createDirectories(into.getParent());
            Files.write(into, SmallWorld.lines(0, 3, 0));
            return Optional.of(new Fetched(Files.size(into), item.version()));
        }

        @Override
        public void settle(Item item, Settlement how) throws IOException {
            if (refuses) {
                throw new IOException("not now");
            }
            settled.add(how + " " + item.id() + " " + item.version());
        }
    }

    @Test
    void what_stays_at_its_source_is_taken_once_in_each_version() throws Exception {
        Claims.Taking taking = taking(live("leaves", "leaves"), Settlement.LEAVE);
        Kept source = new Kept();
        assertThat(claims.take(taking, item("1", "a"), source, (r, run) -> {})).isPresent();
        assertThat(claims.free(taking, List.of(item("1", "a"), item("1", "b"), item("2", "a"))))
                .containsExactly(item("1", "b"), item("2", "a"));
        assertThat(claims.take(taking, item("1", "a"), source, (r, run) -> {})).isEmpty();
        assertThat(claims.take(taking, item("1", "b"), source, (r, run) -> {})).isPresent();
        assertThat(source.settled).isEmpty();
        assertThat(services.get(Jobs.class).dependents("leaves").underWay()).isLessThanOrEqualTo(2);
    }

    @Test
    void what_is_to_be_deleted_is_settled_behind_the_run_and_again_where_that_failed() throws Exception {
        JobRow row = live("deletes", "deletes");
        Claims.Taking taking = taking(row, Settlement.DELETE);
        Kept source = new Kept();
        onItsThread("deletes", () -> {
            source.refuses = true;
            assertThat(claims.take(taking, item("1", "a"), source, (r, run) -> {}))
                    .isPresent();
            assertThat(source.settled).isEmpty();
            assertThat(claims.free(taking, List.of(item("1", "a")))).isEmpty();
            source.refuses = false;
            claims.goOn(claims.open(row.id()).get(0), source, (r, run) -> {});
        });
        assertThat(source.settled).containsExactly("DELETE 1 a");
        assertThat(claims.open(row.id())).isEmpty();
        assertThat(runsOf("deletes")).hasSize(1);
    }

    @Test
    void a_source_that_is_away_has_nothing_taken_from_it() throws Exception {
        JobRow row = live("away", "away");
        Claims.Taking taking = taking(row, Settlement.LEAVE);
        Kept source = new Kept();
        source.away = true;
        assertThatThrownBy(() -> claims.take(taking, item("1", "a"), source, (r, run) -> {}))
                .isInstanceOf(SourceException.class);
        source.away = false;
        assertThat(claims.take(taking, item("1", "a"), source, (r, run) -> {})).isPresent();
    }

    /** How far a source was taken is kept with the run or not at all. */
    @Test
    void where_the_count_cannot_be_kept_there_is_no_run_and_the_claim_is_gone_on_with() throws Exception {
        JobRow row = live("counts", "counts");
        Kept source = new Kept();
        onItsThread("counts", () -> {
            assertThatThrownBy(() -> claims.take(taking(row, Settlement.NONE), item("1", "a"), source, (r, run) -> {
                        throw new IllegalStateException("the database is away");
                    }))
                    .isInstanceOf(IllegalStateException.class);
            assertThat(runsOf("counts")).isEmpty();
            claims.goOn(claims.open(row.id()).get(0), source, (r, run) -> assertThat(r)
                    .isEqualTo("a"));
        });
        assertThat(runsOf("counts")).hasSize(1);
    }
}
