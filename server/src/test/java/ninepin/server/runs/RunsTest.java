package ninepin.server.runs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import ninepin.core.testing.Quality;
import ninepin.server.jobs.Jobs;
import ninepin.server.testing.Services;
import ninepin.server.testing.SmallWorld;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/** Runs from the acceptance of a file to their end, by the services alone, against a real database and real files. */
class RunsTest {

    @TempDir
    static Path folder;

    private static Services services;
    private static SmallWorld world;
    private static Runs runs;
    private static RunMapper mapper;

    @BeforeAll
    static void start() throws IOException {
        services = Services.start(folder, "runs_test");
        world = new SmallWorld(services);
        runs = services.get(Runs.class);
        mapper = services.get(RunMapper.class);
    }

    @AfterAll
    static void stop() {
        services.close();
    }

    /** Holds the table of a job so that no row can be added to it. */
    private static Connection holding(String job) throws SQLException {
        Connection connection = DriverManager.getConnection(
                "jdbc:mariadb://127.0.0.1:" + services.database().port() + "/" + services.target(), "root", "");
        connection.createStatement().execute("LOCK TABLES " + job.replace('-', '_') + " READ");
        return connection;
    }

    private static Path home(String job, String in) {
        return services.folder().resolve("files").resolve(job).resolve(".home").resolve(in);
    }

    private static void awaitFile(Path file) throws Exception {
        Services.await(() -> Files.exists(file), there -> there);
    }

    @Test
    void a_file_is_delivered_counted_and_put_away() throws Exception {
        world.live("plain", "");
        RunView run = world.run("plain", SmallWorld.lines(1, 101, 10));
        assertThat(run.tally().read()).isEqualTo(100);
        assertThat(run.tally().delivered()).isEqualTo(world.rows("plain")).isEqualTo(90);
        assertThat(run.tally().rejected()).isEqualTo(10);
        assertThat(run.balances()).isTrue();
        assertThat(run.commits()).isPositive();
        assertThat(run.startedBy()).isEqualTo("tester");
        awaitFile(home("plain", "done").resolve("results.csv"));
        assertThat(home("plain", "working")).isEmptyDirectory();
        assertThat(mapper.events(run.id())).extracting(RunMapper.EventRow::kind).containsExactly("start", "finished");
    }

    @Test
    void files_of_one_name_keep_apart() throws Exception {
        world.live("namesakes", "");
        for (int n = 0; n < 3; n++) {
            world.run("namesakes", SmallWorld.lines(10 * n, 10 * n + 5, 0));
        }
        for (String name : List.of("results.csv", "results~2.csv", "results~3.csv")) {
            awaitFile(home("namesakes", "done").resolve(name));
        }
        assertThat(world.rows("namesakes")).isEqualTo(15);
    }

    @Test
    void runs_of_one_job_follow_each_other_in_the_order_of_their_files() throws Exception {
        world.live("ordered", "");
        List<Long> ids = new ArrayList<>();
        try (Connection holding = holding("ordered")) {
            for (int n = 0; n < 4; n++) {
                ids.add(world.give("ordered", "part-" + n + ".csv", SmallWorld.lines(10 * n, 10 * n + 10, 0)));
            }
            world.await(ids.get(0), "RUNNING");
            for (long later : ids.subList(1, 4)) {
                assertThat(runs.view(later).state()).isEqualTo(RunState.WAITING);
            }
        }
        for (long id : ids) {
            world.await(id, "FINISHED");
        }
        assertThat(IntStream.range(0, 3).allMatch(n -> !runs.view(ids.get(n))
                        .endedAt()
                        .isAfter(runs.view(ids.get(n + 1)).startedAt())))
                .as("one after another")
                .isTrue();
    }

    @Test
    void one_that_waits_is_stopped_and_restarted_and_then_runs() throws Exception {
        world.live("patient", "");
        long first;
        long second;
        try (Connection holding = holding("patient")) {
            first = world.give("patient", "first.csv", SmallWorld.lines(1, 5, 0));
            second = world.give("patient", "second.csv", SmallWorld.lines(5, 9, 0));
            world.await(first, "RUNNING");
            runs.stop(second, "anna");
            assertThat(runs.view(second).state()).isEqualTo(RunState.STOPPED);
            assertThat(runs.view(second).message()).isEqualTo("Stopped before it started.");
            assertThatThrownBy(() -> runs.stop(second, "anna"))
                    .hasMessageContaining("409")
                    .hasMessageContaining("not under way");
        }
        world.await(first, "FINISHED");
        assertThat(world.rows("patient")).isEqualTo(4);
        runs.restart(second, false, "anna");
        RunView done = world.await(second, "FINISHED");
        assertThat(done.restarts()).isEqualTo(1);
        assertThat(world.rows("patient")).isEqualTo(8);
        assertThat(mapper.events(second))
                .extracting(RunMapper.EventRow::text)
                .contains("Stopped by anna", "Restarted by anna");
    }

