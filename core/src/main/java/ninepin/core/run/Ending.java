package ninepin.core.run;

import ninepin.core.check.Finding;

/**
 * Why the stream of chunks ends with this one.
 *
 * @param why the reason
 * @param code the code of the trouble, or null
 * @param message what a person should know, or null
 * @param halt the finding that halts the run, or null
 */
record Ending(Why why, String code, String message, Finding halt) {

    enum Why {
        END_OF_FILE,
        STOP,
        HALT,
        FAILURE
    }

    static final Ending END_OF_FILE = new Ending(Why.END_OF_FILE, null, null, null);
    static final Ending STOP = new Ending(Why.STOP, null, null, null);

    static Ending halt(Finding finding) {
        return new Ending(Why.HALT, finding.code(), finding.message(), finding);
    }

    static Ending limit(String exceeded, boolean whole) {
        return new Ending(
                Why.HALT,
                "LIM-01",
                "Halted: " + exceeded
                        + (whole
                                ? "."
                                : ". What is committed stays. Look at the findings, then restart to go on from here."),
                null);
    }

    static Ending failure(String code, String message) {
        return new Ending(Why.FAILURE, code, message, null);
    }
}
