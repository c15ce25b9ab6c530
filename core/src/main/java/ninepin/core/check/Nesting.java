package ninepin.core.check;

import java.util.stream.IntStream;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Severity;
import ninepin.core.record.RawRecord;

/** Follows which records are open, and counts children: what belongs to what, and how often it may occur. */
final class Nesting {

    private final Layout layout;
    private final int[] parent;
    /** The fewest and the most records of each type. */
    private final long[] least;

    private final long[] most;
    /** For each type all that stand below it. */
    private final int[][] below;

    private final boolean[] open;
    private final long[] count;
    private final Finding[] tooFew;
    /** What to say of a record with too few children of a type, and what is expected; null where none are needed. */
    private final String[] few;

    private final String[] enough;
    private final Places places;
    /** Whether a record came for which no parent was open. */
    private boolean orphans;

    Nesting(Layout layout, Places places) {
        int n = layout.recordTypes().size();
        this.layout = layout;
        this.places = places;
        this.parent = new int[n];
        this.least = new long[n];
        this.most = new long[n];
        this.open = new boolean[n];
        this.count = new long[n];
        this.tooFew = new Finding[n];
        this.few = new String[n];
        this.enough = new String[n];
        for (int t = 0; t < n; t++) {
            parent[t] = layout.parentIndex(t);
            RecordType type = layout.recordTypes().get(t);
            least[t] = type.min() == null ? 0 : type.min();
            most[t] = type.max() == null ? Long.MAX_VALUE : type.max();
            if (least[t] > 0) {
                few[t] = "too few " + type.name() + " records";
                enough[t] = "at least " + type.min() + where(t);
            }
        }
        this.below = IntStream.range(0, n)
                .mapToObj(type ->
                        IntStream.range(0, n).filter(t -> isBelow(t, type)).toArray())
                .toArray(int[][]::new);
    }

    /** Whether a record of a type starts a document. */
    boolean topLevel(int type) {
        return parent[type] < 0;
    }

    /** Takes the next record; what is wrong with its place, or null. */
    Finding take(RawRecord r) {
        int type = r.type();
        if (parent[type] >= 0 && !open[parent[type]]) {
            orphans = true;
            RecordType recordType = layout.recordTypes().get(type);
            return places.whole(
                    Severity.REJECT,
                    "STR-01",
                    r,
                    "a " + recordType.name() + " record",
                    "a " + recordType.parent() + " record before it",
                    null);
        }
        for (int t : below[type]) {
            open[t] = false;
            count[t] = 0;
            if (parent[t] == type) {
                expectChildren(r, t);
            }
        }
        open[type] = true;
        count[type]++;
        if (tooFew[type] != null && count[type] >= least[type]) {
            tooFew[type] = null;
        }
        if (count[type] > most[type]) {
            RecordType recordType = layout.recordTypes().get(type);
            return places.whole(
                    Severity.REJECT,
                    "STR-02",
                    r,
                    "a " + recordType.name() + " record too many: number " + count[type],
                    "at most " + recordType.max() + where(type),
                    null);
        }
        return null;
    }

    private String where(int type) {
        return parent[type] < 0
                ? " in the file"
                : " for each " + layout.recordTypes().get(parent[type]).name();
    }

    private boolean isBelow(int type, int ancestor) {
        int p = parent[type];
        while (p >= 0 && p != ancestor) {
            p = parent[p];
        }
        return p == ancestor;
    }

    /** Remembers what there is to say should a record have too few children of a type. */
    private void expectChildren(RawRecord r, int child) {
        if (few[child] != null) {
            tooFew[child] = places.whole(Severity.REJECT, "STR-03", r, few[child], enough[child], null);
        }
    }

    /** What a document that is over lacks, or null. */
    Finding lacking() {
        Finding lacking = null;
        for (int t = 0; t < tooFew.length; t++) {
            if (tooFew[t] != null) {
                lacking = lacking == null ? tooFew[t] : lacking;
                tooFew[t] = null;
            }
        }
        return lacking;
    }

    /**
     * Goes on as if it had taken also what another has taken behind it.
     *
     * @return false where the other would have said something else, had it known what came before
     */
    boolean join(Nesting behind) {
        boolean same = !behind.orphans;
        for (int t = 0; t < count.length; t++) {
            if (parent[t] < 0) {
                count[t] += behind.count[t];
                Integer max = layout.recordTypes().get(t).max();
                same &= max == null || count[t] <= max || behind.count[t] == 0;
            }
        }
        return same;
    }
}
