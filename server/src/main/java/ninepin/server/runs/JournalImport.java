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

    JournalImport(FindingMapper findings, RunMapper runs) {
        this.findings = findings;
        this.runs = runs;
    }

    /**
     * Copies entries.
     *
     * @param run the run
     * @param journal its journal
     * @param to the bytes of the journal that are committed
     */
    @Transactional
    public void upTo(long run, Path journal, long to) {
        long from = runs.find(run).orElseThrow().journalImported();
        if (from >= to || runs.imported(run, from, to) == 0) {
            return;
        }
        Batch batch = new Batch(run, findings.lastSeq(run));
        try {
            Journal.read(journal, from, to, batch::add);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        batch.flush();
    }

    /** Forgets what was copied of a run that begins anew. */
    @Transactional
    public void forget(long run) {
        long from = runs.find(run).orElseThrow().journalImported();
        if (from > 0 && runs.imported(run, from, 0) > 0) {
            findings.removeFindings(run);
            findings.removeRejects(run);
        }
    }

    private final class Batch {
        private final long run;
        private int seq;
        private final List<FindingRow> findingRows = new ArrayList<>();
        private final List<RejectRow> rejectRows = new ArrayList<>();

        Batch(long run, int seq) {
            this.run = run;
            this.seq = seq;
        }

        void add(JournalEntry entry) {
            for (Finding f : entry.findings()) {
                findingRows.add(row(f));
            }
            if (entry.rejected()) {
                byte[] raw = entry.raw().length > KEPT ? Arrays.copyOf(entry.raw(), KEPT) : entry.raw();
                rejectRows.add(new RejectRow(run, entry.record(), entry.line(), entry.offset(), entry.length(), raw));
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
                    ++seq,
                    f.severity().toString(),
                    f.code(),
                    cut(f.reason(), 400),
                    f.record(),
                    f.line(),
                    f.field() != null ? f.field() : f.target(),
                    f.columnFrom(),
                    f.columnTo(),
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
