package ninepin.core.write;

/** A value that cannot stand in its field: too long for it, or with characters the charset lacks. */
public final class UnwritableException extends RuntimeException {

    private static final long serialVersionUID = 1L;

    UnwritableException(String field, String message) {
        super(field + ": " + message);
    }
}
