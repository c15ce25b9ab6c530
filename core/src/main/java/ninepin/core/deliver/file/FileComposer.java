package ninepin.core.deliver.file;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.FileDelivery.OutFile;
import ninepin.core.deliver.FileDelivery.Per;
import ninepin.core.deliver.FileDelivery.Stands;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Refusal;
import ninepin.core.deliver.RowCounts;
import ninepin.core.value.UnwritableException;

/** Decides which document stands in which file, and makes the bytes of each. */
final class FileComposer {

    /** A row of a document. */
    private record Row(int load, int row, List<String> values) {}

    private static final RowCounts ADDED = RowCounts.added(1);
    private static final RowCounts CHANGED = new RowCounts(0, 1, 0, 0);
    private static final RowCounts UNCHANGED = new RowCounts(0, 0, 1, 0);

    private final OutFile of;
    private final List<RecordMaker> makers;
    private final FileName names;
    private final FileName.Facts facts;
    /** The files that documents may still be added to, by their key. */
    private final Map<String, WrittenFile> open = new LinkedHashMap<>();
    /** Those that have bytes which are not on disk yet, by their number. */
    private final Map<Integer, OpenFile> touched = new LinkedHashMap<>();

    private final Set<String> taken = new HashSet<>();
    private int numbers;

    FileComposer(List<FileLoad> loads, FileName.Facts facts) {
        this.of = loads.get(0).delivery().file();
        this.makers = loads.stream().map(RecordMaker::of).toList();
        this.names = FileName.parse(of.name());
        this.facts = facts;
    }

    /** Takes up where the run stopped. */
    void resume(Collection<WrittenFile> files) {
        open.clear();
        touched.clear();
        taken.clear();
        numbers = 0;
        for (WrittenFile file : files) {
            numbers = Math.max(numbers, file.number());
            taken.add(file.name());
            if (!file.complete()) {
                open.put(file.key(), file);
            }
        }
    }

    /**
     * Adds documents. A row that gives a file its beginning or its end is added; further ones leave the beginning
     * unchanged, and change the end.
     */
    Loaded add(Batch batch) throws IOException {
        RowCounts[] counts = Loaded.counts(makers.size());
        List<Refusal> refused = new ArrayList<>();
        for (int d = 0; d < batch.documents(); d++) {
            List<Row> rows = rows(batch, d);
            if (!rows.isEmpty()) {
                Refusal refusal = add(d, rows, counts);
                if (refusal != null) {
                    refused.add(refusal);
                }
            }
        }
        return Loaded.of(counts, refused);
    }

    private void count(List<Row> rows, boolean begun, OpenFile file, RowCounts[] counts) {
        boolean[] before = new boolean[makers.size()];
        for (Row row : rows) {
            Stands stands = makers.get(row.load).stands();
            boolean first = !before[row.load];
            before[row.load] = true;
            if (stands == Stands.EACH || first && (stands == Stands.FIRST ? begun : !file.hadLast(row.load))) {
                counts[row.load] = counts[row.load].plus(ADDED);
            } else {
                counts[row.load] = counts[row.load].plus(stands == Stands.FIRST ? UNCHANGED : CHANGED);
            }
        }
    }

    /** The rows of a document in the order in which they were made. */
    private static List<Row> rows(Batch batch, int document) {
        List<Row> rows = new ArrayList<>();
        int[] next = new int[batch.tables()];
        for (int t = 0; t < next.length; t++) {
            next[t] = batch.start(t, document);
        }
        for (int i = batch.madeStart(document); i < batch.madeEnd(document); i++) {
            int t = batch.tableOfMade(i);
            rows.add(new Row(t, next[t], batch.rows(t).row(next[t])));
            next[t]++;
        }
        return rows;
    }

    private Refusal add(int document, List<Row> rows, RowCounts[] counts) throws IOException {
        String key = of.per() == Per.GROUP ? value(rows, of.by()) : "";
        key = key == null ? "" : key;
        OpenFile file = of.per() == Per.DOCUMENT ? null : touched(key);
        boolean begun = file == null;
        Row at = rows.get(0);
        try {
            if (begun) {
                file = begin(key, rows);
            }
            file.save();
            for (Row row : rows) {
                at = row;
                boolean head = makers.get(row.load).stands() == Stands.FIRST;
                if (!head) {
                    file.add(row.load, row.values);
                }
            }
            count(rows, begun, file, counts);
            if (begun) {
                taken.add(file.name());
                numbers = file.number();
                touched.put(file.number(), file);
            }
        } catch (RecordMaker.Unfit | UnwritableException e) {
            if (!begun && file != null) {
                file.restore();
            }
            boolean written = e instanceof UnwritableException;
            String field = written ? ((UnwritableException) e).field() : ((RecordMaker.Unfit) e).field();
            String why = written ? ((UnwritableException) e).reason() : e.getMessage();
            return new Refusal(
                    document,
                    at.load,
                    at.row,
                    field,
                    "FIL-10",
                    "The layout " + of.layout().name() + " cannot hold it: " + why);
        }
        if (of.per() == Per.DOCUMENT || of.per() == Per.RECORDS && file.records() >= of.records()) {
            complete(file);
        } else if (begun) {
            open.put(key, file.written(0));
        }
        return null;
    }

    /** The file that the documents of a key go to; null where one has to be begun. */
    private OpenFile touched(String key) throws IOException {
        WrittenFile there = open.get(key);
        if (there == null) {
            return null;
        }
        OpenFile file = touched.get(there.number());
        if (file == null) {
            file = new OpenFile(of, makers, there);
            touched.put(there.number(), file);
        }
        return file;
    }

    private OpenFile begin(String key, List<Row> rows) throws IOException {
        String name = names.fill(facts, numbers + 1, field -> value(rows, field))
                .orElseThrow(() -> new RecordMaker.Unfit(null, "the name of its file would be too long"));
        if (taken.contains(name)) {
            throw new RecordMaker.Unfit(
                    null,
                    "its file would be called " + name + ", as another one of this run; let {number} tell them apart");
        }
        OpenFile file = new OpenFile(of, makers, numbers + 1, key, name);
        for (int load = 0; load < makers.size(); load++) {
            int own = load;
            if (makers.get(load).stands() == Stands.FIRST) {
                Row first = rows.stream()
                        .filter(r -> r.load == own)
                        .findFirst()
                        .orElseThrow(() -> new RecordMaker.Unfit(
                                null, "a file begins with a record that this document does not give"));
                file.add(load, first.values);
            }
        }
        return file;
    }

    /** The value of a target field in the first row that has it. */
    private String value(List<Row> rows, String field) {
        for (Row row : rows) {
            int place = makers.get(row.load).place(field);
            if (place >= 0 && row.values.get(place) != null) {
                return row.values.get(place);
            }
        }
        return null;
    }

    private void complete(OpenFile file) throws IOException {
        file.complete();
        open.remove(file.key());
    }

    /** Ends all files that are open. */
    void finish() throws IOException {
        for (String key : List.copyOf(open.keySet())) {
            complete(touched(key));
        }
    }

    /** The files that have been added to since they were last handed out. */
    Collection<OpenFile> touched() {
        return touched.values();
    }

    /** Told how far a file has come on disk. */
    void kept(WrittenFile file) {
        if (!file.complete()) {
            open.put(file.key(), file);
        }
    }

    /** What was added is on disk. */
    void settled() {
        touched.clear();
    }
}
