package ninepin.server.runs;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import ninepin.server.runs.RunMapper.NewRun;
import ninepin.server.testing.Services;
import ninepin.server.testing.SmallWorld;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The file of a run is where the record says, whoever else is looking after it at the same moment. */
class SettlingTest {

    @TempDir
    static Path folder;

    private static Services services;
    private static RunMapper mapper;
    private static FileMoves moves;
    private static long jobId;
    private static int count;

    @BeforeAll
    static void start() throws IOException {
        services = Services.start(folder, "settling_test");
        mapper = services.get(RunMapper.class);
        moves = services.get(FileMoves.class);
        jobId = new SmallWorld(services).make("settling", "").id();
    }

    @AfterAll
    static void stop() {
        services.close();
    }

    /** A run that is over, whose file is to be moved. */
    private static long run(Path file, Path to) {
        NewRun run = new NewRun();
        run.runKey = "settling-" + ++count;
        run.jobId = jobId;
        run.version = 1;
        run.startedBy = "tester";
        run.fileName = file.getFileName().toString();
        run.filePath = file.toString();
        run.fileHome = folder.resolve("home").toString();
        run.asked = "{}";
        run.today = LocalDate.EPOCH;
        run.createdAt = Instant.EPOCH;
        mapper.add(run);
        services.database()
                .execute(services.tables(), "UPDATE run SET state = 'FINISHED', epoch = 1 WHERE id = " + run.id);
        wanted(run.id, to);
        return run.id;
    }

    private static void wanted(long run, Path to) {
        services.database().execute(services.tables(), "UPDATE run SET moving_to = '" + to + "' WHERE id = " + run);
    }

    private static Path working(String text) throws IOException {
        Path file =
                folder.resolve("home").resolve("working").resolve("of-" + count).resolve("some-" + count + ".csv");
        Files.createDirectories(file.getParent());
        return Files.writeString(file, text);
    }

    private static Path other(String text) throws IOException {
        count++;
        return working(text);
    }

    private static void together(int threads, Callable<?> doing) throws Exception {
        ExecutorService all = Executors.newFixedThreadPool(threads);
        for (Future<?> one : all.invokeAll(IntStream.range(0, threads)
                .mapToObj(n -> (Callable<Object>) doing::call)
                .toList())) {
            one.get();
        }
        all.shutdown();
    }

    /** As the thread that has ended the run and the one that looks after everything do. */
    @RepeatedTest(20)
    void of_many_who_settle_one_move_at_once_none_moves_the_file_back() throws Exception {
        Path from = working("some");
        Path to = folder.resolve("home").resolve("done").resolve(from.getFileName());
        long run = run(from, to);
        together(6, () -> moves.settle(run));
        assertThat(mapper.find(run).orElseThrow().filePath()).isEqualTo(to.toString());
        assertThat(mapper.find(run).orElseThrow().movingTo()).isNull();
        assertThat(to).hasContent("some");
        assertThat(from).doesNotExist();
    }

    @Test
    void a_file_that_is_wanted_elsewhere_meanwhile_goes_there() throws Exception {
        Path from = working("some");
        Path done = folder.resolve("home").resolve("done").resolve(from.getFileName());
        Path back = folder.resolve("home").resolve("again").resolve(from.getFileName());
        long run = run(from, done);
        // Moved, and a person restarts the run before that is on record.
        FileHome.move(from, done);
        wanted(run, back);
        Files.createDirectories(from.getParent());
        Files.move(done, from);
        assertThat(moves.settle(run)).isEqualTo(back);
        assertThat(back).hasContent("some");
        assertThat(mapper.find(run).orElseThrow().filePath()).isEqualTo(back.toString());
    }

    @Test
    void all_that_is_to_be_moved_is_moved_by_whoever_looks_after_everything() throws Exception {
        List<Path> froms = List.of(working("one"), other("two"));
        Path one = folder.resolve("home").resolve("done").resolve("one.csv");
        long first = run(froms.get(0), one);
        Path two = folder.resolve("home").resolve("done").resolve("two.csv");
        Files.delete(froms.get(1));
        long gone = run(froms.get(1), two);
        together(3, () -> {
            moves.settleAll();
            return null;
        });
        assertThat(one).hasContent("one");
        assertThat(mapper.find(first).orElseThrow().movingTo()).isNull();
        assertThat(mapper.find(gone).orElseThrow().movingTo())
                .as("gone, and no longer waited for")
                .isNull();
    }
}
