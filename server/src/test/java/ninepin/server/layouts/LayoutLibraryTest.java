package ninepin.server.layouts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.groups.Tuple.tuple;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.IntStream;
import ninepin.core.job.Definitions;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.server.definitions.JsonDifference.Change;
import ninepin.server.layouts.LayoutMapper.LayoutRow;
import ninepin.server.layouts.LayoutMapper.LayoutVersionRow;
import ninepin.server.testing.Services;
import ninepin.server.testing.SmallWorld;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** Layouts in the library: drafts, versions, and layouts that come with jobs. */
class LayoutLibraryTest {

    @TempDir
    static Path folder;

    private static Services services;
    private static LayoutLibrary library;

    @BeforeAll
    static void start() throws IOException {
        services = Services.start(folder, "library_test");
        library = services.get(LayoutLibrary.class);
    }

    @AfterAll
    static void stop() {
        services.close();
    }

    private static JsonNode titled(String name, String title) {
        return SmallWorld.with(SmallWorld.layout(name), "title", title);
    }

    @Test
    void a_layout_is_made_with_its_first_version() {
        LayoutRow row = library.create(SmallWorld.layout("first"), "anna");
        assertThat(library.versions(row))
                .extracting(LayoutVersionRow::version, LayoutVersionRow::savedBy)
                .containsExactly(tuple(1, "anna"));
        assertThat(library.standing(row)).isEqualTo(new LayoutLibrary.Standing(1, false));
        assertThatThrownBy(() -> library.create(SmallWorld.layout("first"), "bert"))
                .hasMessageContaining("409");
    }

    @Test
    void a_definition_that_is_none_makes_nothing() {
        JsonNode wrong = SmallWorld.with(SmallWorld.layout("wrong"), "recordTypes", "none");
        assertThatThrownBy(() -> library.create(wrong, "anna")).isInstanceOf(DefinitionException.class);
        assertThatThrownBy(() -> library.get("wrong")).hasMessageContaining("404");
    }

    @Test
    void a_draft_is_ahead_until_it_is_saved_as_a_version() {
        LayoutRow row = library.create(SmallWorld.layout("ahead"), "anna");
        LayoutRow drafted = library.saveDraft("ahead", row.revision(), titled("ahead", "Second"), "anna");
        assertThat(library.standing(drafted)).isEqualTo(new LayoutLibrary.Standing(1, true));
        assertThat(library.latest("ahead").title()).as("what jobs take").isNotEqualTo("Second");
        assertThat(library.changes(drafted, 1, drafted.draft()))
                .extracting(Change::part, Change::after)
                .containsExactly(tuple("title", "Second"));
        assertThat(library.saveVersion("ahead", titled("ahead", "Second"), 1, " called so ", "anna"))
                .isEqualTo(2);
        LayoutRow saved = library.get("ahead");
        assertThat(library.standing(saved)).isEqualTo(new LayoutLibrary.Standing(2, false));
        assertThat(library.versions(saved).get(0).note()).isEqualTo("called so");
        assertThat(library.latest("ahead").title()).isEqualTo("Second");
    }

    @Test
    void who_saves_a_draft_or_version_of_an_older_one_is_told_whose_is_newer() {
        LayoutRow row = library.create(SmallWorld.layout("contested"), "anna");
        library.saveDraft("contested", row.revision(), titled("contested", "Of anna"), "anna");
        assertThatThrownBy(() -> library.saveDraft("contested", row.revision(), titled("contested", "Of bert"), "bert"))
                .hasMessageContaining("409")
                .hasMessageContaining("changed by anna");
        library.saveVersion("contested", titled("contested", "Of anna"), 1, null, "anna");
        assertThatThrownBy(() -> library.saveVersion("contested", titled("contested", "Of bert"), 1, null, "bert"))
                .hasMessageContaining("409")
                .hasMessageContaining("anna saved version 2");
        assertThatThrownBy(() -> library.saveVersion("contested", titled("contested", "Of anna"), 2, null, "bert"))
                .hasMessageContaining("Nothing differs from version 2");
    }

    @Test
    void a_version_from_a_job_does_not_take_the_place_of_a_draft_that_is_ahead() {
        LayoutRow row = library.create(SmallWorld.layout("guarded"), "anna");
        library.saveDraft("guarded", row.revision(), titled("guarded", "Being worked on"), "anna");
        assertThatThrownBy(() -> library.saveVersion("guarded", titled("guarded", "Of a job"), 1, null, "bert"))
                .hasMessageContaining("409")
                .hasMessageContaining("changes of its own, by anna");
        assertThat(Definitions.layout(library.get("guarded").draft()).title()).isEqualTo("Being worked on");
    }

