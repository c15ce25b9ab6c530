package ninepin.core.value;

/** A value that cannot stand in its field: too long for it, or with characters the charset lacks. */
public final class UnwritableException extends RuntimeException {

    private static final long serialVersionUID = 1L;

    private final String field;
    private final String reason;

    public UnwritableException(String field, String message) {
        super(field + ": " + message);
        this.field = field;
        this.reason = message;
    }

    /** Why it cannot stand there. */
    public String reason() {
        return reason;
    }

    /** The field, or the part of a record that is none. */
    public String field() {
        return field;
    }
}
