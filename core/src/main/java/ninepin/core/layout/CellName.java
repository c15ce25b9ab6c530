package ninepin.core.layout;

import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Names of columns and cells of a sheet: {@code A} to {@code XFD}, {@code B7}, {@code B4:F30} (ISO/IEC 29500-1, 18.18.62). */
public final class CellName {

    /** The most rows of a sheet. */
    public static final int MOST_ROWS = 1_048_576;

    /** The most columns of a sheet. */
    public static final int MOST_COLUMNS = 16_384;

    /**
     * Cells of a sheet, all bounds inclusive and counted from 1.
     *
     * @param firstColumn the leftmost column
     * @param firstRow the topmost row
     * @param lastColumn the rightmost column
     * @param lastRow the bottom row
     */
    public record Area(int firstColumn, int firstRow, int lastColumn, int lastRow) {

        /** All cells of a sheet. */
        public static final Area ALL = new Area(1, 1, MOST_COLUMNS, MOST_ROWS);

        /** Whether a row has cells in it. */
        public boolean hasRow(int row) {
            return row >= firstRow && row <= lastRow;
        }

        /** Whether a column has cells in it. */
        public boolean hasColumn(int column) {
            return column >= firstColumn && column <= lastColumn;
        }
    }

    private static final int LETTERS = 26;
    private static final int MOST_LETTERS = 3;
    private static final Pattern AREA =
            Pattern.compile("\\$?([A-Z]{1,3})\\$?([1-9]\\d{0,6})(?::\\$?([A-Z]{1,3})\\$?([1-9]\\d{0,6}))?");

    private CellName() {}

    /** The letters of a column, counted from 1. */
    public static String letters(int column) {
        StringBuilder letters = new StringBuilder();
        for (int rest = column; rest > 0; rest = (rest - 1) / LETTERS) {
            letters.insert(0, (char) ('A' + (rest - 1) % LETTERS));
        }
        return letters.toString();
    }

    /** The number of a column by its letters, from 1; 0 where they name none. */
    public static int column(String letters) {
        if (letters == null || letters.isEmpty() || letters.length() > MOST_LETTERS) {
            return 0;
        }
        int column = 0;
        for (char c : letters.toUpperCase(Locale.ROOT).toCharArray()) {
            if (c < 'A' || c > 'Z') {
                return 0;
            }
            column = column * LETTERS + c - 'A' + 1;
        }
        return column <= MOST_COLUMNS ? column : 0;
    }

    /** Cells by the names of two corners, or of one cell; null where the text names none. */
    public static Area area(String text) {
        Matcher m = AREA.matcher(text.strip().toUpperCase(Locale.ROOT));
        if (!m.matches()) {
            return null;
        }
        int firstColumn = column(m.group(1));
        int firstRow = Integer.parseInt(m.group(2));
        int lastColumn = m.group(3) == null ? firstColumn : column(m.group(3));
        int lastRow = m.group(4) == null ? firstRow : Integer.parseInt(m.group(4));
        boolean inside = firstColumn > 0 && lastColumn >= firstColumn && lastRow >= firstRow && lastRow <= MOST_ROWS;
        return inside ? new Area(firstColumn, firstRow, lastColumn, lastRow) : null;
    }
}
