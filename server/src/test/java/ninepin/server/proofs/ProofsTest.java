package ninepin.server.proofs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import ninepin.core.job.Definitions;
import ninepin.core.job.Shortcoming;
import ninepin.core.testing.Quality;
import ninepin.server.jobs.Jobs;
import ninepin.server.proofs.Proofs.ProofView;
import ninepin.server.testing.Services;
import ninepin.server.testing.SmallWorld;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.dao.DataAccessException;
import org.springframework.web.ErrorResponseException;

/** Samples that are kept with what a job makes of them: red when it makes something else, and then it does not go live. */
class ProofsTest {

    @TempDir
    static Path folder;

    private static Services services;
    private static SmallWorld world;
    private static Proofs proofs;
    private static Jobs jobs;

    @BeforeAll
    static void start() throws IOException {
        services = Services.start(folder, "proofs_test");
        world = new SmallWorld(services);
        proofs = services.get(Proofs.class);
        jobs = services.get(Jobs.class);
    }

    @AfterAll
    static void stop() {
        services.close();
    }

    private static void job(String name, byte[] sample) throws IOException {
        world.make(name, "");
        jobs.setSample(name, "sample.csv", new ByteArrayInputStream(sample));
    }

    /** Changes a job's draft so that it makes something else. */
    private static void change(String name, String from, String to) {
        String draft = jobs.get(name).draft();
        assertThat(draft).contains(from);
        jobs.saveDraft(
                name,
                jobs.get(name).revision(),
                Definitions.mapper().readTree(draft.replace(from, to)),
                SmallWorld.layout(name),
                "anna");
    }

    @Test
    void a_proof_is_made_of_the_sample_and_green_at_first() throws IOException {
        job("fresh", SmallWorld.lines(1, 11, 5));
        assertThat(proofs.prove("fresh")).isEmpty();
        ProofView made = proofs.make("fresh", "ten-lines", "anna");
        assertThat(made.green()).isTrue();
        assertThat(made.records()).isEqualTo(10);
        assertThat(made.rows()).isEqualTo(8);
        assertThat(made.findings()).isEqualTo(2);
        assertThat(made.madeBy()).isEqualTo("anna");
        assertThat(made.ended()).isEqualTo("finished");
        assertThat(proofs.prove("fresh")).singleElement().isEqualTo(made);
    }

    @Test
    void it_wants_a_sample_and_a_free_name() throws IOException {
        world.make("bare", "");
        assertThatThrownBy(() -> proofs.make("bare", "none", "anna")).hasMessageContaining("409");
        job("named-twice", SmallWorld.lines(1, 3, 0));
        proofs.make("named-twice", "one", "anna");
        assertThatThrownBy(() -> proofs.make("named-twice", "one", "bert"))
                .hasMessageContaining("409")
                .hasMessageContaining("There is a proof named one already");
    }

    @Test
    void it_keeps_its_own_sample_whatever_the_job_is_given_later() throws IOException {
        job("keeping", SmallWorld.lines(1, 5, 0));
        proofs.make("keeping", "four", "anna");
        jobs.setSample("keeping", "other.csv", new ByteArrayInputStream(SmallWorld.lines(5, 50, 0)));
        assertThat(proofs.prove("keeping")).singleElement().satisfies(p -> {
            assertThat(p.green()).isTrue();
            assertThat(p.records()).isEqualTo(4);
            assertThat(p.fileName()).isEqualTo("sample.csv");
        });
    }

    @Test
    void a_job_that_makes_something_else_is_told_what_and_does_not_go_live() throws IOException {
        job("changed", SmallWorld.lines(1, 5, 0));
        proofs.make("changed", "four", "anna");
        assertThat(jobs.putLive("changed", "anna")).noneMatch(Shortcoming::blocks);
        change("changed", "\"upper\"", "\"lower\"");

        ProofView red = proofs.prove("changed").get(0);
        assertThat(red.green()).isFalse();
        assertThat(red.differencesInAll()).isEqualTo(4);
        assertThat(red.differences().get(0).words()).contains("changed.sample", "\"S1\"", "\"s1\"");
        List<Shortcoming> against = jobs.putLive("changed", "anna");
        assertThat(against).filteredOn(Shortcoming::blocks).singleElement().satisfies(s -> assertThat(s.message())
                .contains("The proof four is red", "and 3 more"));
        assertThat(jobs.get("changed").liveVersion()).isEqualTo(1);

        assertThat(proofs.accept("changed", "four", "bert").green()).isTrue();
        assertThat(jobs.putLive("changed", "anna")).noneMatch(Shortcoming::blocks);
        assertThat(jobs.get("changed").liveVersion()).isEqualTo(2);
    }

