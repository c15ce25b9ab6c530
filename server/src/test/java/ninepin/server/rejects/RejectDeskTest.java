package ninepin.server.rejects;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import ninepin.core.testing.Quality;
import ninepin.server.rejects.RejectDesk.ChangeInMany;
import ninepin.server.rejects.RejectDesk.CheckedReject;
import ninepin.server.rejects.RejectDesk.RejectKey;
import ninepin.server.rejects.RejectDesk.WantedChange;
import ninepin.server.rejects.RejectMapper.HistoryRow;
import ninepin.server.rejects.RejectMapper.RejectRow;
import ninepin.server.runs.RunView;
import ninepin.server.testing.Services;
import ninepin.server.testing.SmallWorld;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.web.ErrorResponseException;

/** What people do with rejects: correct, check, change many, send again, set aside; each once, and each on record. */
class RejectDeskTest {

    @TempDir
    static Path folder;

    private static Services services;
    private static SmallWorld world;
    private static RejectDesk desk;
    private static RejectMapper mapper;
    private static int jobs;

    @BeforeAll
    static void start() throws IOException {
        services = Services.start(folder, "desk_test");
        world = new SmallWorld(services);
        desk = services.get(RejectDesk.class);
        mapper = services.get(RejectMapper.class);
    }

    @AfterAll
    static void stop() {
        services.close();
    }

    /** A run of a job of its own on twenty lines, of which every so many have a farm that is no number. */
    private static RunView refused(int badEvery) throws Exception {
        String job = "desk-" + ++jobs;
        world.live(job, "");
        return world.run(job, SmallWorld.lines(1, 21, badEvery));
    }

    private static RejectKey key(RunView run, long record) {
        return new RejectKey(run.id(), 0, record);
    }

    private static List<RejectKey> keys(RunView run, long... records) {
        return LongStream.of(records).mapToObj(r -> key(run, r)).toList();
    }

    private static String good(int record) {
        return Quality.line(record).strip();
    }

    private static RejectRow row(RunView run, long record) {
        return mapper.documentsOf(run.id(), 0, List.of(record)).get(0);
    }

    private static String corrected(RunView run, long record) {
        byte[] bytes = row(run, record).corrected();
        return bytes == null ? null : new String(bytes, Quality.CHARSET);
    }

    @Test
    void a_correction_is_kept_beside_what_came() throws Exception {
        RunView run = refused(5);
        desk.correct(key(run, 5), Map.of(5L, good(5)), "anna");
        assertThat(corrected(run, 5)).isEqualTo(good(5));
        assertThat(new String(row(run, 5).raw(), Quality.CHARSET)).contains(";x;");
        assertThat(row(run, 5).decidedBy()).isEqualTo("anna");
        assertThat(row(run, 5).state()).isEqualTo("open");
        assertThat(corrected(run, 10)).as("another reject").isNull();
    }

    @Test
    void a_correction_back_to_what_came_is_none() throws Exception {
        RunView run = refused(5);
        String came = new String(row(run, 5).raw(), Quality.CHARSET);
        desk.correct(key(run, 5), Map.of(5L, good(5)), "anna");
        desk.correct(key(run, 5), Map.of(5L, came), "anna");
        assertThat(corrected(run, 5)).isNull();
    }

