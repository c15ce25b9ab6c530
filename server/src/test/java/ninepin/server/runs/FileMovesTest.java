package ninepin.server.runs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Files of runs are moved whole, once, and never over another one, wherever a move was broken off. */
class FileMovesTest {

    @TempDir
    Path folder;

    private Path file(String name, String text) throws IOException {
        Path file = folder.resolve(name);
        Files.createDirectories(file.getParent());
        return Files.writeString(file, text);
    }

    @Test
    void a_move_brings_the_file_and_leaves_nothing_behind() throws IOException {
        Path from = file("in/some.csv", "some");
        Path to = folder.resolve("home/working/7/some.csv");
        FileHome.move(from, to);
        assertThat(to).hasContent("some");
        assertThat(from).doesNotExist();
    }

    @Test
    void a_move_out_of_the_folder_of_a_run_takes_the_folder_along() throws IOException {
        Path from = file("home/working/7/some.csv", "some");
        Path to = folder.resolve("home/done/some.csv");
        FileHome.move(from, to);
        assertThat(to).hasContent("some");
        assertThat(folder.resolve("home/working/7")).doesNotExist();
        assertThat(folder.resolve("home/working")).exists();
    }

    @Test
    void what_somebody_put_into_the_folder_of_a_run_stays_there() throws IOException {
        Path from = file("home/working/7/some.csv", "some");
        Path other = file("home/working/7/notes.txt", "mine");
        FileHome.move(from, folder.resolve("home/done/some.csv"));
        assertThat(other).hasContent("mine");
    }

    @Test
    void a_move_never_takes_the_place_of_another_file() throws IOException {
        Path from = file("in/some.csv", "new");
        Path to = file("home/done/some.csv", "old");
        assertThatThrownBy(() -> FileHome.move(from, to)).isInstanceOf(FileAlreadyExistsException.class);
        assertThat(from).hasContent("new");
        assertThat(to).hasContent("old");
    }

    @Test
    void a_move_that_was_broken_off_after_the_second_name_is_gone_on_with() throws IOException {
        Path from = file("in/some.csv", "some");
        Path to = folder.resolve("home/working/7/some.csv");
        Files.createDirectories(to.getParent());
        Files.createLink(to, from);
        FileHome.move(from, to);
        assertThat(to).hasContent("some");
        assertThat(from).doesNotExist();
    }

    @Test
    void a_move_that_is_done_is_done() throws IOException {
        Path from = folder.resolve("in/some.csv");
        Path to = file("home/done/some.csv", "some");
        FileHome.move(from, to);
        FileHome.move(from, to);
        assertThat(to).hasContent("some");
    }

    @Test
    void a_file_that_is_nowhere_is_said_to_be_gone() {
        assertThatThrownBy(() -> FileHome.move(folder.resolve("in/some.csv"), folder.resolve("home/done/some.csv")))
                .isInstanceOf(NoSuchFileException.class);
    }

    /** Many who want the same place: one has it, the others keep their files. */
    @Test
    void of_many_who_move_to_one_place_at_once_one_gets_it_and_none_loses_a_file() throws Exception {
        Path to = folder.resolve("home/done/some.csv");
        ExecutorService movers = Executors.newFixedThreadPool(8);
        List<Callable<Boolean>> all = IntStream.range(0, 40)
                .<Callable<Boolean>>mapToObj(n -> () -> {
                    Path from = file("in/" + n + "/some.csv", "of " + n);
                    try {
                        FileHome.move(from, to);
                        return true;
                    } catch (FileAlreadyExistsException e) {
                        return false;
                    }
                })
                .toList();
        int moved = 0;
        for (Future<Boolean> one : movers.invokeAll(all)) {
            moved += one.get() ? 1 : 0;
        }
        movers.shutdown();
        assertThat(moved).isEqualTo(1);
        long left = IntStream.range(0, 40)
                .filter(n -> Files.exists(folder.resolve("in/" + n + "/some.csv")))
                .count();
        assertThat(left).isEqualTo(39);
    }

    @ParameterizedTest
    @CsvSource({
        "some.csv, some~2.csv, some~3.csv",
        "some, some~2, some~3",
        ".hidden, .hidden~2, .hidden~3",
        "a.tar.gz, a.tar~2.gz, a.tar~3.gz",
    })
    void a_name_that_is_taken_gets_a_number(String name, String second, String third) throws IOException {
        FileHome home = new FileHome(folder.resolve("home"));
        for (String expected : List.of(name, second, third)) {
            Path free = home.free("done", name);
            assertThat(free).isEqualTo(folder.resolve("home/done").resolve(expected));
            file("home/done/" + expected, "taken");
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"x", "ö", "😀"})
    void a_name_as_long_as_names_may_be_still_gets_a_number(String letter) throws IOException {
        int bytes = letter.getBytes(StandardCharsets.UTF_8).length;
        String name = letter.repeat((255 - 4) / bytes) + ".csv";
        FileHome home = new FileHome(folder.resolve("home"));
        file("home/done/" + name, "taken");
        Path free = home.free("done", name);
        assertThat(free.getFileName().toString().getBytes(StandardCharsets.UTF_8).length)
                .isLessThanOrEqualTo(255);
        assertThat(free.getFileName().toString())
                .endsWith("~2.csv")
                .startsWith(letter)
                .doesNotContain("\ufffd");
        Files.writeString(free, "fits");
    }

    @Test
    void the_home_of_a_job_stands_beside_the_files_it_picks_up() {
        assertThat(FileHome.below(folder.resolve("in"), "results").folder())
                .isEqualTo(folder.resolve("in/.ninepin/results"));
    }
}
