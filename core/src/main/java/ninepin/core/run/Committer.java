package ninepin.core.run;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import ninepin.core.bytes.ByteSource;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Refusal;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.TargetException;
import ninepin.core.document.Lanes;
import ninepin.core.document.SummaryGroups;
import ninepin.core.layout.Severity;

/**
 * Makes a chunk final: rows the target refused become rejects, the journal is forced to disk, and rows and mark are
 * committed as one. Called by one loader at a time, in the order of the file.
 */
final class Committer {

    private final RunPlan plan;
    private final ByteSource source;
    private final Journal journal;
    private final SummaryDelivery summaries;
    private final RunListener listener;
    /** How far the file has been loaded. */
    private volatile Mark mark;
    /** How far it is committed, which is less while a file is delivered whole. */
    private volatile Mark committed;

    Committer(
            RunPlan plan,
            ByteSource source,
            Journal journal,
            SummaryDelivery summaries,
            RunListener listener,
            Mark from) {
        this.plan = plan;
        this.source = source;
        this.journal = journal;
        this.summaries = summaries;
        this.listener = listener;
        this.mark = from;
        this.committed = from;
    }

    Mark mark() {
        return mark;
    }

    Mark committed() {
        return committed;
    }

    /** Commits a loaded chunk; returns why the run ends with it, or null when it goes on. */
    Ending commit(LoadConnection connection, Chunk chunk, Loaded loaded) throws TargetException, IOException {
        List<JournalEntry> entries = entries(chunk, loaded);
        Chunk.Kept kept =
                chunk.kept(loaded.refused().stream().map(Refusal::document).toList());
        RowCounts rows = loaded.all();
        Tally tally = mark.tally()
                .plus(new Tally(
                        chunk.read(),
                        kept.delivered(),
                        rows.added(),
                        rows.changed(),
                        rows.unchanged(),
                        chunk.rejected() + kept.lost(),
                        kept.setAside(),
                        chunk.blank,
                        chunk.notes,
                        kept.withoutRows(),
                        rows.removed(),
                        kept.elsewhere()));
        Shares shares = mark.shares().plus(shares(chunk, loaded, kept.reasons()));
        Ending ending = chunk.ending;
        if (!tally.balances() || tally.read() != chunk.end.records() || !allLoaded(chunk, loaded)) {
            connection.rollback();
            return Ending.failure(
                    "TLY-01",
                    "The tally does not balance after line " + chunk.end.line() + ": read " + tally.read()
                            + ", delivered " + tally.delivered() + ", rejected " + tally.rejected()
                            + ". Nothing of this part was delivered.");
        }
        boolean complete = ending == Ending.END_OF_FILE;
        if (ending != null && !complete && chunk.isEmpty()) {
            // Nothing to keep: a mark of nothing would say that the run has begun to deliver.
            connection.rollback();
            return ending;
        }
        if (!loaded.refused().isEmpty()) {
            summaries.refusedSome();
        }
        if (complete && !summaries.isNothing()) {
            try {
                Loaded of = summaries.load(connection, mark.journalLength(), entries);
                if (of == null) {
                    connection.rollback();
                    return Ending.STOP;
                }
                tally = tally.plus(Tally.rows(of.all()));
                shares = shares.plus(rowsOf(of));
            } catch (SummaryDelivery.Refused | SummaryGroups.TooMany e) {
                connection.rollback();
                return Ending.failure(
                        "SUM-01",
                        e.getMessage() + " Nothing of the last part was delivered; mend it and restart to go on.");
            }
        }
        if (complete) {
            Loaded last = connection.finish();
            tally = tally.plus(Tally.rows(last.all()));
            shares = shares.plus(rowsOf(last));
        }
        Mark next = new Mark(
                chunk.end, tally, shares, mark.commits() + 1, journal.append(entries), mark.fingerprint(), complete);
        boolean commits = complete || !plan.whole();
        if (commits) {
            connection.commit(next);
            committed = next;
        }
        mark = next;
        if (commits) {
            listener.committed(next);
        } else {
            listener.loaded(next);
        }
        if (ending == null) {
            String exceeded = plan.exceeded(tally);
            return exceeded == null ? null : Ending.limit(exceeded, plan.whole());
        }
        return ending;
    }

