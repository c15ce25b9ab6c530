package ninepin.server.runs;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.MarkFile;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.application.Answers;
import ninepin.core.deliver.application.ApplicationTarget;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.run.RunOutcome;
import ninepin.server.config.Folders;
import ninepin.server.runs.LegMapper.AnswerRow;
import ninepin.server.runs.LegMapper.LegRow;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Keeps the account of each leg of a run, where the run's own says too little: where it has several, or one is an
 * application. The first leg's is the run's own as well.
 */
@Component
public class LegAccounts {

    /**
     * A leg as screens show it.
     *
     * @param kind {@code tables}, {@code application} or {@code files}
     * @param sentAgain how many requests had to be sent again
     */
    public record LegView(
            int leg,
            String label,
            String kind,
            RunState state,
            String code,
            String message,
            Instant startedAt,
            Instant endedAt,
            Tally tally,
            long sentAgain) {}

    /** What was answered to the document of a record. */
    public record AnswerView(int leg, long record, java.util.Map<String, String> values) {}

    private static final int BATCH = 500;

    private final LegMapper mapper;
    private final Folders folders;
    private final Clock clock;

    LegAccounts(LegMapper mapper, Folders folders, Clock clock) {
        this.mapper = mapper;
        this.folders = folders;
        this.clock = clock;
    }

    /** Whether a job's runs have accounts of their legs. */
    static boolean keptFor(Job job) {
        return job.legs().size() > 1 || job.legs().stream().anyMatch(l -> l.kind() != Leg.Kind.TABLES);
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
        if (keptFor(job)) {
            for (Leg leg : job.legs()) {
                mapper.add(
                        run,
                        leg.number(),
                        leg.label(),
                        leg.kind().toString(),
                        Definitions.mapper().writeValueAsString(Tally.ZERO));
            }
        }
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

    /** Copies the account of a leg from its mark, and of an application what it answered and is committed. */
    @Transactional
    public void account(long run, int leg, Mark mark) {
        LegRow row = mapper.of(run).get(leg);
        boolean application = Leg.Kind.APPLICATION.toString().equals(row.kind());
        try {
            MarkFile.Kept kept =
                    application ? MarkFile.of(journal(run, leg)).read().orElse(null) : null;
            mapper.account(
                    run,
                    leg,
                    mark.position().offset(),
                    mark.commits(),
                    Definitions.mapper().writeValueAsString(mark.tally()),
                    kept == null ? 0 : kept.again());
            if (kept != null) {
                answers(row, kept.length());
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
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
            rows.add(new AnswerRow(run, leg, kept.record(), Definitions.mapper().writeValueAsString(kept.values())));
        }
        for (int from = 0; from < rows.size(); from += BATCH) {
            mapper.addAnswers(rows.subList(from, Math.min(rows.size(), from + BATCH)));
        }
    }

    void takenBack(long run) {
        mapper.takenBack(run, Definitions.mapper().writeValueAsString(Tally.ZERO));
    }

    List<LegView> of(long run) {
        return mapper.of(run).stream()
                .map(r -> new LegView(
                        r.leg(),
                        r.label(),
                        r.kind(),
                        r.state(),
                        r.code(),
                        r.message(),
                        r.startedAt(),
                        r.endedAt(),
                        Definitions.mapper().readValue(r.account(), Tally.class),
                        r.sentAgain()))
                .toList();
    }

    @SuppressWarnings("unchecked")
    List<AnswerView> answersOf(long run, long after, int most) {
        return mapper.answers(run, after, most).stream()
                .map(a -> new AnswerView(
                        a.leg(), a.record(), Definitions.mapper().readValue(a.answer(), java.util.TreeMap.class)))
                .toList();
    }
}
