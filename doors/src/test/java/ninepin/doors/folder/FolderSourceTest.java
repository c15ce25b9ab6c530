package ninepin.doors.folder;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import ninepin.core.pickup.From;
import ninepin.doors.source.Item;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files of a folder are listed the oldest first and fetched once, wherever fetching was broken off. */
class FolderSourceTest {

    @TempDir
    Path root;

    private Path folder;
    private Path into;
    private FolderSource source;

    @BeforeEach
    void begin() throws IOException {
        folder = Files.createDirectories(root.resolve("in"));
        into = root.resolve("in/.ninepin/stock/working/k1/stock_1.csv");
        source = new FolderSource(new From.Folder("partners", "in", "stock_*.csv"), folder);
    }

    private Path file(String name, String text, long second) throws IOException {
        Path file = Files.writeString(folder.resolve(name), text);
        return Files.setLastModifiedTime(file, FileTime.from(Instant.ofEpochSecond(second)));
    }

    private Item only() throws Exception {
        assertThat(source.list()).hasSize(1);
        return source.list().get(0);
    }

    @Test
    void files_that_fit_come_the_oldest_first_and_by_name_where_they_are_as_old() throws Exception {
        file("stock_b.csv", "b", 20);
        file("stock_c.csv", "c", 10);
        file("stock_a.csv", "a", 20);
        file("STOCK_d.csv", "case counts", 5);
        file("notes.txt", "other", 1);
        Files.createDirectory(folder.resolve("stock_folder.csv"));
        Files.createSymbolicLink(folder.resolve("stock_link.csv"), root.resolve("elsewhere"));
        assertThat(source.list()).extracting(Item::name).containsExactly("stock_c.csv", "stock_a.csv", "stock_b.csv");
        assertThat(source.list().get(0).size()).isEqualTo(1);
        assertThat(source.list().get(0).changedAt()).isEqualTo(Instant.ofEpochSecond(10));
    }

    @Test
    void what_was_written_to_again_is_another_version() throws Exception {
        file("stock_1.csv", "one", 10);
        String first = only().version();
        file("stock_1.csv", "one two", 10);
        String longer = only().version();
        file("stock_1.csv", "two one", 11);
        assertThat(only().version()).isNotEqualTo(longer);
        assertThat(longer).isNotEqualTo(first);
    }

    @Test
    void a_folder_that_is_not_there_has_nothing() throws Exception {
        Files.delete(folder);
        assertThat(source.list()).isEmpty();
    }

    @Test
    void fetched_a_file_is_here_and_not_there() throws Exception {
        Path file = file("stock_1.csv", "one", 10);
        assertThat(source.fetch(only(), into).orElseThrow().size()).isEqualTo(3);
        assertThat(into).hasContent("one");
        assertThat(file).doesNotExist();
    }

    @Test
    void fetching_goes_on_wherever_it_was_broken_off() throws Exception {
        Path file = file("stock_1.csv", "one", 10);
        Item item = only();
        Files.createDirectories(into.getParent());
        assertThat(source.fetch(item, into)).as("the folder was made").isPresent();
        Files.createLink(file, into);
        assertThat(source.fetch(item, into)).as("the file has both names").isPresent();
        assertThat(file).doesNotExist();
        assertThat(source.fetch(item, into)).as("all was done but said").isPresent();
        assertThat(into).hasContent("one");
    }

    @Test
    void a_file_that_went_away_is_nothing() throws Exception {
        Path file = file("stock_1.csv", "one", 10);
        Item item = only();
        Files.delete(file);
        assertThat(source.fetch(item, into)).isEmpty();
        assertThat(into).doesNotExist();
    }

    @Test
    void no_other_file_is_written_over() throws Exception {
        file("stock_1.csv", "one", 10);
        Files.createDirectories(into.getParent());
        Files.writeString(into, "other");
        Item item = only();
        assertThatThrownBy(() -> source.fetch(item, into)).isInstanceOf(FileAlreadyExistsException.class);
        assertThat(into).hasContent("other");
        assertThat(folder.resolve("stock_1.csv")).hasContent("one");
    }
}
