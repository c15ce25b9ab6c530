package ninepin.core.format.workbook;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import ninepin.core.format.workbook.Transcript.Range;
import ninepin.core.layout.CellName;
import ninepin.core.layout.CellName.Area;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.value.UnwritableException;

/**
 * Where the records of a layout go in a workbook that is written: sheets, columns, and the row that each table has come to. Tables on
 * one sheet whose cells the layout does not say stand beside each other, an empty column between them.
 */
final class WrittenTables {

    private static final int MOST_SHEET_NAME = 31;
    private static final String NOT_IN_SHEET_NAMES = "[]:*?/\\";

    /** A name over a column. */
    record Heading(int column, String name) {}

    /**
     * A cell of a record.
     *
     * @param field the index of its field, or -1
     * @param constant what stands in it where it is no field's
     */
    record Cell(int column, int field, String constant) {}

    /** A table on a sheet. */
    record Table(Plan plan, String sheet) {

        int headerRow() {
            return plan.headerRow;
        }

        List<Heading> headings() {
            return plan.headings;
        }

        List<Cell> cells(int type) {
            return plan.cells.get(type);
        }
    }

    /** How tables of some record types are laid out, on whichever sheet. */
    private static final class Plan {
        private final int number;
        private final Recognition.Rows.Table of;
        /** The sheet it is on; null where a field of each record says that. */
        private final String sheet;

        private final Area area;
        private final int headerRow;
        private final int firstRow;
        private final List<Heading> headings;
        private final Map<Integer, List<Cell>> cells;
        private final int lastColumn;

        private Plan(
                int number,
                Recognition.Rows.Table of,
                String sheet,
                Area area,
                int headerRow,
                List<Heading> headings,
                Map<Integer, List<Cell>> cells) {
            this.number = number;
            this.of = of;
            this.sheet = sheet;
            this.area = area;
            this.headerRow = headerRow;
            this.firstRow = Math.max(area.firstRow(), headerRow + 1);
            this.headings = headings;
            this.cells = cells;
            this.lastColumn = cells.values().stream()
                    .flatMap(List::stream)
                    .mapToInt(Cell::column)
                    .max()
                    .orElse(area.firstColumn());
        }
    }

    private final Layout layout;
    private final List<Plan> plans = new ArrayList<>();
    private final Map<Integer, Plan> byType = new HashMap<>();
    /** The row that is written next, by the table. */
    private final Map<String, Integer> next = new LinkedHashMap<>();

    private final Map<String, Table> known = new LinkedHashMap<>();

    WrittenTables(Layout layout, String state) {
        this.layout = layout;
        Map<String, Integer> free = new HashMap<>();
        SheetTable.byCells(layout).entrySet().stream()
                .sorted(Comparator.comparingInt(g -> g.getKey().position() == null
                        ? Integer.MAX_VALUE
                        : g.getKey().position()))
                .forEach(g -> {
                    Plan plan = plan(g.getKey(), g.getValue(), free);
                    plans.add(plan);
                    g.getValue().forEach(t -> byType.put(t, plan));
                });
        restore(state);
    }

    private void restore(String state) {
        byte[] line = state.getBytes(java.nio.charset.StandardCharsets.UTF_8);
        List<String> parts = state.isEmpty() ? List.of() : CellScanner.texts(line, 0, line.length);
        for (int i = 0; i + 2 < parts.size(); i += 3) {
            Table table = table(plans.get(Integer.parseInt(parts.get(i))), parts.get(i + 1));
            next.put(key(table), Integer.parseInt(parts.get(i + 2)));
        }
    }

    /** What has to be known to go on. */
    String state() {
        RowBytes state = new RowBytes();
        known.forEach((key, table) -> {
            if (next.containsKey(key)) {
                state.addAscii(state.length == 0 ? "" : ",");
                state.add(table.plan().number);
                state.add(CellText.SEPARATOR);
                state.add(CellText.quoted(table.sheet()));
                state.add(CellText.SEPARATOR);
                state.add(next.get(key));
            }
        });
        return state.toString();
    }

    private Plan plan(Recognition.Rows.Table of, List<Integer> types, Map<String, Integer> free) {
        boolean said = types.stream()
                .flatMap(t -> layout.recordTypes().get(t).fields().stream())
                .anyMatch(f -> f.place() instanceof Place.SheetName);
        String sheet = !SheetNames.isPattern(of.sheet())
                ? of.sheet()
                : said ? null : fitName(layout.recordTypes().get(types.get(0)).name());
        Area stated = of.range() == null ? null : CellName.area(of.range());
        int firstColumn = stated != null ? stated.firstColumn() : sheet == null ? 1 : free.getOrDefault(sheet, 1);
        Area area = stated != null ? stated : new Area(firstColumn, 1, CellName.MOST_COLUMNS - 1, CellName.MOST_ROWS);
        List<Heading> headings = new ArrayList<>();
        Map<Integer, List<Cell>> cells = new HashMap<>();
        place(types, area, headings, cells);
        int header = of.header() != null ? of.header() : headings.isEmpty() ? 0 : area.firstRow();
        Plan plan = new Plan(plans.size(), of, sheet, area, header, headings, cells);
        if (sheet != null) {
            free.merge(sheet, plan.lastColumn + 2, Math::max);
        }
        return plan;
    }

