package ninepin.doors.folder;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.stream.Stream;
import ninepin.doors.store.StoreException;
import ninepin.doors.store.StoreException.Kind;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A folder of another machine: there or away, with files of others in it. */
class FolderStoreTest {

    @TempDir
    Path temporary;

    private Path share;
    private Path file;

    @BeforeEach
    void write() throws IOException {
        share = Files.createDirectory(temporary.resolve("share"));
        file = Files.writeString(temporary.resolve("here.csv"), "milk;1\n");
    }

    private FolderStore store(String folder) throws StoreException {
        return new FolderStore("share/" + folder, share, share.resolve(folder), null);
    }

    private static Kind kindOf(org.assertj.core.api.ThrowableAssert.ThrowingCallable doing) {
        return catchThrowableOfType(StoreException.class, doing).kind();
    }

    private static Stream<String> names(Path folder) throws IOException {
        try (Stream<Path> files = Files.list(folder)) {
            return files.map(f -> f.getFileName().toString()).sorted().toList().stream();
        }
    }

    @Test
    void a_file_gets_its_name_when_it_is_whole() throws Exception {
        try (FolderStore store = store("in/today")) {
            store.upload(file, ".1.part");
            assertThat(store.size(".1.part")).hasValue(7);
            assertThat(store.size("milk.csv")).isEmpty();
            store.publish(".1.part", "milk.csv", false);
            assertThat(names(share.resolve("in/today"))).containsExactly("milk.csv");
            assertThat(store.fingerprint("milk.csv")).hasSize(64);
            store.remove("milk.csv");
            store.remove("milk.csv");
            assertThat(kindOf(() -> store.fingerprint("milk.csv"))).isEqualTo(Kind.GONE);
        }
    }

    @Test
    void a_file_of_somebody_else_gives_way_only_where_it_may() throws Exception {
        Files.writeString(share.resolve("milk.csv"), "of somebody else");
        try (FolderStore store = store("")) {
            store.upload(file, ".1.part");
            assertThat(kindOf(() -> store.publish(".1.part", "milk.csv", false)))
                    .isEqualTo(Kind.TAKEN);
            assertThat(share.resolve("milk.csv")).hasContent("of somebody else");
            store.publish(".1.part", "milk.csv", true);
            assertThat(share.resolve("milk.csv")).hasContent("milk;1");
            assertThat(names(share)).containsExactly("milk.csv");
        }
    }

    /** The process ended when the file had both names. */
    @Test
    void a_name_that_was_given_is_given_again_without_harm() throws Exception {
        try (FolderStore store = store("")) {
            store.upload(file, ".1.part");
            Files.createLink(share.resolve("milk.csv"), share.resolve(".1.part"));
            store.publish(".1.part", "milk.csv", false);
            assertThat(names(share)).containsExactly("milk.csv");
        }
    }

    @Test
    void a_root_that_is_away_is_never_made() throws Exception {
        FolderStore store = store("in");
        Files.delete(share.resolve("in"));
        Files.delete(share);
        assertThat(kindOf(() -> store("in"))).isEqualTo(Kind.AWAY);
        assertThat(kindOf(() -> store.upload(file, ".1.part"))).isEqualTo(Kind.AWAY);
        assertThat(share).doesNotExist();
    }

    private static String rights(Path of) throws IOException {
        return PosixFilePermissions.toString(Files.getPosixFilePermissions(of));
    }

    @Test
    void files_have_the_rights_that_the_settings_say() throws Exception {
        Path in = share.resolve("in/today");
        try (FolderStore store = new FolderStore("share", share, in, PosixFilePermissions.fromString("rw-r-----"))) {
            store.upload(file, ".1.part");
            store.publish(".1.part", "milk.csv", false);
            assertThat(rights(in.resolve("milk.csv"))).isEqualTo("rw-r-----");
            assertThat(rights(in)).isEqualTo("rwxr-x---");
            assertThat(rights(in.getParent())).isEqualTo("rwxr-x---");
        }
    }
}
