package ninepin.core.preview;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import java.util.stream.IntStream;
import ninepin.core.bytes.ByteSource;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.deliver.Shares;
import ninepin.core.document.DocumentFile;
import ninepin.core.document.DocumentPlan;
import ninepin.core.document.DocumentShaper;
import ninepin.core.document.DocumentStream;
import ninepin.core.document.GroupRows;
import ninepin.core.document.OpenDocument;
import ninepin.core.document.RowSink;
import ninepin.core.format.Formats;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.preview.Preview.Item;
import ninepin.core.preview.Preview.Line;
import ninepin.core.preview.Preview.Made;
import ninepin.core.preview.Preview.Remark;
import ninepin.core.preview.Preview.Row;
import ninepin.core.preview.Preview.Span;
import ninepin.core.preview.Preview.Summary;
import ninepin.core.preview.Preview.TypeCount;
import ninepin.core.record.Opening;
import ninepin.core.record.RawRecord;
import ninepin.core.run.Run;
import ninepin.core.shape.Origin;
import ninepin.core.shape.RowBuffer;
import ninepin.core.shape.Rule;
import ninepin.core.shape.ShapingContext;
import ninepin.core.usable.Usable;
import ninepin.core.value.Value;

/**
 * Computes the bench: the same documents, checks and rules as a run, on a sample, keeping what a screen shows. Looks at
 * the whole sample up to a bound, and shows one part of it.
 */
public final class Previewer implements RowSink {

    /** The most records of a sample that are looked at. */
    public static final int MOST_RECORDS = 50_000;
    /** The longest that a sample is looked at, in nanoseconds. */
    private static final long MOST_TIME = TimeUnit.SECONDS.toNanos(8);

    private static final int MOST_FINDINGS = 500;

    /** What is shown of a record beside its fate. */
    private record Shown(String text, List<Span> cells, List<String> values) {}

    private final Layout layout;
    private final DocumentPlan plan;
    private final Job job;
    private final Opening opening;
    private final RecordChecker checker;
    private final ShapingContext context;
    private final SampleText texts;
    private final long from;
    private final int count;
    private final List<Item> items = new ArrayList<>();
    private final List<Row> rows = new ArrayList<>();
    private final List<Remark> findings = new ArrayList<>();
    /** What is shown of the records of the open document, by their place in it. */
    private final Map<Integer, Shown> shown = new HashMap<>();

    private final RowBuffer[] buffers;
    private final List<List<Integer>> recordsOfRows = new ArrayList<>();
    private final long[] seen;
    /** For each record type and field how many records have a value in it. */
    private final long[][] filled;

    private final long[] made;
    private final long[] laneDocuments;
    private final long[] laneRecords;
    private final Map<String, Long> reasons = new TreeMap<>();
    private DocumentStream stream;
    private DocumentShaper shaper;
    private long documents;
    private long read;
    private long shaped;
    private long withoutRows;
    private long setAside;
    private long rejected;
    private long blank;
    private long notes;
    private boolean halted;

    private Previewer(ByteSource source, Layout layout, Job job, ShapingContext context, long from, int count)
            throws IOException {
        this.layout = layout;
        this.job = job;
        Usable.Followed followed = job == null
                ? new Usable.Followed(new DocumentPlan(layout, List.of()), context)
                : Usable.plan(job, layout, context);
        this.context = followed.context();
        this.plan = followed.plan();
        this.opening = Formats.open(source, layout);
        this.checker = new RecordChecker(layout, opening, context.facts().today());
        this.texts = new SampleText(layout, opening);
        this.from = from;
        this.count = count;
        int tables = plan.deliveries().size();
        this.buffers = new RowBuffer[tables];
        for (int d = 0; d < tables; d++) {
            buffers[d] = new RowBuffer();
            recordsOfRows.add(new ArrayList<>());
        }
        this.seen = new long[layout.recordTypes().size()];
        this.filled = layout.recordTypes().stream()
                .map(t -> new long[t.fields().size()])
                .toArray(long[][]::new);
        this.made = new long[tables];
        this.laneDocuments = new long[plan.lanes().lanes().size()];
        this.laneRecords = new long[laneDocuments.length];
    }

