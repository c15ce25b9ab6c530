package ninepin.core.testing;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/**
 * Workbooks out of a text that people can read. They are put together by hand here, part by part, and not by the code that is tested.
 *
 * <pre>
 * book 1904                       days count from 1904
 * name NAME = Sheet!A4:C9         a range with a name
 * table NAME A4:C9 header=1 totals=0    a table of the sheet that follows or is open
 * sheet NAME [hidden]             begins a sheet
 * hide C:D                        hidden columns
 * merge A5:A7                     merged cells
 * raw XML                         anything, instead of a row
 * 4: Month | Grade | 0.5          a row with its number; "4 hidden:" is hidden
 * </pre>
 *
 * A cell is a number as it is written, {@code {0000}12} a number with a format, {@code =SUM(A1) -> 5} a formula with its kept value,
 * {@code =A1} one without, {@code #N/A} an error, {@code TRUE}, {@code iso:2026-11-01} a date as text of ISO 8601, {@code inline:x} a
 * text in the cell, anything else a shared text. An escape is {@code \n} or {@code \p} for a bar.
 */
public final class WorkbookText {

    private static final String MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
    private static final String OFFICE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";

    private record Table(String name, String cells, String more) {}

    private static final class Sheet {
        private final String name;
        private final boolean hidden;
        private final StringBuilder rows = new StringBuilder();
        private final StringBuilder columns = new StringBuilder();
        private final StringBuilder merged = new StringBuilder();
        private final List<Table> tables = new ArrayList<>();

        private Sheet(String name, boolean hidden) {
            this.name = name;
            this.hidden = hidden;
        }
    }

    private final List<Sheet> sheets = new ArrayList<>();
    private final Map<String, Integer> texts = new LinkedHashMap<>();
    private final Map<String, Integer> formats = new LinkedHashMap<>();
    private final StringBuilder names = new StringBuilder();
    private boolean from1904;

    private WorkbookText() {
        formats.put("General", 0);
    }

    /** The bytes of a workbook. */
    public static byte[] bytes(List<String> lines) throws IOException {
        WorkbookText book = new WorkbookText();
        lines.forEach(book::line);
        return book.zipped();
    }

    /** The bytes of a workbook that is described on several lines. */
    public static byte[] bytes(String text) throws IOException {
        return bytes(text.lines().toList());
    }

    private Sheet sheet() {
        return sheets.get(sheets.size() - 1);
    }

    private void line(String line) {
        if (line.isBlank()) {
            return;
        }
        String[] words = line.strip().split(" ");
        switch (words[0]) {
            case "book" -> from1904 = true;
            case "sheet" -> {
                boolean hidden = line.endsWith(" hidden");
                sheets.add(new Sheet(line.substring(6, line.length() - (hidden ? 7 : 0)), hidden));
            }
            case "hide" -> {
                String[] of = words[1].split(":");
                sheet().columns
                        .append("<col min=\"" + column(of[0]) + "\" max=\"" + column(of[of.length - 1])
                                + "\" hidden=\"1\"/>");
            }
            case "merge" -> sheet().merged.append("<mergeCell ref=\"" + words[1] + "\"/>");
            case "table" -> sheet().tables.add(new Table(words[1], words[2], more(words)));
            case "name" ->
                names.append("<definedName name=\"" + words[1] + "\">" + escaped(words[3]) + "</definedName>");
            case "raw" -> sheet().rows.append(line.strip().substring(4));
            default -> row(line);
        }
    }

    private static String more(String[] words) {
        StringBuilder more = new StringBuilder();
        for (int i = 3; i < words.length; i++) {
            String[] of = words[i].split("=");
            more.append(" " + (of[0].equals("header") ? "headerRowCount" : "totalsRowCount") + "=\"" + of[1] + "\"");
        }
        return more.toString();
    }

    private void row(String line) {
        int colon = line.indexOf(':');
        String[] head = line.substring(0, colon).strip().split(" ");
        StringBuilder row = sheet().rows;
        row.append("<row r=\"" + head[0] + "\"" + (head.length > 1 ? " hidden=\"1\"" : "") + ">");
        String[] cells = line.substring(colon + 1).split("\\|", -1);
        for (int c = 0; c < cells.length; c++) {
            cell(
                    row,
                    letters(c + 1) + head[0],
                    cells[c].strip().replace("\\n", "\n").replace("\\p", "|"));
        }
        row.append("</row>");
    }

