package ninepin.core.format.workbook;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import ninepin.core.format.lines.TypeTags;
import ninepin.core.layout.CellName;
import ninepin.core.layout.CellName.Area;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;

/** Where rows of a layout stand on a sheet: which rows, which columns, and which record type each row is of. */
final class SheetTable {

    /** Stands for the name of the sheet instead of a column. */
    static final int SHEET_NAME = 0;

    /** Stands for a column that the header lacks. */
    static final int LACKING = -1;

    /** A record type that a text in a column tells. */
    private record Tagged(int type, int column, byte[][] texts) {

        boolean has(Cell cell, byte[] line) {
            for (byte[] text : texts) {
                if (Arrays.equals(line, cell.from, cell.to, text, 0, text.length)) {
                    return true;
                }
            }
            return false;
        }
    }

    private final Area area;
    private final int headerRow;
    private final int firstRow;
    private final int lastRow;
    private final int lastPlain;
    private final List<Tagged> tagged = new ArrayList<>();
    private int last = TypeTags.UNKNOWN;
    private int plain = TypeTags.UNKNOWN;
    private final int[][] columns;
    private final boolean[] wanted;
    private final String tags;

    /**
     * @param types the record types whose rows stand here
     * @param area the cells
     * @param headerRow the row that names the columns; 0 where there is none
     * @param firstRow the first row of values
     * @param lastRow the last one that has anything in it
     * @param lastPlain the last one of those that nothing tells from others
     * @param columns for each record type of the layout the column of each field, from 1; {@link #SHEET_NAME}, {@link #LACKING}
     */
    SheetTable(
            Layout layout,
            List<Integer> types,
            Area area,
            int headerRow,
            int firstRow,
            int lastRow,
            int lastPlain,
            int[][] columns) {
        this.area = area;
        this.headerRow = headerRow;
        this.firstRow = firstRow;
        this.lastRow = lastRow;
        this.lastPlain = lastPlain;
        this.columns = columns;
        int widest = 0;
        List<String> texts = new ArrayList<>();
        for (int t : types) {
            Recognition.Rows when = rows(layout.recordTypes().get(t));
            if (when.last() != null) {
                last = t;
            } else if (when.column() != null) {
                byte[][] all = when.values().stream()
                        .map(v -> v.getBytes(StandardCharsets.UTF_8))
                        .toArray(byte[][]::new);
                tagged.add(new Tagged(t, CellName.column(when.column()), all));
                texts.addAll(when.values());
                widest = Math.max(widest, CellName.column(when.column()));
            } else {
                plain = t;
            }
            widest = Math.max(widest, Arrays.stream(columns[t]).max().orElse(0));
        }
        this.tags = String.join(", ", texts);
        this.wanted = new boolean[widest + 1];
        for (int t : types) {
            for (int column : columns[t]) {
                if (column > 0) {
                    wanted[column] = true;
                }
            }
        }
        tagged.forEach(t -> wanted[t.column()] = true);
    }

    static Recognition.Rows rows(RecordType type) {
        return (Recognition.Rows) type.when();
    }

    /** The record types of a layout by the cells that their rows stand in. */
    static Map<Recognition.Rows.Table, List<Integer>> byCells(Layout layout) {
        Map<Recognition.Rows.Table, List<Integer>> types = new LinkedHashMap<>();
        for (int t = 0; t < layout.recordTypes().size(); t++) {
            types.computeIfAbsent(rows(layout.recordTypes().get(t)).table(), k -> new ArrayList<>())
                    .add(t);
        }
        return types;
    }

    /** The columns of the fields of a type as far as the layout alone says. */
    static int[] columnsOf(RecordType type) {
        return type.fields().stream().mapToInt(SheetTable::columnOf).toArray();
    }

    private static int columnOf(Field field) {
        Place place = field.place();
        return place instanceof Place.Letter letter
                ? letter.number()
                : place instanceof Place.SheetName ? SHEET_NAME : LACKING;
    }

    Area area() {
        return area;
    }

    int headerRow() {
        return headerRow;
    }

    /** Whether a row is one of values. */
    boolean hasRow(int row) {
        return row >= firstRow && row <= lastRow;
    }

    /** Whether a row stands behind those that nothing tells from others, so that a text has to. */
    boolean isBehind(int row) {
        return row > lastPlain;
    }

    /** Whether a cell of a row tells its record type. */
    boolean isTold(int column, Cell cell, byte[] line) {
        return tagged.stream().anyMatch(t -> t.column() == column && t.has(cell, line));
    }

    /** Whether a column lies in the cells. */
    boolean hasColumn(int column) {
        return area.hasColumn(column);
    }

    /** The number behind the last column that is asked for. */
    int width() {
        return wanted.length;
    }

    /** Whether a column is asked for. */
    boolean wants(int column) {
        return column < wanted.length && wanted[column] && area.hasColumn(column);
    }

    /** The columns of the fields of a type. */
    int[] columns(int type) {
        return columns[type];
    }

    /** The texts that tell record types, for a message. */
    String tags() {
        return tags;
    }

    /** The column of the first text that tells a type, from 1; 0 where there is none. */
    int tagColumn() {
        return tagged.isEmpty() ? 0 : tagged.get(0).column();
    }

    /**
     * The type of a row, or {@link TypeTags#UNKNOWN}.
     *
     * @param cells its cells by their columns
     * @param line what they stand in
     */
    int typeOf(int row, Cell[] cells, byte[] line) {
        for (Tagged t : tagged) {
            if (t.has(cells[t.column()], line)) {
                return t.type();
            }
        }
        return last != TypeTags.UNKNOWN && row == lastRow ? last : plain;
    }
}