    /**
     * Computes a part of the bench.
     *
     * @param source the sample
     * @param layout its layout, with all checks that apply
     * @param job what is made of its records, or null for nothing; what cannot be followed yet is left out
     * @param context what rules may take
     * @param from the number of the first record shown, from 1
     * @param count the most records shown
     */
    public static Preview of(ByteSource source, Layout layout, Job job, ShapingContext context, long from, int count)
            throws IOException {
        return new Previewer(source, layout, job, context, from, count).compute(source);
    }

    private Preview compute(ByteSource source) throws IOException {
        Remark fault = opening.fault() == null ? null : Remark.of(Run.ofOpening(opening));
        List<Line> before = from <= 1 ? SampleLines.before(source, opening, texts) : List.of();
        try (DocumentFile ordered = DocumentFile.of(source, opening, plan, p -> {})) {
            return compute(source, ordered, fault, before);
        }
    }

    private Preview compute(ByteSource source, DocumentFile ordered, Remark fault, List<Line> before)
            throws IOException {
        try (DocumentStream all = new DocumentStream(ordered.reader(opening.body()), checker, plan, this::watch)) {
            stream = all;
            return computeAll(source, ordered, fault, before);
        }
    }

    private Preview computeAll(ByteSource source, DocumentFile ordered, Remark fault, List<Line> before)
            throws IOException {
        shaper = new DocumentShaper(plan, stream, context);
        boolean cut = false;
        if (fault == null) {
            if (plan.surveys()) {
                survey(ordered);
            }
            cut = readAll();
            rowsOfGroups();
        } else {
            findings.add(fault);
            items.addAll(SampleLines.unread(source, opening, texts, count));
        }
        return new Preview(
                source.size(),
                opening.columns(),
                fault,
                before,
                items,
                types(),
                made(),
                rows,
                findings,
                summary(fault != null, cut));
    }

    /** The rows of summaries, as far as the sample goes; they come from no record. */
    private void rowsOfGroups() throws IOException {
        for (int d = 0; d < buffers.length; d++) {
            if (plan.deliveries().get(d).summary() != null) {
                RowBuffer own = new RowBuffer();
                GroupRows of = GroupRows.of(plan, shaper, d, context, own, () -> {});
                made[d] = own.rows();
                for (int row = 0; row < Math.min(own.rows(), count); row++) {
                    rows.add(new Row(d, 0, own.row(row)));
                }
                keep(of.refused().stream().map(Remark::of).toList());
            }
        }
    }

    private void survey(DocumentFile ordered) throws IOException {
        RecordChecker own = new RecordChecker(layout, opening, context.facts().today());
        try (DocumentStream file = new DocumentStream(ordered.reader(opening.body()), own, plan)) {
            shaper.survey(file, plan, context, enough(file));
        }
    }

    private Summary summary(boolean unread, boolean cut) {
        Map<String, Shares.Lane> lanes = new TreeMap<>();
        for (int l = 0; l < laneDocuments.length; l++) {
            lanes.put(plan.lanes().lanes().get(l).name(), new Shares.Lane(laneDocuments[l], laneRecords[l]));
        }
        return new Summary(
                read,
                documents,
                shaped,
                rejected,
                setAside,
                halted || unread,
                blank,
                notes,
                withoutRows,
                new Shares(lanes, reasons, Map.of()),
                cut);
    }

    private List<TypeCount> types() {
        return IntStream.range(0, seen.length)
                .mapToObj(t -> new TypeCount(
                        layout.recordTypes().get(t).name(),
                        layout.recordTypes().get(t).fields().stream()
                                .map(Field::name)
                                .toList(),
                        seen[t],
                        Arrays.stream(filled[t]).boxed().toList()))
                .toList();
    }

