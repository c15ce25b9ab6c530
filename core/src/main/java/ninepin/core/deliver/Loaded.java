package ninepin.core.deliver;

import java.util.List;

/**
 * What became of rows that were loaded, before their commit.
 *
 * @param added rows that are new
 * @param changed rows of the target that were changed
 * @param unchanged rows that were there as they are
 * @param refused the documents that the target refused, in order
 */
public record Loaded(long added, long changed, long unchanged, List<Refusal> refused) {

    public Loaded {
        refused = List.copyOf(refused);
    }
}
