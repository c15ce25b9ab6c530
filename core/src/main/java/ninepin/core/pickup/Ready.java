package ninepin.core.pickup;

import ninepin.core.layout.DefinitionException;

/**
 * When something that was found is taken.
 *
 * @param unchangedSeconds for how long its size and time must not have changed, 0 to 86,400
 */
public record Ready(int unchangedSeconds) {

    /** As soon as it is found. */
    public static final Ready AT_ONCE = new Ready(0);

    private static final int DAY = 86_400;

    public Ready {
        if (unchangedSeconds < 0 || unchangedSeconds > DAY) {
            throw new DefinitionException("pickUp.ready.unchangedSeconds", "must be from 0 to " + DAY);
        }
    }
}
