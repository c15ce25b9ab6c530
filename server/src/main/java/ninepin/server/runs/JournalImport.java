package ninepin.server.runs;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import ninepin.core.check.Finding;
import ninepin.core.run.Journal;
import ninepin.core.run.JournalEntry;
import ninepin.server.runs.FindingMapper.FindingRow;
import ninepin.server.runs.FindingMapper.RejectRow;
import ninepin.server.runs.LegMapper.LegRow;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Copies what is committed of a run's journal into the application's own tables, where screens ask for it. How far it
 * has come is kept in the same transaction, so each entry is copied once.
 */
@Component
class JournalImport {

    private static final int BATCH = 200;
    private static final int KEPT = 1 << 20;

    private final FindingMapper findings;
    private final RunMapper runs;
    private final LegMapper legs;

    JournalImport(FindingMapper findings, RunMapper runs, LegMapper legs) {
        this.legs = legs;
        this.findings = findings;
        this.runs = runs;
    }

    /**
     * Copies entries.
     *
     * @param run the run
     * @param leg the leg whose journal it is; of others than the first only what their targets refused is copied, since
     *     a check says the same in all of them
     * @param journal the journal
     * @param to the bytes of the journal that are committed
     */
    @Transactional
    public void upTo(long run, int leg, Path journal, long to) {
        // Legs side by side number their findings one after another.
        runs.lock(run);
        long from = legs.of(run).get(leg).journalImported();
        if (from >= to || legs.imported(run, leg, from, to) == 0) {
            return;
        }
        Batch batch = new Batch(run, leg, findings.lastSeq(run));
        try {
            Journal.read(journal, from, to, e -> {
                if (leg == 0 || e.byTarget()) {
                    batch.add(e);
                }
            });
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        batch.flush();
    }

    /** Forgets what was copied of a leg that has committed nothing, and so begins anew. */
    @Transactional
    public void forgetUncommitted(long run, int leg) {
        LegRow row = legs.of(run).get(leg);
        long from = row.journalImported();
        if (row.commits() == 0 && from > 0 && legs.imported(run, leg, from, 0) > 0) {
            findings.removeFindings(run, leg);
            findings.removeRejects(run, leg);
        }
    }

    private final class Batch {
        private final long run;
        private final int leg;
        private int seq;
        private final List<FindingRow> findingRows = new ArrayList<>();
        private final List<RejectRow> rejectRows = new ArrayList<>();

        Batch(long run, int leg, int seq) {
            this.run = run;
            this.leg = leg;
            this.seq = seq;
        }

        void add(JournalEntry entry) {
            for (Finding f : entry.findings()) {
                findingRows.add(row(f));
            }
            if (entry.rejected()) {
                byte[] raw = entry.raw().length > KEPT ? Arrays.copyOf(entry.raw(), KEPT) : entry.raw();
                long document = entry.document() == 0 ? entry.record() : entry.document();
                rejectRows.add(new RejectRow(
                        run,
                        leg,
                        entry.record(),
                        entry.line(),
                        entry.offset(),
                        entry.length(),
                        raw,
                        document,
                        entry.byTarget(),
                        entry.fate()));
                if (raw.length == KEPT) {
                    flush();
                }
            }
            if (findingRows.size() >= BATCH || rejectRows.size() >= BATCH) {
                flush();
            }
        }

        private FindingRow row(Finding f) {
            return new FindingRow(
                    run,
                    leg,
                    ++seq,
                    f.severity().toString(),
                    f.code(),
                    cut(f.reason(), 400),
                    f.record(),
                    f.line(),
                    f.field() != null ? f.field() : f.target(),
                    f.at().columnFrom(),
                    f.at().columnTo(),
                    f.offset(),
                    f.length(),
                    cut(f.found(), 500),
                    f.message());
        }

        private String cut(String text, int most) {
            return text.length() <= most ? text : text.substring(0, most - 1) + "…";
        }

        void flush() {
            if (!findingRows.isEmpty()) {
                findings.addFindings(findingRows);
                findingRows.clear();
            }
            if (!rejectRows.isEmpty()) {
                findings.addRejects(rejectRows);
                rejectRows.clear();
            }
        }
    }
}
