package ninepin.core.format.workbook;

import java.io.IOException;
import java.io.OutputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.TreeMap;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.workbook.WorkbookComposer.RowLine;
import ninepin.core.format.workbook.WorkbookComposer.Xml;
import ninepin.core.layout.CellName;

/** A sheet of a workbook that is composed. */
final class ComposedSheet {

    private static final int NARROWEST = 8;
    private static final int WIDEST = 60;
    private static final int OF_DATE = 11;
    private static final int OF_TIMESTAMP = 19;
    private static final int FLUSHED = 1 << 16;

    private final String name;
    private final int number;
    private final CellStyles styles;
    private int[] widths = new int[16];
    private int columns;
    private int lastRow;
    private int headerRow;
    /** Where each row stands and where its line is, where they are not in order; else null. */
    private long[] places;

    private int count;
    private boolean inOrder = true;
    private final CellScanner scanner = new CellScanner();

    ComposedSheet(String name, int number, CellStyles styles) {
        this.name = name;
        this.number = number;
        this.styles = styles;
    }

    String name() {
        return name;
    }

    int number() {
        return number;
    }

    /** Takes note of a row. */
    void survey(RowLine row) {
        inOrder &= row.row() > lastRow;
        lastRow = Math.max(lastRow, row.row());
        if (row.header()) {
            headerRow = Math.max(headerRow, row.row());
        }
        if (places == null || count == places.length) {
            places = places == null ? new long[256] : Arrays.copyOf(places, count * 2);
        }
        // A transcript is smaller than 2^43 bytes, and a sheet has 2^20 rows.
        places[count++] = (long) row.row() << 43 | row.lines().offset();
        byte[] bytes = row.lines().bytes();
        scanner.begin(bytes, row.cellsFrom(), row.lines().end());
        while (scanner.next()) {
            Cell cell = scanner.cell;
            int column = scanner.column;
            if (!cell.isEmpty() && column < CellName.MOST_COLUMNS) {
                if (column >= widths.length) {
                    widths = Arrays.copyOf(widths, Math.max(widths.length * 2, column + 1));
                }
                columns = Math.max(columns, column + 1);
                widths[column] = Math.max(widths[column], widthOf(cell, bytes));
            }
        }
    }

    private static int widthOf(Cell cell, byte[] line) {
        if (!cell.text && cell.to - cell.from >= 10 && line[cell.from + 4] == '-') {
            return cell.to - cell.from > 10 ? OF_TIMESTAMP : OF_DATE;
        }
        return Math.min(WIDEST, cell.to - cell.from);
    }

    /** Writes the part of the sheet. */
    void write(ByteSource source, OutputStream out) throws IOException {
        StringBuilder text = new StringBuilder(Xml.DECLARATION);
        text.append("<worksheet xmlns=\"" + Xml.MAIN + "\"><sheetViews><sheetView workbookViewId=\"0\""
                + (number == 1 ? " tabSelected=\"1\"" : "") + ">");
        if (headerRow > 0) {
            text.append("<pane ySplit=\"" + headerRow + "\" topLeftCell=\"A" + (headerRow + 1)
                    + "\" activePane=\"bottomLeft\" state=\"frozen\"/>");
        }
        text.append("</sheetView></sheetViews>");
        if (columns > 0) {
            text.append("<cols>");
            for (int c = 0; c < columns; c++) {
                int width = Math.max(NARROWEST, Math.min(WIDEST, widths[c] + 2));
                text.append("<col min=\"" + (c + 1) + "\" max=\"" + (c + 1) + "\" width=\"" + width
                        + "\" customWidth=\"1\"/>");
            }
            text.append("</cols>");
        }
        text.append("<sheetData>");
        if (!inOrder) {
            Arrays.sort(places, 0, count);
        }
        writeRows(source, out, text);
        text.append("</sheetData></worksheet>");
        flush(text, out);
    }

