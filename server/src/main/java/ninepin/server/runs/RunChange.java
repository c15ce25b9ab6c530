package ninepin.server.runs;

import static ninepin.server.runs.RunState.FAILED;
import static ninepin.server.runs.RunState.FINISHED;
import static ninepin.server.runs.RunState.HALTED;
import static ninepin.server.runs.RunState.INTERRUPTED;
import static ninepin.server.runs.RunState.PAUSED;
import static ninepin.server.runs.RunState.REFUSED;
import static ninepin.server.runs.RunState.RUNNING;
import static ninepin.server.runs.RunState.STOPPED;
import static ninepin.server.runs.RunState.TAKEN_BACK;
import static ninepin.server.runs.RunState.TAKING_BACK;
import static ninepin.server.runs.RunState.WAITING;

import java.util.EnumSet;
import java.util.Set;

/**
 * What can happen to a run: from which states, and which state follows. Every change is one statement that compares the state
 * it comes from; where that is another one by then, nothing happens. The same as a table, with the reasons, in
 * {@code docs/decisions/11-runs-and-their-owners.md}; a test compares the two.
 */
enum RunChange {
    /** A process takes it up: its turn has come, or what it waited for may be there again. */
    TAKE_UP(RUNNING, WAITING, PAUSED),
    /** The process ends in order; the next one goes on. */
    HAND_OVER(WAITING, RUNNING),
    /** The process has died; the next one goes on. */
    RECOVER(WAITING, RUNNING),
    /** The process has died, and the job wants a person to say that it goes on. */
    INTERRUPT(INTERRUPTED, RUNNING),
    /** Something it needs is away. */
    PAUSE(PAUSED, RUNNING),
    FINISH(FINISHED, RUNNING),
    HALT(HALTED, RUNNING),
    FAIL(FAILED, RUNNING),
    REFUSE(REFUSED, RUNNING),
    /** A person stops it. A running one stops at its next commit. */
    STOP(STOPPED, RUNNING, WAITING, PAUSED),
    /** A person restarts it. */
    RESTART(WAITING, STOPPED, HALTED, FAILED, INTERRUPTED, TAKEN_BACK),
    /** A run that takes it back is on record. */
    TAKE_BACK(TAKING_BACK, FINISHED, STOPPED, HALTED, FAILED, INTERRUPTED),
    /** All that can be is taken back. */
    TAKEN_AWAY(TAKEN_BACK, TAKING_BACK);

    private final RunState to;
    private final Set<RunState> from;

    RunChange(RunState to, RunState first, RunState... more) {
        this.to = to;
        this.from = EnumSet.of(first, more);
    }

    RunState to() {
        return to;
    }

    Set<RunState> from() {
        return from;
    }
}
