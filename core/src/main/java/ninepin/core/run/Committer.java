package ninepin.core.run;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import ninepin.core.check.Finding;
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
        long rejected = chunk.rejected() + loaded.refused().size();
        long delivered = loaded.added() + loaded.changed() + loaded.unchanged();
        Tally tally = mark.tally()
                .plus(new Tally(
                        chunk.read(),
                        delivered,
                        loaded.added(),
                        loaded.changed(),
                        loaded.unchanged(),
                        rejected,
                        0,
                        chunk.blank,
                        chunk.notes));
        Ending ending = chunk.ending;
        if (!tally.balances() || tally.read() != chunk.end.records()) {
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
            all.add(rejectOf(chunk, refusal));
        }
        all.sort(Comparator.comparingLong(JournalEntry::offset));
        return all;
    }

    private JournalEntry rejectOf(Chunk chunk, Refusal refusal) throws IOException {
        int row = refusal.row();
        long offset = chunk.offset(row);
        int length = chunk.length(row);
        Finding finding = new Finding(
                Severity.REJECT,
                refusal.code(),
                chunk.line(row),
                chunk.number(row),
                null,
                refusal.column(),
                0,
                0,
                offset,
                length,
                "a row that the target refuses",
                refusal.column() == null ? "a row that it takes" : "a value that the column takes",
                "The database says: " + refusal.reason());
        return new JournalEntry(
                true,
                chunk.number(row),
                chunk.line(row),
                offset,
                length,
                source.slice(offset, length),
                List.of(finding));
    }
}
