package ninepin.server.follow;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.TargetException;
import ninepin.core.job.Job;
import ninepin.core.read.Position;
import ninepin.core.run.Delivered;
import ninepin.core.run.RunPlan;
import ninepin.server.api.Problems;
import ninepin.server.runs.RunMapper.RunRow;
import ninepin.server.runs.RunPlans;
import ninepin.server.runs.Runs;
import org.springframework.stereotype.Component;

/** Reads the file of a run once more, for a {@link Trace}. */
@Component
class Reading {

    private final Runs runs;
    private final RunPlans plans;

    Reading(Runs runs, RunPlans plans) {
        this.runs = runs;
        this.plans = plans;
    }

    void requireFile(RunRow row) {
        if (!Files.exists(Path.of(row.filePath()))) {
            throw Problems.conflict(
                    "The file of run " + row.id() + " is not kept any more, so nothing in it can be followed.");
        }
    }

    /** Reads the file of a run again, as far as it is of use. */
    void visit(RunRow row, Job job, Trace trace) throws IOException, TargetException {
        RunPlan plan = plans.plan(row, job, null);
        Mark all = new Mark(
                new Position(Long.MAX_VALUE, 0, Long.MAX_VALUE), Tally.ZERO, Shares.NONE, 1, Long.MAX_VALUE, "", true);
        try {
            new Delivered(plan, Path.of(row.filePath()), runs.journal(row.id()), all).visit(trace, null, trace);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("Interrupted");
        } catch (Delivered.VisitFailed e) {
            throw new IOException(e);
        }
    }
}
