package ninepin.server.runs;

import java.util.Comparator;
import java.util.List;
import ninepin.core.deliver.Tally;
import ninepin.core.job.Leg;
import ninepin.core.run.RunOutcome;

/**
 * How an execution of a run ended, before it is on record.
 *
 * @param change what it means for the run
 * @param code the stable code of why, or null
 * @param message why, and what to do, or null
 * @param halted the account at which a limit halted it, or null
 */
record RunEnd(RunChange change, String code, String message, Tally halted) {

    static RunEnd of(RunChange change, String code, String message) {
        return new RunEnd(change, code, message, null);
    }

    static RunEnd failed(String code, String message, boolean mayPass) {
        return of(failing(mayPass), code, message);
    }

    private static RunChange failing(boolean mayPass) {
        return mayPass ? RunChange.PAUSE : RunChange.FAIL;
    }

    /** What the outcomes of all places come to; null stands for a place that did not begin. */
    static RunEnd of(List<Leg> legs, List<RunOutcome> outcomes) {
        // A restart goes on in spite of the limit, in whichever place it was exceeded.
        Tally halted = outcomes.stream()
                .filter(o -> o != null && "LIM-01".equals(o.code()))
                .map(o -> o.seen().tally())
                .max(Comparator.comparingLong(Tally::rejected))
                .orElse(null);
        RunOutcome worst = RunOutcome.worst(outcomes);
        Leg of = legs.get(outcomes.indexOf(worst));
        String message =
                worst.message() == null || legs.size() == 1 ? worst.message() : of.label() + ": " + worst.message();
        return new RunEnd(change(worst), worst.code(), message, halted);
    }

    private static RunChange change(RunOutcome outcome) {
        return switch (outcome.state()) {
            case FINISHED -> RunChange.FINISH;
            case STOPPED -> RunChange.STOP;
            case HALTED -> RunChange.HALT;
            case FAILED -> failing(outcome.mayPass());
        };
    }

    /**
     * The same where it broke off because somebody wanted it to.
     *
     * @param stop whether a person did
     * @param handOver whether the application is ending
     */
    RunEnd asked(boolean stop, boolean handOver) {
        if (change != RunChange.STOP && change != RunChange.PAUSE) {
            return this;
        }
        if (stop) {
            return of(RunChange.STOP, null, "Stopped on request. Restart to go on from here.");
        }
        if (handOver) {
            return of(RunChange.HAND_OVER, null, null);
        }
        return this;
    }

    /** The folder of the home that the file goes to with it, or null where it stays. */
    String folder() {
        return switch (change) {
            case FINISH -> "done";
            case FAIL, HALT, REFUSE -> "failed";
            default -> null;
        };
    }
}
