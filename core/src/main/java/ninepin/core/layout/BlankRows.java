package ninepin.core.layout;

import java.util.Locale;

/** What happens to blank rows. They are counted in the tally whatever the choice. */
public enum BlankRows {
    /** Passed over and counted. */
    SKIP,
    /** Passed over and counted, with a note for each. */
    NOTE,
    /** Set aside as a reject. */
    REJECT;

    @Override
    public String toString() {
        return name().toLowerCase(Locale.ROOT);
    }
}
