package ninepin.core.deliver;

/** A target that cannot be used: it is away, refuses the login, lacks the table. Says what to do. */
public final class TargetException extends Exception {

    private static final long serialVersionUID = 1L;

    /** What kind of trouble it is. */
    public enum Kind {
        /** Another transaction holds what is needed; trying again may help. */
        BUSY,
        /** A person has asked to stop while the target was waited for. */
        STOPPED,
        /** The target is away, or its surroundings fail it, such as a full disk: may pass by itself. */
        AWAY,
        /** Another process has the run, and is still there. */
        HELD,
        /** Another process has taken the run over; nothing of this one's is committed any more. */
        FENCED,
        /** The target refuses: somebody has to change the job, the connection or the target. */
        UNUSABLE
    }

    private final Kind kind;
    private final String code;

    public TargetException(Kind kind, String code, String message, Throwable cause) {
        super(message, cause);
        this.kind = kind;
        this.code = code;
    }

    /** That another process has taken the run over. */
    public static TargetException fenced() {
        return new TargetException(
                Kind.FENCED,
                "RUN-04",
                "Another process has taken this run over and goes on with it. Nothing is lost or delivered twice.",
                null);
    }

    /** That another process is still at it. */
    public static TargetException held(String target) {
        return new TargetException(
                Kind.HELD,
                "RUN-05",
                "Another process is delivering this file to " + target
                        + " at this moment. Wait until it has ended; started again then, this one says what is left to do.",
                null);
    }

    /** That a root on another machine is away. */
    public static TargetException rootAway(String root) {
        return new TargetException(
                Kind.AWAY, "FIL-15", "The root folder " + root + " is on another machine and is not there now.", null);
    }

    /** Whether the same may succeed later without anybody changing anything. */
    public boolean mayPass() {
        return kind == Kind.AWAY || kind == Kind.BUSY;
    }

    public Kind kind() {
        return kind;
    }

    /** The stable code of the message. */
    public String code() {
        return code;
    }
}
