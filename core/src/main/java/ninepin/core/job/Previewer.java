package ninepin.core.job;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.formula.FormulaException;
import ninepin.core.job.Preview.Item;
import ninepin.core.job.Preview.Line;
import ninepin.core.job.Preview.LineKind;
import ninepin.core.job.Preview.Made;
import ninepin.core.job.Preview.Remark;
import ninepin.core.job.Preview.Row;
import ninepin.core.job.Preview.Span;
import ninepin.core.job.Preview.Summary;
import ninepin.core.job.Preview.TypeCount;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.layout.Xml;
import ninepin.core.read.DelimitedRows;
import ninepin.core.read.Opening;
import ninepin.core.read.Position;
import ninepin.core.read.RawRecord;
import ninepin.core.read.RecordReader;
import ninepin.core.read.Value;
import ninepin.core.run.Run;
import ninepin.core.shape.Origin;
import ninepin.core.shape.RowBuffer;
import ninepin.core.shape.Rule;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.Shaper;
import ninepin.core.source.ByteSource;

/**
 * Computes the bench: the same reader, checker and shapers as a run, on a sample, keeping what a screen shows. Looks at
 * the whole sample up to a bound, and shows one part of it.
 */
public final class Previewer {

    /** The most records of a sample that are looked at. */
    public static final int MOST_RECORDS = 50_000;

    private static final int MOST_FINDINGS = 500;

    /** A record of the open document, before its fate is known. */
    private static final class Pending {
        long number;
        long line;
        long offset;
        long length;
        int type;
        boolean refused;
        boolean makesRows;
        Severity worst;
        List<Remark> own;
        boolean shown;
        String text;
        List<Span> cells;
        List<String> values;
        List<Row> rows;
    }

    private final Layout layout;
    private final Opening opening;
    private final RecordChecker checker;
    private final List<Delivery> deliveries;
    /** For each delivery the index of its record type. */
    private final int[] typeOf;

    private final Shaper[] shapers;
    private final SampleText texts;
    private final boolean nested;
    private final List<Item> items = new ArrayList<>();
    private final List<Row> rows = new ArrayList<>();
    private final List<Remark> findings = new ArrayList<>();
    private final List<Pending> document = new ArrayList<>();
    private final RowBuffer buffer = new RowBuffer();
    private final long[] seen;
    private final long[] made;
    private long read;
    private long shaped;
    private long withoutRows;
    private long rejected;
    private long blank;
    private long notes;
    private boolean halted;

    private Previewer(ByteSource source, Layout layout, List<Delivery> deliveries, RunFacts facts) throws IOException {
        this.layout = layout;
        this.opening = Opening.of(source, layout);
        this.checker = new RecordChecker(layout, opening, facts.today());
        this.deliveries = deliveries.stream().filter(d -> d.type(layout) >= 0).toList();
        this.typeOf = this.deliveries.stream().mapToInt(d -> d.type(layout)).toArray();
        this.shapers = this.deliveries.stream()
                .map(d -> new Shaper(layout, d.type(layout), usable(d, layout, facts), facts))
                .toArray(Shaper[]::new);
        this.texts = new SampleText(layout, opening);
        this.nested = layout.nested();
        this.seen = new long[layout.recordTypes().size()];
        this.made = new long[shapers.length];
    }

    private static List<Rule> usable(Delivery delivery, Layout layout, RunFacts facts) {
        int type = delivery.type(layout);
        return delivery.shaping().stream()
                .filter(r -> usable(r.take(), layout, type, facts))
                .toList();
    }

    private static boolean usable(Origin take, Layout layout, int type, RunFacts facts) {
        if (take instanceof Origin.OfFormula of) {
            try {
                Shaper.formula(of, layout, type, facts);
                return true;
            } catch (FormulaException e) {
                return false;
            }
        }
        return !(take instanceof Origin.OfField of)
                || layout.field(type, of.field()).isPresent();
    }

    /**
     * Computes a part of the bench.
     *
     * @param source the sample
     * @param layout its layout, with all checks that apply
     * @param deliveries what is made of its records; rules that cannot be followed yet are left out
     * @param facts the facts rules may take
     * @param from the number of the first record shown, from 1
     * @param count the most records shown
     */
    public static Preview of(
            ByteSource source, Layout layout, List<Delivery> deliveries, RunFacts facts, long from, int count)
            throws IOException {
        return new Previewer(source, layout, deliveries, facts).compute(source, from, count);
    }

