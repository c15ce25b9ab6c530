package ninepin.core.job;

import java.io.IOException;
import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import ninepin.core.check.RecordChecker;
import ninepin.core.job.Preview.Item;
import ninepin.core.job.Preview.Line;
import ninepin.core.job.Preview.LineKind;
import ninepin.core.job.Preview.Remark;
import ninepin.core.job.Preview.Row;
import ninepin.core.job.Preview.Span;
import ninepin.core.job.Preview.Summary;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.read.DelimitedOpening;
import ninepin.core.read.DelimitedReader;
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
 * Computes the bench: the same reader, checker and shaper as a run, on a sample, keeping what a screen shows. Looks at
 * the whole sample up to a bound, and shows one part of it.
 */
public final class Previewer {

    /** The most records of a sample that are looked at. */
    public static final int MOST_RECORDS = 50_000;

    private static final int MOST_FINDINGS = 500;
    private static final int MOST_TEXT = 20_000;

    private final Delimited format;
    private final Charset charset;
    private final DelimitedOpening opening;
    private final RecordChecker checker;
    private final Shaper shaper;
    private final int[] fieldAtColumn;
    private final List<Item> items = new ArrayList<>();
    private final List<Row> rows = new ArrayList<>();
    private final List<Remark> findings = new ArrayList<>();
    private final RowBuffer buffer = new RowBuffer();
    private long read;
    private long shaped;
    private long rejected;
    private long blank;
    private long notes;
    private boolean halted;

    private Previewer(ByteSource source, Layout layout, List<Rule> rules, RunFacts facts) throws IOException {
        this.format = (Delimited) layout.format();
        this.charset = format.charset().charset();
        this.opening = DelimitedOpening.of(source, layout);
        this.checker = new RecordChecker(layout, opening);
        List<Rule> usable = rules.stream().filter(r -> usable(r, layout)).toList();
        this.shaper = new Shaper(layout, usable, facts);
        int widest = 0;
        for (int column : opening.columnOf()) {
            widest = Math.max(widest, column + 1);
        }
        this.fieldAtColumn = new int[widest];
        Arrays.fill(fieldAtColumn, -1);
        for (int f = 0; f < opening.columnOf().length; f++) {
            if (opening.columnOf()[f] >= 0) {
                fieldAtColumn[opening.columnOf()[f]] = f;
            }
        }
    }

    private static boolean usable(Rule rule, Layout layout) {
        return !(rule.take() instanceof Origin.OfField of)
                || layout.field(of.field()).isPresent();
    }

    /**
     * Computes a part of the bench.
     *
     * @param source the sample
     * @param layout its layout, with all checks that apply
     * @param rules the rules; those that name a field the layout lacks are left out
     * @param facts the facts rules may take
     * @param from the number of the first record shown, from 1
     * @param count the most records shown
     */
    public static Preview of(ByteSource source, Layout layout, List<Rule> rules, RunFacts facts, long from, int count)
            throws IOException {
        Previewer previewer = new Previewer(source, layout, rules, facts);
        return previewer.compute(source, from, count);
    }

    private Preview compute(ByteSource source, long from, int count) throws IOException {
        Remark fault = opening.fault() == null ? null : Remark.of(Run.ofOpening(opening));
        List<Line> before = from <= 1 ? before(source) : List.of();
        boolean cut = false;
        if (fault == null) {
            cut = readAll(new DelimitedReader(source, format, opening.body()), from, count);
        } else {
            findings.add(fault);
            showUnread(source, count);
        }
        Summary summary = new Summary(read, shaped, rejected, halted || fault != null, blank, notes, cut);
        return new Preview(
                source.size(), opening.columns(), fault, before, items, shaper.targets(), rows, findings, summary);
    }

    private boolean readAll(DelimitedReader reader, long from, int count) throws IOException {
        RecordReader.Item item;
        while ((item = reader.next()) != RecordReader.Item.END) {
            RawRecord record = reader.record();
            if (record.number() > MOST_RECORDS) {
                return true;
            }
            boolean shown = items.size() < count && (record.number() == 0 ? read + 1 >= from : record.number() >= from);
            if (item == RecordReader.Item.BLANK) {
                blankRow(record, shown);
            } else if (!record(record, shown)) {
                return false;
            }
        }
        return false;
    }

