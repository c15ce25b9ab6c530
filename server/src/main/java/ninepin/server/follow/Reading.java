package ninepin.server.follow;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Set;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.TargetException;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Job;
import ninepin.core.record.Position;
import ninepin.core.run.Delivered;
import ninepin.core.run.Journal;
import ninepin.core.run.RunPlan;
import ninepin.server.runs.RunMapper.RunRow;
import ninepin.server.runs.RunPlans;
import ninepin.server.runs.Runs;
import org.springframework.stereotype.Component;

/** Reads the file of a run once more, for a {@link Trace}. */
@Component
class Reading {

    private final Runs runs;
    private final RunPlans plans;

    private final Transcripts transcripts;

    Reading(Runs runs, RunPlans plans, Transcripts transcripts) {
        this.runs = runs;
        this.plans = plans;
        this.transcripts = transcripts;
    }

    /** Which places of a run refused a document; those that refused it by a check are all. */
    record Refused(boolean byCheck, Set<Integer> legs) {
        boolean in(int leg) {
            return byCheck || legs.contains(leg);
        }
    }

    /** Who refused the document that a trace has found. */
    Refused refused(RunRow row, Job job, Trace trace) throws IOException {
        Set<Long> records = new HashSet<>();
        trace.places().forEach(p -> records.add(p.number()));
        boolean[] byCheck = {false};
        boolean[] any = {false};
        Set<Integer> legs = new HashSet<>();
        for (int leg = 0; leg < Math.max(1, job.legs().size()); leg++) {
            int number = leg;
            Path journal = runs.journal(row.id(), leg);
            if (Files.exists(journal)) {
                Journal.read(journal, 0, Files.size(journal), e -> {
                    if (e.rejected() && records.contains(e.record())) {
                        any[0] = true;
                        byCheck[0] |= !e.byTarget();
                        legs.add(number);
                    }
                });
            }
        }
        // A document that a check refuses may stand behind what is committed.
        return new Refused(byCheck[0] || trace.refused() && !any[0], legs);
    }

    /**
     * Reads the file of a run again, as far as it is of use.
     *
     * @param leg the place by whose refusals documents are judged
     */
    void visit(RunRow row, Job job, int leg, Trace trace) throws IOException, TargetException {
        RunPlan plan = plans.plan(row, job, null);
        Mark all = new Mark(
                new Position(Long.MAX_VALUE, 0, Long.MAX_VALUE), Tally.ZERO, Shares.NONE, 1, Long.MAX_VALUE, "", true);
        try {
            Path file = transcripts.readable(row.file(), plan.layout());
            new Delivered(plan, file, runs.journal(row.id(), leg), all).visit(trace, trace);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("Interrupted");
        } catch (Delivered.VisitFailed e) {
            throw new IOException(e);
        }
    }
}