    private Preview compute(ByteSource source, long from, int count) throws IOException {
        Remark fault = opening.fault() == null ? null : Remark.of(Run.ofOpening(opening));
        List<Line> before = from <= 1 && layout.format() instanceof Delimited d ? before(source, d) : List.of();
        boolean cut = false;
        if (fault == null) {
            cut = readAll(opening.reader(source, opening.body()), from, count);
        } else {
            findings.add(fault);
            if (layout.format() instanceof Delimited d) {
                showUnread(source, d, count);
            }
        }
        Summary summary = new Summary(read, shaped, rejected, halted || fault != null, blank, notes, withoutRows, cut);
        return new Preview(
                source.size(), opening.columns(), fault, before, items, types(), made(), rows, findings, summary);
    }

    private List<TypeCount> types() {
        return IntStream.range(0, seen.length)
                .mapToObj(t -> new TypeCount(
                        layout.recordTypes().get(t).name(),
                        layout.recordTypes().get(t).fields().stream()
                                .map(Field::name)
                                .toList(),
                        seen[t]))
                .toList();
    }

    private List<Made> made() {
        return IntStream.range(0, shapers.length)
                .mapToObj(d -> new Made(
                        typeOf[d],
                        deliveries.get(d).to() == null
                                ? null
                                : deliveries.get(d).to().table(),
                        shapers[d].targets(),
                        made[d]))
                .toList();
    }

    private boolean readAll(RecordReader reader, long from, int count) throws IOException {
        RecordReader.Item item;
        while ((item = reader.next()) != RecordReader.Item.END) {
            RawRecord record = reader.record();
            if (record.number() > MOST_RECORDS) {
                endDocument();
                return true;
            }
            boolean shown = items.size() + document.size() < count
                    && (record.number() == 0 ? read + document.size() + 1 >= from : record.number() >= from);
            if (item == RecordReader.Item.BLANK) {
                blankRow(record, shown);
                continue;
            }
            if (checker.startsDocument(record)) {
                endDocument();
            }
            if (!record(record, shown)) {
                halted = true;
                endDocument();
                return false;
            }
            if (!nested) {
                endDocument();
            }
        }
        endDocument();
        for (Finding finding : checker.atEnd()) {
            keep(List.of(Remark.of(finding)));
            notes += finding.severity() == Severity.NOTE ? 1 : 0;
            halted |= finding.severity() == Severity.HALT;
        }
        return false;
    }

    private void blankRow(RawRecord record, boolean shown) {
        blank++;
        List<Remark> own = List.of();
        if (layout.format().blankRows() == Delimited.BlankRows.NOTE) {
            own = List.of(Remark.of(checker.blankRow(record)));
            notes++;
            keep(own);
        }
        if (shown) {
            items.add(new Item(
                    0,
                    -1,
                    false,
                    record.line(),
                    record.offset(),
                    record.fullLength(),
                    texts.of(record),
                    List.of(),
                    List.of(),
                    "blank",
                    own));
        }
    }

    /** Checks and shapes a record; false when it halts the file. */
    private boolean record(RawRecord record, boolean shown) {
        Pending p = new Pending();
        p.worst = checker.check(record);
        p.number = record.number();
        p.line = record.line();
        p.offset = record.offset();
        p.length = record.fullLength();
        p.type = record.fault() == null ? record.type() : -1;
        p.own = checker.findings().stream().map(Remark::of).toList();
        p.refused = p.worst == Severity.REJECT;
        p.shown = shown || p.worst == Severity.HALT;
        p.rows = new ArrayList<>();
        notes += checker.findings().stream()
                .filter(f -> f.severity() == Severity.NOTE)
                .count();
        if (p.shown) {
            p.text = texts.of(record);
            p.cells = texts.spans(record);
            p.values = record.fault() == null ? values(record.type()) : List.of();
        }
        if (!p.refused && p.worst != Severity.HALT) {
            shape(record, p);
        }
        if (layout.format() instanceof Xml && !document.isEmpty() && p.shown && document.get(0).shown) {
            texts.placeInside(document.get(0).cells, document.get(0).offset, record, p.cells);
        }
        document.add(p);
        return p.worst != Severity.HALT;
    }