    private void blankRow(RawRecord record, boolean shown) {
        blank++;
        List<Remark> own = List.of();
        if (format.blankRows() == Delimited.BlankRows.NOTE) {
            own = List.of(Remark.of(checker.blankRow(record)));
            notes++;
            keep(own);
        }
        if (shown) {
            items.add(new Item(
                    0,
                    record.line(),
                    record.offset(),
                    record.fullLength(),
                    text(record),
                    List.of(),
                    List.of(),
                    "blank",
                    own));
        }
    }

    /** Checks and shapes a record; false when it halts the file. */
    private boolean record(RawRecord record, boolean shown) {
        Severity worst = checker.check(record);
        List<Remark> own = checker.findings().stream().map(Remark::of).toList();
        keep(own);
        notes += checker.findings().stream()
                .filter(f -> f.severity() == Severity.NOTE)
                .count();
        String fate = worst == null ? "row" : worst.toString();
        if (worst == Severity.HALT) {
            halted = true;
        } else {
            read++;
            if (worst == Severity.REJECT) {
                rejected++;
            } else {
                shaped++;
                if (shown) {
                    buffer.clear();
                    shaper.shape(record, checker.values(), buffer);
                    List<String> values = shaper.targets().isEmpty() ? List.of() : buffer.row(0);
                    rows.add(new Row(record.number(), values));
                }
            }
        }
        if (shown || worst == Severity.HALT) {
            items.add(new Item(
                    record.number(),
                    record.line(),
                    record.offset(),
                    record.fullLength(),
                    text(record),
                    spans(record),
                    record.fault() == null ? values() : List.of(),
                    fate,
                    own));
        }
        return worst != Severity.HALT;
    }

    private void keep(List<Remark> own) {
        if (findings.size() < MOST_FINDINGS) {
            findings.addAll(own);
        }
    }

    private List<String> values() {
        List<String> values = new ArrayList<>();
        for (Value value : checker.values()) {
            values.add(value.text(charset));
        }
        return values;
    }

    private String text(RawRecord record) {
        return new String(record.buffer(), record.start(), Math.min(record.length(), MOST_TEXT), charset);
    }

    /** Where the columns stand in the text, counted in UTF-16 units as browsers count. */
    private List<Span> spans(RawRecord record) {
        List<Span> spans = new ArrayList<>();
        int bytes = 0;
        int units = 0;
        for (int c = 0; c < record.fieldCount() && record.to(c) <= MOST_TEXT; c++) {
            units += units(record, bytes, record.from(c));
            int from = units;
            units += units(record, record.from(c), record.to(c));
            bytes = record.to(c);
            spans.add(new Span(c < fieldAtColumn.length ? fieldAtColumn[c] : -1, from, units));
        }
        return spans;
    }

    private int units(RawRecord record, int from, int to) {
        return new String(record.buffer(), record.start() + from, to - from, charset).length();
    }

    private List<Line> before(ByteSource source) throws IOException {
        List<Line> lines = new ArrayList<>();
        Delimited unquoted =
                new Delimited(format.charset(), format.delimiter(), null, false, 0, Delimited.BlankRows.SKIP);
        DelimitedReader reader = new DelimitedReader(source, unquoted, Position.START);
        while (reader.offset() < opening.headerOffset() && reader.next() != RecordReader.Item.END) {
            RawRecord r = reader.record();
            if (r.length() > 0) {
                lines.add(new Line(LineKind.SKIPPED, r.line(), r.offset(), text(r), List.of()));
            }
        }
        if (format.header() && !opening.columns().isEmpty()) {
            DelimitedReader header =
                    new DelimitedReader(source, format, new Position(opening.headerOffset(), opening.headerLine(), 0));
            header.next();
            RawRecord r = header.record();
            lines.add(new Line(LineKind.HEADER, r.line(), r.offset(), text(r), spans(r)));
        }
        return lines;
    }

    /** Shows the lines of a sample that cannot be read by the layout, so that one sees why. */
    private void showUnread(ByteSource source, int count) throws IOException {
        DelimitedReader reader = new DelimitedReader(source, format, opening.body());
        while (items.size() < count && reader.next() != RecordReader.Item.END) {
            RawRecord r = reader.record();
            items.add(new Item(
                    r.number(),
                    r.line(),
                    r.offset(),
                    r.fullLength(),
                    text(r),
                    List.of(),
                    List.of(),
                    "unread",
                    List.of()));
        }
    }
}
