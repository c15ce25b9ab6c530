package ninepin.core.deliver;

/**
 * What became of the rows of one delivery.
 *
 * @param added rows that are new in the target
 * @param changed rows of the target that were changed
 * @param unchanged rows that were in the target as they are
 * @param removed rows of the target that were removed
 */
public record RowCounts(long added, long changed, long unchanged, long removed) {

    public static final RowCounts NONE = new RowCounts(0, 0, 0, 0);

    /** Rows that are new. */
    public static RowCounts added(long rows) {
        return new RowCounts(rows, 0, 0, 0);
    }

    /** Rows of the target that are gone. */
    public static RowCounts removed(long rows) {
        return new RowCounts(0, 0, 0, rows);
    }

    public RowCounts plus(RowCounts o) {
        return new RowCounts(added + o.added, changed + o.changed, unchanged + o.unchanged, removed + o.removed);
    }

    /** All of them. */
    public long rows() {
        return added + changed + unchanged + removed;
    }
}
