package ninepin.core.shape;

/** A fact of the run that a rule can take. */
public enum RunFact {
    /** The date on which the run first started, a DATE. */
    TODAY("the day of the run"),
    /** When the run first started, a TIMESTAMP. */
    STARTED_AT("the time at which the run started"),
    /** The number of the run, an INTEGER. */
    RUN_NUMBER("the number of the run"),
    /** The name of the file as it was picked up, text. */
    FILE_NAME("the name of the file"),
    /** The line on which the record starts, from 1, an INTEGER. */
    LINE_NUMBER("the line in the file"),
    /** The name of the environment, such as {@code production}, text. */
    ENVIRONMENT("the environment");

    private final String words;

    RunFact(String words) {
        this.words = words;
    }

    public String words() {
        return words;
    }

    @Override
    public String toString() {
        return name().toLowerCase().replace('_', '-');
    }
}
