package ninepin.core.format.workbook;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.workbook.SampledSheet.Kind;
import ninepin.core.format.workbook.SampledSheet.SampledCell;
import ninepin.core.format.workbook.Transcript.Sheet;
import ninepin.core.layout.CellName.Area;

/** The rows of a sheet in a transcript, from its first one on. */
final class SheetRows {

    private static final int MOST_CELLS = 16_384;

    private final TranscriptLines lines;
    private final byte[] name;
    private final byte[] anyName;
    private final boolean parts;
    private final CellScanner cells = new CellScanner();
    private int row;
    private int cellsFrom;
    private int nameLength;

    SheetRows(ByteSource source, Transcript transcript, Sheet sheet) {
        parts = transcript.parts();
        lines = new TranscriptLines(source, parts ? transcript.head() : sheet.offset());
        name = CellText.quoted(sheet.name());
        anyName = CellText.quoted(WorkbookTables.ANY_SHEET);
    }

    /** Goes to the next row; false behind the last one. Of single rows only those that name columns are gone to. */
    boolean next() throws IOException {
        while (lines.next()) {
            boolean own = startsWith(name);
            boolean header = parts && lines.startsWith("\"");
            if (!own && !(parts && startsWith(anyName))) {
                if (header) {
                    continue;
                }
                return false;
            }
            if (!readHead()) {
                return false;
            }
            if (!parts || isHeader()) {
                return true;
            }
        }
        return false;
    }

    private boolean startsWith(byte[] quoted) {
        int from = lines.start();
        nameLength = quoted.length;
        return lines.end() - from > quoted.length
                && Arrays.equals(lines.bytes(), from, from + quoted.length, quoted, 0, quoted.length)
                && lines.bytes()[from + quoted.length] == CellText.SEPARATOR;
    }

    private boolean readHead() {
        byte[] bytes = lines.bytes();
        int at = lines.start() + nameLength + 1;
        row = 0;
        while (at < lines.end() && bytes[at] >= '0' && bytes[at] <= '9' && row < 100_000_000) {
            row = row * 10 + bytes[at++] - '0';
        }
        at++;
        while (at < lines.end() && bytes[at] != CellText.SEPARATOR) {
            at++;
        }
        cellsFrom = Math.min(at + 1, lines.end());
        return row > 0;
    }

    private boolean isHeader() {
        String flags = new String(lines.bytes(), lines.start(), cellsFrom - lines.start(), StandardCharsets.UTF_8);
        return flags.endsWith("," + Transcript.HEADER + ",");
    }

    int row() {
        return row;
    }

    /** The texts of the cells by their columns, those outside some cells left empty. */
    List<String> cells(Area area) {
        List<String> texts = new ArrayList<>();
        cells.begin(lines.bytes(), cellsFrom, lines.end());
        while (cells.next() && cells.column < MOST_CELLS) {
            while (texts.size() < cells.column) {
                texts.add("");
            }
            texts.add(area.hasColumn(cells.column + 1) ? cells.cell.value(lines.bytes()) : "");
        }
        return texts;
    }

    /** The cells by their columns, with what they are. */
    List<SampledCell> sampled() {
        List<SampledCell> all = new ArrayList<>();
        byte[] bytes = lines.bytes();
        cells.begin(bytes, cellsFrom, lines.end());
        while (cells.next() && cells.column < MOST_CELLS) {
            while (all.size() < cells.column) {
                all.add(SampledCell.EMPTY);
            }
            all.add(new SampledCell(kind(cells.cell, bytes), cells.cell.value(bytes)));
        }
        return all;
    }

    private static Kind kind(Cell cell, byte[] bytes) {
        if (cell.isEmpty() || cell.covered) {
            return Kind.NONE;
        }
        if (cell.text) {
            return Kind.TEXT;
        }
        byte first = bytes[cell.from];
        if (first == 'T' || first == 'F') {
            return Kind.TRUTH;
        }
        if (first == CellText.ERROR || first == CellText.NO_VALUE) {
            return Kind.OTHER;
        }
        return CellValues.isMoment(bytes, cell.from, cell.to) ? Kind.MOMENT : Kind.NUMBER;
    }

    /** Whether anything stands in some cells of the row. */
    boolean isIn(Area area) {
        if (!area.hasRow(row)) {
            return false;
        }
        cells.begin(lines.bytes(), cellsFrom, lines.end());
        while (cells.next()) {
            if (area.hasColumn(cells.column + 1) && !cells.cell.isEmpty()) {
                return true;
            }
        }
        return false;
    }

    /** The row as it stands in front of single rows. */
    byte[] asHeader() {
        RowBytes out = new RowBytes();
        out.add(lines.bytes(), lines.start(), nameLength + 1);
        out.add(row);
        out.addAscii("," + Transcript.HEADER + ",");
        out.add(lines.bytes(), cellsFrom, lines.end() - cellsFrom);
        out.addAscii("\n");
        return Arrays.copyOf(out.bytes, out.length);
    }
}
