package ninepin.server.runs;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import ninepin.core.deliver.ApplicationDelivery;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.MarkFile;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.application.Answers;
import ninepin.core.deliver.application.ApplicationTarget;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.run.Fate;
import ninepin.core.run.RefusedByTargets;
import ninepin.core.run.RunAccount;
import ninepin.core.run.RunOutcome;
import ninepin.server.config.Folders;
import ninepin.server.runs.LegMapper.AnswerRow;
import ninepin.server.runs.LegMapper.LegRow;
import ninepin.server.runs.LegMapper.RefusedRow;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Keeps the account of each place of a run, and makes the run's own of them. */
@Component
public class LegAccounts {

    /**
     * A place of a run as screens show it.
     *
     * @param place its number in the job, from 0
     * @param kind {@code tables}, {@code application} or {@code files}
     * @param sentAgain how many requests had to be sent again
     */
    public record PlaceView(
            int place,
            String to,
            String kind,
            RunState state,
            String code,
            String message,
            Instant startedAt,
            Instant endedAt,
            Tally tally,
            List<RunAccount.DeliveryAccount> deliveries,
            boolean balances,
            long sentAgain) {}

    /** What was answered to the document of a record. */
    public record AnswerView(int place, long record, Map<String, String> values) {}

    private static final int BATCH = 500;

    private final LegMapper mapper;
    private final RunMapper runs;
    private final JournalImport journals;
    private final Folders folders;
    private final Clock clock;

    LegAccounts(LegMapper mapper, RunMapper runs, JournalImport journals, Folders folders, Clock clock) {
        this.mapper = mapper;
        this.runs = runs;
        this.journals = journals;
        this.folders = folders;
        this.clock = clock;
    }

    /** Where a leg keeps its rejects and what its target needs kept. */
    Path journal(long run, int leg) {
        return journal(folders, run, leg);
    }

    static Path journal(Folders folders, long run, int leg) {
        Path first = folders.journal(run);
        return leg == 0 ? first : first.resolveSibling(run + "-" + leg + ".ndjson");
    }

    /** What a leg is known by in its target. */
    static String key(String runKey, int leg) {
        return leg == 0 ? runKey : runKey + "-" + leg;
    }

    void expect(long run, Job job) {
        for (Leg leg : job.legs()) {
            mapper.add(run, leg.number(), leg.label(), leg.to().sort(), json(Tally.ZERO), json(leg.called()));
        }
    }

    private static String json(Object value) {
        return Definitions.mapper().writeValueAsString(value);
    }

    void begin(long run, int leg) {
        mapper.begin(run, leg, clock.instant());
    }

    /**
     * @param handedOver whether another process goes on with it where it stopped
     */
    void end(long run, int leg, RunOutcome outcome, boolean handedOver) {
        RunState state = RunState.valueOf(outcome.state().name());
        if (outcome.mayPass()) {
            state = RunState.PAUSED;
        } else if (handedOver && state == RunState.STOPPED) {
            state = RunState.WAITING;
        }
        mapper.end(run, leg, state, clock.instant(), outcome.code(), outcome.message());
    }

    /**
     * Copies the account of a place and what was found from its mark, of an application also what it answered and is
     * committed, and makes the account of the run anew. One that is older than what is kept is left out, and one of a process
     * that has the run no more.
     *
     * @param journal the bytes of the place's journal that count, which may be more than are committed where a file that is
     *     delivered whole was not
     */
    @Transactional
    public void account(long run, long epoch, int leg, Mark mark, long journal) {
        if (runs.hold(run, epoch).isEmpty()) {
            return;
        }
        // Without a commit there is nothing that is not known; a target that cannot be reached tells no mark.
        boolean any = mark.commits() > 0;
        if (any) {
            place(mapper.of(run).get(leg), mark);
        }
        journals.upTo(run, leg, journal(run, leg), journal);
        if (any) {
            whole(run, epoch);
        }
    }

