package ninepin.core.format.workbook;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import ninepin.core.format.workbook.SampledSheet.Kind;
import ninepin.core.format.workbook.SampledSheet.SampledCell;
import ninepin.core.format.workbook.SampledSheet.SampledRow;

/**
 * A table that stands on a sheet: the row that names its columns, its rows, and the total at its end.
 *
 * @param sheet the sheet
 * @param range the name of its cells, or null
 * @param header the row of names, 0 where there is none
 * @param stated whether the header need not be looked for, because a table says where it is
 * @param columns the columns, from 1
 * @param names the name over each column, empty where it has none
 * @param rows its rows, without totals
 * @param totals rows that are told by a text in their first column
 * @param totalColumn the column of that text, from 1
 * @param untilBlank whether other rows follow behind a blank one
 */
record TableGuess(
        String sheet,
        String range,
        int header,
        boolean stated,
        List<Integer> columns,
        List<String> names,
        List<SampledRow> rows,
        List<SampledRow> totals,
        int totalColumn,
        boolean untilBlank) {

    /** A header is looked for in so many rows. */
    private static final int MOST_LOOKED_AT = 60;

    private static final double MOST_OF = 0.6;
    private static final Pattern TOTAL = Pattern.compile(
            "(?iu)\\s*(?:grand |sub)?(?:total|totals|sum|summe|gesamt|gesamtsumme|total general|totale|somme)\\b.*");

    /**
     * Finds a table.
     *
     * @param range the name of the cells that the sheet was cut to, or null
     * @param headers the rows of names that a table has, or -1 where that is to be found
     * @return null where there is none
     */
    static TableGuess of(SampledSheet sheet, String range, int headers) {
        List<SampledRow> rows = sheet.rows();
        int headerAt = headers >= 0 ? headers - 1 : headerAt(rows);
        if (rows.isEmpty() || headers < 0 && headerAt < 0 && widest(rows) < 2) {
            return null;
        }
        SampledRow header = headerAt < 0 || headerAt >= rows.size() ? null : rows.get(headerAt);
        List<SampledRow> below = rows.subList(header == null ? 0 : headerAt + 1, rows.size());
        List<Integer> columns = new ArrayList<>();
        List<String> names = new ArrayList<>();
        columns(header, below, columns, names);
        List<SampledRow> own = new ArrayList<>();
        List<SampledRow> totals = new ArrayList<>();
        boolean untilBlank = false;
        int totalColumn = 0;
        for (SampledRow row : below) {
            int column = totalColumn(row, columns);
            if (column > 0 && !own.isEmpty()) {
                totals.add(row);
                totalColumn = column;
            } else if (isRemark(row, own, columns)) {
                untilBlank = true;
                break;
            } else {
                own.add(row);
            }
        }
        return new TableGuess(
                sheet.name(),
                range,
                header == null ? 0 : header.number(),
                headers >= 0,
                columns,
                names,
                own,
                totals,
                totalColumn,
                untilBlank);
    }

    /** The first row of texts most of which differ, as wide as most rows below it; -1 where there is none. */
    private static int headerAt(List<SampledRow> rows) {
        int looked = Math.min(MOST_LOOKED_AT, rows.size());
        for (int i = 0; i < looked; i++) {
            SampledRow row = rows.get(i);
            int filled = row.filled();
            boolean texts = row.cells().stream().allMatch(c -> c.isEmpty() || c.isText());
            Set<String> different = new HashSet<>();
            row.cells().stream()
                    .filter(c -> !c.isEmpty())
                    .forEach(c -> different.add(c.value().strip()));
            boolean differ = different.size() * 2 >= filled;
            List<SampledRow> below = rows.subList(i + 1, Math.min(rows.size(), i + 1 + MOST_LOOKED_AT));
            if (texts
                    && differ
                    && filled > 0
                    && !below.isEmpty()
                    && filled >= widest(below) * MOST_OF
                    && (filled > 1 || widest(rows) == 1)) {
                return i;
            }
        }
        return -1;
    }

    private static int widest(List<SampledRow> rows) {
        return rows.stream().mapToInt(SampledRow::filled).max().orElse(0);
    }

    /** The columns that have a name, or values below. */
    private static void columns(SampledRow header, List<SampledRow> below, List<Integer> columns, List<String> names) {
        int last = below.stream().mapToInt(r -> r.cells().size()).max().orElse(0);
        last = Math.max(last, header == null ? 0 : header.cells().size());
        for (int c = 1; c <= last; c++) {
            int column = c;
            String name = header == null ? "" : header.cell(c).value().strip();
            long values = below.stream().filter(r -> !r.cell(column).isEmpty()).count();
            if (!name.isEmpty() || values > below.size() / 10 || header == null && values > 0) {
                columns.add(c);
                names.add(name);
            }
        }
    }

    /** The column of a text that makes a row a total; 0 where there is none. */
    private static int totalColumn(SampledRow row, List<Integer> columns) {
        for (int column : columns) {
            SampledCell cell = row.cell(column);
            if (cell.isText()) {
                return TOTAL.matcher(cell.value()).matches() ? column : 0;
            }
        }
        return 0;
    }

    /** A remark behind the rows: a gap, and then a text and little else. */
    private static boolean isRemark(SampledRow row, List<SampledRow> own, List<Integer> columns) {
        if (own.isEmpty() || row.number() == own.get(own.size() - 1).number() + 1) {
            return false;
        }
        long filled = columns.stream().filter(c -> !row.cell(c).isEmpty()).count();
        return filled <= 1 && columns.size() > 2;
    }

    /** The values of a column. */
    List<SampledCell> values(int column) {
        return rows.stream().map(r -> r.cell(column)).toList();
    }

    /** The columns in which the total has numbers. */
    List<Integer> totalled() {
        return columns.stream()
                .filter(c -> totals.stream().anyMatch(r -> r.cell(c).kind() == Kind.NUMBER))
                .toList();
    }

    /** The texts that tell totals. */
    List<String> totalTexts() {
        return totals.stream().map(r -> r.cell(totalColumn).value()).distinct().toList();
    }

    /** The names of the columns, to be compared with those of another sheet. */
    Set<String> key() {
        Set<String> key = new HashSet<>();
        names.forEach(n -> key.add(n.toLowerCase(Locale.ROOT)));
        return key;
    }
}
