package ninepin.core.deliver;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import ninepin.core.record.Position;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What stands beside a target that has no transactions: marks, appended files and locks, after any stop and any taking over. */
class KeptFilesTest {

    @TempDir
    Path folder;

    private static Mark mark(long commits) {
        return new Mark(
                new Position(commits * 100, commits + 1, commits),
                new Tally(commits, commits, commits, 0, 0, 0, 0, 0, 0, 0, 0, 2),
                new Shares(
                        Map.of("late", new Shares.Lane(1, 2)),
                        Map.of("not wanted", 3L),
                        Map.of(1, new Shares.DeliveryShare(commits, RowCounts.added(commits), 0))),
                commits,
                7,
                "f".repeat(64),
                false);
    }

    @Test
    void nothing_is_kept_where_nothing_was_written() throws Exception {
        MarkFile file = new MarkFile(folder.resolve("run.mark"));
        assertThat(file.read()).isEmpty();
        file.takeUp(TakeUp.ALONE);
        assertThat(file.read()).as("taken up, nothing committed").isEmpty();
    }

    @Test
    void a_mark_comes_back_whole() throws Exception {
        MarkFile file = new MarkFile(folder.resolve("run.mark"));
        file.takeUp(TakeUp.ALONE);
        file.write(mark(1), 10, 0);
        file.write(mark(5), 50, 2);
        MarkFile.Kept kept = new MarkFile(folder.resolve("run.mark")).read().orElseThrow();
        assertThat(kept.mark()).isEqualTo(mark(5));
        assertThat(kept.length()).isEqualTo(50);
        assertThat(kept.again()).isEqualTo(2);
    }

    @Test
    void who_has_been_taken_over_writes_nothing_any_more() throws Exception {
        MarkFile first = new MarkFile(folder.resolve("run.mark"));
        first.takeUp(TakeUp.ALONE);
        first.write(mark(1), 10, 0);
        MarkFile second = new MarkFile(folder.resolve("run.mark"));
        second.takeUp(TakeUp.ALONE);
        assertThat(first.isTakenOver()).isTrue();
        assertThatThrownBy(() -> first.write(mark(2), 20, 0))
                .isInstanceOf(TargetException.class)
                .extracting(e -> ((TargetException) e).kind())
                .isEqualTo(TargetException.Kind.FENCED);
        second.write(mark(3), 30, 0);
        assertThatThrownBy(() -> first.write(mark(4), 40, 0)).isInstanceOf(TargetException.class);
        assertThat(second.read().orElseThrow().mark()).isEqualTo(mark(3));
    }

    @Test
    void an_owner_comes_in_the_order_of_the_epochs_alone() throws Exception {
        MarkFile file = new MarkFile(folder.resolve("run.mark"));
        file.takeUp(TakeUp.ofOwner(5));
        assertThatThrownBy(() -> new MarkFile(folder.resolve("run.mark")).takeUp(TakeUp.ofOwner(5)))
                .isInstanceOf(TargetException.class);
        assertThatThrownBy(() -> new MarkFile(folder.resolve("run.mark")).takeUp(TakeUp.ofOwner(4)))
                .isInstanceOf(TargetException.class);
        file.write(mark(1), 1, 0);
        MarkFile next = new MarkFile(folder.resolve("run.mark"));
        assertThat(next.takeUp(TakeUp.ofOwner(6)).mark()).isEqualTo(mark(1));
        assertThat(next.epoch()).isEqualTo(6);
    }

    @Test
    void a_mark_that_was_about_to_be_moved_by_one_before_is_never_moved() throws Exception {
        MarkFile first = new MarkFile(folder.resolve("run.mark"));
        first.takeUp(TakeUp.ALONE);
        first.write(mark(1), 10, 0);
        // Stopped between writing the next mark and moving it.
        Files.writeString(folder.resolve("run.mark.next-" + first.epoch()), "{}");
        MarkFile second = new MarkFile(folder.resolve("run.mark"));
        second.takeUp(TakeUp.ALONE);
        assertThat(folder.resolve("run.mark.next-" + first.epoch())).doesNotExist();
        assertThat(second.read().orElseThrow().mark()).isEqualTo(mark(1));
    }

    /** One that knew of an earlier take-up only announces itself late: the later one keeps the run. */
    @Test
    void an_announcement_that_is_written_over_is_made_again() throws Exception {
        Path path = folder.resolve("run.mark");
        MarkFile later = new MarkFile(path);
        later.takeUp(TakeUp.ofOwner(7));
        later.write(mark(1), 1, 0);
        Files.writeString(folder.resolve("run.mark.epoch"), "6");
        Files.writeString(folder.resolve("run.mark.next-6"), "{}");
        later.write(mark(2), 2, 0);
        assertThat(folder.resolve("run.mark.next-6")).doesNotExist();
        assertThat(later.read().orElseThrow().mark()).isEqualTo(mark(2));
        assertThatThrownBy(() -> new MarkFile(path).takeUp(TakeUp.ofOwner(6))).isInstanceOf(TargetException.class);
        later.remove();
        try (java.util.stream.Stream<Path> left = Files.list(folder)) {
            assertThat(left).isEmpty();
        }
    }