    private void place(LegRow row, Mark mark) {
        boolean application = ApplicationDelivery.SORT.equals(row.kind());
        try {
            MarkFile.Kept kept = application
                    ? MarkFile.of(journal(row.runId(), row.leg())).read().orElse(null)
                    : null;
            mapper.account(
                    row.runId(),
                    row.leg(),
                    mark.position().offset(),
                    mark.commits(),
                    json(mark.tally()),
                    json(mark.shares()),
                    mark.complete(),
                    kept == null ? 0 : kept.again());
            if (kept != null) {
                answers(row, kept.length());
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private void whole(long run, long epoch) {
        List<LegRow> rows = mapper.of(run);
        RunAccount account = RunAccount.of(
                rows.stream().map(LegAccounts::place).toList(),
                rows.stream().map(LegAccounts::part).toList(),
                rows.size() > 1 ? refused(run, rows) : RefusedByTargets.NONE);
        runs.account(
                run,
                epoch,
                rows.stream().mapToLong(LegRow::nextOffset).min().orElse(0),
                rows.stream().mapToLong(LegRow::commits).sum(),
                account.tally(),
                account.open(),
                json(account.shares()));
    }

    private static RunAccount.Part part(LegRow row) {
        return row.commits() == 0
                ? RunAccount.Part.NONE
                : new RunAccount.Part(
                        Definitions.mapper().readValue(row.account(), Tally.class), shares(row), row.complete());
    }

    private static Shares shares(LegRow row) {
        return row.shares() == null ? Shares.NONE : Definitions.mapper().readValue(row.shares(), Shares.class);
    }

    private static RunAccount.PlaceAccount place(LegRow row) {
        RunAccount.Called[] deliveries = Definitions.mapper().readValue(row.deliveries(), RunAccount.Called[].class);
        return RunAccount.place(row.leg(), row.label(), row.kind(), List.of(deliveries), part(row));
    }

    /** Of places that have committed nothing, nothing is known to be refused. */
    private RefusedByTargets refused(long run, List<LegRow> rows) {
        List<Map<Fate, Long>> places = new ArrayList<>();
        for (LegRow row : rows) {
            places.add(row.commits() == 0 ? Map.of() : byFate(mapper.refused(run, row.leg())));
        }
        return new RefusedByTargets(places, byFate(mapper.refusedAnywhere(run)));
    }

    private static Map<Fate, Long> byFate(List<RefusedRow> rows) {
        Map<Fate, Long> counts = new EnumMap<>(Fate.class);
        rows.forEach(r -> counts.merge(r.fate() == null ? Fate.ROWS : r.fate(), r.records(), Long::sum));
        return counts;
    }

    private void answers(LegRow row, long to) throws IOException {
        long run = row.runId();
        int leg = row.leg();
        if (row.answersImported() >= to || mapper.answersImported(run, leg, row.answersImported(), to) == 0) {
            return;
        }
        List<AnswerRow> rows = new ArrayList<>();
        Path answers = ApplicationTarget.answers(journal(run, leg));
        for (Answers.Kept kept : Answers.read(answers, row.answersImported(), to)) {
            rows.add(new AnswerRow(run, leg, kept.record(), json(kept.values())));
        }
        for (int from = 0; from < rows.size(); from += BATCH) {
            mapper.addAnswers(rows.subList(from, Math.min(rows.size(), from + BATCH)));
        }
    }

    void takenBack(long run) {
        mapper.takenBack(run, json(Tally.ZERO));
    }

    /** The places of a run; none before it was taken up. */
    List<PlaceView> of(long run) {
        return mapper.of(run).stream().map(LegAccounts::view).toList();
    }

    private static PlaceView view(LegRow row) {
        RunAccount.PlaceAccount place = place(row);
        return new PlaceView(
                row.leg(),
                row.label(),
                row.kind(),
                row.state(),
                row.code(),
                row.message(),
                row.startedAt(),
                row.endedAt(),
                place.tally(),
                place.deliveries(),
                place.tally().balances(),
                row.sentAgain());
    }

    /** What became of the rows of a table; of a run whose deliveries have no accounts of their own, those of its place. */
    RowCounts rows(long run, int leg, String table) {
        RowCounts all = RowCounts.NONE;
        for (PlaceView place : of(run)) {
            if (place.place() == leg) {
                all = place.deliveries().isEmpty() ? place.tally().allRows() : RowCounts.NONE;
                for (RunAccount.DeliveryAccount delivery : place.deliveries()) {
                    all = delivery.to().equals(table) ? all.plus(delivery.rows()) : all;
                }
            }
        }
        return all;
    }

    @SuppressWarnings("unchecked")
    List<AnswerView> answersOf(long run, long after, long afterPlace, int most) {
        return mapper.answers(run, after, afterPlace, most).stream()
                .map(a ->
                        new AnswerView(a.leg(), a.record(), Definitions.mapper().readValue(a.answer(), TreeMap.class)))
                .toList();
    }
}
