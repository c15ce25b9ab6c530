package ninepin.server.runs;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import ninepin.core.check.Finding;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.Tally;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.Severity;
import ninepin.core.record.Locator;
import ninepin.core.record.Position;
import ninepin.core.run.Fate;
import ninepin.core.run.Journal;
import ninepin.core.run.JournalEntry;
import ninepin.server.config.Folders;
import ninepin.server.runs.LegAccounts.PlaceView;
import ninepin.server.runs.RunMapper.NewRun;
import ninepin.server.runs.RunMapper.RunRow;
import ninepin.server.testing.Services;
import ninepin.server.testing.SmallWorld;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.node.ObjectNode;

/** The accounts of places and of runs as they are kept: never older than they were, of whoever has the run, and in the end equal. */
class LegAccountsTest {

    @TempDir
    static Path folder;

    private static Services services;
    private static LegAccounts accounts;
    private static RunMapper runs;
    private static FindingMapper findings;
    private static long jobId;
    private static Job job;
    private static int count;
    /** A journal has an entry on each line. */
    @BeforeAll
    static void start() throws IOException {
        services = Services.start(folder, "accounts_test");
        accounts = services.get(LegAccounts.class);
        runs = services.get(RunMapper.class);
        findings = services.get(FindingMapper.class);
        services.connect("second", services.target());
        SmallWorld world = new SmallWorld(services);
        jobId = world.make("accounts", "").id();
        ObjectNode two = SmallWorld.job("accounts", "");
        two.withArray("deliveries")
                .add(Definitions.mapper()
                        .readTree(two.path("deliveries")
                                .get(0)
                                .toString()
                                .replace("\"target\",\"table\"", "\"second\",\"table\"")
                                .replace("\"connection\":\"target\"", "\"connection\":\"second\"")));
        job = Definitions.job(two.toString());
        assertThat(job.legs()).hasSize(2);
    }

    @AfterAll
    static void stop() {
        services.close();
    }

    /** A run that is under way, with its places expected. */
    private static long run() {
        NewRun run = new NewRun();
        run.runKey = "accounts-" + ++count;
        run.jobId = jobId;
        run.version = 1;
        run.startedBy = "tester";
        run.fileName = "some.csv";
        run.filePath = folder.resolve("some.csv").toString();
        run.fileHome = folder.toString();
        run.asked = "{}";
        run.today = LocalDate.EPOCH;
        run.createdAt = Instant.EPOCH;
        runs.add(run);
        services.database()
                .execute(
                        services.tables(),
                        "UPDATE run SET state = 'RUNNING', epoch = 1, owner = 'tester' WHERE id = " + run.id);
        accounts.expect(run.id, job);
        return run.id;
    }

    /** How far a place has come: so many records read, of which its target has refused some. */
    private static Mark mark(int delivery, long read, long refused, long commits, long journal, boolean complete) {
        long delivered = read - refused;
        Shares shares = new Shares(
                Map.of(),
                Map.of(),
                Map.of(delivery, new Shares.DeliveryShare(delivered, RowCounts.added(delivered), refused)));
        return new Mark(
                new Position(read * 10, read + 1, read),
                new Tally(read, delivered, delivered, 0, 0, refused, 0, 0, 0),
                shares,
                commits,
                journal,
                "f".repeat(64),
                complete);
    }

    /** Writes the refusals of a place into its journal; the bytes that it then has. */
    private static long refusals(long run, int leg, long... records) throws IOException {
        Path journal = LegAccounts.journal(services.get(Folders.class), run, leg);
        Files.createDirectories(journal.getParent());
        ByteArrayOutputStream lines = new ByteArrayOutputStream();
        for (long record : records) {
            Finding finding = new Finding(
                    Severity.REJECT,
                    "TGT-02",
                    Locator.line(record + 1),
                    record,
                    null,
                    "sample",
                    record * 10,
                    9,
                    "a row",
                    "a row that it takes",
                    "Twice.");
            lines.writeBytes(Journal.line(new JournalEntry(
                    true,
                    record,
                    record + 1,
                    record * 10,
                    9,
                    new byte[] {'x'},
                    List.of(finding),
                    record,
                    true,
                    Fate.ROWS)));
        }
        Files.write(journal, lines.toByteArray());
        return Files.size(journal);
    }

    private static Tally whole(long run) {
        return RunView.tally(runs.find(run).orElseThrow());
    }

    @Test
    void of_two_places_each_record_counts_once() throws IOException {
        long run = run();
        accounts.account(run, 1, 0, mark(0, 10, 2, 1, refusals(run, 0, 3, 7), true), refusals(run, 0, 3, 7));
        accounts.account(run, 1, 1, mark(1, 10, 3, 1, refusals(run, 1, 7, 8, 9), true), refusals(run, 1, 7, 8, 9));
        assertThat(whole(run).read()).isEqualTo(10);
        assertThat(whole(run).rejected()).as("3, 7, 8 and 9").isEqualTo(4);
        assertThat(whole(run).delivered()).isEqualTo(6);
        assertThat(whole(run).added()).as("rows of both places").isEqualTo(8 + 7);
        RunRow row = runs.find(run).orElseThrow();
        assertThat(row.openRecords()).isZero();
        assertThat(row.commits()).isEqualTo(2);
        assertThat(RunView.of(row, null).balances()).isTrue();
        assertThat(accounts.of(run)).extracting(p -> p.tally().delivered()).containsExactly(8L, 7L);
        assertThat(accounts.of(run).get(1).deliveries()).singleElement().satisfies(d -> assertThat(d.refused())
                .isEqualTo(3));
    }

