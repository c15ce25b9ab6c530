package ninepin.core.deliver;

/**
 * The account of a run up to a mark: every record read, and what became of it. Of one place, or of all of them together.
 *
 * @param read records read, blank rows not among them
 * @param delivered records whose rows are in the target; of several places, in all of them that they belong to
 * @param added rows that are new in the target
 * @param changed rows of the target that were changed
 * @param unchanged rows that were in the target as they are
 * @param rejected records refused by a check or by the target
 * @param setAside records set aside on purpose
 * @param blank blank rows passed over
 * @param notes findings that were only noted
 * @param withoutRows records that no delivery makes rows of, such as headers and trailers
 * @param removed rows of the target that were removed
 * @param elsewhere records whose rows all go to other places of the job; 0 of all places together
 */
public record Tally(
        long read,
        long delivered,
        long added,
        long changed,
        long unchanged,
        long rejected,
        long setAside,
        long blank,
        long notes,
        long withoutRows,
        long removed,
        long elsewhere) {

    /** The account of a run with one place. */
    public Tally(
            long read,
            long delivered,
            long added,
            long changed,
            long unchanged,
            long rejected,
            long setAside,
            long blank,
            long notes,
            long withoutRows,
            long removed) {
        this(read, delivered, added, changed, unchanged, rejected, setAside, blank, notes, withoutRows, removed, 0);
    }

    /** The account of a run that removes nothing. */
    public Tally(
            long read,
            long delivered,
            long added,
            long changed,
            long unchanged,
            long rejected,
            long setAside,
            long blank,
            long notes,
            long withoutRows) {
        this(read, delivered, added, changed, unchanged, rejected, setAside, blank, notes, withoutRows, 0);
    }

    /** Rows alone. */
    public static Tally rows(RowCounts rows) {
        return new Tally(0, 0, rows.added(), rows.changed(), rows.unchanged(), 0, 0, 0, 0, 0, rows.removed());
    }

    /** The account of records of which each makes a row. */
    public Tally(
            long read,
            long delivered,
            long added,
            long changed,
            long unchanged,
            long rejected,
            long setAside,
            long blank,
            long notes) {
        this(read, delivered, added, changed, unchanged, rejected, setAside, blank, notes, 0);
    }

    public static final Tally ZERO = new Tally(0, 0, 0, 0, 0, 0, 0, 0, 0);

    /** Whether every record read is accounted for, once. */
    public boolean balances() {
        return read == delivered + rejected + setAside + withoutRows + elsewhere && delivered <= rows();
    }

    /** What became of rows. */
    public RowCounts allRows() {
        return new RowCounts(added, changed, unchanged, removed);
    }

    /** Rows of which the target says what became of them. */
    public long rows() {
        return allRows().rows();
    }

    public Tally plus(Tally o) {
        return new Tally(
                read + o.read,
                delivered + o.delivered,
                added + o.added,
                changed + o.changed,
                unchanged + o.unchanged,
                rejected + o.rejected,
                setAside + o.setAside,
                blank + o.blank,
                notes + o.notes,
                withoutRows + o.withoutRows,
                removed + o.removed,
                elsewhere + o.elsewhere);
    }
}