    @Test
    void one_that_has_ended_is_neither_stopped_nor_restarted() throws Exception {
        world.live("ended", "");
        RunView run = world.run("ended", SmallWorld.lines(1, 3, 0));
        assertThatThrownBy(() -> runs.stop(run.id(), "anna")).hasMessageContaining("409");
        assertThatThrownBy(() -> runs.restart(run.id(), false, "anna"))
                .hasMessageContaining("409")
                .hasMessageContaining("is finished and cannot be restarted");
        assertThatThrownBy(() -> runs.view(Long.MAX_VALUE)).hasMessageContaining("404");
    }

    @Test
    void the_same_bytes_are_refused_and_named_with_the_run_that_delivered_them() throws Exception {
        world.live("again", "");
        byte[] bytes = SmallWorld.lines(1, 8, 0);
        RunView first = world.run("again", bytes);
        RunView second = world.await(world.give("again", "other-name.csv", bytes), "REFUSED");
        assertThat(second.code()).isEqualTo("FIL-06");
        assertThat(second.message()).contains("was delivered by run " + first.id());
        awaitFile(home("again", "failed").resolve("other-name.csv"));
        assertThat(world.rows("again")).isEqualTo(7);
        assertThat(second.commits()).isZero();
    }

    @Test
    void the_same_bytes_are_taken_where_the_job_allows_it() throws Exception {
        world.live(
                "allowed",
                "\"pickUp\":{\"root\":\"files\",\"folder\":\"allowed-in\",\"pattern\":\"*.csv\",\"everySeconds\":600,\"sameFileAgain\":true}");
        services.database().execute(services.target(), "ALTER TABLE allowed DROP PRIMARY KEY");
        byte[] bytes = SmallWorld.lines(1, 8, 0);
        world.run("allowed", bytes);
        world.run("allowed", bytes);
        assertThat(world.rows("allowed")).isEqualTo(14);
    }

    @Test
    void a_limit_halts_and_a_restart_goes_on_past_it() throws Exception {
        world.live("limited", "\"limits\":{\"rejects\":5}");
        RunView halted = world.await(world.give("limited", "bad.csv", SmallWorld.lines(1, 40, 4)), "HALTED");
        assertThat(halted.code()).isEqualTo("LIM-01");
        awaitFile(home("limited", "failed").resolve("bad.csv"));
        runs.restart(halted.id(), false, "anna");
        RunView done = world.await(halted.id(), "FINISHED");
        assertThat(done.tally().read()).isEqualTo(39);
        assertThat(done.tally().rejected()).isEqualTo(9);
        assertThat(done.tally().delivered()).isEqualTo(world.rows("limited")).isEqualTo(30);
        awaitFile(home("limited", "done").resolve("bad.csv"));
        assertThat(home("limited", "failed").resolve("bad.csv")).doesNotExist();
    }

    @Test
    void a_file_that_is_gone_when_its_turn_comes_fails_in_words() throws Exception {
        world.live("gone", "");
        long first;
        long second;
        try (Connection holding = holding("gone")) {
            first = world.give("gone", "first.csv", SmallWorld.lines(1, 5, 0));
            second = world.give("gone", "second.csv", SmallWorld.lines(5, 9, 0));
            world.await(first, "RUNNING");
            Services.await(() -> runs.view(second).state(), s -> s == RunState.WAITING);
            Files.delete(runs.row(second).file());
        }
        RunView failed = world.await(second, "FAILED");
        assertThat(failed.code()).isEqualTo("FIL-03");
        assertThat(failed.message()).contains("second.csv is gone");
        assertThatThrownBy(() -> runs.restart(second, false, "anna"))
                .hasMessageContaining("409")
                .hasMessageContaining("not where it was put");
        world.await(first, "FINISHED");
    }

    @Test
    void a_table_that_is_gone_fails_and_one_that_is_back_is_restarted() throws Exception {
        world.live("dropped", "");
        services.database().execute(services.target(), "RENAME TABLE dropped TO hidden");
        RunView failed = world.await(world.give("dropped", "one.csv", SmallWorld.lines(1, 5, 0)), "FAILED");
        assertThat(failed.message()).contains("dropped");
        assertThat(failed.code()).isEqualTo("JOB-07");
        services.database().execute(services.target(), "RENAME TABLE hidden TO dropped");
        runs.restart(failed.id(), false, "anna");
        world.await(failed.id(), "FINISHED");
        assertThat(world.rows("dropped")).isEqualTo(4);
    }