    /** Gives each field its column: the one that the layout says, or the next that is free. */
    private void place(List<Integer> types, Area area, List<Heading> headings, Map<Integer, List<Cell>> cells) {
        Set<Integer> taken = new HashSet<>();
        for (int t : types) {
            for (Field field : layout.recordTypes().get(t).fields()) {
                if (field.place() instanceof Place.Letter letter) {
                    taken.add(letter.number());
                }
            }
            Recognition.Rows when = SheetTable.rows(layout.recordTypes().get(t));
            // Where rows without such a text have names over their columns, one of those may be over this one.
            if (when.column() != null && types.stream().noneMatch(this::isPlainUnderNames)) {
                taken.add(CellName.column(when.column()));
            }
        }
        Map<String, Integer> columns = new HashMap<>();
        for (int t : types) {
            Map<Integer, Cell> own = new TreeMap<>();
            RecordType type = layout.recordTypes().get(t);
            for (int f = 0; f < type.fields().size(); f++) {
                Place place = type.fields().get(f).place();
                int column = 0;
                if (place instanceof Place.Letter letter) {
                    column = letter.number();
                } else if (place instanceof Place.Header header) {
                    column = columns.computeIfAbsent(header.name(), name -> {
                        int c = area.firstColumn();
                        while (!taken.add(c)) {
                            c++;
                        }
                        headings.add(new Heading(c, name));
                        return c;
                    });
                }
                if (column > 0) {
                    own.put(column, new Cell(column, f, null));
                }
            }
            Recognition.Rows when = SheetTable.rows(type);
            if (when.column() != null) {
                int column = CellName.column(when.column());
                String tag = new String(CellText.quoted(when.values().get(0)), java.nio.charset.StandardCharsets.UTF_8);
                own.putIfAbsent(column, new Cell(column, -1, tag));
            }
            cells.put(t, List.copyOf(own.values()));
        }
        headings.sort(Comparator.comparingInt(Heading::column));
    }

    private boolean isPlainUnderNames(int type) {
        RecordType of = layout.recordTypes().get(type);
        return SheetTable.rows(of).plain() && of.fields().stream().anyMatch(f -> f.place() instanceof Place.Header);
    }

    private static String fitName(String name) {
        StringBuilder fit = new StringBuilder();
        for (char c : name.toCharArray()) {
            fit.append(NOT_IN_SHEET_NAMES.indexOf(c) >= 0 || c < ' ' ? '-' : c);
        }
        return fit.substring(0, Math.min(MOST_SHEET_NAME, fit.length()));
    }

    /** A name that a sheet can have. */
    static String requireSheetName(String field, String name) {
        if (name == null || name.isBlank()) {
            throw new UnwritableException(field, "is empty; it is the name of the sheet");
        }
        if (name.length() > MOST_SHEET_NAME
                || !fitName(name).equals(name)
                || name.startsWith("'")
                || name.endsWith("'")) {
            throw new UnwritableException(
                    field,
                    "\"" + name + "\" is no name of a sheet: it has " + MOST_SHEET_NAME
                            + " characters at most, none of " + NOT_IN_SHEET_NAMES);
        }
        return name;
    }

    /** The tables that are there even where they have no row. */
    List<Table> fixed() {
        List<Table> fixed = new ArrayList<>();
        for (Plan plan : plans) {
            if (plan.sheet != null) {
                Table table = table(plan, plan.sheet);
                next.put(key(table), plan.firstRow);
                fixed.add(table);
            }
        }
        return fixed;
    }

    /**
     * The table of a record.
     *
     * @param sheet what the record says of its sheet, or null
     */
    Table of(int type, String sheet) {
        Plan plan = byType.get(type);
        if (plan.sheet != null && sheet != null && !plan.sheet.equalsIgnoreCase(sheet)) {
            throw new UnwritableException(
                    layout.recordTypes().get(type).name(), "says the sheet " + sheet + "; its sheet is " + plan.sheet);
        }
        return table(plan, plan.sheet != null ? plan.sheet : sheet);
    }

    private Table table(Plan plan, String sheet) {
        return known.computeIfAbsent(plan.number + " " + sheet, k -> new Table(plan, sheet));
    }

    private static String key(Table table) {
        return table.plan().number + " " + table.sheet();
    }

    /** Whether nothing of a table is written yet. */
    boolean isNew(Table table) {
        return !next.containsKey(key(table));
    }

    /** The row that a record of a table goes to. */
    int nextRow(Table table) {
        int row = next.getOrDefault(key(table), table.plan().firstRow);
        if (row > Math.min(table.plan().area.lastRow(), CellName.MOST_ROWS)) {
            throw new UnwritableException("the sheet " + table.sheet(), "is full: its rows end with row " + (row - 1));
        }
        next.put(key(table), row + 1);
        return row;
    }

    /** The cells that have names. */
    List<Range> ranges() {
        List<Range> ranges = new ArrayList<>();
        known.forEach((key, table) -> {
            Plan plan = table.plan();
            String name = plan.of.range();
            if (name != null && CellName.area(name) == null) {
                int first = plan.headerRow > 0 ? plan.headerRow : plan.firstRow;
                int last = Math.max(first, next.getOrDefault(key, plan.firstRow) - 1);
                Area area = new Area(plan.area.firstColumn(), first, plan.lastColumn, last);
                ranges.add(new Range(name, table.sheet(), area, false, 0, 0));
            }
        });
        return ranges;
    }
}
