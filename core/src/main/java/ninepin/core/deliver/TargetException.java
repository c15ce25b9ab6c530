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
        /** The target is away or refuses. */
        UNUSABLE
    }

    private final Kind kind;
    private final String code;

    public TargetException(Kind kind, String code, String message, Throwable cause) {
        super(message, cause);
        this.kind = kind;
        this.code = code;
    }

    public Kind kind() {
        return kind;
    }

    /** The stable code of the message. */
    public String code() {
        return code;
    }
}
