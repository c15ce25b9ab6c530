package ninepin.core.deliver;

import java.util.Arrays;
import java.util.List;

/**
 * What became of rows that were loaded, before their commit.
 *
 * @param taken for each delivery of the batch what became of its rows; none where there is nothing to say
 * @param emptied for each delivery the rows that were there before and gave way to those of the file; none where there were none
 * @param refused the documents that the target refused, in order
 */
public record Loaded(List<RowCounts> taken, List<Long> emptied, List<Refusal> refused) {

    /** Nothing. */
    public static final Loaded NONE = new Loaded(List.of(), List.of(), List.of());

    public Loaded {
        taken = List.copyOf(taken);
        emptied = List.copyOf(emptied);
        refused = List.copyOf(refused);
    }

    /** Rows of which none was there before. */
    public static Loaded of(RowCounts[] taken, List<Refusal> refused) {
        return new Loaded(List.of(taken), List.of(), refused);
    }

    /** Counts of so many deliveries, to begin with. */
    public static RowCounts[] counts(int deliveries) {
        RowCounts[] counts = new RowCounts[deliveries];
        Arrays.fill(counts, RowCounts.NONE);
        return counts;
    }

    /** What became of the rows of a delivery, those that gave way among the removed ones. */
    public RowCounts of(int delivery) {
        RowCounts of = delivery < taken.size() ? taken.get(delivery) : RowCounts.NONE;
        return delivery < emptied.size() ? of.plus(RowCounts.removed(emptied.get(delivery))) : of;
    }

    /** What became of all rows, those that gave way among the removed ones. */
    public RowCounts all() {
        RowCounts all = RowCounts.NONE;
        for (int delivery = 0; delivery < Math.max(taken.size(), emptied.size()); delivery++) {
            all = all.plus(of(delivery));
        }
        return all;
    }

    /** The rows that were taken. */
    public long rows() {
        return taken.stream().mapToLong(RowCounts::rows).sum();
    }
}
