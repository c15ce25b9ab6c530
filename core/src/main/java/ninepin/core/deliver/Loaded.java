package ninepin.core.deliver;

import java.util.List;

/**
 * What became of rows that were loaded, before their commit.
 *
 * @param added rows that are new
 * @param changed rows of the target that were changed
 * @param unchanged rows that were there as they are
 * @param removed rows of the target that were removed
 * @param emptied rows that were there before and gave way to those of the file
 * @param refused the documents that the target refused, in order
 */
public record Loaded(long added, long changed, long unchanged, long removed, long emptied, List<Refusal> refused) {

    /** Nothing. */
    public static final Loaded NONE = new Loaded(0, 0, 0, 0, 0, List.of());

    public Loaded {
        refused = List.copyOf(refused);
    }

    /** The rows that were taken. */
    public long rows() {
        return added + changed + unchanged + removed;
    }
}