    @Test
    void names_are_kept() {
        LayoutRow row = library.create(SmallWorld.layout("kept"), "anna");
        assertThatThrownBy(() -> library.saveDraft("kept", row.revision(), SmallWorld.layout("other"), "anna"))
                .hasMessageContaining("422");
        assertThatThrownBy(() -> library.saveVersion("kept", SmallWorld.layout("other"), 1, null, "anna"))
                .hasMessageContaining("422");
    }

    @Test
    void a_layout_that_comes_with_a_job_is_kept_under_its_name_or_the_next_free_one() {
        Layout layout = Definitions.layout(SmallWorld.layout("brought").toString());
        assertThat(library.keep(layout, "anna").name()).isEqualTo("brought");
        assertThat(library.keep(layout, "bert").name()).as("the same once more").isEqualTo("brought");
        Layout other = Definitions.layout(titled("brought", "Another").toString());
        assertThat(library.keep(other, "bert").name()).isEqualTo("brought-2");
        Layout third = Definitions.layout(titled("brought", "A third").toString());
        assertThat(library.keep(third, "bert").name()).isEqualTo("brought-3");
        assertThat(library.keep(other, "carl").name())
                .as("the second once more")
                .isEqualTo("brought-2");
        assertThat(library.keep(layout, "carl").name()).isEqualTo("brought");
    }

    @Test
    void a_long_name_leaves_room_for_its_number() {
        String name = "l".repeat(60);
        library.create(SmallWorld.layout(name), "anna");
        List<String> names = IntStream.range(0, 12)
                .mapToObj(n -> library.keep(
                                Definitions.layout(titled(name, "Number " + n).toString()), "anna")
                        .name())
                .toList();
        assertThat(names).doesNotHaveDuplicates().allMatch(n -> n.length() <= 60 && n.startsWith("lll"));
    }

    @Test
    void a_version_is_found_by_what_it_says_whatever_the_order_of_its_parts() {
        LayoutRow row = library.create(SmallWorld.layout("said"), "anna");
        String turned = SmallWorld.layout("said").toString().replace("\"header\":true", "\"header\" : true");
        assertThat(library.versionOf(row, turned)).contains(1);
        assertThat(library.versionOf(row, titled("said", "Other").toString())).isEmpty();
    }

    @Test
    void one_that_jobs_use_is_not_deleted() {
        library.create(SmallWorld.layout("used"), "anna");
        assertThatThrownBy(() -> library.delete("used", List.of("results")))
                .hasMessageContaining("409")
                .hasMessageContaining("results");
        library.delete("used", List.of());
        assertThatThrownBy(() -> library.get("used")).hasMessageContaining("404");
    }

    @Test
    void a_sample_is_offered_only_where_there_is_none() throws IOException {
        library.create(SmallWorld.layout("offered"), "anna");
        Path file = java.nio.file.Files.write(folder.resolve("offered.csv"), SmallWorld.lines(1, 3, 0));
        assertThat(library.sample(library.get("offered"))).isEmpty();
        library.offerSample("offered", "offered.csv", file);
        assertThat(library.sample(library.get("offered")).orElseThrow()).hasBinaryContent(SmallWorld.lines(1, 3, 0));
        library.setSample("offered", "own.csv", new ByteArrayInputStream(SmallWorld.lines(3, 9, 0)));
        library.offerSample("offered", "offered.csv", file);
        assertThat(library.sample(library.get("offered")).orElseThrow()).hasBinaryContent(SmallWorld.lines(3, 9, 0));
        library.offerSample("nobody-made-it", "offered.csv", file);
    }

    @Test
    void the_last_file_that_fitted_is_the_sample_or_that_of_a_run() throws Exception {
        LayoutRow row = library.create(SmallWorld.layout("fitting"), "anna");
        assertThat(library.lastFitted(row)).isEmpty();
        library.setSample("fitting", "sample.csv", new ByteArrayInputStream(SmallWorld.lines(1, 3, 0)));
        library.fitted(library.get("fitting"));
        assertThat(library.lastFitted(library.get("fitting"))).get().matches(f -> f.name()
                .equals("sample.csv"));
        SmallWorld world = new SmallWorld(services);
        world.live("fitting", "");
        world.run("fitting", SmallWorld.lines(1, 9, 0));
        assertThat(library.lastFitted(library.get("fitting"))).get().matches(f -> f.name()
                .equals("results.csv"));
    }
}
