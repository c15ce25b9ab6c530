package ninepin.core.layout;

/** How much a finding weighs, from least to most. */
public enum Severity {
    /** The record is kept, and it is said. */
    NOTE,
    /** The record is set aside as wrong. */
    REJECT,
    /** The file is stopped before this record. */
    HALT;

    @Override
    public String toString() {
        return name().toLowerCase();
    }
}
