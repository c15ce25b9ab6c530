package ninepin.core.format.workbook;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import ninepin.core.bytes.FileSource;
import ninepin.core.format.workbook.Transcript.Range;
import ninepin.core.layout.CellName;

/**
 * Makes a workbook of the lines of a transcript, a sheet at a time. The same lines always give the same bytes: a run that was broken off
 * while it gave the workbook its name has to make it again just so.
 */
final class WorkbookComposer {

    /** Parts bear no time: that of the first day that their package knows. */
    private static final LocalDateTime NO_TIME = LocalDateTime.of(1980, 1, 1, 0, 0);

    private final Map<String, ComposedSheet> sheets = new LinkedHashMap<>();
    private final List<Range> ranges = new ArrayList<>();
    private final CellStyles styles = new CellStyles();

    private WorkbookComposer() {}

    static void compose(Path rows, Path to) throws IOException {
        WorkbookComposer composer = new WorkbookComposer();
        try (FileSource source = FileSource.open(rows);
                OutputStream out = new BufferedOutputStream(Files.newOutputStream(to), 1 << 18)) {
            composer.survey(source);
            composer.write(source, out);
        }
    }

    /** Goes over all lines: which sheets there are, how wide their columns are, whether their rows are in order. */
    private void survey(FileSource source) throws IOException {
        TranscriptLines lines = new TranscriptLines(source, 0);
        while (lines.next()) {
            if (lines.startsWith(Transcript.RANGE)) {
                ranges.add(Range.of(
                        CellScanner.texts(lines.bytes(), lines.start() + Transcript.RANGE.length(), lines.end())));
            } else if (lines.startsWith("\"")) {
                RowLine row = RowLine.of(lines);
                sheets.computeIfAbsent(row.sheet(), name -> new ComposedSheet(name, sheets.size() + 1, styles))
                        .survey(row);
            }
        }
        if (sheets.isEmpty()) {
            // A workbook has one sheet at least.
            sheets.put("Sheet 1", new ComposedSheet("Sheet 1", 1, styles));
        }
    }

    private void write(FileSource source, OutputStream out) throws IOException {
        // The stream is closed by whoever opened it.
        ZipOutputStream zip = new ZipOutputStream(out, StandardCharsets.UTF_8);
        part(zip, "[Content_Types].xml", contentTypes());
        part(zip, "_rels/.rels", Xml.relations(List.of("officeDocument\" Target=\"xl/workbook.xml")));
        part(zip, "xl/workbook.xml", book());
        List<String> relations = new ArrayList<>();
        sheets.values().forEach(s -> relations.add("worksheet\" Target=\"worksheets/sheet" + s.number() + ".xml"));
        relations.add("styles\" Target=\"styles.xml");
        part(zip, "xl/_rels/workbook.xml.rels", Xml.relations(relations));
        for (ComposedSheet sheet : sheets.values()) {
            begin(zip, "xl/worksheets/sheet" + sheet.number() + ".xml");
            sheet.write(source, zip);
            zip.closeEntry();
        }
        part(zip, "xl/styles.xml", styles.part());
        zip.finish();
    }

    private static void begin(ZipOutputStream zip, String name) throws IOException {
        ZipEntry entry = new ZipEntry(name);
        entry.setTimeLocal(NO_TIME);
        zip.putNextEntry(entry);
    }

    private static void part(ZipOutputStream zip, String name, String text) throws IOException {
        begin(zip, name);
        zip.write((Xml.DECLARATION + text).getBytes(StandardCharsets.UTF_8));
        zip.closeEntry();
    }

    private String contentTypes() {
        String sheet = "application/vnd.openxmlformats-officedocument.spreadsheetml.";
        StringBuilder text =
                new StringBuilder("<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\">"
                        + "<Default Extension=\"rels\" ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/>"
                        + "<Default Extension=\"xml\" ContentType=\"application/xml\"/>");
        text.append("<Override PartName=\"/xl/workbook.xml\" ContentType=\"" + sheet + "sheet.main+xml\"/>");
        text.append("<Override PartName=\"/xl/styles.xml\" ContentType=\"" + sheet + "styles+xml\"/>");
        for (ComposedSheet s : sheets.values()) {
            text.append("<Override PartName=\"/xl/worksheets/sheet" + s.number() + ".xml\" ContentType=\"" + sheet
                    + "worksheet+xml\"/>");
        }
        return text.append("</Types>").toString();
    }