    /** The share that each lane, each reason and each delivery has in a chunk. */
    private Shares shares(Chunk chunk, Loaded loaded, Map<String, Long> reasons) {
        Set<Integer> refused = new HashSet<>();
        loaded.refused().forEach(r -> refused.add(r.document()));
        Map<Integer, Shares.DeliveryShare> deliveries = new TreeMap<>();
        long[] records = chunk.recordsOfTables(refused);
        for (int table = 0; table < records.length; table++) {
            int of = table;
            long blamed = loaded.refused().stream().filter(r -> r.table() == of).count();
            deliveries.put(delivery(table), new Shares.DeliveryShare(records[table], loaded.of(table), blamed));
        }
        return new Shares(lanes(chunk, refused), reasons, deliveries);
    }

    /** The number in the job of a delivery of this place. */
    private int delivery(int table) {
        return plan.documents().here().get(table);
    }

    /** Rows that belong to no record. */
    private Shares rowsOf(Loaded loaded) {
        Map<Integer, Shares.DeliveryShare> deliveries = new TreeMap<>();
        for (int table = 0; table < plan.documents().here().size(); table++) {
            if (!loaded.of(table).equals(RowCounts.NONE)) {
                deliveries.put(delivery(table), new Shares.DeliveryShare(0, loaded.of(table), 0));
            }
        }
        return new Shares(Map.of(), Map.of(), deliveries);
    }

    private Map<String, Shares.Lane> lanes(Chunk chunk, Set<Integer> refused) {
        List<Lanes.Lane> lanes = plan.documents().lanes().lanes();
        if (lanes.isEmpty()) {
            return Map.of();
        }
        long[] documents = new long[lanes.size()];
        long[] records = new long[lanes.size()];
        for (int d = 0; d < chunk.batch.documents(); d++) {
            if (!refused.contains(d)) {
                for (long bits = chunk.laneBits(d); bits != 0; bits &= bits - 1) {
                    int lane = Long.numberOfTrailingZeros(bits);
                    documents[lane]++;
                    records[lane] += chunk.endRecord(d) - chunk.firstRecord(d);
                }
            }
        }
        Map<String, Shares.Lane> of = new TreeMap<>();
        for (int lane = 0; lane < documents.length; lane++) {
            of.put(lanes.get(lane).name(), new Shares.Lane(documents[lane], records[lane]));
        }
        return of;
    }

    private List<JournalEntry> entries(Chunk chunk, Loaded loaded) throws IOException {
        if (loaded.refused().isEmpty()) {
            return chunk.entries;
        }
        List<JournalEntry> all = new ArrayList<>(chunk.entries);
        for (Refusal refusal : loaded.refused()) {
            int because = chunk.recordOfRow(refusal.table(), refusal.row());
            for (int r = chunk.firstRecord(refusal.document()); r < chunk.endRecord(refusal.document()); r++) {
                all.add(rejectOf(
                        chunk.records,
                        r,
                        chunk.firstRecord(refusal.document()),
                        r == because
                                ? refused(chunk.records, r, refusal)
                                : RecordChecker.withDocument(
                                        chunk.records.number(r),
                                        chunk.records.locator(r),
                                        chunk.records.offset(r),
                                        chunk.records.length(r),
                                        chunk.records.locator(because))));
            }
        }
        all.sort(Comparator.comparingLong(JournalEntry::offset));
        return all;
    }

    /** Whether the target says of every row that was sent what became of it. */
    private static boolean allLoaded(Chunk chunk, Loaded loaded) {
        long refused = 0;
        for (Refusal refusal : loaded.refused()) {
            for (int t = 0; t < chunk.batch.tables(); t++) {
                refused += chunk.batch.end(t, refusal.document()) - chunk.batch.start(t, refusal.document());
            }
        }
        return loaded.rows() + refused == chunk.batch.allRows();
    }

    private JournalEntry rejectOf(Records records, int record, int first, Finding finding) throws IOException {
        long offset = records.offset(record);
        int length = records.length(record);
        byte[] raw = records.raw(record);
        return new JournalEntry(
                true,
                records.number(record),
                records.line(record),
                offset,
                length,
                raw != null ? raw : source.slice(offset, length),
                List.of(finding),
                records.number(first),
                true,
                records.fate(record));
    }

    private static Finding refused(Records records, int record, Refusal refusal) {
        boolean isThere = refusal.code().equals("TGT-02");
        return new Finding(
                Severity.REJECT,
                refusal.code(),
                records.locator(record),
                records.number(record),
                null,
                refusal.column(),
                records.offset(record),
                records.length(record),
                isThere ? "a key that is there already" : "a row that the target refuses",
                isThere
                        ? "a new key"
                        : refusal.column() == null ? "a row that it accepts" : "a value that the column accepts",
                refusal.reason());
    }
}
