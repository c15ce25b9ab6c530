package ninepin.server.runs;

/** The state of a run as the application knows it. */
public enum RunState {
    WAITING,
    RUNNING,
    FINISHED,
    STOPPED,
    HALTED,
    FAILED,
    /** The application died while it was under way. */
    INTERRUPTED,
    /** Its file had been delivered before. */
    REFUSED,
    /** What it had delivered was taken back; it can be restarted from the beginning. */
    TAKEN_BACK;

    /** Whether it can be restarted from its mark. */
    public boolean restartable() {
        return this == STOPPED || this == HALTED || this == FAILED || this == INTERRUPTED || this == TAKEN_BACK;
    }

    /** Whether it has come to some end. */
    boolean over() {
        return this != WAITING && this != RUNNING;
    }
}
