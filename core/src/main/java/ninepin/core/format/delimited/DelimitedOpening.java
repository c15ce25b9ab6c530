package ninepin.core.format.delimited;

import java.io.IOException;
import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.HeadSource;
import ninepin.core.format.lines.Footer;
import ninepin.core.format.lines.HeaderNames;
import ninepin.core.format.lines.LineCuts;
import ninepin.core.format.lines.TypeTags;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Place;
import ninepin.core.record.ByteOrderMark;
import ninepin.core.record.Fault;
import ninepin.core.record.Opening;
import ninepin.core.record.Position;
import ninepin.core.record.RawRecord;
import ninepin.core.record.RecordReader;
import ninepin.core.record.ValueForm;

/**
 * What stands before the first record of a delimited file: a byte order mark, lines to skip, the header row.
 *
 * @param layout the layout
 * @param body where the first record starts
 * @param columns the names in the header row in order; empty where there is none
 * @param columnsOf for each field of each record type the column it stands in, from 0, or -1 where the header lacks it
 * @param header where the header row starts, or would
 * @param fault what keeps the file from being read, or null
 * @param notes what is to be said of the header row without stopping for it
 */
record DelimitedOpening(
        Layout layout,
        Position body,
        List<String> columns,
        int[][] columnsOf,
        Position header,
        Fault fault,
        List<Fault> notes)
        implements Opening {

    DelimitedOpening(
            Layout layout, Position body, List<String> columns, int[][] columnsOf, Position header, Fault fault) {
        this(layout, body, columns, columnsOf, header, fault, List.of());
    }

    @Override
    public int[] slices(int type) {
        return columnsOf[type];
    }

    @Override
    public int width(int type) {
        if (format().header()) {
            return columns.size();
        }
        return Arrays.stream(columnsOf[type]).max().orElse(0) + 1;
    }

    @Override
    public ValueForm values() {
        Delimited format = format();
        String nullText = format.habitsOrNone().nullText();
        return new ValueForm(
                false,
                format.quote() == null ? 0 : (byte) format.quote().charValue(),
                nullText == null
                        ? null
                        : nullText.getBytes(format.charset().held().charset()),
                format.toleranceOrStrict().raggedRows(),
                format.habitsOrNone().trailingDelimiter());
    }

    private Delimited format() {
        return (Delimited) layout.format();
    }

    /** Rows in the standard form only: whether a line break stands inside of others cannot be seen from the middle of a file. */
    @Override
    public long[] cuts(ByteSource source, int pieces) throws IOException {
        return format().standard() ? LineCuts.of(this, 0, source, pieces) : new long[0];
    }

    @Override
    public Optional<RecordReader> lines(ByteSource source) {
        return Optional.of(DelimitedRows.of(source, format().plainLines(), Position.START));
    }

    @Override
    public Optional<RecordReader> rows(ByteSource source, Position from) {
        return Optional.of(DelimitedRows.of(source, format(), from));
    }

    @Override
    public RecordReader reader(ByteSource source, Position from) throws IOException {
        Delimited format = format();
        int footer = format.habitsOrNone().footerLines();
        ByteSource read = footer == 0
                ? source
                : new HeadSource(source, Footer.start(source, footer, body.offset(), format.charset()));
        return DelimitedRows.of(read, format, from, new TypeTags(layout), body.offset());
    }

    /** Reads the start of a file. */
    public static DelimitedOpening of(ByteSource source, Layout layout) throws IOException {
        Delimited format = (Delimited) layout.format();
        int[][] columnOf = layout.recordTypes().stream()
                .map(t -> t.fields().stream()
                        .mapToInt(f -> f.place() instanceof Place.Column column ? column.number() - 1 : -1)
                        .toArray())
                .toArray(int[][]::new);
        byte[] first = source.slice(0, 4);
        Fault wrongMark = ByteOrderMark.wrong(first, format.charset());
        boolean wide = format.charset() == FileCharset.UTF_16;
        int mark = format.charset() == FileCharset.UTF_8 && ByteOrderMark.isUtf8(first) ? 3 : wide ? 2 : 0;
        if (wide && !ByteOrderMark.isUtf16(first) && source.size() > 0) {
            return new DelimitedOpening(
                    layout, Position.START, List.of(), columnOf, Position.START, ByteOrderMark.missing());
        }
        Position at = afterSkipped(source, format, new Position(mark, 1, 0));
        if (wrongMark != null) {
            return new DelimitedOpening(layout, at, List.of(), columnOf, Position.START, wrongMark);
        }
        if (source.size() == 0) {
            Fault empty = new Fault(
                    "FIL-01",
                    -1,
                    0,
                    0,
                    "an empty file (0 bytes)",
                    format.header() ? "a header row" : "at least one record",
                    "Ask the sender for the file again.");
            return new DelimitedOpening(
                    layout, at, List.of(), columnOf, Position.START, format.header() ? empty : null);
        }
        if (!format.header()) {
            return new DelimitedOpening(layout, at, List.of(), columnOf, at, null);
        }
        return withHeader(source, layout, columnOf, at);
    }

    private static DelimitedOpening withHeader(ByteSource source, Layout layout, int[][] columnOf, Position at)
            throws IOException {
        Delimited format = (Delimited) layout.format();
        RecordReader reader = DelimitedRows.of(source, format, at);
        RecordReader.Item item = reader.next();
        RawRecord row = reader.record();
        if (item != RecordReader.Item.RECORD) {
            Fault none = new Fault(
                    "HDR-01",
                    -1,
                    0,
                    0,
                    item == RecordReader.Item.END ? "the end of the file" : "a blank row",
                    "a header row",
                    "Check how many lines are skipped at the start.");
            return new DelimitedOpening(layout, at, List.of(), columnOf, at, none);
        }
        if (row.fault() != null) {
            return new DelimitedOpening(layout, at, List.of(), columnOf, at, row.fault());
        }
        List<String> columns = names(row, format);
        if (format.habitsOrNone().trailingDelimiter()
                && columns.size() > 1
                && columns.get(columns.size() - 1).isEmpty()) {
            columns = columns.subList(0, columns.size() - 1);
        }
        Position body =
                new Position(reader.position().offset(), reader.position().line(), 0);
        List<Fault> notes = new ArrayList<>();
        Fault fault = names(format).resolve(columns, layout.firstType().fields(), columnOf[0], row.length(), notes);
        return new DelimitedOpening(layout, body, columns, columnOf, at, fault, notes);
    }

    private static HeaderNames names(Delimited format) {
        Delimited.Tolerance tolerance = format.toleranceOrStrict();
        return new HeaderNames(
                format.habitsOrNone().headerAnyCase(),
                tolerance.missingColumns(),
                tolerance.extraColumns(),
                "Let the field stand by its column number instead.",
                "Check the delimiter and the header row, or change the layout.");
    }

    private static List<String> names(RawRecord row, Delimited format) {
        Charset charset = format.charset().held().charset();
        char quote = format.quote() == null ? 0 : format.quote();
        List<String> names = new ArrayList<>(row.fieldCount());
        for (int f = 0; f < row.fieldCount(); f++) {
            names.add(row.text(f, charset, quote).strip());
        }
        return names;
    }

    private static Position afterSkipped(ByteSource source, Delimited format, Position start) throws IOException {
        if (format.skipLines() == 0) {
            return start;
        }
        RecordReader reader = DelimitedRows.of(source, format.plainLines(), start);
        for (int i = 0; i < format.skipLines() && reader.next() != RecordReader.Item.END; i++) {
            // Each step passes over one line, whatever stands on it.
        }
        return new Position(reader.position().offset(), reader.position().line(), 0);
    }
}
