package ninepin.core.run;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import ninepin.core.check.Finding;
import ninepin.core.layout.Severity;
import ninepin.core.read.Position;
import ninepin.core.read.RawRecord;
import ninepin.core.shape.RowBuffer;

/** A run of records that is committed together: their rows, where each row came from, and what was refused. */
final class Chunk {

    private static final int HELD_BYTES = 8 << 20;

    long sequence;
    Position start;
    Position end;
    Ending ending;
    long blank;
    long notes;

    final RowBuffer rows = new RowBuffer();
    final List<JournalEntry> entries = new ArrayList<>();
    private long[] offsets = new long[1024];
    private long[] lines = new long[1024];
    private long[] numbers = new long[1024];
    private int[] lengths = new int[1024];
    private int rejected;
    private long heldBytes;

    void reset(long newSequence, Position newStart) {
        sequence = newSequence;
        start = newStart;
        end = newStart;
        ending = null;
        blank = 0;
        notes = 0;
        rows.clear();
        entries.clear();
        rejected = 0;
        heldBytes = 0;
    }

    /** Remembers where the row comes from that was just written to {@link #rows}. */
    void addRow(RawRecord record) {
        int row = rows.rows() - 1;
        if (row == offsets.length) {
            int larger = row * 2;
            offsets = Arrays.copyOf(offsets, larger);
            lines = Arrays.copyOf(lines, larger);
            numbers = Arrays.copyOf(numbers, larger);
            lengths = Arrays.copyOf(lengths, larger);
        }
        offsets[row] = record.offset();
        lines[row] = record.line();
        numbers[row] = record.number();
        lengths[row] = record.length();
    }

    void addReject(RawRecord record, List<Finding> findings) {
        byte[] raw = Arrays.copyOfRange(record.buffer(), record.start(), record.start() + record.length());
        heldBytes += raw.length + 200L;
        notes += notesAmong(findings);
        entries.add(entry(true, record, raw, findings));
        rejected++;
    }

    void addNotes(RawRecord record, List<Finding> findings) {
        heldBytes += 200L * findings.size();
        notes += findings.size();
        entries.add(entry(false, record, null, findings));
    }

    private static long notesAmong(List<Finding> findings) {
        return findings.stream().filter(f -> f.severity() == Severity.NOTE).count();
    }

    private static JournalEntry entry(boolean reject, RawRecord r, byte[] raw, List<Finding> findings) {
        return new JournalEntry(reject, r.number(), r.line(), r.offset(), r.fullLength(), raw, findings);
    }

    int rejected() {
        return rejected;
    }

    /** The records between start and end, as the reader counted them. */
    long read() {
        return end.records() - start.records();
    }

    boolean full(int mostRows) {
        return rows.rows() + rejected >= mostRows || heldBytes + rows.length() > HELD_BYTES;
    }

    long offset(int row) {
        return offsets[row];
    }

    long line(int row) {
        return lines[row];
    }

    long number(int row) {
        return numbers[row];
    }

    int length(int row) {
        return lengths[row];
    }
}
