package ninepin.core.format.delimited;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.record.RecordWriter;
import ninepin.core.record.WriteStyle;
import ninepin.core.value.UnwritableException;
import ninepin.core.value.ValueFormat;

/** Writes delimited rows; what holds a delimiter, a quote or a line end stands in quotes. */
final class DelimitedWriter implements RecordWriter {

    private final OutputStream out;
    private final Layout layout;
    private final Delimited format;
    private final Charset charset;
    private final boolean marked;
    private final String end;

    DelimitedWriter(OutputStream out, Layout layout, WriteStyle style) {
        this.out = out;
        this.layout = layout;
        this.format = (Delimited) layout.format();
        Charset own = format.charset().charset();
        this.charset = own == StandardCharsets.UTF_16 ? StandardCharsets.UTF_16BE : own;
        this.marked = charset != own;
        String recordEnd = format.habitsOrNone().recordEnd();
        this.end = recordEnd != null ? recordEnd : style.lineEndOr(WriteStyle.LineEnd.CRLF);
    }

    /** Writes what stands before the first record. */
    DelimitedWriter begin() throws IOException {
        if (marked) {
            put("\ufeff");
        }
        for (int i = 0; i < format.skipLines(); i++) {
            put(end);
        }
        if (format.header()) {
            List<String> names = new ArrayList<>();
            for (Field field : layout.firstType().fields()) {
                int column = field.place() instanceof Place.Column c ? c.number() - 1 : names.size();
                while (names.size() <= column) {
                    names.add("");
                }
                names.set(column, field.heading());
            }
            row(names.stream().map(this::quoted).toList());
        }
        return this;
    }

    @Override
    public void write(int type, List<String> values) throws IOException {
        RecordType of = layout.recordTypes().get(type);
        List<String> cells = new ArrayList<>();
        for (int f = 0; f < values.size(); f++) {
            Field field = of.fields().get(f);
            int column = field.place() instanceof Place.Column c ? c.number() - 1 : f;
            while (cells.size() <= column) {
                cells.add("");
            }
            cells.set(column, values.get(f) == null ? nullText() : quoted(ValueFormat.text(field, values.get(f))));
        }
        if (of.when() instanceof Recognition.Tag tag) {
            while (cells.size() < tag.column()) {
                cells.add("");
            }
            cells.set(tag.column() - 1, quoted(tag.values().get(0)));
        }
        row(cells);
    }

    private String nullText() {
        String text = format.habitsOrNone().nullText();
        return text == null ? "" : text;
    }

    /** Writes cells that stand in quotes already where they need them. */
    private void row(List<String> written) throws IOException {
        String last = format.habitsOrNone().trailingDelimiter() ? format.delimiter() : "";
        put(String.join(format.delimiter(), written) + last + end);
    }

    private String quoted(String cell) {
        boolean needed = cell.contains(end)
                || cell.equals(format.habitsOrNone().nullText())
                || cell.chars().anyMatch(c -> c == '\r' || c == '\n')
                // The end of a text and the delimiter behind it may together hold one that begins earlier.
                || (cell + format.delimiter()).indexOf(format.delimiter()) < cell.length()
                || format.quote() != null && cell.indexOf(format.quote()) >= 0
                || format.habitsOrNone().comment() != null
                        && cell.startsWith(format.habitsOrNone().comment());
        if (!needed) {
            return cell;
        }
        if (format.quote() == null) {
            throw new UnwritableException("cell", "\"" + cell + "\" needs quotes, and the layout has none");
        }
        String quote = String.valueOf(format.quote());
        return quote + cell.replace(quote, quote + quote) + quote;
    }

    private void put(String text) throws IOException {
        byte[] bytes = text.getBytes(charset);
        if (!Arrays.equals(
                text.codePoints().toArray(),
                new String(bytes, charset).codePoints().toArray())) {
            throw new UnwritableException("row", "it has a character that " + format.charset() + " lacks");
        }
        out.write(bytes);
    }

    @Override
    public void close() throws IOException {
        out.close();
    }
}
