package ninepin.server.runs;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.TargetException;
import ninepin.core.destination.Destinations;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.server.runs.RunMapper.RunRow;
import org.springframework.stereotype.Component;

/** Knows whether the file of a run was delivered by another one; only a run that delivered something counts, or still may. */
@Component
class SameFile {

    private final RunMapper mapper;
    private final RunPlans plans;
    private final LegAccounts legAccounts;
    private final Marks marks;

    SameFile(RunMapper mapper, RunPlans plans, LegAccounts legAccounts, Marks marks) {
        this.mapper = mapper;
        this.plans = plans;
        this.legAccounts = legAccounts;
        this.marks = marks;
    }

    /**
     * How another run of the job has delivered the file of a run that has delivered nothing of it.
     *
     * @param job the job as it is run now, which may allow the same file again
     * @param fingerprint of the file
     * @return words that follow "the file"; empty where the run may go on
     * @throws TargetException where a target cannot be asked
     */
    Optional<String> deliveredElsewhere(RunRow row, Job job, String fingerprint) throws TargetException {
        if (fingerprint == null || job.pickUp() != null && job.pickUp().takesAgain()) {
            return Optional.empty();
        }
        List<RunRow> others = mapper.ofSameFile(row.jobId(), fingerprint, row.id());
        if (others.isEmpty() || hasDelivered(row)) {
            return Optional.empty();
        }
        for (RunRow other : others) {
            if (mayStillDeliver(other)) {
                return Optional.of("is being delivered by run " + other.id() + ". Nothing was loaded.");
            }
            if (hasDelivered(other)) {
                return Optional.of(
                        other.state() == RunState.FINISHED
                                ? "was delivered by run " + other.id() + ". Nothing was loaded."
                                : "was partly delivered by run " + other.id()
                                        + ". Nothing was loaded. Restart that run to deliver the rest.");
            }
        }
        return Optional.empty();
    }

    private static boolean mayStillDeliver(RunRow row) {
        return !row.state().over() || row.state() == RunState.INTERRUPTED;
    }

    /** Whether a run has delivered something or may have, or rejects of it that were sent again. */
    private boolean hasDelivered(RunRow row) throws TargetException {
        if (row.hasDelivered()) {
            return true;
        }
        for (RunRow child : mapper.ofParent(row.id())) {
            if (!child.takesBack() && (child.hasDelivered() || mayStillDeliver(child))) {
                return true;
            }
        }
        // The record may be behind the targets, which are asked themselves.
        Job job = plans.definition(row).job();
        for (Leg leg : job.legs()) {
            Path files = legAccounts.journal(row.id(), leg.number());
            if (Destinations.of(job, leg).mayHaveSent(files)
                    || marks.of(row, job, leg).filter(m -> m.tally().rows() > 0).isPresent()) {
                return true;
            }
        }
        return false;
    }
}
