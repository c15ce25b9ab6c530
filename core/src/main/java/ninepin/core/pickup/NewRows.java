package ninepin.core.pickup;

import java.time.Duration;
import java.time.Instant;

/**
 * How far the rows of a query may be taken where only new ones are. A row that is committed late, with a key lower than that of a
 * row taken before, would never be taken. So a key is only gone up to once it was seen a lag ago: whatever is lower has been
 * committed by then.
 *
 * @param taken the key of the last row taken, or null
 * @param seen a higher key that was seen, or null
 * @param seenAt when that was known to be seen
 */
public record NewRows(String taken, String seen, Instant seenAt) {

    /** Nothing was taken or seen yet. */
    public static final NewRows NONE = new NewRows(null, null, null);

    /** The key up to which rows may be taken now; null where none may. */
    public String upTo(Instant now, int lagSeconds) {
        boolean ripe = seen != null && Duration.between(seenAt, now).compareTo(Duration.ofSeconds(lagSeconds)) >= 0;
        return ripe ? seen : null;
    }

    /**
     * The same when the highest key there is was looked at.
     *
     * @param highest that key, or null where there are no rows
     * @param now when it was known
     */
    public NewRows seeing(String highest, Instant now) {
        return seen != null || highest == null || highest.equals(taken) ? this : new NewRows(taken, highest, now);
    }

    /** The same when rows were taken. */
    public NewRows taking(String last) {
        return new NewRows(last, null, null);
    }
}
