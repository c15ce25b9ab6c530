package ninepin.core.read;

import java.io.IOException;
import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.source.ByteSource;

/**
 * What stands before the first record of a delimited file: a byte order mark, lines to skip, the header row.
 *
 * @param body where the first record starts
 * @param columns the names in the header row in order; empty where there is none
 * @param columnOf for each field of the layout the column it stands in, from 0, or -1 where the header lacks it
 * @param headerOffset the byte where the header row starts, or where it would
 * @param headerLine the line of the header row
 * @param fault what keeps the file from being read, or null
 */
public record DelimitedOpening(
        Position body, List<String> columns, int[] columnOf, long headerOffset, long headerLine, Fault fault) {

    /** Reads the start of a file. */
    public static DelimitedOpening of(ByteSource source, Layout layout) throws IOException {
        Delimited format = (Delimited) layout.format();
        List<Field> fields = layout.onlyType().fields();
        int[] columnOf = new int[fields.size()];
        for (int f = 0; f < columnOf.length; f++) {
            Integer column = fields.get(f).column();
            columnOf[f] = column == null ? -1 : column - 1;
        }
        byte[] first = source.slice(0, 4);
        Fault wrongMark = wrongByteOrderMark(first, format.charset());
        int mark = format.charset() == FileCharset.UTF_8 && isUtf8Mark(first) ? 3 : 0;
        Position at = afterSkipped(source, format, new Position(mark, 1, 0));
        if (wrongMark != null) {
            return new DelimitedOpening(at, List.of(), columnOf, 0, 1, wrongMark);
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
            return new DelimitedOpening(at, List.of(), columnOf, 0, 1, format.header() ? empty : null);
        }
        if (!format.header()) {
            return new DelimitedOpening(at, List.of(), columnOf, at.offset(), at.line(), null);
        }
        return withHeader(source, format, fields, columnOf, at);
    }

    private static DelimitedOpening withHeader(
            ByteSource source, Delimited format, List<Field> fields, int[] columnOf, Position at) throws IOException {
        DelimitedReader reader = new DelimitedReader(source, format, at);
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
            return new DelimitedOpening(at, List.of(), columnOf, at.offset(), at.line(), none);
        }
        if (row.fault() != null) {
            return new DelimitedOpening(at, List.of(), columnOf, at.offset(), at.line(), row.fault());
        }
        List<String> columns = names(row, format);
        Position body =
                new Position(reader.position().offset(), reader.position().line(), 0);
        Fault fault = resolve(columns, fields, columnOf, row.length());
        return new DelimitedOpening(body, columns, columnOf, at.offset(), at.line(), fault);
    }

    private static List<String> names(RawRecord row, Delimited format) {
        Charset charset = format.charset().charset();
        char quote = format.quote() == null ? 0 : format.quote();
        List<String> names = new ArrayList<>(row.fieldCount());
        for (int f = 0; f < row.fieldCount(); f++) {
            names.add(row.text(f, charset, quote).strip());
        }
        return names;
    }

    private static Fault resolve(List<String> columns, List<Field> fields, int[] columnOf, int length) {
        Map<String, Integer> byName = new HashMap<>();
        Map<String, String> twice = new LinkedHashMap<>();
        for (int c = 0; c < columns.size(); c++) {
            if (byName.putIfAbsent(columns.get(c), c) != null) {
                twice.put(columns.get(c), columns.get(c));
            }
        }
        List<String> missing = new ArrayList<>();
        for (int f = 0; f < columnOf.length; f++) {
            String header = fields.get(f).header();
            if (header == null) {
                continue;
            }
            if (twice.containsKey(header)) {
                return new Fault(
                        "HDR-03",
                        -1,
                        0,
                        length,
                        "the column " + Shown.quoted(header) + " twice",
                        "each column once",
                        "Let the field stand by its column number instead.");
            }
            Integer column = byName.get(header);
            if (column == null) {
                missing.add(header);
            } else {
                columnOf[f] = column;
            }
        }
        return missing.isEmpty() ? null : missingFault(missing, columns, length);
    }

    private static Fault missingFault(List<String> missing, List<String> columns, int length) {
        String shown = String.join(", ", columns.size() > 20 ? columns.subList(0, 20) : columns);
        String near = nearest(missing.get(0), columns);
        List<String> firstMissing = missing.size() > 20 ? missing.subList(0, 20) : missing;
        return new Fault(
                "HDR-02",
                -1,
                0,
                length,
                columns.size() + " columns: " + Shown.visible(shown) + (columns.size() > 20 ? " …" : ""),
                (missing.size() == 1 ? "also a column " : "also columns ")
                        + String.join(", ", firstMissing)
                        + (missing.size() > 20 ? " … (" + missing.size() + " in all)" : ""),
                near == null
                        ? "Check the delimiter and the header row, or change the layout."
                        : "The nearest column is " + Shown.quoted(near) + ".");
    }

    /** The column whose name is alike but for case, blanks or two letters; or null. */
    static String nearest(String wanted, List<String> columns) {
        String plain = plain(wanted);
        String best = null;
        int bestDistance = 3;
        for (String column : columns) {
            int distance = EditDistance.of(plain, plain(column), bestDistance);
            if (distance < bestDistance && distance * 2 < Math.max(plain.length(), 1)) {
                bestDistance = distance;
                best = column;
            }
        }
        return best;
    }

    private static String plain(String name) {
        return name.toLowerCase(Locale.ROOT).replaceAll("[\\s_.-]", "");
    }

    private static Position afterSkipped(ByteSource source, Delimited format, Position start) throws IOException {
        if (format.skipLines() == 0) {
            return start;
        }
        Delimited plain = new Delimited(format.charset(), format.delimiter(), null, false, 0, Delimited.BlankRows.SKIP);
        DelimitedReader reader = new DelimitedReader(source, plain, start);
        for (int i = 0; i < format.skipLines() && reader.next() != RecordReader.Item.END; i++) {
            // Each step passes over one line, whatever stands on it.
        }
        return new Position(reader.position().offset(), reader.position().line(), 0);
    }

    private static boolean isUtf8Mark(byte[] b) {
        return b.length >= 3 && b[0] == (byte) 0xef && b[1] == (byte) 0xbb && b[2] == (byte) 0xbf;
    }

    private static Fault wrongByteOrderMark(byte[] b, FileCharset charset) {
        String found = null;
        if (b.length >= 2
                && (b[0] == (byte) 0xff && b[1] == (byte) 0xfe || b[0] == (byte) 0xfe && b[1] == (byte) 0xff)) {
            found = "UTF-16";
        } else if (isUtf8Mark(b) && charset != FileCharset.UTF_8) {
            found = "UTF-8";
        }
        if (found == null) {
            return null;
        }
        return new Fault(
                "CHR-03",
                -1,
                0,
                0,
                "the byte order mark of " + found,
                "text in " + charset.label(),
                "Choose the charset " + found + " in the layout, or have the file sent in " + charset.label() + ".");
    }
}