    private void cell(StringBuilder row, String name, String text) {
        String start = "<c r=\"" + name + "\"";
        if (text.isEmpty()) {
            return;
        }
        if (text.startsWith("=")) {
            int kept = text.indexOf(" -> ");
            String formula = "<f>" + escaped(text.substring(1, kept < 0 ? text.length() : kept)) + "</f>";
            String value = kept < 0 ? null : text.substring(kept + 4);
            boolean number = value == null || value.matches("-?[\\d.]+(E-?\\d+)?");
            row.append(start + (number ? ">" : " t=\"str\">") + formula
                    + (value == null ? "" : "<v>" + escaped(value) + "</v>") + "</c>");
        } else if (text.startsWith("{")) {
            int end = text.indexOf('}');
            String format = text.substring(1, end);
            formats.putIfAbsent(format, formats.size());
            row.append(start + " s=\"" + formats.get(format) + "\"><v>" + text.substring(end + 1) + "</v></c>");
        } else if (text.startsWith("#")) {
            row.append(start + " t=\"e\"><v>" + text + "</v></c>");
        } else if (text.equals("TRUE") || text.equals("FALSE")) {
            row.append(start + " t=\"b\"><v>" + (text.equals("TRUE") ? 1 : 0) + "</v></c>");
        } else if (text.startsWith("iso:")) {
            row.append(start + " t=\"d\"><v>" + text.substring(4) + "</v></c>");
        } else if (text.startsWith("inline:")) {
            row.append(start + " t=\"inlineStr\"><is><t xml:space=\"preserve\">" + escaped(text.substring(7))
                    + "</t></is></c>");
        } else if (text.matches("-?\\d[\\d.]*(E[+-]?\\d+)?")) {
            row.append(start + "><v>" + text + "</v></c>");
        } else {
            String bare = text.startsWith("'") ? text.substring(1) : text;
            texts.putIfAbsent(bare, texts.size());
            row.append(start + " t=\"s\"><v>" + texts.get(bare) + "</v></c>");
        }
    }

    private static String escaped(String text) {
        return text.replace("&", "&amp;").replace("<", "&lt;").replace("\"", "&quot;");
    }

    private static int column(String letters) {
        return letters.chars().reduce(0, (n, c) -> n * 26 + c - 'A' + 1);
    }

    private static String letters(int column) {
        return column <= 26
                ? String.valueOf((char) ('A' + column - 1))
                : letters((column - 1) / 26) + letters((column - 1) % 26 + 1);
    }

