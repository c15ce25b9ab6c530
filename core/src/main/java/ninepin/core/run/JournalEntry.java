package ninepin.core.run;

import java.util.List;
import ninepin.core.check.Finding;

/**
 * What the journal of a run keeps of one record.
 *
 * @param rejected whether the record was set aside as wrong; otherwise its findings are notes
 * @param record its number, 0 for a blank row
 * @param line the line it starts on
 * @param offset the byte of the file where it starts
 * @param length its bytes in the file
 * @param raw its bytes, for a reject; the first of them where it was too long to keep; null for notes
 * @param findings what there is to say about it
 * @param document what tells its document from others: the number of its first record; 0 for notes
 * @param byTarget whether the target refused it, or a record of its document, and not a check
 * @param fate what it would have come to, where the target refused its document; else null
 */
public record JournalEntry(
        boolean rejected,
        long record,
        long line,
        long offset,
        long length,
        byte[] raw,
        List<Finding> findings,
        long document,
        boolean byTarget,
        Fate fate) {

    /** Of notes. */
    JournalEntry(long record, long line, long offset, long length, List<Finding> findings) {
        this(false, record, line, offset, length, null, findings, 0, false, null);
    }

    public JournalEntry {
        findings = List.copyOf(findings);
    }
}
