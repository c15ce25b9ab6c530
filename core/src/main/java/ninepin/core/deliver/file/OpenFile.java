package ninepin.core.deliver.file;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import ninepin.core.deliver.FileDelivery.OutFile;
import ninepin.core.deliver.FileDelivery.Stands;
import ninepin.core.format.Formats;
import ninepin.core.layout.FileCheck;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Layout.FieldPlace;
import ninepin.core.record.RecordWriter;

/**
 * A file that documents are added to: the bytes that are not on disk yet, and what its end will say. A document that does not
 * fit is undone whole.
 */
final class OpenFile {

    /** Bytes that can be cut back. */
    private static final class Pending extends ByteArrayOutputStream {
        void cut(int to) {
            count = to;
        }
    }

    /** What is known between two documents. */
    private record Saved(int bytes, String state, long records, String[] sums, List<List<String>> last) {}

    private final OutFile of;
    private final Layout layout;
    private final List<RecordMaker> makers;
    private final Pending pending = new Pending();
    private final WrittenFile from;
    private RecordWriter writer;
    private long records;
    private String[] sums;
    private List<List<String>> last;
    private boolean complete;
    private Saved saved;

    /** A file that is begun. */
    OpenFile(OutFile of, List<RecordMaker> makers, int number, String key, String name) throws IOException {
        this(of, makers, begun(of, makers, number, key, name));
    }

    private static WrittenFile begun(OutFile of, List<RecordMaker> makers, int number, String key, String name) {
        return new WrittenFile(
                number,
                key,
                name,
                0,
                0,
                Collections.nCopies(of.layout().fileChecks().size(), null),
                Collections.nCopies(makers.size(), null),
                "",
                false,
                null,
                null);
    }

    /** A file that is gone on with. */
    OpenFile(OutFile of, List<RecordMaker> makers, WrittenFile from) throws IOException {
        this.of = of;
        this.layout = of.layout();
        this.makers = makers;
        this.from = from;
        this.records = from.records();
        this.sums = from.sums().toArray(String[]::new);
        this.last = new ArrayList<>(from.last());
        this.writer = from.length() == 0
                ? Formats.of(layout).writer(pending, of.style())
                : Formats.of(layout).onward(pending, of.style(), from.state());
    }

    String name() {
        return from.name();
    }

    int number() {
        return from.number();
    }

    String key() {
        return from.key();
    }

    long records() {
        return records;
    }

    /** Whether nothing of it is on disk yet. */
    boolean isNew() {
        return from.length() == 0;
    }

    boolean isComplete() {
        return complete;
    }

    /** Remembers where a document begins. */
    void save() throws IOException {
        String state = writer.state();
        saved = new Saved(pending.size(), state, records, sums.clone(), new ArrayList<>(last));
    }

    /** Whether the end of the file had a row before the document that was begun. */
    boolean hadLast(int load) {
        return saved.last.get(load) != null;
    }

    /** Undoes the document that was begun. */
    void restore() throws IOException {
        pending.cut(saved.bytes);
        records = saved.records;
        sums = saved.sums;
        last = saved.last;
        writer = Formats.of(layout).onward(pending, of.style(), saved.state);
    }

    /** Adds a row: writes it, or keeps it for the end. */
    void add(int load, List<String> row) throws IOException {
        RecordMaker maker = makers.get(load);
        if (maker.stands() == Stands.LAST) {
            // Looked at now, so that the document that cannot stand at the end is the one that is refused.
            maker.requireFits(row);
            last.set(load, row);
        } else {
            write(maker, row);
            records += maker.stands() == Stands.EACH ? 1 : 0;
        }
    }

    private void write(RecordMaker maker, List<String> row) throws IOException {
        List<String> values = maker.values(row, field -> sum(maker.type(), field));
        writer.write(maker.type(), values);
        count(maker.type(), values);
    }

    /** What a field that no rule fills says of the file so far; null where the layout makes no such check. */
    private String sum(int type, int field) {
        for (int c = 0; c < sums.length; c++) {
            FileCheck check = layout.fileChecks().get(c);
            if (check instanceof FileCheck.Count count && is(count.field(), type, field)) {
                return sums[c] == null ? "0" : sums[c];
            }
            if (check instanceof FileCheck.Total total && is(total.field(), type, field)) {
                return sums[c] == null ? "0" : sums[c];
            }
            if (check instanceof FileCheck.Sequence sequence && is(sequence.field(), type, field)) {
                return sums[c] == null
                        ? "1"
                        : new BigDecimal(sums[c]).add(BigDecimal.ONE).toPlainString();
            }
            if (check instanceof FileCheck.Same same
                    && (is(same.field(), type, field) || is(same.as(), type, field))
                    && sums[c] != null) {
                return sums[c];
            }
        }
        return null;
    }

    private boolean is(String name, int type, int field) {
        return layout.place(0, name)
                .filter(p -> p.equals(new FieldPlace(type, field)))
                .isPresent();
    }

    /** Carries what a record adds to the sums. */
    private void count(int type, List<String> values) {
        for (int c = 0; c < sums.length; c++) {
            FileCheck check = layout.fileChecks().get(c);
            if (check instanceof FileCheck.Count count && layout.typeIndex(count.of()) == type) {
                sums[c] = plus(sums[c], "1");
            } else if (check instanceof FileCheck.Total total) {
                value(total.of(), type, values, c, false);
            } else if (check instanceof FileCheck.Sequence sequence) {
                value(sequence.field(), type, values, c, true);
            } else if (check instanceof FileCheck.Same same) {
                value(same.field(), type, values, c, true);
                value(same.as(), type, values, c, true);
            }
        }
    }

    private void value(String name, int type, List<String> values, int check, boolean latest) {
        FieldPlace place = layout.place(0, name).orElse(null);
        if (place != null && place.type() == type && values.get(place.field()) != null) {
            String value = values.get(place.field());
            sums[check] = latest ? value : plus(sums[check], value);
        }
    }

    private static String plus(String sum, String value) {
        return sum == null
                ? value
                : new BigDecimal(sum).add(new BigDecimal(value)).toPlainString();
    }

    /** Writes what stands at the end, and nothing more after it. */
    void complete() throws IOException {
        for (int load = 0; load < makers.size(); load++) {
            if (last.get(load) != null) {
                write(makers.get(load), last.get(load));
            }
        }
        for (int type : RecordMaker.madeByItself(layout, makers)) {
            write(RecordMaker.ofItself(layout, type), List.of());
        }
        writer.close();
        // Many may be complete before they are on disk.
        writer = null;
        complete = true;
    }

    /** The bytes that are not on disk yet; from now on they are somebody else's. */
    byte[] take() throws IOException {
        if (!complete) {
            save();
        }
        byte[] bytes = pending.toByteArray();
        pending.reset();
        return bytes;
    }

    /**
     * How far it has come.
     *
     * @param length its bytes in all
     */
    WrittenFile written(long length) throws IOException {
        return new WrittenFile(
                from.number(),
                from.key(),
                from.name(),
                length,
                records,
                Arrays.asList(sums),
                last,
                complete ? "" : writer.state(),
                complete,
                null,
                null);
    }
}
