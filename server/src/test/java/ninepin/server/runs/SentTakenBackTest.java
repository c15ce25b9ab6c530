package ninepin.server.runs;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import ninepin.core.deliver.TakenBack;
import ninepin.server.testing.RemoteShare;
import ninepin.server.testing.Services;
import ninepin.server.testing.SmallWorld;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files for another machine are taken back: those that wait here, and those that are there and as they were sent. */
class SentTakenBackTest {

    @TempDir
    static Path folder;

    private static RemoteShare remote;
    private static Services services;
    private static SmallWorld world;
    private static Path share;

    @BeforeAll
    static void start() throws Exception {
        remote = RemoteShare.start(folder, "sent_taken_back_test");
        services = remote.services();
        world = remote.world();
        share = remote.folder();
    }

    @AfterAll
    static void stop() {
        services.close();
    }

    private static List<Path> files() throws IOException {
        try (Stream<Path> all = Files.list(share.resolve("in"))) {
            return all.sorted().toList();
        }
    }

    private static List<TakenBack> takeBack(long run) throws Exception {
        TakeBack taking = services.get(TakeBack.class);
        long by = taking.start(run, "anna");
        world.await(by, "FINISHED");
        return taking.outcomes(by);
    }

    @Test
    void what_was_sent_is_removed_unless_it_was_changed_and_a_restart_sends_it_again() throws Exception {
        Files.createDirectories(share);
        world.live("sent", SmallWorld.FILES_TO_SHARE);
        long run = world.run("sent", SmallWorld.lines(0, 5, 0)).id();
        Services.await(
                () -> remote.states(run), s -> s.size() == 5 && s.stream().allMatch("DONE"::equals));
        Files.writeString(files().get(1), "changed since");
        Files.delete(files().get(3));
        List<String> left = List.of("farm_2.csv (changed)", "farm_4.csv (gone)");
        assertThat(takeBack(run)).containsExactly(new TakenBack("farm_{farm}.csv", 3, 1, 1, left));
        assertThat(files()).singleElement().satisfies(f -> assertThat(f).hasContent("changed since"));

        Files.delete(files().get(0));
        services.get(Runs.class).restart(run, false, "anna");
        Services.await(
                () -> remote.states(run), s -> s.size() == 5 && s.stream().allMatch("DONE"::equals));
        assertThat(files()).hasSize(5);
    }

    @Test
    void what_waits_here_is_never_sent() throws Exception {
        world.live("waiting", SmallWorld.FILES_TO_SHARE);
        if (Files.exists(share)) {
            for (Path file : files()) {
                Files.delete(file);
            }
            Files.delete(share.resolve("in"));
            Files.delete(share);
        }
        long run = world.run("waiting", SmallWorld.lines(0, 3, 0)).id();
        TakeBack taking = services.get(TakeBack.class);
        long by = taking.start(run, "anna");
        // Whether something was uploaded cannot be asked while the root is away.
        world.await(by, "PAUSED");
        Files.createDirectories(share);
        world.await(by, "FINISHED");
        assertThat(taking.outcomes(by)).containsExactly(new TakenBack("farm_{farm}.csv", 3, 0, 0, List.of()));
        assertThat(files()).isEmpty();
        assertThat(remote.states(run)).isEmpty();
    }
}
