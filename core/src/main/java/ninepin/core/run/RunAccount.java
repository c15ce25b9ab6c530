package ninepin.core.run;

import java.util.Comparator;
import java.util.List;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.Tally;

/**
 * What a run comes to, as every screen, command and report tells it: each of its places with its deliveries, and all of them
 * together. Together a record counts once: as rejected where any place has rejected it, as delivered where all places have it
 * that it belongs to. Rows are those of all places.
 *
 * @param tally all places together
 * @param open records that some places have taken and others have not come to yet
 * @param shares what the lanes, the reasons and the deliveries have of it
 * @param places each place by itself
 * @param balances whether every record read is accounted for, once, in each place and in all of them together
 */
public record RunAccount(Tally tally, long open, Shares shares, List<PlaceAccount> places, boolean balances) {

    /** Of a run without places. */
    public static final RunAccount NONE = new RunAccount(Tally.ZERO, 0, Shares.NONE, List.of(), true);

    /**
     * One place.
     *
     * @param place its number in the job, from 0
     * @param to what people call it
     * @param kind {@code tables}, {@code application} or {@code files}
     * @param tally what it comes to
     * @param deliveries what goes to it
     */
    public record PlaceAccount(int place, String to, String kind, Tally tally, List<DeliveryAccount> deliveries) {}

    /**
     * One delivery.
     *
     * @param delivery its number in the job, from 0
     * @param to the table, the operation or the record of a file that it goes to
     * @param records the records that it has made rows of
     * @param rows what became of its rows
     * @param refused the documents that the target refused for one of its rows
     */
    public record DeliveryAccount(int delivery, String to, long records, RowCounts rows, long refused) {}

    /**
     * How far a place is known to have come.
     *
     * @param complete whether it has come to the end of the file
     */
    public record Part(Tally tally, Shares shares, boolean complete) {
        public static final Part NONE = new Part(Tally.ZERO, Shares.NONE, false);
    }

    /** What a delivery is called, with its number in the job. */
    public record Called(int delivery, String to) {}

    /** A place with what its deliveries have of it. */
    public static PlaceAccount place(int number, String to, String kind, List<Called> deliveries, Part part) {
        Shares.DeliveryShare nothing = new Shares.DeliveryShare(0, RowCounts.NONE, 0);
        return new PlaceAccount(
                number,
                to,
                kind,
                part.tally(),
                deliveries.stream()
                        .map(d -> {
                            Shares.DeliveryShare of = part.shares().deliveries().getOrDefault(d.delivery(), nothing);
                            return new DeliveryAccount(d.delivery(), d.to(), of.records(), of.rows(), of.refused());
                        })
                        .toList());
    }

    /**
     * The account of a run whose places have come so far.
     *
     * @param places each place, in the order of the job
     * @param parts how far each has come
     * @param refused the records that the targets of these places have refused up to there
     */
    public static RunAccount of(List<PlaceAccount> places, List<Part> parts, RefusedByTargets refused) {
        if (parts.isEmpty()) {
            return NONE;
        }
        int first = parts.indexOf(parts.stream()
                .max(Comparator.comparingLong(p -> p.tally().read()))
                .orElseThrow());
        Tally of = parts.get(first).tally();
        long rejected = of.rejected() - refused.of(first) + refused.records();
        long setAside = of.setAside() + refused.of(first, Fate.SET_ASIDE) - refused.distinct(Fate.SET_ASIDE);
        long withoutRows =
                of.withoutRows() + refused.of(first, Fate.WITHOUT_ROWS) - refused.distinct(Fate.WITHOUT_ROWS);
        long delivered = delivered(parts, refused);
        long open = of.read() - rejected - setAside - withoutRows - delivered;
        RowCounts rows = RowCounts.NONE;
        Shares shares = parts.get(first).shares();
        for (int place = 0; place < parts.size(); place++) {
            rows = rows.plus(parts.get(place).tally().allRows());
            shares = place == first
                    ? shares
                    : shares.withDeliveriesOf(parts.get(place).shares());
        }
        Tally whole = new Tally(
                of.read(),
                delivered,
                rows.added(),
                rows.changed(),
                rows.unchanged(),
                rejected,
                setAside,
                of.blank(),
                of.notes(),
                withoutRows,
                rows.removed());
        boolean complete = parts.stream().allMatch(Part::complete);
        boolean balances = parts.stream().allMatch(p -> p.tally().balances()) && balances(whole, open, complete);
        return new RunAccount(whole, open, shares, places, balances);
    }

    /**
     * Whether every record read is accounted for, once, in all places together.
     *
     * @param complete whether all of them have come to the end of the file, so that nothing may be open
     */
    public static boolean balances(Tally tally, long open, boolean complete) {
        long settled = tally.delivered() + tally.rejected() + tally.setAside() + tally.withoutRows();
        return tally.read() == settled + open
                && open >= 0
                && !(complete && open > 0)
                && tally.delivered() <= tally.rows();
    }

    /** The records that every place has, of those that make rows for any; what a place refuses the others may have taken. */
    private static long delivered(List<Part> parts, RefusedByTargets refused) {
        long least = Long.MAX_VALUE;
        for (int place = 0; place < parts.size(); place++) {
            Tally t = parts.get(place).tally();
            long byOthers = refused.distinct(Fate.ROWS) - refused.of(place, Fate.ROWS);
            least = Math.min(least, Math.max(0, t.delivered() + t.elsewhere() - byOthers));
        }
        return least;
    }
}
