package ninepin.core.run;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Refusal;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.layout.Severity;
import ninepin.core.source.ByteSource;

/**
 * Makes a chunk final: rows the target refused become rejects, the journal is forced to disk, and rows and mark are
 * committed as one. Called by one lane at a time, in the order of the file.
 */
final class Committer {

    private final RunPlan plan;
    private final ByteSource source;
    private final Journal journal;
    private final RunListener listener;
    private volatile Mark mark;

    Committer(RunPlan plan, ByteSource source, Journal journal, RunListener listener, Mark from) {
        this.plan = plan;
        this.source = source;
        this.journal = journal;
        this.listener = listener;
        this.mark = from;
    }

    Mark mark() {
        return mark;
    }

    /** Commits a loaded chunk; returns why the run ends with it, or null when it goes on. */
    Ending commit(Target.Lane lane, Chunk chunk, Loaded loaded) throws TargetException, IOException {
        List<JournalEntry> entries = entries(chunk, loaded);
        long refused = 0;
        long refusedWithoutRows = 0;
        for (Refusal refusal : loaded.refused()) {
            int document = refusal.document();
            refused += chunk.endRecord(document) - chunk.firstRecord(document);
            refusedWithoutRows += chunk.withoutRows(document);
        }
        long withoutRows = chunk.withoutRows() - refusedWithoutRows;
        Tally tally = mark.tally()
                .plus(new Tally(
                        chunk.read(),
                        chunk.records.count() - refused - withoutRows,
                        loaded.added(),
                        loaded.changed(),
                        loaded.unchanged(),
                        chunk.rejected() + refused,
                        0,
                        chunk.blank,
                        chunk.notes,
                        withoutRows));
        Ending ending = chunk.ending;
        if (!tally.balances() || tally.read() != chunk.end.records() || !allLoaded(chunk, loaded)) {
            lane.rollback();
            return Ending.failure(
                    "TLY-01",
                    "The tally does not balance after line " + chunk.end.line() + ": read " + tally.read()
                            + ", delivered " + tally.delivered() + ", rejected " + tally.rejected()
                            + ". Nothing of this part was delivered.");
        }
        boolean complete = ending == Ending.END_OF_FILE;
        Mark next =
                new Mark(chunk.end, tally, mark.commits() + 1, journal.append(entries), mark.fingerprint(), complete);
        lane.commit(next);
        mark = next;
        listener.committed(next);
        if (ending == null) {
            String exceeded = plan.exceeded(tally);
            return exceeded == null ? null : Ending.limit(exceeded);
        }
        return ending;
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
                        r == because
                                ? refused(chunk.records, r, refusal)
                                : RecordChecker.withDocument(
                                        chunk.records.number(r),
                                        chunk.records.line(r),
                                        chunk.records.offset(r),
                                        chunk.records.length(r),
                                        chunk.records.line(because))));
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
        return loaded.added() + loaded.changed() + loaded.unchanged() + refused == chunk.batch.allRows();
    }

    private JournalEntry rejectOf(Records records, int record, Finding finding) throws IOException {
        long offset = records.offset(record);
        int length = records.length(record);
        return new JournalEntry(
                true,
                records.number(record),
                records.line(record),
                offset,
                length,
                source.slice(offset, length),
                List.of(finding));
    }

    private static Finding refused(Records records, int record, Refusal refusal) {
        return new Finding(
                Severity.REJECT,
                refusal.code(),
                records.line(record),
                records.number(record),
                null,
                refusal.column(),
                0,
                0,
                records.offset(record),
                records.length(record),
                "a row that the target refuses",
                refusal.column() == null ? "a row that it takes" : "a value that the column takes",
                "The database says: " + refusal.reason());
    }
}
