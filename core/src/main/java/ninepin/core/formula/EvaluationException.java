package ninepin.core.formula;

/** What keeps a formula from having a value for one record. Cheap to throw: it has no stack trace. */
public final class EvaluationException extends RuntimeException {

    private static final long serialVersionUID = 1L;

    private final String code;
    private final int from;
    private final int to;

    EvaluationException(String code, Expr at, String message) {
        super(message, null, false, false);
        this.code = code;
        this.from = at.from;
        this.to = at.to;
    }

    /** A rule that is no formula has no value. */
    public EvaluationException(String code, String message) {
        super(message, null, false, false);
        this.code = code;
        this.from = 0;
        this.to = 0;
    }

    /** The stable code of the finding. */
    public String code() {
        return code;
    }

    /** The first character of the part of the formula that has no value, from 0. */
    public int from() {
        return from;
    }

    /** The character after its last. */
    public int to() {
        return to;
    }
}
