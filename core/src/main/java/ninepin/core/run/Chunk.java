package ninepin.core.run;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;
import ninepin.core.check.Finding;
import ninepin.core.deliver.Batch;
import ninepin.core.document.DocumentPlan;
import ninepin.core.document.DocumentShaper;
import ninepin.core.document.OpenDocument;
import ninepin.core.document.RowSink;
import ninepin.core.layout.Severity;
import ninepin.core.record.Position;
import ninepin.core.record.RawRecord;
import ninepin.core.shape.RowBuffer;

/** Documents that are committed together: their rows, where each row came from, and what was refused or set aside. */
final class Chunk implements RowSink {

    private static final int HELD_BYTES = 8 << 20;

    long sequence;
    Position start;
    Position end;
    Ending ending;
    long blank;
    long notes;

    final Batch batch;
    final List<JournalEntry> entries = new ArrayList<>();
    final Records records = new Records();
    /** For each table and row the record it was made of; for each document the record after its last one. */
    private int[][] recordOfRow;

    private int[] recordEnds = new int[1024];
    /** For each document how many records, so far, make no rows, only rows of other places, or are set aside. */
    private int[] withoutRowsEnds = new int[1024];

    private int[] elsewhereEnds = new int[1024];

    private int[] asideEnds = new int[1024];
    private long[] laneBits = new long[1024];
    private int withoutRows;
    private int rowsElsewhere;
    private int aside;
    private int rejected;
    private long heldBytes;
    /** The records set aside for each reason, in all and in single documents that have rows. */
    private final Map<String, Long> reasons = new HashMap<>();

    private final Map<Integer, Map<String, Long>> reasonsOf = new HashMap<>();

    /** For each delivery its table in the batch; negative for those that are delivered elsewhere. */
    private final int[] tableOf;
    /** Holds the rows of those for as long as they are looked at. */
    private final RowBuffer elsewhere = new RowBuffer();

    Chunk(DocumentPlan plan) {
        List<Integer> here = plan.here();
        this.tableOf =
                IntStream.range(0, plan.deliveries().size()).map(here::indexOf).toArray();
        this.batch = new Batch(here.size());
        this.recordOfRow = new int[here.size()][1024];
    }

    void reset(long newSequence, Position newStart) {
        sequence = newSequence;
        start = newStart;
        end = newStart;
        ending = null;
        blank = 0;
        notes = 0;
        batch.clear();
        entries.clear();
        records.truncate(0);
        withoutRows = 0;
        rowsElsewhere = 0;
        aside = 0;
        rejected = 0;
        heldBytes = 0;
        reasons.clear();
        reasonsOf.clear();
    }

    @Override
    public RowBuffer rows(int delivery) {
        return tableOf[delivery] < 0 ? elsewhere : batch.rows(tableOf[delivery]);
    }

    @Override
    public void made(int delivery, int record) {
        int table = tableOf[delivery];
        if (table < 0) {
            elsewhere.clear();
            return;
        }
        int row = batch.rows(table).rows() - 1;
        if (row == recordOfRow[table].length) {
            recordOfRow[table] = Arrays.copyOf(recordOfRow[table], row * 2);
        }
        recordOfRow[table][row] = records.count() + record;
        batch.made(table);
    }

    /**
     * Adds a document whose rows were just written.
     *
     * @param current the reader's record, for the bytes of a document that keeps none
     * @return how many of its records were refused
     */
    int add(OpenDocument document, DocumentShaper by, RawRecord current) {
        blank += document.blank();
        if (!document.blankNotes().isEmpty()) {
            addNotes(current, document.blankNotes());
        }
        if (by.refused()) {
            batch.dropOpenDocument();
            refuse(document, by, current);
            return document.size();
        }
        Map<String, Long> own = Map.of();
        for (int r = 0; r < document.size(); r++) {
            OpenDocument.Entry entry = document.get(r);
            byte[] raw = current.transcribed() ? raw(entry, current) : null;
            records.add(entry, raw);
            heldBytes += raw == null ? 0 : raw.length;
            if (entry.aside() != null) {
                aside++;
                own = own.isEmpty() ? new HashMap<>() : own;
                own.merge(entry.aside(), 1L, Long::sum);
            } else if (!entry.makesRows()) {
                if (entry.makesRowsElsewhere()) {
                    rowsElsewhere++;
                } else {
                    withoutRows++;
                }
            }
            if (!entry.findings().isEmpty()) {
                addNotes(entry);
            }
        }
        own.forEach((reason, count) -> reasons.merge(reason, count, Long::sum));
        end(by.laneBits(), own);
        return 0;
    }

    private void end(long lanes, Map<String, Long> own) {
        int document = batch.documents();
        if (document == recordEnds.length) {
            recordEnds = Arrays.copyOf(recordEnds, document * 2);
            withoutRowsEnds = Arrays.copyOf(withoutRowsEnds, document * 2);
            elsewhereEnds = Arrays.copyOf(elsewhereEnds, document * 2);
            asideEnds = Arrays.copyOf(asideEnds, document * 2);
            laneBits = Arrays.copyOf(laneBits, document * 2);
        }
        recordEnds[document] = records.count();
        withoutRowsEnds[document] = withoutRows;
        elsewhereEnds[document] = rowsElsewhere;
        asideEnds[document] = aside;
        laneBits[document] = lanes;
        batch.endDocument(records.number(firstRecord(document)));
        if (!own.isEmpty() && hasRows(document)) {
            reasonsOf.put(document, own);
        }
    }

