package ninepin.server.runs;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.TargetException;
import ninepin.core.format.RefusedFile;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.lookup.LookUpException;
import ninepin.core.run.RunPlan;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.Sequences;
import ninepin.core.shape.ShapingContext;
import ninepin.server.jobs.Jobs;
import ninepin.server.jobs.ShapingContexts;
import ninepin.server.runs.RunMapper.RunRow;
import org.springframework.stereotype.Component;

/** What a run has to do, or had to do: the same whenever it is asked. */
@Component
public class RunPlans {

    private final Jobs jobs;
    private final ShapingContexts contexts;
    private final Clock clock;

    RunPlans(Jobs jobs, ShapingContexts contexts, Clock clock) {
        this.jobs = jobs;
        this.contexts = contexts;
        this.clock = clock;
    }

    /** What is run; of rejects that are sent again, for the one place that refused them where it was a place. */
    public Jobs.Definition definition(RunRow row) {
        Jobs.Definition of = jobs.version(row.jobId(), row.version());
        if (row.parentRun() == null) {
            return of;
        }
        List<Leg> legs = of.job().legs();
        Job job = row.onlyLeg() == null || row.onlyLeg() >= legs.size()
                ? of.job()
                : of.job().withDeliveries(legs.get(row.onlyLeg()).parts());
        return new Jobs.Definition(againBeside(job), RefusedFile.layout(of.layout()));
    }

    /** Files of rejects that are sent again stand beside the first ones, and take no one's place. */
    private static Job againBeside(Job job) {
        return job.withDeliveries(job.deliveries().stream()
                .map(d -> d.to() == null ? d : d.to(d.to().again()))
                .toList());
    }

    /** What rules can take. */
    ShapingContext context(RunRow row, Job job, Instant startedAt, Sequences sequences)
            throws TargetException, LookUpException {
        return contexts.run(
                job, row.id(), row.fileName(), row.today(), startedAt, AskedValues.read(row.asked()), sequences);
    }

    /** What it knows about itself. */
    RunFacts facts(RunRow row) {
        return contexts.facts(row.id(), row.fileName(), row.today(), startedAt(row), AskedValues.read(row.asked()));
    }

    private Instant startedAt(RunRow row) {
        return row.startedAt() == null ? clock.instant() : row.startedAt();
    }

    /** What a leg had to do, of a run that is over; numbers of sequences begin anew. */
    public RunPlan plan(RunRow row, Job job, Leg leg) throws TargetException {
        try {
            ShapingContext context = context(row, job, startedAt(row), Sequences.anew());
            return job.plan(definition(row).layout(), context, Tally.ZERO, leg);
        } catch (LookUpException e) {
            throw new TargetException(TargetException.Kind.UNUSABLE, "LKP-03", e.getMessage(), e);
        }
    }
}