    private byte[] zipped() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            StringBuilder types =
                    new StringBuilder("<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\">"
                            + "<Default Extension=\"rels\" ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/>"
                            + "<Default Extension=\"xml\" ContentType=\"application/xml\"/>");
            type(types, "workbook.xml", "sheet.main");
            type(types, "styles.xml", "styles");
            type(types, "sharedStrings.xml", "sharedStrings");
            StringBuilder book = new StringBuilder("<workbook xmlns=\"" + MAIN + "\" xmlns:r=\"" + OFFICE + "\">"
                    + (from1904 ? "<workbookPr date1904=\"1\"/>" : "") + "<sheets>");
            StringBuilder relations = new StringBuilder();
            int table = 0;
            for (int i = 1; i <= sheets.size(); i++) {
                Sheet sheet = sheets.get(i - 1);
                type(types, "worksheets/sheet" + i + ".xml", "worksheet");
                book.append("<sheet name=\"" + escaped(sheet.name) + "\" sheetId=\"" + i + "\""
                        + (sheet.hidden ? " state=\"hidden\"" : "") + " r:id=\"r" + i + "\"/>");
                relations.append(relation("r" + i, "worksheet", "worksheets/sheet" + i + ".xml"));
                StringBuilder own = new StringBuilder();
                StringBuilder parts = new StringBuilder();
                for (Table t : sheet.tables) {
                    table++;
                    type(types, "tables/table" + table + ".xml", "table");
                    own.append(relation("t" + table, "table", "../tables/table" + table + ".xml"));
                    parts.append("<tablePart r:id=\"t" + table + "\"/>");
                    put(
                            zip,
                            "xl/tables/table" + table + ".xml",
                            "<table xmlns=\"" + MAIN + "\" id=\"" + table + "\" name=\"" + t.name
                                    + "\" displayName=\"" + t.name + "\" ref=\"" + t.cells + "\"" + t.more
                                    + "><tableColumns count=\"1\">"
                                    + "<tableColumn id=\"1\" name=\"x\"/></tableColumns></table>");
                }
                put(
                        zip,
                        "xl/worksheets/sheet" + i + ".xml",
                        "<worksheet xmlns=\"" + MAIN + "\" xmlns:r=\"" + OFFICE + "\">"
                                + (sheet.columns.isEmpty() ? "" : "<cols>" + sheet.columns + "</cols>") + "<sheetData>"
                                + sheet.rows
                                + "</sheetData>"
                                + (sheet.merged.isEmpty() ? "" : "<mergeCells>" + sheet.merged + "</mergeCells>")
                                + (parts.isEmpty() ? "" : "<tableParts>" + parts + "</tableParts>") + "</worksheet>");
                if (!own.isEmpty()) {
                    put(zip, "xl/worksheets/_rels/sheet" + i + ".xml.rels", relations(own));
                }
            }
            put(zip, "[Content_Types].xml", types + "</Types>");
            put(zip, "_rels/.rels", relations(new StringBuilder(relation("r1", "officeDocument", "xl/workbook.xml"))));
            put(
                    zip,
                    "xl/workbook.xml",
                    book + "</sheets>" + (names.isEmpty() ? "" : "<definedNames>" + names + "</definedNames>")
                            + "</workbook>");
            relations.append(relation("s1", "styles", "styles.xml"));
            relations.append(relation("s2", "sharedStrings", "sharedStrings.xml"));
            put(zip, "xl/_rels/workbook.xml.rels", relations(relations));
            put(zip, "xl/styles.xml", styles());
            StringBuilder shared = new StringBuilder("<sst xmlns=\"" + MAIN + "\">");
            texts.keySet().forEach(t -> shared.append("<si><t xml:space=\"preserve\">" + escaped(t) + "</t></si>"));
            put(zip, "xl/sharedStrings.xml", shared + "</sst>");
        }
        return out.toByteArray();
    }

    private String styles() {
        StringBuilder own = new StringBuilder();
        StringBuilder styles = new StringBuilder();
        int id = 164;
        for (String format : formats.keySet()) {
            boolean general = format.equals("General");
            boolean builtIn = format.matches("#\\d+");
            if (!general && !builtIn) {
                own.append("<numFmt numFmtId=\"" + id + "\" formatCode=\"" + escaped(format) + "\"/>");
            }
            styles.append(
                    "<xf numFmtId=\"" + (general ? 0 : builtIn ? format.substring(1) : String.valueOf(id++)) + "\"/>");
        }
        return "<styleSheet xmlns=\"" + MAIN + "\">" + (own.isEmpty() ? "" : "<numFmts>" + own + "</numFmts>")
                + "<fonts><font/></fonts><fills><fill/></fills><borders><border/></borders><cellStyleXfs><xf/></cellStyleXfs><cellXfs>"
                + styles + "</cellXfs></styleSheet>";
    }

    private static void type(StringBuilder types, String part, String kind) {
        types.append("<Override PartName=\"/xl/" + part
                + "\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml." + kind + "+xml\"/>");
    }

    private static String relation(String id, String type, String target) {
        return "<Relationship Id=\"" + id + "\" Type=\"" + OFFICE + "/" + type + "\" Target=\"" + target + "\"/>";
    }

    private static String relations(StringBuilder all) {
        return "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\">" + all
                + "</Relationships>";
    }

    private static void put(ZipOutputStream zip, String name, String text) throws IOException {
        zip.putNextEntry(new ZipEntry(name));
        zip.write(("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n" + text).getBytes(StandardCharsets.UTF_8));
        zip.closeEntry();
    }
}
