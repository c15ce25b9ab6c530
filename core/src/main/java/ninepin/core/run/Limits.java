package ninepin.core.run;

import ninepin.core.layout.DefinitionException;

/**
 * How many rejects a run may have before it halts.
 *
 * @param rejects the most rejects, or null for any number
 * @param percent the largest share of rejects among the records read, in per cent, or null; asked from the hundredth
 *     record on, because a share of a few records says little
 */
public record Limits(Long rejects, Integer percent) {

    /** The number of records from which on the share is asked. */
    public static final int PERCENT_FROM = 100;

    /** No limit. */
    public static final Limits NONE = new Limits(null, null);

    public Limits {
        if (rejects != null && rejects < 0) {
            throw new DefinitionException("limits.rejects", "must not be negative");
        }
        if (percent != null && (percent < 0 || percent > 100)) {
            throw new DefinitionException("limits.percent", "must be from 0 to 100");
        }
    }

    /**
     * What is exceeded, in words, or null.
     *
     * @param rejected the rejects that count
     * @param read the records read among which they are
     */
    String exceeded(long rejected, long read) {
        if (rejects != null && rejected > rejects) {
            return "more than " + rejects + " rejects";
        }
        if (percent != null && read >= PERCENT_FROM && rejected * 100 > read * percent) {
            return "more than " + percent + " % rejects";
        }
        return null;
    }
}
