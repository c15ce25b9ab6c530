package ninepin.core.run;

import ninepin.core.check.Finding;
import ninepin.core.deliver.TargetException;

/**
 * Why the stream of chunks ends with this one.
 *
 * @param why the reason
 * @param code the code of the trouble, or null
 * @param message what a person should know, or null
 * @param halt the finding that halts the run, or null
 * @param mayPass whether it is a fault of the surroundings
 */
record Ending(Why why, String code, String message, Finding halt, boolean mayPass) {

    enum Why {
        END_OF_FILE,
        STOP,
        HALT,
        FAILURE
    }

    static final Ending END_OF_FILE = new Ending(Why.END_OF_FILE, null, null, null, false);
    static final Ending STOP = new Ending(Why.STOP, null, null, null, false);

    static Ending halt(Finding finding) {
        return new Ending(Why.HALT, finding.code(), finding.message(), finding, false);
    }

    static Ending limit(String exceeded, boolean whole) {
        return new Ending(
                Why.HALT,
                "LIM-01",
                "Halted: " + exceeded
                        + (whole
                                ? "."
                                : ". What is committed stays. Look at the findings, then restart to go on from here."),
                null,
                false);
    }

    static Ending failure(String code, String message) {
        return new Ending(Why.FAILURE, code, message, null, false);
    }

    /** A fault of the surroundings, which may pass. */
    static Ending interruption(String code, String message) {
        return new Ending(Why.FAILURE, code, message, null, true);
    }

    /** Trouble with the target. */
    static Ending of(TargetException e) {
        return e.kind() == TargetException.Kind.STOPPED
                ? STOP
                : new Ending(Why.FAILURE, e.code(), e.getMessage(), null, e.mayPass());
    }
}