    private List<Made> made() {
        Layout ofRows = plan.shaped();
        return IntStream.range(0, made.length)
                .mapToObj(d -> {
                    Delivery delivery = job.deliveries().get(d);
                    return new Made(
                            ofRows.recordTypes()
                                    .get(plan.deliveries().get(d).type())
                                    .name(),
                            delivery.lane(),
                            delivery.to() == null ? null : delivery.to().label(),
                            shaper.targets(d),
                            made[d]);
                })
                .toList();
    }

    /** A sample is looked at so far, and so long: costly checks of many values take no one's processor for minutes. */
    static BooleanSupplier enough(DocumentStream stream) {
        long until = System.nanoTime() + MOST_TIME;
        return () -> stream.after().records() >= MOST_RECORDS || System.nanoTime() > until;
    }

    private boolean readAll() throws IOException {
        BooleanSupplier enough = enough(stream);
        while (true) {
            shown.clear();
            switch (stream.next()) {
                case END:
                    for (Finding finding : stream.atEnd()) {
                        keep(List.of(Remark.of(finding)));
                        notes += finding.severity() == Severity.NOTE ? 1 : 0;
                        halted |= finding.severity() == Severity.HALT;
                    }
                    return false;
                case BLANK:
                    blankRow(stream.record());
                    break;
                case HALT:
                    halt(stream.record());
                    return false;
                default:
                    settle(stream.document());
                    if (enough.getAsBoolean()) {
                        return true;
                    }
            }
        }
    }

    private boolean isShown() {
        // Not the number of the record: gathered records come in another order.
        return read + stream.document().size() >= from && items.size() + shown.size() < count;
    }

    /** Keeps what is shown of a record while it is at hand. */
    private void watch(RawRecord record, OpenDocument.Entry entry) {
        if (record.fault() == null) {
            countValues(record.type());
        }
        if (!isShown()) {
            return;
        }
        int place = stream.document().size() - 1;
        Shown of = shown(record);
        if (Formats.of(layout).nests() && place > 0 && shown.get(0) != null) {
            texts.placeInside(shown.get(0).cells(), stream.document().get(0).offset(), record, of.cells());
        }
        shown.put(place, of);
    }

    private void countValues(int type) {
        Value[] values = checker.values()[type];
        for (int f = 0; f < values.length; f++) {
            filled[type][f] += values[f].isNull() ? 0 : 1;
        }
        // A wrong value is one too.
        List<Field> fields = layout.recordTypes().get(type).fields();
        for (int f = 0; !checker.findings().isEmpty() && f < values.length; f++) {
            String name = fields.get(f).name();
            boolean wrong = checker.findings().stream().anyMatch(x -> name.equals(x.field()) && x.length() > 0);
            filled[type][f] += wrong && values[f].isNull() ? 1 : 0;
        }
    }

    private Shown shown(RawRecord record) {
        return new Shown(
                texts.of(record), texts.spans(record), record.fault() == null ? values(record.type()) : List.of());
    }

    private void blankRow(RawRecord record) {
        blank++;
        List<Remark> own = List.of();
        if (layout.format().blankRows() == BlankRows.NOTE) {
            own = List.of(Remark.of(checker.blankRow(record)));
            notes++;
            keep(own);
        }
        if (items.size() < count && read + 1 >= from) {
            items.add(new Item(
                    0,
                    -1,
                    false,
                    0,
                    record.line(),
                    record.offset(),
                    record.fullLength(),
                    texts.of(record),
                    List.of(),
                    List.of(),
                    "blank",
                    null,
                    own));
        }
    }

    private void halt(RawRecord record) {
        halted = true;
        List<Remark> own = checker.findings().stream().map(Remark::of).toList();
        keep(own);
        Shown of = shown(record);
        items.add(new Item(
                record.number(),
                record.fault() == null ? record.type() : -1,
                false,
                documents,
                record.line(),
                record.offset(),
                record.fullLength(),
                of.text(),
                of.cells(),
                of.values(),
                "halt",
                null,
                own));
    }

