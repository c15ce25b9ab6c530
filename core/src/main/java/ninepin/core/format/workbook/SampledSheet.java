package ninepin.core.format.workbook;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.workbook.Transcript.Sheet;
import ninepin.core.layout.CellName.Area;

/**
 * The first rows of a sheet, for a layout to be proposed from.
 *
 * @param rows those that have anything in them
 * @param whole whether they are all of the sheet
 */
record SampledSheet(String name, boolean visible, List<SampledRow> rows, boolean whole) {

    /** So many rows of a sheet are looked at. */
    private static final int MOST_ROWS = 3_000;

    /** So many cells of all rows. */
    private static final int MOST_CELLS = 300_000;

    /** What stands in a cell. */
    enum Kind {
        NONE,
        TEXT,
        NUMBER,
        MOMENT,
        TRUTH,
        OTHER
    }

    /** A cell. */
    record SampledCell(Kind kind, String value) {
        static final SampledCell EMPTY = new SampledCell(Kind.NONE, "");

        boolean isText() {
            return kind == Kind.TEXT && !value.isBlank();
        }

        boolean isEmpty() {
            return kind == Kind.NONE || value.isBlank();
        }
    }

    /**
     * A row.
     *
     * @param number its number on the sheet
     * @param cells its cells by their columns
     */
    record SampledRow(int number, List<SampledCell> cells) {

        /** The cell of a column, from 1. */
        SampledCell cell(int column) {
            return column <= cells.size() ? cells.get(column - 1) : SampledCell.EMPTY;
        }

        /** How many cells have something in them. */
        int filled() {
            return (int) cells.stream().filter(c -> !c.isEmpty()).count();
        }
    }

    static SampledSheet of(ByteSource source, Transcript transcript, Sheet sheet) throws IOException {
        List<SampledRow> rows = new ArrayList<>();
        SheetRows all = new SheetRows(source, transcript, sheet);
        int cells = 0;
        while (rows.size() < MOST_ROWS && cells < MOST_CELLS) {
            if (!all.next()) {
                return new SampledSheet(sheet.name(), sheet.visible(), rows, true);
            }
            SampledRow row = new SampledRow(all.row(), all.sampled());
            cells += row.cells().size();
            rows.add(row);
        }
        return new SampledSheet(sheet.name(), sheet.visible(), rows, false);
    }

    /** The same with what stands in some cells only. */
    SampledSheet within(Area area) {
        List<SampledRow> inside = new ArrayList<>();
        for (SampledRow row : rows) {
            if (!area.hasRow(row.number())) {
                continue;
            }
            List<SampledCell> cells = new ArrayList<>();
            for (int c = 1; c <= row.cells().size(); c++) {
                cells.add(area.hasColumn(c) ? row.cell(c) : SampledCell.EMPTY);
            }
            SampledRow own = new SampledRow(row.number(), cells);
            if (own.filled() > 0) {
                inside.add(own);
            }
        }
        return new SampledSheet(name, visible, inside, whole);
    }
}
