package ninepin.core.run;

import ninepin.core.deliver.Tally;
import ninepin.core.layout.DefinitionException;

/**
 * How many rejects and notes a run may have before it halts.
 *
 * @param rejects the most rejects, or null for any number; 0 halts at the first
 * @param percent the largest share of rejects among the records read, in per cent, or null
 * @param percentFrom the number of records from which on the share is asked, because a share of a few records says
 *     little; null for {@link #USUAL_FROM}
 * @param notes the most findings that are only noted, or null for any number
 */
public record Limits(Long rejects, Integer percent, Long percentFrom, Long notes) {

    /** The number of records from which on the share is asked where nothing else is said. */
    public static final long USUAL_FROM = 100;

    /** No limit. */
    public static final Limits NONE = new Limits(null, null);

    /** Of rejects alone. */
    public Limits(Long rejects, Integer percent) {
        this(rejects, percent, null, null);
    }

    public Limits {
        requireNotNegative("rejects", rejects);
        requireNotNegative("percentFrom", percentFrom);
        requireNotNegative("notes", notes);
        if (percent != null && (percent < 0 || percent > 100)) {
            throw new DefinitionException("limits.percent", "must be from 0 to 100");
        }
    }

    private static void requireNotNegative(String part, Long number) {
        if (number != null && number < 0) {
            throw new DefinitionException("limits." + part, "must not be negative");
        }
    }

    /**
     * What is exceeded, in words, or null.
     *
     * @param tally the account
     * @param accepted the part of it that a person has accepted, which does not count
     */
    String exceeded(Tally tally, Tally accepted) {
        long rejected = tally.rejected() - accepted.rejected();
        long read = tally.read() - accepted.read();
        if (rejects != null && rejected > rejects) {
            return rejects == 0 ? "a reject" : "more than " + rejects + (rejects == 1 ? " reject" : " rejects");
        }
        if (percent != null
                && read >= (percentFrom == null ? USUAL_FROM : percentFrom)
                && rejected * 100 > read * percent) {
            return "more than " + percent + " % rejects";
        }
        if (notes != null && tally.notes() - accepted.notes() > notes) {
            return "more than " + notes + (notes == 1 ? " note" : " notes");
        }
        return null;
    }
}
