package ninepin.core.formula;

/** A formula that cannot be evaluated for any record: the place in its text, and what is wrong there. */
public final class FormulaException extends RuntimeException {

    private static final long serialVersionUID = 1L;

    private final int from;
    private final int to;

    /**
     * @param from the first character of the place, from 0
     * @param to the character after its last
     * @param message what stands there, what was expected, and the nearest name where there is one
     */
    public FormulaException(int from, int to, String message) {
        super(message);
        this.from = from;
        this.to = Math.max(from, to);
    }

    public int from() {
        return from;
    }

    public int to() {
        return to;
    }
}
