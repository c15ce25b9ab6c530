package ninepin.server.jobs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.DefinitionException;
import ninepin.server.definitions.JsonDifference.Change;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.layouts.LayoutLibrary;
import ninepin.server.testing.Services;
import ninepin.server.testing.SmallWorld;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.web.ErrorResponseException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** Drafts, what keeps them from going live, and what going live does. */
class JobsTest {

    @TempDir
    static Path folder;

    private static Services services;
    private static SmallWorld world;
    private static Jobs jobs;

    @BeforeAll
    static void start() throws IOException {
        services = Services.start(folder, "jobs_test");
        world = new SmallWorld(services);
        jobs = services.get(Jobs.class);
    }

    @AfterAll
    static void stop() {
        services.close();
    }

    @Test
    void a_job_is_made_once() {
        world.make("once", "");
        assertThatThrownBy(() -> jobs.create(SmallWorld.job("once", ""), SmallWorld.layout("once"), "other"))
                .isInstanceOf(ErrorResponseException.class)
                .hasMessageContaining("409")
                .hasMessageContaining("There is a job named once already.");
        assertThat(jobs.get("once").updatedBy()).isEqualTo("tester");
    }

    @Test
    void a_draft_is_saved_by_whoever_knows_its_revision_and_by_nobody_else() {
        JobRow made = world.make("revised", "");
        JsonNode titled = SmallWorld.with(SmallWorld.job("revised", ""), "title", "First");
        JobRow first = jobs.saveDraft("revised", made.revision(), titled, SmallWorld.layout("revised"), "anna");
        assertThat(first.revision()).isEqualTo(made.revision() + 1);

        JsonNode other = SmallWorld.with(titled, "title", "Second");
        assertThatThrownBy(
                        () -> jobs.saveDraft("revised", made.revision(), other, SmallWorld.layout("revised"), "bert"))
                .hasMessageContaining("409")
                .hasMessageContaining("changed by anna meanwhile");
        assertThat(Jobs.draft(jobs.get("revised")).job().title()).isEqualTo("First");
    }

    @Test
    void of_many_who_save_at_once_one_is_first_and_all_others_are_told() throws Exception {
        JobRow made = world.make("crowded", "");
        AtomicInteger saved = new AtomicInteger();
        AtomicInteger told = new AtomicInteger();
        ExecutorService people = Executors.newFixedThreadPool(8);
        List<Callable<Object>> all = IntStream.range(0, 24)
                .<Callable<Object>>mapToObj(n -> () -> {
                    JsonNode mine = SmallWorld.with(SmallWorld.job("crowded", ""), "title", "Of " + n);
                    try {
                        jobs.saveDraft("crowded", made.revision(), mine, SmallWorld.layout("crowded"), "person " + n);
                        return saved.incrementAndGet();
                    } catch (ErrorResponseException e) {
                        return told.incrementAndGet();
                    }
                })
                .toList();
        for (Future<Object> one : people.invokeAll(all)) {
            one.get();
        }
        people.shutdown();
        assertThat(saved).hasValue(1);
        assertThat(told).hasValue(23);
        assertThat(jobs.get("crowded").revision()).isEqualTo(made.revision() + 1);
    }

    @Test
    void a_draft_keeps_the_name_of_its_job() {
        JobRow made = world.make("named", "");
        JsonNode renamed = SmallWorld.job("renamed", "");
        assertThatThrownBy(
                        () -> jobs.saveDraft("named", made.revision(), renamed, SmallWorld.layout("named"), "tester"))
                .hasMessageContaining("422");
    }