    /** Many owners at once: what is kept in the end is the most that any of them was told is kept. */
    @RepeatedTest(20)
    void of_many_at_once_the_last_to_take_up_has_the_last_word() throws Exception {
        Path path = folder.resolve("run.mark");
        new MarkFile(path).takeUp(TakeUp.ALONE);
        ExecutorService processes = Executors.newFixedThreadPool(6);
        List<Callable<Long>> all = IntStream.range(0, 60)
                .<Callable<Long>>mapToObj(n -> () -> {
                    MarkFile mine = new MarkFile(path);
                    try {
                        long commits = mine.takeUp(TakeUp.ofOwner(n + 2)).mark().commits();
                        mine.write(mark(commits + 1), 1, 0);
                        return commits + 1;
                    } catch (TargetException e) {
                        return -1L;
                    }
                })
                .toList();
        List<Long> written = new ArrayList<>();
        for (Future<Long> one : processes.invokeAll(all)) {
            if (one.get() > 0) {
                written.add(one.get());
            }
        }
        processes.shutdown();
        assertThat(written).isNotEmpty();
        long last = written.stream().mapToLong(w -> w).max().orElseThrow();
        assertThat(new MarkFile(path).read().orElseThrow().mark().commits()).isEqualTo(last);
    }

    @Test
    void a_mark_that_is_none_is_told_and_not_overlooked() throws Exception {
        Path path = Files.writeString(folder.resolve("run.mark"), "{\"mark\":");
        assertThatThrownBy(() -> new MarkFile(path).read())
                .isInstanceOf(IOException.class)
                .hasMessageContaining("run.mark cannot be read");
        assertThatThrownBy(() -> new MarkFile(path).takeUp(TakeUp.ALONE)).isInstanceOf(IOException.class);
        assertThat(path).hasContent("{\"mark\":");
    }

    @Test
    void a_mark_of_before_a_figure_was_counted_reads_as_none_of_it() throws Exception {
        Path path = folder.resolve("run.mark");
        MarkFile file = new MarkFile(path);
        file.takeUp(TakeUp.ALONE);
        file.write(mark(4), 40, 0);
        JsonNode now = new JsonMapper().readTree(Files.readString(path));
        now.path("mark").path("tally").asObject().remove("elsewhere");
        now.path("mark").path("shares").asObject().remove("deliveries");
        String older = now.toString();
        assertThat(older).doesNotContain("elsewhere", "deliveries");
        Files.writeString(path, older);
        Mark read = new MarkFile(path).read().orElseThrow().mark();
        assertThat(read.tally().elsewhere()).isZero();
        assertThat(read.tally().delivered()).isEqualTo(4);
        assertThat(read.shares().deliveries()).isEmpty();
        assertThat(read.shares().lanes()).containsKey("late");
    }

    @Test
    void what_stands_behind_the_committed_bytes_is_cut_off() throws IOException {
        Path path = folder.resolve("kept");
        try (AppendedFile file = AppendedFile.open(path, 0)) {
            assertThat(file.append("one\n".getBytes(StandardCharsets.UTF_8))).isEqualTo(4);
            assertThat(file.append("two\n".getBytes(StandardCharsets.UTF_8))).isEqualTo(8);
        }
        try (AppendedFile file = AppendedFile.open(path, 4)) {
            assertThat(file.length()).isEqualTo(4);
            file.append("2\n".getBytes(StandardCharsets.UTF_8));
        }
        assertThat(path).hasContent("one\n2\n");
    }

    @Test
    void a_file_that_lacks_committed_bytes_is_told_and_left_as_it_is() throws IOException {
        Path path = Files.writeString(folder.resolve("kept"), "one\n");
        assertThatThrownBy(() -> AppendedFile.open(path, 5))
                .isInstanceOf(IOException.class)
                .hasMessageContaining("has 4 bytes, but the mark counts 5");
        assertThat(path).hasContent("one\n");
        assertThatThrownBy(() -> AppendedFile.open(folder.resolve("none"), 1)).isInstanceOf(IOException.class);
    }