    @Override
    public RowBuffer rows(int delivery) {
        return buffers[delivery];
    }

    @Override
    public void made(int delivery, int record) {
        recordsOfRows.get(delivery).add(record);
    }

    private void settle(OpenDocument document) {
        for (int d = 0; d < buffers.length; d++) {
            buffers[d].clear();
            recordsOfRows.get(d).clear();
        }
        shaper.settle(this);
        documents++;
        blank += document.blank();
        notes += document.blankNotes().size();
        keep(document.blankNotes().stream().map(Remark::of).toList());
        for (int r = 0; r < document.size(); r++) {
            record(document, r);
        }
        if (shaper.refused()) {
            return;
        }
        for (long bits = shaper.laneBits(); bits != 0; bits &= bits - 1) {
            laneDocuments[Long.numberOfTrailingZeros(bits)]++;
            laneRecords[Long.numberOfTrailingZeros(bits)] += document.size();
        }
        for (int d = 0; d < buffers.length; d++) {
            made[d] += shaper.targets(d).isEmpty() ? 0 : buffers[d].rows();
            for (int row = 0; row < buffers[d].rows(); row++) {
                int record = recordsOfRows.get(d).get(row);
                if (shown.containsKey(record)) {
                    boolean empty = shaper.targets(d).isEmpty();
                    rows.add(new Row(d, document.get(record).number(), empty ? List.of() : cells(d, row)));
                }
            }
        }
    }

    /** A row as it is shown: in words where the database is to give a key. */
    private List<String> cells(int delivery, int row) {
        List<String> cells = new ArrayList<>(buffers[delivery].row(row));
        List<Rule> filling = plan.deliveries().get(delivery).rules().stream()
                .filter(Rule::fills)
                .toList();
        for (int f = 0; f < filling.size(); f++) {
            if (filling.get(f).take() instanceof Origin.OfKey of && cells.get(f) != null) {
                cells.set(f, "key of row " + (Integer.parseInt(cells.get(f)) + 1) + " of " + of.table());
            }
        }
        return cells;
    }

    private void record(OpenDocument document, int r) {
        OpenDocument.Entry entry = document.get(r);
        read++;
        int type = plan.gathering() != null && entry.type() >= 0 ? 0 : entry.type();
        if (type >= 0) {
            seen[type]++;
        }
        List<Remark> own = shaper.findings(entry).stream().map(Remark::of).toList();
        String fate;
        if (shaper.refused()) {
            rejected++;
            fate = "reject";
        } else if (entry.aside() != null) {
            setAside++;
            reasons.merge(entry.aside(), 1L, Long::sum);
            fate = "aside";
        } else {
            boolean makes = entry.makesRows();
            shaped += makes || buffers.length == 0 ? 1 : 0;
            withoutRows += makes || buffers.length == 0 ? 0 : 1;
            fate = !own.isEmpty() ? "note" : makes ? "row" : "read";
        }
        notes += entry.findings().stream()
                .filter(f -> f.severity() == Severity.NOTE)
                .count();
        keep(own);
        Shown of = shown.get(r);
        if (of != null) {
            items.add(new Item(
                    entry.number(),
                    type,
                    Formats.of(layout).nests() && r > 0,
                    documents,
                    entry.line(),
                    entry.offset(),
                    entry.fullLength(),
                    of.text(),
                    of.cells(),
                    of.values(),
                    fate,
                    fate.equals("aside") ? entry.aside() : null,
                    own));
        }
    }

    private void keep(List<Remark> own) {
        if (findings.size() < MOST_FINDINGS) {
            findings.addAll(own);
        }
    }

    private List<String> values(int type) {
        List<String> values = new ArrayList<>();
        for (Value value : checker.values()[type]) {
            values.add(value.text(layout.format().charset().ofValues().charset()));
        }
        return values;
    }
}
