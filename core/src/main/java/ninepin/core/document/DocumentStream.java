package ninepin.core.document;

import java.io.Closeable;
import java.io.IOException;
import java.util.List;
import java.util.stream.IntStream;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.formula.RecordContext;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.record.Position;
import ninepin.core.record.RawRecord;
import ninepin.core.record.RecordReader;
import ninepin.core.value.Value;

/** Reads and checks the records of a file, and hands them out as whole documents. Belongs to one thread and one pass. */
public final class DocumentStream implements Closeable {

    /** What came next. */
    public enum Step {
        /** A document, as a whole. */
        DOCUMENT,
        /** A blank row that stands before any document. */
        BLANK,
        /** A record that halts the file; the document it stands in is dropped. */
        HALT,
        END
    }

    /** Told of each record as it is read, while its bytes and values are at hand. */
    @FunctionalInterface
    public interface Watcher {
        void read(RawRecord record, OpenDocument.Entry entry);
    }

    private final RecordReader reader;
    private final RecordChecker checker;
    private final Watcher watcher;
    private final Gatherer gatherer;
    /** For each record type how many others it belongs to. */
    private final int[] depths;

    private final boolean several;
    private final boolean noteBlankRows;
    /** Whether the records of a document may come from anywhere in the file. */
    private final boolean anywhere;

    private final OpenDocument document = new OpenDocument();
    private final RecordContext recordContext;
    /** Whether the reader's record was read already and begins the next document. */
    private boolean pending;
    /** What its check said, where it is checked already. */
    private boolean checked;

    private Severity worst;
    /** Where the next document starts; null where the reader stands there. */
    private Position after;

    /**
     * @param reader stands at the start of a document; closed with this
     */
    public DocumentStream(RecordReader reader, RecordChecker checker, DocumentPlan plan) {
        this(reader, checker, plan, null);
    }

    /**
     * @param reader stands at the start of a document
     * @param watcher told of each record, or null
     */
    public DocumentStream(RecordReader reader, RecordChecker checker, DocumentPlan plan, Watcher watcher) {
        this.reader = reader;
        this.checker = checker;
        this.watcher = watcher;
        Layout shaped = plan.shaped();
        this.depths = IntStream.range(0, shaped.recordTypes().size())
                .map(shaped::depth)
                .toArray();
        this.several = plan.several();
        this.anywhere = plan.gathering() != null && plan.gathering().anywhere();
        this.gatherer = plan.gathering() == null ? null : new Gatherer(plan.gathering(), plan.file());
        this.noteBlankRows = plan.file().format().blankRows() == BlankRows.NOTE;
        this.recordContext = several
                ? new RecordContext(gatherer == null ? checker.values() : new Value[2][], document.values())
                : new RecordContext(checker.values());
    }

    /** Closes its reader, not the file. */
    @Override
    public void close() throws IOException {
        reader.close();
    }

    /** The document that came last; it holds until the next step. */
    public OpenDocument document() {
        return document;
    }

    /** The records of the document, for formulas. */
    public RecordContext recordContext() {
        return recordContext;
    }

    /**
     * Stands at a record of the document.
     *
     * @param type the index of its type in the layout of the documents
     * @param number the least number it has; of a head that of any of its lines
     * @return the record, or null where there is none
     */
    public OpenDocument.Entry standAt(int type, long number) {
        if (!several) {
            OpenDocument.Entry only = document.get(0);
            return only.type() == type && only.number() >= number ? only : null;
        }
        for (int i = 0; i < document.values().size(); i++) {
            recordContext.standAt(i);
            if (document.values().type(i) == type) {
                for (int below = i; below < document.values().endOf(i); below++) {
                    long here = document.entryOfValues(below).number();
                    if (here == number || here > number && !anywhere) {
                        return document.entryOfValues(i);
                    }
                }
            }
        }
        return null;
    }

    /** Whether documents have several records. */
    public boolean several() {
        return several;
    }

    /** The reader's record: a blank row, or the one that halts. */
    public RawRecord record() {
        return reader.record();
    }

    /** Where the document after this one starts, or the file ends. */
    public Position after() {
        return after == null ? reader.position() : after;
    }

    /** Reads the next document. */
    public Step next() throws IOException {
        Position begin = several ? after() : null;
        document.clear();
        recordContext.moved();
        if (gatherer != null) {
            gatherer.close();
        }
        while (true) {
            if (!pending) {
                RecordReader.Item item = reader.next();
                if (item == RecordReader.Item.END) {
                    after = null;
                    return document.size() == 0 ? Step.END : ended();
                }
                if (item == RecordReader.Item.BLANK) {
                    if (document.size() == 0) {
                        after = null;
                        return Step.BLANK;
                    }
                    document.addBlank(noteBlankRows ? checker.blankRow(reader.record()) : null);
                    continue;
                }
            }
            Step step = record(reader.record());
            if (step == Step.HALT) {
                after = several ? begin : reader.itemStart();
            }
            if (step != null) {
                return step;
            }
        }
    }

    private Step record(RawRecord record) {
        if (!checked) {
            if (document.size() > 0 && gatherer == null && checker.startsDocument(record)) {
                return endBefore();
            }
            worst = checker.check(record);
            if (worst == Severity.HALT) {
                return Step.HALT;
            }
        }
        boolean readable = record.fault() == null;
        if (!checked && gatherer != null && readable && gatherer.startsDocument(checker.values()[0])) {
            checked = true;
            return endBefore();
        }
        pending = false;
        checked = false;
        add(record, readable);
        if (!several) {
            after = null;
            return Step.DOCUMENT;
        }
        return null;
    }

    private void add(RawRecord record, boolean readable) {
        int type = !readable ? -1 : gatherer == null ? record.type() : 1;
        List<Finding> findings = worst == null ? List.of() : checker.findings();
        OpenDocument.Entry entry = document.add(record, type, findings, worst == Severity.REJECT, several);
        if (several && readable) {
            Value[] values = checker.values()[record.type()];
            if (gatherer != null) {
                entry.add(gatherer.add(record, values, document));
            } else {
                document.addValues(type, depths[type], values);
            }
        }
        if (watcher != null) {
            watcher.read(record, entry);
        }
    }

    private Step endBefore() {
        pending = true;
        after = reader.itemStart();
        return ended();
    }

    private Step ended() {
        document.setLacking(checker.lacking());
        return Step.DOCUMENT;
    }

    /** What does not hold of the file as a whole, now that it has been read to its end. */
    public List<Finding> atEnd() {
        return checker.atEnd();
    }

    /** What is said of the record that halts, or of blank rows: by the checker. */
    public RecordChecker checker() {
        return checker;
    }
}
