package ninepin.server.runs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import ninepin.core.deliver.TakenBack;
import ninepin.core.deliver.Tally;
import ninepin.core.job.Definitions;
import ninepin.server.jobs.Jobs;
import ninepin.server.testing.Services;
import ninepin.server.testing.SmallWorld;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.web.ErrorResponseException;

/** What a run has delivered is taken back: its own rows and no others, once, and never what somebody has changed since. */
class TakeBackTest {

    @TempDir
    static Path folder;

    private static Services services;
    private static SmallWorld world;
    private static TakeBack takeBack;
    private static Runs runs;

    @BeforeAll
    static void start() throws IOException {
        services = Services.start(folder, "take_back_test");
        world = new SmallWorld(services);
        takeBack = services.get(TakeBack.class);
        runs = services.get(Runs.class);
    }

    @AfterAll
    static void stop() {
        services.close();
    }

    private static List<String> samples(String job) {
        return services.database()
                .rows(services.target(), "SELECT sample FROM " + job.replace('-', '_') + " ORDER BY line");
    }

    private static RunView taken(RunView run) throws Exception {
        return world.await(takeBack.start(run.id(), "anna"), "FINISHED");
    }

    @Test
    void the_rows_of_one_run_go_and_those_of_others_stay() throws Exception {
        world.live("others", "");
        world.run("others", SmallWorld.lines(1, 4, 0));
        RunView second = world.run("others", SmallWorld.lines(4, 8, 0));
        assertThat(takeBack.outlook(second.id()).possible()).isTrue();
        assertThat(takeBack.outlook(second.id()).tables()).containsExactly("others");
        RunView taking = taken(second);
        assertThat(samples("others")).containsExactly("S1", "S2", "S3");
        assertThat(takeBack.outcomes(taking.id()))
                .singleElement()
                .isEqualTo(new TakenBack("others", 4, 0, 0, List.of()));
        RunView now = runs.view(second.id());
        assertThat(now.state()).isEqualTo(RunState.TAKEN_BACK);
        assertThat(now.tally()).isEqualTo(Tally.ZERO);
        assertThat(now.balances()).isTrue();
    }

    @Test
    void what_was_taken_back_is_delivered_again_by_a_restart() throws Exception {
        world.live("again-later", "");
        RunView run = world.run("again-later", SmallWorld.lines(1, 8, 3));
        taken(run);
        assertThat(world.rows("again-later")).isZero();
        runs.restart(run.id(), false, "anna");
        RunView done = world.await(run.id(), "FINISHED");
        assertThat(done.tally().delivered()).isEqualTo(5);
        assertThat(done.tally().rejected()).isEqualTo(2);
        assertThat(world.rows("again-later")).isEqualTo(5);
    }

    @Test
    void rows_that_were_changed_or_removed_since_are_told_and_left() throws Exception {
        world.live("touched", "");
        RunView run = world.run("touched", SmallWorld.lines(1, 6, 0));
        services.database().execute(services.target(), "UPDATE touched SET remark = 'mine' WHERE sample = 'S2'");
        services.database().execute(services.target(), "DELETE FROM touched WHERE sample = 'S4'");
        RunView taking = taken(run);
        assertThat(samples("touched")).containsExactly("S2");
        assertThat(takeBack.outcomes(taking.id())).singleElement().satisfies(o -> {
            assertThat(o.removed()).isEqualTo(3);
            assertThat(o.changed()).isEqualTo(1);
            assertThat(o.gone()).isEqualTo(1);
            assertThat(o.left())
                    .containsExactly("sample S2, test FAT: changed since", "sample S4, test FAT: not there any more");
        });
    }

    @Test
    void of_many_who_want_it_one_does_it() throws Exception {
        world.live("wanted", "");
        RunView run = world.run("wanted", SmallWorld.lines(1, 30, 0));
        ExecutorService people = Executors.newFixedThreadPool(6);
        List<Callable<Long>> all = IntStream.range(0, 12)
                .<Callable<Long>>mapToObj(n -> () -> {
                    try {
                        return takeBack.start(run.id(), "person " + n);
                    } catch (ErrorResponseException e) {
                        return -1L;
                    }
                })
                .toList();
        List<Long> started = new ArrayList<>();
        for (Future<Long> one : people.invokeAll(all)) {
            if (one.get() > 0) {
                started.add(one.get());
            }
        }
        people.shutdown();
        assertThat(started).hasSize(1);
        world.await(started.get(0), "FINISHED");
        assertThat(world.rows("wanted")).isZero();
        assertThatThrownBy(() -> takeBack.start(run.id(), "late")).hasMessageContaining("409");
    }

    @Test
    void what_cannot_be_taken_back_says_why() throws Exception {
        world.live("changing", "");
        services.database().execute(services.target(), "CREATE TABLE nothing_of_it (k INT)");
        RunView run = world.run("changing", SmallWorld.lines(1, 4, 0));
        RunView taking = taken(run);
        assertThat(takeBack.outlook(taking.id()).possible()).isFalse();
        assertThat(takeBack.outlook(taking.id()).obstacles())
                .containsExactly("It took another run back; restart that one instead.");
        assertThat(takeBack.outlook(run.id()).obstacles()).containsExactly("It has delivered nothing.");

        RunView other = world.run("changing", SmallWorld.lines(4, 8, 0));
        Files.delete(runs.row(other.id()).file());
        assertThat(takeBack.outlook(other.id()).obstacles()).containsExactly("Its file is not kept any more.");
        assertThatThrownBy(() -> takeBack.start(other.id(), "anna")).hasMessageContaining("409");
        assertThat(world.rows("changing")).isEqualTo(4);
    }

    @Test
    void a_table_whose_rows_are_known_by_no_key_is_left_alone() throws Exception {
        world.live("keyless", "");
        services.database().execute(services.target(), "ALTER TABLE keyless DROP PRIMARY KEY");
        RunView run = world.run("keyless", SmallWorld.lines(1, 4, 0));
        assertThat(takeBack.outlook(run.id()).possible()).isFalse();
        assertThat(takeBack.outlook(run.id()).obstacles())
                .singleElement()
                .asString()
                .contains("no unique key");
    }

    @Test
    void a_table_that_a_run_has_changed_is_left_alone_and_one_it_has_only_added_to_is_not() throws Exception {
        world.live("merged", "");
        Jobs jobs = services.get(Jobs.class);
        String byKey = jobs.get("merged")
                .draft()
                .replace("\"mode\":\"add\"", "\"mode\":\"add-or-change\",\"key\":[\"sample\",\"test\"]");
        jobs.saveDraft(
                "merged",
                jobs.get("merged").revision(),
                Definitions.mapper().readTree(byKey),
                SmallWorld.layout("merged"),
                "anna");
        assertThat(jobs.putLive("merged", "anna")).noneMatch(s -> s.blocks());
        RunView added = world.run("merged", SmallWorld.lines(1, 4, 0));
        assertThat(takeBack.outlook(added.id()).possible()).as("only added").isTrue();
        RunView changed = world.run("merged", SmallWorld.lines(2, 6, 0));
        assertThat(takeBack.outlook(changed.id()).possible())
                .as("some were there")
                .isFalse();
        assertThat(takeBack.outlook(changed.id()).obstacles())
                .singleElement()
                .asString()
                .contains("what they were before is not known");
    }
}