    @Test
    void a_change_back_is_green_again() throws IOException {
        job("back", SmallWorld.lines(1, 5, 0));
        proofs.make("back", "four", "anna");
        change("back", "\"upper\"", "\"lower\"");
        assertThat(proofs.prove("back").get(0).green()).isFalse();
        change("back", "\"lower\"", "\"upper\"");
        assertThat(proofs.prove("back").get(0).green()).isTrue();
    }

    @Test
    void a_sample_that_halts_is_a_proof_of_that() throws IOException {
        job("halting", "Slip;Amount\r\n1;2\r\n".getBytes(StandardCharsets.UTF_8));
        ProofView made = proofs.make("halting", "other-columns", "anna");
        assertThat(made.green()).isTrue();
        assertThat(made.ended()).startsWith("halted");
        assertThat(made.rows()).isZero();
    }

    @Test
    void a_draft_that_cannot_be_read_is_told_by_each_proof() throws IOException {
        job("unreadable", SmallWorld.lines(1, 5, 0));
        proofs.make("unreadable", "four", "anna");
        change("unreadable", "\"deliveries\"", "\"deliverie\"");
        assertThatThrownBy(() -> proofs.prove("unreadable")).hasMessageContaining("deliverie");
    }

    @Test
    void a_sample_that_was_removed_is_told_and_the_proof_is_red() throws IOException {
        job("removed", SmallWorld.lines(1, 5, 0));
        proofs.make("removed", "four", "anna");
        try (var samples = Files.walk(folder.resolve("data"))) {
            for (Path sample : samples.filter(p ->
                            p.toString().contains("proof-" + jobs.get("removed").id() + "-four"))
                    .toList()) {
                Files.delete(sample);
            }
        }
        ProofView red = proofs.prove("removed").get(0);
        assertThat(red.green()).isFalse();
        assertThat(red.trouble()).isNotBlank();
        assertThat(jobs.putLive("removed", "anna")).anyMatch(Shortcoming::blocks);
        proofs.delete("removed", "four");
        assertThat(proofs.prove("removed")).isEmpty();
        assertThatThrownBy(() -> proofs.delete("removed", "four")).hasMessageContaining("404");
        assertThatThrownBy(() -> proofs.accept("removed", "four", "anna")).hasMessageContaining("404");
    }

    @Test
    void of_many_who_make_one_name_at_once_one_does() throws Exception {
        job("crowd", SmallWorld.lines(1, 5, 0));
        ExecutorService people = Executors.newFixedThreadPool(6);
        List<Callable<Integer>> all = IntStream.range(0, 12)
                .<Callable<Integer>>mapToObj(n -> () -> {
                    try {
                        proofs.make("crowd", "four", "person " + n);
                        return 1;
                    } catch (ErrorResponseException | DataAccessException e) {
                        return 0;
                    }
                })
                .toList();
        int made = 0;
        for (Future<Integer> one : people.invokeAll(all)) {
            made += one.get();
        }
        people.shutdown();
        assertThat(made).isEqualTo(1);
        assertThat(proofs.prove("crowd")).singleElement().matches(ProofView::green);
    }

    @Test
    void the_archive_has_all_that_the_command_line_needs() throws IOException {
        job("packed", SmallWorld.lines(1, 5, 0));
        proofs.make("packed", "four", "anna");
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        proofs.write("packed", bytes);
        List<String> names = new ArrayList<>();
        try (ZipInputStream zip = new ZipInputStream(new ByteArrayInputStream(bytes.toByteArray()))) {
            for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                names.add(entry.getName());
                if (entry.getName().endsWith("sample.csv")) {
                    assertThat(new String(zip.readAllBytes(), Quality.CHARSET)).startsWith(Quality.HEADER);
                }
            }
        }
        assertThat(names)
                .containsExactly(
                        "packed.job.json",
                        "packed.layout.json",
                        "packed.proofs/four.proof.json",
                        "packed.proofs/four-sample.csv");
    }
}