    private String book() {
        StringBuilder text =
                new StringBuilder("<workbook xmlns=\"" + Xml.MAIN + "\" xmlns:r=\"" + Xml.RELATIONS + "\"><sheets>");
        for (ComposedSheet s : sheets.values()) {
            text.append("<sheet name=\"" + Xml.attribute(s.name()) + "\" sheetId=\"" + s.number() + "\" r:id=\"r"
                    + s.number() + "\"/>");
        }
        text.append("</sheets>");
        if (!ranges.isEmpty()) {
            text.append("<definedNames>");
            for (Range r : ranges) {
                text.append("<definedName name=\"" + Xml.attribute(r.name()) + "\">'"
                        + Xml.attribute(r.sheet().replace("'", "''")) + "'!"
                        + corner(r.area().firstColumn(), r.area().firstRow())
                        + ":" + corner(r.area().lastColumn(), r.area().lastRow()) + "</definedName>");
            }
            text.append("</definedNames>");
        }
        return text.append("</workbook>").toString();
    }

    private static String corner(int column, int row) {
        return "$" + CellName.letters(column) + "$" + row;
    }

    /** Pieces of the parts. */
    static final class Xml {
        static final String DECLARATION = "<?xml version=\"1.0\" encoding=\"UTF-8\" standalone=\"yes\"?>\n";
        static final String MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
        static final String RELATIONS = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";

        private Xml() {}

        static String attribute(String text) {
            return escaped(text).replace("\"", "&quot;");
        }

        static String relations(List<String> targets) {
            StringBuilder text = new StringBuilder(
                    "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\">");
            for (int i = 0; i < targets.size(); i++) {
                text.append(
                        "<Relationship Id=\"r" + (i + 1) + "\" Type=\"" + RELATIONS + "/" + targets.get(i) + "\"/>");
            }
            return text.append("</Relationships>").toString();
        }

        /** A text of an element; characters that XML does not have as {@code _x0001_}. */
        static String escaped(String text) {
            StringBuilder out = null;
            for (int i = 0; i < text.length(); i++) {
                char c = text.charAt(i);
                String instead =
                        switch (c) {
                            case '<' -> "&lt;";
                            case '>' -> "&gt;";
                            case '&' -> "&amp;";
                            case '\t', '\n' -> null;
                            case '_' ->
                                text.startsWith("_x", i) && text.length() > i + 6 && text.charAt(i + 6) == '_'
                                        ? "_x005F_"
                                        : null;
                            default -> c < ' ' || c == 0xfffe || c == 0xffff ? String.format("_x%04X_", (int) c) : null;
                        };
                if (instead != null && out == null) {
                    out = new StringBuilder(text.length() + 16).append(text, 0, i);
                }
                if (out != null) {
                    out.append(instead == null ? String.valueOf(c) : instead);
                }
            }
            return out == null ? text : out.toString();
        }
    }

    /** A line that is a row. */
    record RowLine(String sheet, int row, boolean header, int cellsFrom, TranscriptLines lines) {

        static RowLine of(TranscriptLines lines) {
            CellScanner scanner = new CellScanner();
            scanner.begin(lines.bytes(), lines.start(), lines.end());
            scanner.next();
            String sheet = scanner.cell.value(lines.bytes());
            scanner.next();
            int row = Integer.parseInt(scanner.cell.value(lines.bytes()));
            scanner.next();
            boolean header = scanner.cell.value(lines.bytes()).equals(Transcript.HEADER);
            return new RowLine(sheet, row, header, Math.min(scanner.cell.to + 1, lines.end()), lines);
        }
    }
}
