package ninepin.core.check;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.record.Fault;
import ninepin.core.record.Locator;
import ninepin.core.record.Opening;
import ninepin.core.record.RawRecord;
import ninepin.core.value.Value;

/**
 * Types and checks the records of a file. All findings of a record are collected. Belongs to one thread and one pass
 * over a file, because it remembers what stood before: keys that may stand once, open parents, totals.
 */
public final class RecordChecker {

    private final Opening opening;
    private final TypeChecker[] types;
    private final Value[][] values;
    private final boolean[] outlives;
    private final Nesting nesting;
    private final FileChecker file;
    private final boolean several;
    private final Places places;
    private final List<Finding> findings = new ArrayList<>();

    /**
     * @param layout the layout, with all checks that apply
     * @param opening what stood at the start of the file
     * @param today the day of the run
     */
    public RecordChecker(Layout layout, Opening opening, LocalDate today) {
        this(layout, opening, today, false);
    }

    /**
     * @param weighs whether only the severity of what is found in fields is asked for; findings then have no words
     */
    RecordChecker(Layout layout, Opening opening, LocalDate today, boolean weighs) {
        this.opening = opening;
        int n = layout.recordTypes().size();
        this.places = new Places(layout.format().charset());
        this.types = new TypeChecker[n];
        this.values = new Value[n][];
        this.outlives = new boolean[n];
        for (int t = 0; t < n; t++) {
            types[t] = new TypeChecker(layout, t, opening, places, findings, weighs);
            values[t] = types[t].values;
            outlives[t] = n > 1 && (layout.parentIndex(t) < 0 || isParent(layout, t));
        }
        this.several = n > 1 || layout.firstType().max() != null;
        this.nesting = new Nesting(layout, places);
        this.file = new FileChecker(layout, today);
    }

    private static boolean isParent(Layout layout, int type) {
        return IntStream.range(0, layout.recordTypes().size()).anyMatch(t -> layout.parentIndex(t) == type);
    }

    /** The typed values of each record type's latest record, by the indexes of type and field. */
    public Value[][] values() {
        return values;
    }

    /** The findings of the record checked last. */
    public List<Finding> findings() {
        return findings;
    }

    /** Whether records have to be remembered from the start of the file, which a restart then has to read again. */
    public boolean remembers() {
        if (several || file.any()) {
            return true;
        }
        for (TypeChecker type : types) {
            if (type.remembers()) {
                return true;
            }
        }
        return false;
    }

    /** Whether the file has to be read to its end before anything of it may be delivered. */
    public boolean looksAhead() {
        return file.halts();
    }

    /**
     * Whether a record starts a document: its type belongs to no other. One whose type cannot be told stands in the
     * document that is open, since it may have been a part of it.
     */
    public boolean startsDocument(RawRecord r) {
        return !several || r.type() >= 0 && nesting.topLevel(r.type());
    }

    /**
     * Types and checks a record.
     *
     * @return the weight of its worst finding, or null when there is none
     */
    public Severity check(RawRecord r) {
        if (!findings.isEmpty()) {
            findings.clear();
        }
        Fault fault = r.fault();
        if (fault != null) {
            findings.add(places.ofFault(fault, r, types[0].nameOf(fault.column())));
            file.takeFaulty();
            return fault.halts() ? Severity.HALT : Severity.REJECT;
        }
        if (r.number() == 1) {
            opening.notes().forEach(n -> findings.add(ofStart(n)));
        }
        TypeChecker type = types[r.type()];
        if (several) {
            Finding misplaced = nesting.take(r);
            if (misplaced != null) {
                findings.add(misplaced);
            }
        }
        for (Fault breach : r.breaches()) {
            findings.add(places.ofFault(breach, r, null));
        }
        type.check(r);
        if (file.any()) {
            file.take(r, type, findings);
        }
        if (outlives[r.type()]) {
            type.own();
        }
        return findings.isEmpty() ? null : worst();
    }

    /** What the document that has just ended lacks, or null. */
    public Finding lacking() {
        return several ? nesting.lacking() : null;
    }

    /**
     * Takes over what another has gathered from a piece of the file that stands behind what this one has checked. What
     * {@link #atEnd()} says afterwards holds of both; its places count the lines of a piece.
     *
     * @return false where a record of the piece would have had other findings, had it been checked with this one
     */
    boolean join(RecordChecker behind) {
        boolean same = nesting.join(behind.nesting) & file.join(behind.file);
        for (int t = 0; t < types.length; t++) {
            same &= types[t].join(behind.types[t]);
        }
        return same;
    }

    /** What does not hold of the file as a whole, now that it has been read to its end. */
    public List<Finding> atEnd() {
        return file.atEnd();
    }

    /** A note on the start of the file, told with its first record. */
    private Finding ofStart(Fault note) {
        return new Finding(
                Severity.NOTE,
                note.code(),
                opening.locator(),
                1,
                null,
                null,
                opening.header().offset() + note.from(),
                note.to() - note.from(),
                note.found(),
                note.expected(),
                note.advice());
    }

    /** The note for a blank row that is passed over. */
    public Finding blankRow(RawRecord r) {
        return places.whole(Severity.NOTE, "ROW-03", r, "a blank row", "a record", null);
    }

    /** The note for a file without a record. */
    public Finding noRecords(RawRecord r) {
        return places.whole(
                Severity.NOTE,
                "FIL-05",
                r,
                "the end of the file",
                "at least one record",
                "Ask the sender whether that is meant.");
    }

    /** What is said of a record that is good by itself, but goes with its document. */
    public static Finding withDocument(long record, Locator at, long offset, int length, Locator because) {
        return new Finding(
                Severity.REJECT,
                "DOC-01",
                at,
                record,
                null,
                null,
                offset,
                length,
                "a record of a document that is set aside",
                null,
                "It goes with " + because.words(null, null) + ", which was refused.");
    }

    private Severity worst() {
        Severity worst = null;
        for (Finding finding : findings) {
            if (worst == null || finding.severity().compareTo(worst) > 0) {
                worst = finding.severity();
            }
        }
        return worst;
    }
}