    private void writeRows(ByteSource source, OutputStream out, StringBuilder text) throws IOException {
        TranscriptLines lines = null;
        TreeMap<Integer, String> cells = new TreeMap<>();
        int row = 0;
        long mask = (1L << 43) - 1;
        for (int i = 0; i < count; i++) {
            long offset = places[i] & mask;
            int stated = (int) (places[i] >>> 43);
            if (lines == null || lines.offsetBehind() != offset) {
                lines = new TranscriptLines(source, offset);
            }
            lines.next();
            RowLine line = RowLine.of(lines);
            TreeMap<Integer, String> own = cells(line);
            boolean joins = stated == row && own.keySet().stream().noneMatch(cells::containsKey);
            if (!joins) {
                writeRow(row, cells, text);
                cells.clear();
                row = Math.max(row + 1, stated);
            }
            cells.putAll(own);
            if (text.length() > FLUSHED) {
                flush(text, out);
            }
        }
        writeRow(row, cells, text);
    }

    private static void writeRow(int row, TreeMap<Integer, String> cells, StringBuilder text) {
        if (row == 0) {
            return;
        }
        text.append("<row r=\"").append(row).append("\">");
        cells.forEach((column, cell) -> text.append("<c r=\"")
                .append(CellName.letters(column))
                .append(row)
                .append(cell));
        text.append("</row>");
    }

    /** The cells of a row by their columns, each as it stands behind its name. */
    private TreeMap<Integer, String> cells(RowLine line) {
        TreeMap<Integer, String> cells = new TreeMap<>();
        byte[] bytes = line.lines().bytes();
        scanner.begin(bytes, line.cellsFrom(), line.lines().end());
        while (scanner.next()) {
            Cell cell = scanner.cell;
            if (!cell.isEmpty() && !cell.covered && scanner.column < CellName.MOST_COLUMNS) {
                cells.put(scanner.column + 1, cell(cell, bytes, line.header()));
            }
        }
        return cells;
    }

    private String cell(Cell cell, byte[] bytes, boolean header) {
        String value = cell.value(bytes);
        if (cell.text) {
            int style = styles.of(header ? CellStyles.HEADER : CellStyles.TEXT);
            return "\" s=\"" + style + "\" t=\"inlineStr\"><is><t xml:space=\"preserve\">" + Xml.escaped(value)
                    + "</t></is></c>";
        }
        byte first = bytes[cell.from];
        if (first == 'T' || first == 'F') {
            return "\" t=\"b\"><v>" + (first == 'T' ? 1 : 0) + "</v></c>";
        }
        if (first == CellText.ERROR) {
            return "\" t=\"e\"><v>" + Xml.escaped(value) + "</v></c>";
        }
        if (first == CellText.NO_VALUE) {
            return "\"></c>";
        }
        return number(value, cell, bytes);
    }

    private String number(String value, Cell cell, byte[] bytes) {
        if (value.length() >= 8 && value.indexOf(':') > 0 || value.length() == 10 && value.charAt(4) == '-') {
            if (value.indexOf('T') > 0) {
                LocalDateTime at = LocalDateTime.parse(value);
                BigDecimal serial = BigDecimal.valueOf(CellNumbers.serial(at.toLocalDate()))
                        .add(CellNumbers.partOfDay(at.toLocalTime()));
                return styled(CellStyles.TIMESTAMP, plain(serial));
            }
            if (value.indexOf(':') > 0) {
                return styled(CellStyles.TIME, plain(CellNumbers.partOfDay(LocalTime.parse(value))));
            }
            return styled(CellStyles.DATE, String.valueOf(CellNumbers.serial(LocalDate.parse(value))));
        }
        String format = cell.shownTo > cell.shownFrom
                ? new String(bytes, cell.shownFrom, cell.shownTo - cell.shownFrom, StandardCharsets.UTF_8)
                : CellStyles.GENERAL;
        return styled(format, Xml.escaped(value));
    }

    private static String plain(BigDecimal number) {
        BigDecimal bare = number.stripTrailingZeros();
        return (bare.scale() < 0 ? bare.setScale(0) : bare).toPlainString();
    }

    private String styled(String format, String value) {
        return "\" s=\"" + styles.of(format) + "\"><v>" + value + "</v></c>";
    }

    private static void flush(StringBuilder text, OutputStream out) throws IOException {
        out.write(text.toString().getBytes(StandardCharsets.UTF_8));
        text.setLength(0);
    }
}
