package ninepin.core.run;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.deliver.Batch;
import ninepin.core.layout.Severity;
import ninepin.core.read.Position;
import ninepin.core.read.RawRecord;

/**
 * Documents that are committed together: their rows, where each row came from, and what was refused. Records are added
 * to an open document, which is then ended or refused whole.
 */
final class Chunk {

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
    private int[] withoutRowsEnds = new int[1024];
    private int withoutRows;
    private int rejected;
    private long heldBytes;

    /** The open document. */
    private boolean open;

    private boolean refused;
    private long refusedLine;
    private int openEntries;
    private long openNotes;
    private long openBlank;
    private final List<byte[]> openRaw = new ArrayList<>();

    Chunk(int tables) {
        this.batch = new Batch(tables);
        this.recordOfRow = new int[tables][1024];
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
        rejected = 0;
        heldBytes = 0;
        open = false;
        openRaw.clear();
    }

    boolean documentOpen() {
        return open;
    }

    void beginDocument() {
        open = true;
        refused = false;
        openEntries = entries.size();
        openNotes = notes;
        openBlank = blank;
        openRaw.clear();
    }

    /** Adds a good record to the open document; its rows follow. */
    void addRecord(RawRecord record, boolean keepRaw, boolean makesRows) {
        records.add(record);
        if (keepRaw) {
            openRaw.add(raw(record));
        }
        if (!makesRows) {
            withoutRows++;
        }
    }

    /** Remembers that the row that was just written to a table comes from the record that was added last. */
    void addRow(int table) {
        int row = batch.rows(table).rows() - 1;
        if (row == recordOfRow[table].length) {
            recordOfRow[table] = Arrays.copyOf(recordOfRow[table], row * 2);
        }
        recordOfRow[table][row] = records.count() - 1;
    }

    /** Adds a refused record to the open document, which goes with it. */
    void addReject(RawRecord record, List<Finding> findings) {
        byte[] raw = raw(record);
        heldBytes += raw.length + 200L;
        notes += findings.stream().filter(f -> f.severity() == Severity.NOTE).count();
        entries.add(entry(true, record, raw, findings));
        rejected++;
        if (!refused) {
            refused = true;
            refusedLine = record.line();
        }
    }

    void addNotes(RawRecord record, List<Finding> findings) {
        heldBytes += 200L * findings.size();
        notes += findings.size();
        entries.add(entry(false, record, null, findings));
    }

    /**
     * Ends the open document.
     *
     * @param lacking what it lacks, or null
     * @return how many of its records were refused
     */
    int endDocument(Finding lacking) {
        open = false;
        int first = firstOpenRecord();
        if (lacking != null && !refused) {
            refused = true;
            refusedLine = lacking.line();
        }
        if (!refused) {
            if (records.count() > first) {
                endWhole();
            }
            return 0;
        }
        batch.dropOpenDocument();
        for (int r = first; r < records.count(); r++) {
            byte[] raw = openRaw.get(r - first);
            heldBytes += raw.length + 200L;
            Finding because = lacking != null && lacking.record() == records.number(r)
                    ? lacking
                    : RecordChecker.withDocument(
                            records.number(r), records.line(r), records.offset(r), records.length(r), refusedLine);
            entries.add(new JournalEntry(
                    true,
                    records.number(r),
                    records.line(r),
                    records.offset(r),
                    records.length(r),
                    raw,
                    List.of(because)));
            rejected++;
        }
        records.truncate(first);
        withoutRows = batch.documents() == 0 ? 0 : withoutRowsEnds[batch.documents() - 1];
        entries.subList(openEntries, entries.size()).sort(Comparator.comparingLong(JournalEntry::offset));
        return (int) entries.subList(openEntries, entries.size()).stream()
                .filter(JournalEntry::rejected)
                .count();
    }

    private void endWhole() {
        int document = batch.documents();
        if (document == recordEnds.length) {
            recordEnds = Arrays.copyOf(recordEnds, document * 2);
            withoutRowsEnds = Arrays.copyOf(withoutRowsEnds, document * 2);
        }
        recordEnds[document] = records.count();
        withoutRowsEnds[document] = withoutRows;
        batch.endDocument();
    }

    /** Forgets the open document, which is read again by a restart. */
    void dropDocument() {
        open = false;
        batch.dropOpenDocument();
        List<JournalEntry> own = entries.subList(openEntries, entries.size());
        rejected -= (int) own.stream().filter(JournalEntry::rejected).count();
        own.clear();
        notes = openNotes;
        blank = openBlank;
        records.truncate(firstOpenRecord());
        withoutRows = batch.documents() == 0 ? 0 : withoutRowsEnds[batch.documents() - 1];
    }

    private int firstOpenRecord() {
        return batch.documents() == 0 ? 0 : recordEnds[batch.documents() - 1];
    }

    private static byte[] raw(RawRecord record) {
        return record.fileBytes();
    }

    private static JournalEntry entry(boolean reject, RawRecord r, byte[] raw, List<Finding> findings) {
        return new JournalEntry(reject, r.number(), r.line(), r.offset(), r.fullLength(), raw, findings);
    }

    int rejected() {
        return rejected;
    }

    int withoutRows() {
        return withoutRows;
    }

    /** The good records of a document that make no rows. */
    int withoutRows(int document) {
        return withoutRowsEnds[document] - (document == 0 ? 0 : withoutRowsEnds[document - 1]);
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

    boolean full(int mostRows) {
        return batch.allRows() + rejected + withoutRows >= mostRows || heldBytes + batch.length() > HELD_BYTES;
    }
}