    @Test
    void an_edit_that_keeps_itself_at_every_letter_is_one_in_the_history() throws Exception {
        RunView run = refused(10);
        for (int letters = 1; letters <= 12; letters++) {
            desk.correct(key(run, 10), Map.of(10L, good(10).substring(0, letters)), "anna");
        }
        desk.correct(key(run, 10), Map.of(10L, good(10)), "bert");
        List<HistoryRow> history = mapper.history(run.id(), 10L);
        assertThat(history).extracting(HistoryRow::who).containsExactlyInAnyOrder("anna", "bert");
        assertThat(history)
                .filteredOn(h -> h.who().equals("anna"))
                .singleElement()
                .satisfies(h ->
                        assertThat(new String(h.corrected(), Quality.CHARSET)).hasSize(12));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                // the record as it would be | what becomes of it | what is wrong with it
                "S5;7;FAT;3,05;03.11.2026;ok | row | ",
                "S5;x;FAT;3,05;03.11.2026;ok | reject | NUM-01",
                "S5;7;SOUR;3,05;03.11.2026;ok | reject | LST-01",
                "S5;7;FAT;12,5;03.11.2026;ok | note | ",
                "S5;7;FAT;3,05;31.11.2026;ok | reject | DAT-02",
                "S5;7;FAT | reject | ROW-01",
                ";7;FAT;3,05;03.11.2026;ok | reject | REQ-01",
                "S5;1000;FAT;3,05;03.11.2026;ok | reject | RNG-01",
            })
    void a_text_is_checked_as_the_run_would(String text, String fate, String code) throws Exception {
        RunView run = refused(20);
        List<CheckedReject> checked = desk.check(key(run, 20), Map.of(20L, text));
        assertThat(checked).singleElement().satisfies(c -> {
            assertThat(c.fate()).isEqualTo(fate);
            assertThat(c.bad()).extracting(b -> b.code()).isEqualTo(code == null ? List.of() : List.of(code));
            assertThat(c.text()).isEqualTo(text);
        });
        assertThat(corrected(run, 20)).as("a check keeps nothing").isNull();
    }

    @Test
    void a_change_in_many_tells_its_effect_and_is_made_when_it_is_wanted() throws Exception {
        RunView run = refused(4);
        List<RejectKey> all = keys(run, 4, 8, 12, 16, 20);
        WantedChange wanted = new WantedChange("Farm", "x", "7");
        ChangeInMany told = desk.change(all, wanted, false, "anna");
        assertThat(told.changed()).isEqualTo(5);
        assertThat(told.good()).isEqualTo(5);
        assertThat(told.bad()).isZero();
        assertThat(told.effects()).hasSize(5).allSatisfy(e -> {
            assertThat(e.before()).contains(";x;");
            assertThat(e.after()).contains(";7;").doesNotContain(";x;");
        });
        assertThat(corrected(run, 4)).as("nothing is kept yet").isNull();

        assertThat(desk.change(all, wanted, true, "anna").changed()).isEqualTo(5);
        assertThat(corrected(run, 20)).contains(";7;");
        assertThat(desk.change(all, wanted, true, "anna").changed())
                .as("a second time")
                .isZero();
    }

    @Test
    void a_change_that_mends_nothing_says_so() throws Exception {
        RunView run = refused(10);
        ChangeInMany told = desk.change(keys(run, 10, 20), new WantedChange("Farm", "x", "y"), false, "anna");
        assertThat(told.changed()).isEqualTo(2);
        assertThat(told.good()).isZero();
        assertThat(told.bad()).isEqualTo(2);
    }

    @Test
    void corrected_ones_are_sent_again_and_delivered_once() throws Exception {
        RunView run = refused(5);
        String job = run.job();
        for (int record : new int[] {5, 10}) {
            desk.correct(key(run, record), Map.of((long) record, good(record)), "anna");
        }
        List<Long> again = desk.resubmit(keys(run, 5, 10), "anna");
        assertThat(again).hasSize(1);
        RunView second = world.await(again.get(0), "FINISHED");
        assertThat(second.tally().delivered()).isEqualTo(2);
        assertThat(second.parentRun()).isEqualTo(run.id());
        assertThat(world.rows(job)).isEqualTo(18);
        assertThat(row(run, 5).state()).isEqualTo("resubmitted");
        assertThat(row(run, 5).resubmittedRun()).isEqualTo(again.get(0));
        assertThat(desk.open(run.id())).isEqualTo(2);

        assertThatThrownBy(() -> desk.resubmit(keys(run, 5, 10), "bert"))
                .hasMessageContaining("409")
                .hasMessageContaining("None of them is open");
        assertThatThrownBy(() -> desk.correct(key(run, 5), Map.of(5L, "other"), "bert"))
                .hasMessageContaining("409");
        assertThat(world.rows(job)).isEqualTo(18);
    }

    @Test
    void of_many_who_send_the_same_ones_again_one_does() throws Exception {
        RunView run = refused(5);
        for (long record : new long[] {5, 10, 15, 20}) {
            desk.correct(key(run, record), Map.of(record, good((int) record)), "anna");
        }
        ExecutorService people = Executors.newFixedThreadPool(6);
        List<Callable<List<Long>>> all = IntStream.range(0, 12)
                .<Callable<List<Long>>>mapToObj(n -> () -> {
                    try {
                        return desk.resubmit(keys(run, 5, 10, 15, 20), "person " + n);
                    } catch (ErrorResponseException | org.springframework.dao.DataAccessException e) {
                        return List.of();
                    }
                })
                .toList();
        List<Long> again = new ArrayList<>();
        for (Future<List<Long>> one : people.invokeAll(all)) {
            again.addAll(one.get());
        }
        people.shutdown();
        assertThat(again).hasSize(1);
        assertThat(world.await(again.get(0), "FINISHED").tally().delivered()).isEqualTo(4);
        assertThat(world.rows(run.job())).isEqualTo(20);
    }

    @Test
    void one_that_is_refused_again_stands_on_the_desk_with_its_new_run() throws Exception {
        RunView run = refused(10);
        List<Long> again = desk.resubmit(keys(run, 10), "anna");
        RunView second = world.await(again.get(0), "FINISHED");
        assertThat(second.tally().rejected()).isEqualTo(1);
        assertThat(desk.open(second.id())).isEqualTo(1);
        desk.correct(key(second, 1), Map.of(1L, good(10)), "anna");
        RunView third = world.await(desk.resubmit(keys(second, 1), "anna").get(0), "FINISHED");
        assertThat(third.tally().delivered()).isEqualTo(1);
        assertThat(world.rows(run.job())).isEqualTo(19);
    }

    @Test
    void set_aside_they_stay_with_their_reason_and_are_not_sent_again() throws Exception {
        RunView run = refused(5);
        assertThatThrownBy(() -> desk.setAside(keys(run, 5), "  ", "anna")).hasMessageContaining("422");
        assertThat(desk.setAside(keys(run, 5, 10), " sent by mistake ", "anna")).isEqualTo(2);
        assertThat(row(run, 5).state()).isEqualTo("aside");
        assertThat(row(run, 5).reason()).isEqualTo("sent by mistake");
        assertThat(desk.open(run.id())).isEqualTo(2);
        assertThatThrownBy(() -> desk.resubmit(keys(run, 5), "bert")).hasMessageContaining("409");
        assertThat(mapper.history(run.id(), 5L)).extracting(HistoryRow::did).containsExactly("set aside");
        assertThat(desk.setAside(keys(run, 5, 15), "again", "bert"))
                .as("only what is open")
                .isEqualTo(1);
    }

    @Test
    void nothing_and_too_many_are_refused_in_words() {
        assertThatThrownBy(() -> desk.resubmit(List.of(), "anna")).hasMessageContaining("422");
        List<RejectKey> many = LongStream.range(0, 10_001)
                .mapToObj(n -> new RejectKey(1, 0, n))
                .toList();
        assertThatThrownBy(() -> desk.resubmit(many, "anna")).hasMessageContaining("422");
        assertThatThrownBy(() -> desk.document(new RejectKey(99_999, 0, 1))).hasMessageContaining("404");
    }

    @Test
    void a_file_of_rejects_goes_out_and_comes_back_corrected() throws Exception {
        RunView run = refused(5);
        RejectImport imports = services.get(RejectImport.class);
        String out = new String(imports.file(run.id()), Quality.CHARSET);
        assertThat(out.lines()).hasSize(5).first().isEqualTo(Quality.HEADER.strip());
        byte[] back = out.replace(";x;", ";7;").getBytes(Quality.CHARSET);
        RejectImport.Imported taken = imports.take(run.id(), back, "anna");
        assertThat(taken.corrected()).isEqualTo(4);
        assertThat(taken.sent()).isEqualTo(4);
        assertThat(taken.left()).isZero();
        world.await(taken.runs().get(0), "FINISHED");
        assertThat(world.rows(run.job())).isEqualTo(20);
    }

    @Test
    void a_file_of_some_of_them_leaves_the_others_open() throws Exception {
        RunView run = refused(5);
        RejectImport imports = services.get(RejectImport.class);
        List<String> lines =
                new String(imports.file(run.id()), Quality.CHARSET).lines().toList();
        String some = String.join("\r\n", lines.get(0), lines.get(2), lines.get(4)) + "\r\n";
        RejectImport.Imported taken = imports.take(run.id(), some.getBytes(Quality.CHARSET), "anna");
        assertThat(taken.sent()).isEqualTo(2);
        assertThat(taken.left()).isEqualTo(2);
        assertThat(row(run, 10).state()).isEqualTo("resubmitted");
        assertThat(row(run, 5).state()).isEqualTo("open");
    }

    @Test
    void a_file_that_is_none_of_them_changes_nothing() throws Exception {
        RunView run = refused(5);
        RejectImport imports = services.get(RejectImport.class);
        for (String wrong : List.of("", "Slip;Amount\r\n1;2\r\n", "<rejects/>", Quality.HEADER)) {
            assertThatThrownBy(() -> imports.take(run.id(), wrong.getBytes(StandardCharsets.UTF_8), "anna"))
                    .as(wrong)
                    .isInstanceOf(ErrorResponseException.class);
        }
        assertThat(desk.open(run.id())).isEqualTo(4);
    }
}
