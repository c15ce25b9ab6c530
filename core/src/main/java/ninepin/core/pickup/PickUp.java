package ninepin.core.pickup;

import ninepin.core.layout.DefinitionException;

/**
 * What a job takes, when it looks for it and when it is ready.
 *
 * @param from where it comes from
 * @param schedule when the job looks
 * @param ready when something that was found is taken
 * @param sameFileAgain whether a file with the same bytes as one delivered before is taken again
 */
public record PickUp(From from, Times schedule, Ready ready, boolean sameFileAgain) {

    public PickUp {
        if (from == null) {
            throw new DefinitionException("pickUp.from", "says where records come from");
        }
        schedule = schedule == null ? new Times(null, null, null) : schedule;
        ready = ready == null ? Ready.AT_ONCE : ready;
    }

    /** Whether files with the same bytes may come again. */
    public boolean takesAgain() {
        return sameFileAgain || from.repeats();
    }
}
