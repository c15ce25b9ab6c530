package ninepin.core.run;

/**
 * How legs go together.
 *
 * @param sideBySide whether they run at the same time
 * @param whenOneFails what the others do when one does not finish
 */
public record ExecutionMode(boolean sideBySide, Legs.WhenOneFails whenOneFails) {

    /** One after another; when one fails, the others stop. */
    public static final ExecutionMode USUAL = new ExecutionMode(false, Legs.WhenOneFails.STOP);

    public ExecutionMode {
        whenOneFails = whenOneFails == null ? Legs.WhenOneFails.STOP : whenOneFails;
    }
}