    private void shape(RawRecord record, Pending p) {
        for (int d = 0; d < shapers.length; d++) {
            if (typeOf[d] != record.type()) {
                continue;
            }
            p.makesRows = true;
            if (p.shown || shapers[d].canRefuse()) {
                buffer.clear();
                List<Finding> misfits = shapers[d].shape(record, checker.values(), buffer);
                if (misfits.isEmpty() && p.shown) {
                    p.rows.add(new Row(d, p.number, shapers[d].targets().isEmpty() ? List.of() : buffer.row(0)));
                } else if (!misfits.isEmpty()) {
                    p.own = Stream.concat(p.own.stream(), misfits.stream().map(Remark::of))
                            .toList();
                    p.refused = true;
                }
            }
            made[d]++;
        }
        if (p.refused) {
            takeBack(p);
        }
    }

    /** Takes back the rows that were made of a record. */
    private void takeBack(Pending p) {
        p.rows = List.of();
        for (int d = 0; d < shapers.length; d++) {
            made[d] -= typeOf[d] == p.type ? 1 : 0;
        }
    }

    /** Decides what becomes of the open document: it is delivered whole or refused whole. */
    private void endDocument() {
        if (document.isEmpty()) {
            return;
        }
        Finding lacking = checker.lacking();
        Pending bad = document.stream().filter(p -> p.refused).findFirst().orElse(null);
        boolean refused = bad != null || lacking != null;
        long because = lacking != null ? lacking.line() : bad != null ? bad.line : 0;
        for (Pending p : document) {
            if (p.type >= 0) {
                seen[p.type]++;
            }
            if (refused && !p.refused && p.worst != Severity.HALT) {
                refuseWith(p, lacking, because);
            }
            keep(p.own);
            count(p);
            show(p);
        }
        document.clear();
    }

    private void refuseWith(Pending p, Finding lacking, long because) {
        Finding why = lacking != null && lacking.record() == p.number
                ? lacking
                : RecordChecker.withDocument(p.number, p.line, p.offset, (int) Math.min(p.length, 1 << 20), because);
        List<Remark> own = new ArrayList<>(p.own);
        own.add(Remark.of(why));
        p.own = own;
        p.refused = true;
        takeBack(p);
    }

    private void count(Pending p) {
        if (p.worst == Severity.HALT) {
            return;
        }
        read++;
        if (p.refused) {
            rejected++;
        } else if (p.makesRows || shapers.length == 0) {
            shaped++;
        } else {
            withoutRows++;
        }
    }

    private void show(Pending p) {
        if (!p.shown) {
            return;
        }
        rows.addAll(p.rows);
        String fate = p.worst == Severity.HALT
                ? "halt"
                : p.refused ? "reject" : p.worst == Severity.NOTE ? "note" : p.makesRows ? "row" : "read";
        boolean inside = layout.format() instanceof Xml && p != document.get(0);
        items.add(
                new Item(p.number, p.type, inside, p.line, p.offset, p.length, p.text, p.cells, p.values, fate, p.own));
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

    private List<Line> before(ByteSource source, Delimited format) throws IOException {
        List<Line> lines = new ArrayList<>();
        RecordReader reader = DelimitedRows.of(source, format.plainLines(), Position.START);
        while (reader.offset() < opening.header().offset() && reader.next() != RecordReader.Item.END) {
            RawRecord r = reader.record();
            if (r.length() > 0) {
                lines.add(new Line(LineKind.SKIPPED, r.line(), r.offset(), texts.of(r), List.of()));
            }
        }
        if (format.header() && !opening.columns().isEmpty()) {
            RecordReader header = DelimitedRows.of(source, format, opening.header());
            header.next();
            RawRecord r = header.record();
            lines.add(new Line(LineKind.HEADER, r.line(), r.offset(), texts.of(r), texts.spans(r)));
        }
        return lines;
    }

    /** Shows the lines of a sample that cannot be read by the layout, so that one sees why. */
    private void showUnread(ByteSource source, Delimited format, int count) throws IOException {
        RecordReader reader = DelimitedRows.of(source, format, opening.body());
        while (items.size() < count && reader.next() != RecordReader.Item.END) {
            RawRecord r = reader.record();
            items.add(new Item(
                    r.number(),
                    -1,
                    false,
                    r.line(),
                    r.offset(),
                    r.fullLength(),
                    texts.of(r),
                    List.of(),
                    List.of(),
                    "unread",
                    List.of()));
        }
    }
}
