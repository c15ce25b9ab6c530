package ninepin.server.runs;

import java.util.Locale;

/** The state of a run as it is on record. How one follows another stands in {@link RunChange}. */
public enum RunState {
    /** Its turn has not come. */
    WAITING,
    /** A process has it. */
    RUNNING,
    /** Something it needs is away, such as a database or room on a disk; it goes on by itself. */
    PAUSED,
    FINISHED,
    STOPPED,
    HALTED,
    FAILED,
    /** The process that had it died, and the job wants a person to restart it. */
    INTERRUPTED,
    /** Its file had been delivered before. */
    REFUSED,
    /** Another run takes back what it had delivered. */
    TAKING_BACK,
    /** What it had delivered was taken back; it can be restarted from the beginning. */
    TAKEN_BACK;

    /** The state as people say it. */
    public String words() {
        return name().toLowerCase(Locale.ROOT).replace('_', ' ');
    }

    /** Whether a person can restart it. */
    public boolean restartable() {
        return RunChange.RESTART.from().contains(this);
    }

    /** Whether it has come to some end, and nobody works on it. */
    public boolean over() {
        return !RunChange.STOP.from().contains(this) && this != TAKING_BACK;
    }
}