    @Test
    void who_had_a_file_open_before_adds_nothing_to_it_any_more() throws IOException {
        Path path = folder.resolve("kept");
        AppendedFile before = AppendedFile.open(path, 0);
        before.append("one\n".getBytes(StandardCharsets.UTF_8));
        try (AppendedFile after = AppendedFile.open(path, 4)) {
            before.append("from the one before\n".getBytes(StandardCharsets.UTF_8));
            after.append("two\n".getBytes(StandardCharsets.UTF_8));
        }
        before.close();
        assertThat(path).hasContent("one\ntwo\n");
    }

    @Test
    void a_folder_in_its_place_is_told() throws IOException {
        Files.createDirectories(folder.resolve("kept"));
        assertThatThrownBy(() -> AppendedFile.open(folder.resolve("kept"), 0)).hasMessageContaining("no regular file");
    }

    /** Cut at any byte, it goes on to what it would have been. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void stopped_anywhere_and_opened_again_it_comes_to_the_same(long seed) throws IOException {
        Random random = new Random(seed);
        StringBuilder wanted = new StringBuilder();
        Path path = folder.resolve("kept");
        long committed = 0;
        for (int part = 0; part < 40; part++) {
            String line = "line " + part + " " + "x".repeat(random.nextInt(200)) + "\n";
            boolean stops = random.nextInt(3) == 0;
            try (AppendedFile file = AppendedFile.open(path, committed)) {
                if (stops) {
                    file.append(line.substring(0, random.nextInt(line.length())).getBytes(StandardCharsets.UTF_8));
                }
            }
            try (AppendedFile file = AppendedFile.open(path, committed)) {
                committed = file.append(line.getBytes(StandardCharsets.UTF_8));
                wanted.append(line);
            }
        }
        assertThat(path).hasContent(wanted.toString());
    }

    @Test
    void lines_are_kept_when_they_are_forced_and_forgotten_when_they_are_not() throws IOException {
        Path path = folder.resolve("lines");
        long length;
        try (KeptLines<String> lines = new KeptLines<>(path, 0)) {
            lines.add("one");
            lines.add("Söll 😀\nof two lines");
            length = lines.force();
            lines.add("never");
            lines.forget();
            assertThat(lines.force()).isEqualTo(length);
        }
        assertThat(KeptLines.read(path, String.class, 0, length)).containsExactly("one", "Söll 😀\nof two lines");
        assertThat(KeptLines.read(path, String.class, length, length)).isEmpty();
    }

    @Test
    void a_lock_is_one_persons_until_it_is_let_go() throws IOException {
        Path path = folder.resolve("run.lock");
        Optional<ProcessLock> first = ProcessLock.take(path, 0);
        assertThat(first).isPresent();
        assertThat(ProcessLock.take(path, 0)).isEmpty();
        assertThat(ProcessLock.take(path, 120)).as("waited for in vain").isEmpty();
        assertThat(ProcessLock.take(folder.resolve("other.lock"), 0))
                .as("another one")
                .isPresent();
        first.orElseThrow().close();
        assertThat(ProcessLock.take(path, 0)).isPresent();
    }

    @Test
    void of_many_who_want_a_lock_one_at_a_time_has_it() throws Exception {
        Path path = folder.resolve("run.lock");
        int[] inside = {0};
        int[] most = {0};
        ExecutorService people = Executors.newFixedThreadPool(8);
        List<Callable<Boolean>> all = IntStream.range(0, 24)
                .<Callable<Boolean>>mapToObj(n -> () -> {
                    Optional<ProcessLock> lock = ProcessLock.take(path, 20_000);
                    if (lock.isEmpty()) {
                        return false;
                    }
                    synchronized (inside) {
                        most[0] = Math.max(most[0], ++inside[0]);
                    }
                    Thread.sleep(3);
                    synchronized (inside) {
                        inside[0]--;
                    }
                    lock.get().close();
                    return true;
                })
                .toList();
        for (Future<Boolean> one : people.invokeAll(all)) {
            assertThat(one.get()).isTrue();
        }
        people.shutdown();
        assertThat(most[0]).isEqualTo(1);
    }

    @Test
    void a_lock_beside_a_run_holds_others_up_unless_they_may_overtake() throws Exception {
        Path files = folder.resolve("7.ndjson");
        try (ProcessLock held = ProcessLock.beside(files, TakeUp.ALONE, "farm").orElseThrow()) {
            assertThat(held).isNotNull();
            assertThatThrownBy(() -> ProcessLock.beside(files, TakeUp.ALONE, "farm"))
                    .isInstanceOf(TargetException.class)
                    .extracting(e -> ((TargetException) e).kind())
                    .isEqualTo(TargetException.Kind.HELD);
            assertThat(ProcessLock.beside(files, TakeUp.ofOwner(2), "farm"))
                    .as("to be overtaken")
                    .isEmpty();
        }
    }
}
