package ninepin.core.run;

import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import ninepin.core.check.Finding;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.TargetException;

/**
 * How a run ended.
 *
 * @param state the state it ended in
 * @param mark how far it came; a restart goes on from there
 * @param seen how far it looked, which is further where the file is delivered whole and was not complete
 * @param code the stable code of why it halted or failed, or null
 * @param message why it halted or failed and what to do, or null
 * @param halt the finding that halted it, or null
 * @param mayPass whether it failed for its surroundings, so that it may go on later without anybody changing anything
 */
public record RunOutcome(
        State state, Mark mark, Mark seen, String code, String message, Finding halt, boolean mayPass) {

    /** The states a run can end in. */
    public enum State {
        /** The whole file is accounted for. */
        FINISHED,
        /** Stopped on request, at a commit. */
        STOPPED,
        /** Halted by a finding or a limit, at a commit. */
        HALTED,
        /** Broken off by trouble with the file or the target; what was committed stands. */
        FAILED
    }

    /** The outcome that counts, of those of all places: a fault that wants a person weighs more than one that may pass by itself. */
    public static RunOutcome worst(List<RunOutcome> outcomes) {
        return outcomes.stream()
                .filter(Objects::nonNull)
                .max(Comparator.comparingInt(RunOutcome::weight))
                .orElseThrow();
    }

    private int weight() {
        return switch (state) {
            case FINISHED -> 0;
            case STOPPED -> 1;
            case HALTED -> 3;
            case FAILED -> mayPass ? 2 : 4;
        };
    }

    public Tally tally() {
        return mark.tally();
    }

    /** Of a run whose place could not be used at all. */
    public static RunOutcome unusable(String code, String message) {
        return failed(Mark.none(""), code, message);
    }

    /** The same, by what its target said. */
    public static RunOutcome unusable(TargetException e) {
        return failed(Mark.none(""), e);
    }

    static RunOutcome failed(Mark mark, String code, String message) {
        return new RunOutcome(State.FAILED, mark, mark, code, message, null, false);
    }

    static RunOutcome failed(Mark mark, TargetException e) {
        State state = e.kind() == TargetException.Kind.STOPPED ? State.STOPPED : State.FAILED;
        return new RunOutcome(state, mark, mark, e.code(), e.getMessage(), null, e.mayPass());
    }

    /** It failed for its surroundings. */
    static RunOutcome interrupted(Mark mark, String code, String message) {
        return new RunOutcome(State.FAILED, mark, mark, code, message, null, true);
    }

    /** Whether another process has the run. */
    public boolean elsewhere() {
        return "RUN-04".equals(code) || "RUN-05".equals(code);
    }
}