    @Test
    void a_database_that_is_away_pauses_the_run_and_is_tried_again_by_itself() throws Exception {
        world.live("paused", "");
        int nobody;
        try (ServerSocket free = new ServerSocket(0)) {
            nobody = free.getLocalPort();
        }
        services.connect("target", services.target(), nobody);
        try {
            long id = world.give("paused", "one.csv", SmallWorld.lines(1, 5, 0));
            RunView paused = world.await(id, "PAUSED");
            assertThat(paused.resumeAt()).isNotNull();
            assertThat(paused.message()).contains(String.valueOf(nobody));
            assertThat(paused.commits()).isZero();
        } finally {
            services.connect("target", services.target());
        }
        long id = mapper.page("paused", null, null, 1).get(0).id();
        RunView done = world.await(id, "FINISHED");
        assertThat(done.restarts()).as("nobody restarted it").isZero();
        assertThat(done.code()).isNull();
        assertThat(world.rows("paused")).isEqualTo(4);
    }

    @Test
    void one_that_waits_for_its_surroundings_is_tried_at_once_when_a_person_wants_it() throws Exception {
        world.live("tried", "");
        int nobody;
        try (ServerSocket free = new ServerSocket(0)) {
            nobody = free.getLocalPort();
        }
        services.connect("target", services.target(), nobody);
        long id = world.give("tried", "one.csv", SmallWorld.lines(1, 5, 0));
        world.await(id, "PAUSED");
        services.connect("target", services.target());
        runs.restart(id, false, "anna");
        world.await(id, "FINISHED");
        assertThat(mapper.events(id)).extracting(RunMapper.EventRow::text).contains("Tried again by anna");
    }

    @Test
    void a_restart_takes_its_own_version_or_the_live_one() throws Exception {
        world.live("mended", "\"limits\":{\"rejects\":0}");
        RunView halted = world.await(world.give("mended", "bad.csv", SmallWorld.lines(1, 9, 2)), "HALTED");
        Jobs jobs = services.get(Jobs.class);
        jobs.saveDraft(
                "mended",
                jobs.get("mended").revision(),
                SmallWorld.job("mended", "\"limits\":{\"rejects\":100}"),
                SmallWorld.layout("mended"),
                "tester");
        assertThat(jobs.putLive("mended", "tester")).noneMatch(s -> s.blocks());
        runs.restart(halted.id(), true, "anna");
        RunView done = world.await(halted.id(), "FINISHED");
        assertThat(done.version()).isEqualTo(2);
        assertThat(mapper.events(halted.id()))
                .extracting(RunMapper.EventRow::text)
                .contains("Restarted by anna with version 2");
    }

    @Test
    void rejects_are_sent_again_as_a_run_of_their_own_that_belongs_to_the_first() throws Exception {
        world.live("resent", "");
        RunView first = world.run("resent", SmallWorld.lines(1, 21, 5));
        byte[] good = IntStream.of(5, 10, 15, 20)
                .mapToObj(Quality::line)
                .collect(Collectors.joining("", Quality.HEADER, ""))
                .getBytes(Quality.CHARSET);
        long id = runs.resubmit(runs.row(first.id()), good, null, "anna");
        RunView again = world.await(id, "FINISHED");
        assertThat(again.parentRun()).isEqualTo(first.id());
        assertThat(again.fileName()).isEqualTo("rejects-of-" + first.id() + "-results.csv");
        assertThat(again.tally().delivered()).isEqualTo(4);
        assertThat(world.rows("resent")).isEqualTo(20);
        assertThat(mapper.ofParent(first.id())).extracting(RunMapper.RunRow::id).containsExactly(id);
    }

    @ParameterizedTest
    @EnumSource
    void every_state_says_in_words_whether_it_can_be_restarted(RunState state) {
        assertThat(state.words()).isEqualTo(state.words().toLowerCase()).doesNotContain("_");
        assertThat(state.restartable()).isEqualTo(RunChange.RESTART.from().contains(state));
    }

    @ParameterizedTest
    @CsvSource({"Söll 😀.csv", "a b.csv", "no-ending", ".hidden", "'semi;colon=.csv'", "x.tar.gz"})
    void a_file_of_any_name_keeps_it(String name) throws Exception {
        String job = "names-" + Integer.toHexString(name.hashCode());
        world.live(job, "");
        RunView run = world.await(world.give(job, name, SmallWorld.lines(1, 3, 0)), "FINISHED");
        assertThat(run.fileName()).isEqualTo(name);
        awaitFile(home(job, "done").resolve(name));
    }

    @Test
    void a_file_of_nothing_is_told_and_delivers_nothing() throws Exception {
        world.live("empty", "");
        RunView halted = world.await(world.give("empty", "empty.csv", new byte[0]), "HALTED");
        assertThat(halted.code()).isEqualTo("FIL-01");
        RunView onlyTitles = world.run("empty", Quality.HEADER.getBytes(StandardCharsets.UTF_8));
        assertThat(onlyTitles.tally().read()).isZero();
        assertThat(onlyTitles.tally().notes()).isEqualTo(1);
        assertThat(world.rows("empty")).isZero();
    }
}
