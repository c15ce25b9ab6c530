package ninepin.server.transfer;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import ninepin.server.jobs.Jobs;
import ninepin.server.runs.RunView;
import ninepin.server.testing.RemoteShare;
import ninepin.server.testing.Services;
import ninepin.server.testing.SmallWorld;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files for a root on another machine, which is there or away, and has files of others in it. */
class OutboxTest {

    @TempDir
    static Path folder;

    private static RemoteShare remote;
    private static Services services;
    private static SmallWorld world;
    private static Path share;

    @BeforeAll
    static void start() throws IOException {
        remote = RemoteShare.start(folder, "outbox_test");
        services = remote.services();
        world = remote.world();
        share = remote.folder();
    }

    @AfterAll
    static void stop() {
        services.close();
    }

    @BeforeEach
    void takeAway() throws IOException {
        if (Files.exists(share)) {
            try (Stream<Path> all = Files.walk(share)) {
                for (Path each : all.sorted(Comparator.reverseOrder()).toList()) {
                    Files.delete(each);
                }
            }
        }
    }

    private static Path in() {
        return share.resolve("in");
    }

    private static List<String> files() throws IOException {
        if (!Files.exists(in())) {
            return List.of();
        }
        try (Stream<Path> all = Files.list(in())) {
            return all.map(f -> f.getFileName().toString()).sorted().toList();
        }
    }

    private static List<String> told(long run) {
        return services.database()
                .rows(
                        services.tables(),
                        "SELECT kind FROM run_event WHERE run_id = " + run + " AND kind LIKE '%sent' ORDER BY at");
    }

    private static long run(String job, int from, int to) throws Exception {
        world.live(job, SmallWorld.FILES_TO_SHARE);
        RunView run = world.run(job, SmallWorld.lines(from, to, 0));
        return run.id();
    }

    @Test
    void a_run_finishes_while_the_root_is_away_and_its_files_arrive_when_it_is_back() throws Exception {
        long run = run("away", 0, 3);
        Services.await(() -> services.get(Outbox.class).stuck(), stuck -> !stuck.isEmpty());
        assertThat(services.get(Outbox.class).stuck().get(0).trouble())
                .isEqualTo("The root folder share is on another machine and is not there now.");
        assertThat(share).doesNotExist();
        assertThatThrownBy(() -> services.get(Jobs.class).delete("away")).hasMessageContaining("still to be sent");

        Files.createDirectory(share);
        List<String> states =
                Services.await(() -> remote.states(run), s -> s.stream().allMatch("DONE"::equals));
        assertThat(files()).hasSameSizeAs(states).allMatch(f -> f.matches("farm_\\d+\\.csv"));
        assertThat(told(run)).containsExactly("not sent", "sent");
        assertThat(services.get(Outbox.class).stuck()).isEmpty();
        Path here = folder.resolve("data/runs/" + run + ".ndjson.outbox");
        try (Stream<Path> left = Files.list(here)) {
            assertThat(left).isEmpty();
        }
    }

    @Test
    void a_name_that_is_taken_keeps_only_its_own_file_waiting() throws Exception {
        Files.createDirectories(in());
        world.live("taken", SmallWorld.FILES_TO_SHARE);
        long first = world.run("taken", SmallWorld.lines(0, 4, 0)).id();
        Services.await(() -> remote.states(first), s -> s.stream().allMatch("DONE"::equals));
        List<String> sent = files();
        assertThat(sent).hasSizeGreaterThan(1);
        for (String other : sent.subList(1, sent.size())) {
            Files.delete(in().resolve(other));
        }
        Files.writeString(in().resolve(sent.get(0)), "of somebody else");

        // The same farms, other samples.
        long second = world.run("taken", SmallWorld.lines(214, 218, 0)).id();
        Services.await(
                () -> remote.states(second),
                s -> s.stream().filter("DONE"::equals).count() == sent.size() - 1);
        List<OutboxMapper.Stuck> stuck =
                Services.await(() -> services.get(Outbox.class).stuck(), s -> !s.isEmpty());
        assertThat(stuck.get(0).trouble()).contains("There is a file " + sent.get(0) + " already");
        assertThat(in().resolve(sent.get(0))).hasContent("of somebody else");

        Files.delete(in().resolve(sent.get(0)));
        services.get(Outbox.class).sendNow(second);
        Services.await(() -> remote.states(second), s -> s.stream().allMatch("DONE"::equals));
        assertThat(in().resolve(sent.get(0))).hasContent("farm;sample\n1;s214");
        assertThat(files()).isEqualTo(sent);
    }

    /** Of a process that is gone: one uploaded whole, one of which the name was given before that was on record. */
    @Test
    void what_another_process_has_begun_is_gone_on_with() throws Exception {
        long run = run("begun", 0, 4);
        int files = remote.states(run).size();
        Services.await(() -> told(run), t -> t.contains("not sent"));
        Files.createDirectories(in());
        String name = services.database()
                .rows(services.tables(), "SELECT name FROM outbox WHERE number = 2 AND run_id = " + run)
                .get(0);
        String path = services.database()
                .rows(services.tables(), "SELECT file_path FROM outbox WHERE number = 1 AND run_id = " + run)
                .get(0);
        Files.copy(Path.of(path), in().resolve(".ninepin-earlier.part"));
        String node = Files.readString(folder.resolve("data/node")).strip();
        for (String[] change : new String[][] {{"1", ".ninepin-earlier.part"}, {"2", ".ninepin-gone.part"}}) {
            services.database()
                    .execute(
                            services.tables(),
                            "UPDATE outbox SET state = 'UPLOADED', hidden = '" + change[1] + "', owner = '" + node
                                    + "/before', claimed_at = NOW(3) WHERE number = " + change[0] + " AND run_id = "
                                    + run);
        }
        services.get(Outbox.class).sendNow(run);
        Services.await(() -> remote.states(run), s -> s.stream().allMatch("DONE"::equals));
        // The second was taken by whoever waited for it.
        assertThat(files()).hasSize(files - 1).doesNotContain(name).noneMatch(f -> f.startsWith("."));
    }

    @Test
    void what_a_process_that_lives_is_sending_is_left_to_it() throws Exception {
        long run = run("others", 0, 1);
        services.database()
                .execute(
                        services.tables(),
                        "UPDATE outbox SET owner = 'other/1', claimed_at = NOW(3), next_at = NOW(3) WHERE run_id = "
                                + run);
        Files.createDirectories(in());
        Thread.sleep(2_500);
        assertThat(files()).isEmpty();
        services.database()
                .execute(
                        services.tables(),
                        "UPDATE outbox SET claimed_at = NOW(3) - INTERVAL 2 HOUR WHERE run_id = " + run);
        Services.await(() -> remote.states(run), s -> s.equals(List.of("DONE")));
        assertThat(files()).hasSize(1);
    }
}