    @Test
    void what_one_place_has_and_the_other_has_not_come_to_is_open() throws IOException {
        long run = run();
        accounts.account(run, 1, 0, mark(0, 10, 0, 3, 0, true), 0);
        RunRow row = runs.find(run).orElseThrow();
        assertThat(whole(run).read()).isEqualTo(10);
        assertThat(whole(run).delivered()).isZero();
        assertThat(row.openRecords()).isEqualTo(10);
        assertThat(row.nextOffset()).isZero();
        assertThat(row.hasDelivered()).isTrue();
        accounts.account(run, 1, 1, mark(1, 4, 0, 1, 0, false), 0);
        assertThat(whole(run).delivered()).isEqualTo(4);
        assertThat(runs.find(run).orElseThrow().openRecords()).isEqualTo(6);
        assertThat(RunView.of(runs.find(run).orElseThrow(), null).balances()).isTrue();
    }

    @Test
    void an_older_account_is_left_out() throws IOException {
        long run = run();
        accounts.account(run, 1, 0, mark(0, 10, 0, 5, 0, false), 0);
        accounts.account(run, 1, 0, mark(0, 6, 0, 3, 0, false), 0);
        assertThat(accounts.of(run).get(0).tally().read()).isEqualTo(10);
        assertThat(whole(run).read()).isEqualTo(10);
    }

    @Test
    void who_has_the_run_no_more_changes_nothing() throws IOException {
        long run = run();
        services.database().execute(services.tables(), "UPDATE run SET epoch = 2 WHERE id = " + run);
        accounts.account(run, 1, 0, mark(0, 10, 1, 5, refusals(run, 0, 3), false), refusals(run, 0, 3));
        assertThat(whole(run)).isEqualTo(Tally.ZERO);
        assertThat(accounts.of(run).get(0).tally()).isEqualTo(Tally.ZERO);
        assertThat(findings.lastSeq(run)).isZero();
    }

    @Test
    void a_place_that_has_committed_nothing_tells_what_it_found_and_no_account() throws IOException {
        long run = run();
        long journal = refusals(run, 0, 3, 4);
        Mark none = Mark.none("f".repeat(64));
        accounts.account(run, 1, 0, none, journal);
        assertThat(whole(run)).isEqualTo(Tally.ZERO);
        assertThat(findings.lastSeq(run)).isEqualTo(2);
        services.get(JournalImport.class).forgetUncommitted(run, 0);
        assertThat(findings.lastSeq(run)).isZero();
        assertThat(findings.rejects(run, null, null, -1, 0, 10)).isEmpty();
    }

    @Test
    void what_is_in_a_journal_is_copied_once_however_often_it_is_told() throws IOException {
        long run = run();
        long journal = refusals(run, 0, LongStream.rangeClosed(1, 450).toArray());
        for (int n = 0; n < 3; n++) {
            accounts.account(run, 1, 0, mark(0, 500, 450, 1, journal, false), journal);
        }
        assertThat(findings.lastSeq(run)).isEqualTo(450);
        assertThat(services.database()
                        .rows(
                                services.tables(),
                                "SELECT COUNT(*), COUNT(DISTINCT record), MIN(fate) FROM reject WHERE run_id = " + run))
                .containsExactly("450|450|ROWS");
    }

    @Test
    void places_are_known_by_their_names_before_they_begin() {
        long run = run();
        List<PlaceView> places = accounts.of(run);
        assertThat(places).extracting(PlaceView::state).containsOnly(RunState.WAITING);
        assertThat(places).extracting(PlaceView::kind).containsOnly("tables");
        assertThat(places.stream()
                        .flatMap(p -> p.deliveries().stream())
                        .map(d -> d.delivery() + " " + d.to())
                        .collect(Collectors.toList()))
                .containsExactly("0 accounts", "1 accounts");
        accounts.expect(run, job);
        assertThat(accounts.of(run)).as("expected once more").hasSize(2);
    }

    @Test
    void what_was_taken_back_has_no_account_any_more() throws IOException {
        long run = run();
        accounts.account(run, 1, 0, mark(0, 10, 0, 1, 0, true), 0);
        accounts.takenBack(run);
        assertThat(accounts.of(run).get(0).tally()).isEqualTo(Tally.ZERO);
        assertThat(accounts.of(run).get(0).deliveries())
                .allSatisfy(d -> assertThat(d.records()).isZero());
        assertThat(accounts.rows(run, 0, "accounts")).isEqualTo(RowCounts.NONE);
    }
}