    private boolean hasRows(int document) {
        for (int t = 0; t < batch.tables(); t++) {
            if (batch.end(t, document) > batch.start(t, document)) {
                return true;
            }
        }
        return false;
    }

    private void refuse(OpenDocument document, DocumentShaper by, RawRecord current) {
        for (int r = 0; r < document.size(); r++) {
            OpenDocument.Entry entry = document.get(r);
            List<Finding> findings = by.findings(entry);
            byte[] raw = raw(entry, current);
            heldBytes += raw.length + 200L;
            notes +=
                    findings.stream().filter(f -> f.severity() == Severity.NOTE).count();
            entries.add(new JournalEntry(
                    true,
                    entry.number(),
                    entry.line(),
                    entry.offset(),
                    entry.fullLength(),
                    raw,
                    findings,
                    document.get(0).number(),
                    false,
                    null));
            rejected++;
        }
    }

    private static byte[] raw(OpenDocument.Entry entry, RawRecord current) {
        return entry.raw() != null ? entry.raw() : current.fileBytes();
    }

    private void addNotes(OpenDocument.Entry entry) {
        heldBytes += 200L * entry.findings().size();
        notes += entry.findings().size();
        entries.add(
                new JournalEntry(entry.number(), entry.line(), entry.offset(), entry.fullLength(), entry.findings()));
    }

    /** Adds notes about a record that is in no document, such as a blank row. */
    void addNotes(RawRecord record, List<Finding> findings) {
        heldBytes += 200L * findings.size();
        notes += findings.size();
        entries.add(new JournalEntry(record.number(), record.line(), record.offset(), record.fullLength(), findings));
    }

    int rejected() {
        return rejected;
    }

    /** What became of the chunk's good records, those of some documents left out. */
    Kept kept(List<Integer> without) {
        long lost = 0;
        long lostWithoutRows = 0;
        long lostElsewhere = 0;
        long lostAside = 0;
        Map<String, Long> reasonsLeft = new HashMap<>(reasons);
        for (int document : without) {
            lost += of(recordEnds, document);
            lostWithoutRows += of(withoutRowsEnds, document);
            lostElsewhere += of(elsewhereEnds, document);
            lostAside += of(asideEnds, document);
            reasonsOf
                    .getOrDefault(document, Map.of())
                    .forEach((reason, count) -> reasonsLeft.merge(reason, -count, Long::sum));
        }
        reasonsLeft.values().removeIf(count -> count == 0);
        return new Kept(
                records.count() - lost,
                withoutRows - lostWithoutRows,
                rowsElsewhere - lostElsewhere,
                aside - lostAside,
                lost,
                reasonsLeft);
    }

    /** The part of a document in what was counted up to the end of each. */
    private static int of(int[] ends, int document) {
        return ends[document] - (document == 0 ? 0 : ends[document - 1]);
    }

    /** For each table of the batch the records that rows of it were made of, some documents left out. */
    long[] recordsOfTables(Set<Integer> without) {
        long[] counts = new long[batch.tables()];
        for (int table = 0; table < counts.length; table++) {
            for (int document = 0; document < batch.documents(); document++) {
                counts[table] += without.contains(document) ? 0 : recordsOf(table, document);
            }
        }
        return counts;
    }

    private long recordsOf(int table, int document) {
        long count = 0;
        int before = -1;
        for (int row = batch.start(table, document); row < batch.end(table, document); row++) {
            if (recordOfRow[table][row] != before) {
                before = recordOfRow[table][row];
                count++;
            }
        }
        return count;
    }

    /**
     * What became of good records.
     *
     * @param records how many there are
     * @param withoutRows how many of them make no rows
     * @param elsewhere how many of them make rows of other places only
     * @param setAside how many of them are set aside
     * @param lost how many stood in documents that were left out
     * @param reasons the records set aside for each reason
     */
    record Kept(long records, long withoutRows, long elsewhere, long setAside, long lost, Map<String, Long> reasons) {

        /** How many make rows of the place that is delivered to. */
        long delivered() {
            return records - withoutRows - elsewhere - setAside;
        }
    }

    /** The lanes that a document takes, a bit for each. */
    long laneBits(int document) {
        return laneBits[document];
    }

    /** The first record of a document. */
    int firstRecord(int document) {
        return document == 0 ? 0 : recordEnds[document - 1];
    }

    /** The record after a document's last one. */
    int endRecord(int document) {
        return recordEnds[document];
    }

    /** The record that a row of a table was made of. */
    int recordOfRow(int table, int row) {
        return recordOfRow[table][row];
    }

    /** The records between start and end, as the reader counted them. */
    long read() {
        return end.records() - start.records();
    }

    /** Whether nothing was found in it: no record, no blank row, nothing to note. */
    boolean isEmpty() {
        return read() == 0 && blank == 0 && entries.isEmpty();
    }

    boolean full(int mostRows) {
        return batch.allRows() + rejected + withoutRows + rowsElsewhere + aside >= mostRows
                || heldBytes + batch.length() > HELD_BYTES;
    }
}