    @Test
    void a_draft_that_is_not_whole_is_kept_and_does_not_go_live() {
        JobRow made = world.make("half", "");
        ObjectNode half = SmallWorld.job("half", "");
        half.putArray("deliveries");
        jobs.saveDraft("half", made.revision(), half, SmallWorld.layout("half"), "tester");
        List<Shortcoming> against = jobs.putLive("half", "tester");
        assertThat(against).anyMatch(Shortcoming::blocks);
        assertThat(jobs.get("half").liveVersion()).isNull();

        half.put("deliveries", "none");
        jobs.saveDraft("half", made.revision() + 1, half, SmallWorld.layout("half"), "tester");
        assertThatThrownBy(() -> Jobs.draft(jobs.get("half"))).isInstanceOf(DefinitionException.class);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                // what is wrong | how the definition is spoilt | the code that is said
                "no such table       | \"table\":\"spoilt\"         | \"table\":\"nowhere\"      | JOB-07",
                "no such connection  | \"connection\":\"target\"    | \"connection\":\"nowhere\" | JOB-20",
                "no such field       | \"field\":\"Remark\"         | \"field\":\"Nothing\"      | JOB-04",
                "no such column      | \"target\":\"remark\"        | \"target\":\"nothing\"     | JOB-14",
            })
    void what_keeps_a_draft_from_running_is_said_with_its_code(String what, String from, String to, String code) {
        if (services.database()
                .rows(services.target(), "SHOW TABLES LIKE 'spoilt'")
                .isEmpty()) {
            world.make("spoilt", "");
        }
        String spoilt = SmallWorld.job("spoilt", "").toString().replace(from, to);
        assertThat(spoilt)
                .as("it is spoilt")
                .isNotEqualTo(SmallWorld.job("spoilt", "").toString());
        JobRow row = jobs.get("spoilt");
        jobs.saveDraft(
                "spoilt",
                row.revision(),
                ninepin.core.job.Definitions.mapper().readTree(spoilt),
                SmallWorld.layout("spoilt"),
                "tester");
        assertThat(jobs.checkForLive("spoilt"))
                .as(what)
                .filteredOn(Shortcoming::blocks)
                .extracting(Shortcoming::code)
                .contains(code);
        assertThat(jobs.putLive("spoilt", "tester")).anyMatch(Shortcoming::blocks);
        assertThat(jobs.get("spoilt").liveVersion()).isNull();
    }

    @Test
    void going_live_counts_versions_and_tells_what_has_changed() {
        world.live("versioned", "");
        assertThat(jobs.draftAhead(jobs.get("versioned"))).isFalse();
        JobRow row = jobs.get("versioned");
        ObjectNode limited = SmallWorld.job("versioned", "\"limits\":{\"rejects\":5}");
        jobs.saveDraft("versioned", row.revision(), limited, SmallWorld.layout("versioned"), "anna");
        JobRow ahead = jobs.get("versioned");
        assertThat(jobs.draftAhead(ahead)).isTrue();
        assertThat(jobs.changes(ahead)).extracting(Change::after).contains("5");

        assertThat(jobs.putLive("versioned", "anna")).noneMatch(Shortcoming::blocks);
        assertThat(jobs.get("versioned").liveVersion()).isEqualTo(2);
        assertThat(jobs.versions(jobs.get("versioned"))).hasSize(2);
        assertThat(jobs.version(row.id(), 1).job().limits().rejects()).isNull();
        assertThat(jobs.version(row.id(), 2).job().limits().rejects()).isEqualTo(5);
        assertThat(jobs.draftAhead(jobs.get("versioned"))).isFalse();
    }

    @Test
    void a_table_that_changes_under_a_live_version_is_told_and_stops_nobody() {
        JobRow row = world.live("shifting", "");
        services.database().execute(services.target(), "ALTER TABLE shifting MODIFY remark VARCHAR(61)");
        assertThat(jobs.changedTargets(row.id(), 1)).singleElement().asString().contains("shifting", "remark");
        assertThat(jobs.checkForLive("shifting"))
                .filteredOn(s -> s.code().equals("JOB-51"))
                .singleElement()
                .matches(s -> !s.blocks());
    }

    @Test
    void a_schedule_wants_a_live_version_with_a_pick_up() {
        world.make("idle", "");
        assertThatThrownBy(() -> jobs.schedule("idle", true)).hasMessageContaining("409");
        jobs.putLive("idle", "tester");
        assertThatThrownBy(() -> jobs.schedule("idle", true)).hasMessageContaining("422");

        world.live(
                "watching",
                "\"pickUp\":{\"root\":\"files\",\"folder\":\"in\",\"pattern\":\"*.csv\",\"everySeconds\":60}");
        jobs.schedule("watching", true);
        assertThat(jobs.get("watching").scheduled()).isTrue();
        jobs.schedule("watching", false);
        assertThat(jobs.get("watching").scheduled()).isFalse();
    }

    @Test
    void the_sample_of_a_job_is_kept_with_it_and_goes_to_a_layout_without_one() throws IOException {
        world.make("sampled", "");
        assertThatThrownBy(() -> jobs.neededSample(jobs.get("sampled"))).hasMessageContaining("no sample yet");
        byte[] bytes = SmallWorld.lines(1, 5, 0);
        jobs.setSample("sampled", "some.csv", new ByteArrayInputStream(bytes));
        assertThat(jobs.neededSample(jobs.get("sampled"))).hasBinaryContent(bytes);
        LayoutLibrary library = services.get(LayoutLibrary.class);
        assertThat(library.sample(library.get("sampled"))).get().satisfies(p -> assertThat(Files.readAllBytes(p))
                .isEqualTo(bytes));

        byte[] others = SmallWorld.lines(5, 9, 0);
        jobs.setSample("sampled", "others.csv", new ByteArrayInputStream(others));
        assertThat(jobs.neededSample(jobs.get("sampled"))).hasBinaryContent(others);
        assertThat(library.sample(library.get("sampled"))).get().satisfies(p -> assertThat(Files.readAllBytes(p))
                .isEqualTo(bytes));
    }

    @Test
    void a_job_takes_its_versions_and_runs_with_it_when_it_is_deleted() throws Exception {
        JobRow row = world.live("leaving", "");
        world.run("leaving", SmallWorld.lines(1, 4, 0));
        assertThat(jobs.dependents("leaving").runs()).isEqualTo(1);
        jobs.delete("leaving");
        assertThatThrownBy(() -> jobs.get("leaving")).hasMessageContaining("404");
        for (String table : List.of("job_version", "run")) {
            assertThat(services.database()
                            .rows(services.tables(), "SELECT COUNT(*) FROM " + table + " WHERE job_id = " + row.id()))
                    .containsExactly("0");
        }
        assertThat(world.rows("leaving")).as("what it has delivered stays").isEqualTo(3);
    }
}
