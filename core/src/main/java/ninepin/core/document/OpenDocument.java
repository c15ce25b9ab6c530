package ninepin.core.document;

import java.util.ArrayList;
import java.util.List;
import ninepin.core.check.Finding;
import ninepin.core.formula.DocumentValues;
import ninepin.core.layout.Severity;
import ninepin.core.record.Locator;
import ninepin.core.record.Placed;
import ninepin.core.record.RawRecord;
import ninepin.core.value.Value;

/** The records of one document, with what is known of each. Used again for the next one. */
public final class OpenDocument {

    /** A record. */
    public static final class Entry implements Placed {
        private long number;
        private long line;
        private long offset;
        private long fullLength;
        private int length;
        private int type;
        private byte[] raw;
        private List<Finding> findings = List.of();
        private boolean refused;
        private String aside;
        private boolean makesRows;
        private boolean makesRowsElsewhere;
        private Locator ownLocator;

        private void take(RawRecord record, int newType, List<Finding> newFindings, boolean isRefused) {
            number = record.number();
            line = record.line();
            ownLocator = record.ownLocator();
            offset = record.offset();
            fullLength = record.fullLength();
            length = record.length();
            type = newType;
            raw = null;
            findings = newFindings.isEmpty() ? List.of() : new ArrayList<>(newFindings);
            refused = isRefused;
            aside = null;
            makesRows = false;
            makesRowsElsewhere = false;
        }

        @Override
        public long number() {
            return number;
        }

        @Override
        public long line() {
            return line;
        }

        @Override
        public long offset() {
            return offset;
        }

        @Override
        public long fullLength() {
            return fullLength;
        }

        @Override
        public Locator ownLocator() {
            return ownLocator;
        }

        /** The bytes it takes without its end. */
        public int length() {
            return length;
        }

        /** The index of its record type in the layout of the documents, or -1 where it cannot be told. */
        public int type() {
            return type;
        }

        /** Its bytes, where they are kept; else null. */
        public byte[] raw() {
            return raw;
        }

        /** What there is to say of it. */
        public List<Finding> findings() {
            return findings;
        }

        /** Whether it has a finding of its own for which it is refused. */
        public boolean refused() {
            return refused;
        }

        /** Why it is set aside, or null. */
        public String aside() {
            return aside;
        }

        /** Whether rows were made of it for the place that is delivered to. */
        public boolean makesRows() {
            return makesRows;
        }

        /** Whether rows were made of it for other places of the job. */
        public boolean makesRowsElsewhere() {
            return makesRowsElsewhere;
        }

        /** Adds what there is to say; it is refused where one of them is worse than a note. */
        void add(List<Finding> more) {
            if (more.isEmpty()) {
                return;
            }
            List<Finding> all = new ArrayList<>(findings);
            all.addAll(more);
            findings = all;
            refused |= more.stream().anyMatch(f -> f.severity() != Severity.NOTE);
        }

        void setAside(String why) {
            aside = why;
        }

        void makesRows(boolean elsewhere) {
            makesRows |= !elsewhere;
            makesRowsElsewhere |= elsewhere;
        }
    }

    private final List<Entry> pool = new ArrayList<>();
    private final DocumentValues values = new DocumentValues();
    /** For each record of the values its entry. */
    private int[] entryOf = new int[16];

    private int size;
    private long blank;
    private final List<Finding> blankNotes = new ArrayList<>();
    private Finding lacking;
    private boolean aside;

    void clear() {
        size = 0;
        values.clear();
        blank = 0;
        blankNotes.clear();
        lacking = null;
        aside = false;
    }

    /** The number of its records. */
    public int size() {
        return size;
    }

    /** A record, in the order of the file. */
    public Entry get(int record) {
        return pool.get(record);
    }

    /** The blank rows between and behind its records. */
    public long blank() {
        return blank;
    }

    /** What is noted of the blank rows. */
    public List<Finding> blankNotes() {
        return blankNotes;
    }

    /** What the document lacks, or null. */
    public Finding lacking() {
        return lacking;
    }

    /** Whether it is set aside as a whole. */
    public boolean aside() {
        return aside;
    }

    /** Sets all its records aside. */
    void setAside(String why) {
        aside = true;
        for (int r = 0; r < size; r++) {
            pool.get(r).setAside(why);
        }
    }

    DocumentValues values() {
        return values;
    }

    Entry entryOfValues(int index) {
        return pool.get(entryOf[index]);
    }

    /**
     * Adds a record.
     *
     * @param type the index of its type in the layout of the documents
     * @param keepRaw whether its bytes are needed later, when the reader has gone on
     */
    Entry add(RawRecord record, int type, List<Finding> findings, boolean refused, boolean keepRaw) {
        if (size == pool.size()) {
            pool.add(new Entry());
        }
        Entry entry = pool.get(size++);
        entry.take(record, type, findings, refused);
        if (keepRaw) {
            entry.raw = record.fileBytes();
        }
        return entry;
    }

    /** Adds typed values of the record that was added last. */
    void addValues(int type, int depth, Value... of) {
        if (values.size() == entryOf.length) {
            entryOf = java.util.Arrays.copyOf(entryOf, values.size() * 2);
        }
        entryOf[values.size()] = size - 1;
        values.add(type, depth, of);
    }

    void addBlank(Finding note) {
        blank++;
        if (note != null) {
            blankNotes.add(note);
        }
    }

    void setLacking(Finding finding) {
        lacking = finding;
    }
}
