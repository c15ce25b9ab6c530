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
    REFUSED;

    /** Whether it can be restarted from its mark. */
    public boolean restartable() {
        return this == STOPPED || this == HALTED || this == FAILED || this == INTERRUPTED;
    }
}
