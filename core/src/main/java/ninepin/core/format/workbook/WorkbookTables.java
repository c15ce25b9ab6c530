package ninepin.core.format.workbook;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.lines.HeaderNames;
import ninepin.core.format.workbook.Transcript.Range;
import ninepin.core.format.workbook.Transcript.Sheet;
import ninepin.core.layout.CellName.Area;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Shown;
import ninepin.core.layout.Workbook;
import ninepin.core.record.Fault;

/** Finds in a transcript where the rows of a layout stand: their sheets, their cells, the row that names their columns. */
final class WorkbookTables {

    /** A header is looked for in so many rows that have anything in them. */
    private static final int MOST_ROWS = 200;
    /** Stands for a sheet whose name is not known, where rows stand by themselves and their workbook is gone. */
    static final String ANY_SHEET = "*";

    private static final int MOST_SHOWN = 20;

    private final ByteSource source;
    private final Layout layout;
    private final Transcript transcript;
    private final HeaderNames names;
    private final Map<String, List<SheetTable>> bySheet = new HashMap<>();
    private final List<Fault> notes = new ArrayList<>();
    private Fault fault;
    private List<String> columns = List.of();
    private final int[][] ofLayout;

    WorkbookTables(ByteSource source, Layout layout, Transcript transcript) throws IOException {
        this.source = source;
        this.layout = layout;
        this.transcript = transcript;
        Workbook format = (Workbook) layout.format();
        this.names = new HeaderNames(
                format.headerAnyCase(),
                format.missingColumns(),
                Delimited.ExtraColumns.IGNORE,
                "Let the field stand by the letters of its column instead.",
                "Check the sheet and the row in which the header stands, or change the layout.");
        this.ofLayout = layout.recordTypes().stream().map(SheetTable::columnsOf).toArray(int[][]::new);
        if (transcript.fault() != null && transcript.sheets().isEmpty()) {
            fault = transcript.fault().asFault();
        } else {
            findAll();
        }
    }

    /** What keeps the workbook from being read, or null. */
    Fault fault() {
        return fault != null || transcript.fault() == null
                ? fault
                : transcript.fault().asFault();
    }

    /** What keeps the workbook from being opened, or null. */
    Fault openingFault() {
        return fault;
    }

    List<Fault> notes() {
        return notes;
    }

    /** The names in the header that was found first; empty where there is none. */
    List<String> columns() {
        return columns;
    }

    boolean ofParts() {
        return transcript.parts();
    }

    /** What stands on a sheet. */
    List<SheetTable> on(String sheet) {
        List<SheetTable> known = bySheet.get(sheet);
        if (known != null || !transcript.parts()) {
            return known == null ? List.of() : known;
        }
        // Of single rows the sheets are not all known where their workbook is gone.
        return bySheet.computeIfAbsent(sheet, name -> {
            try {
                List<SheetTable> found = new ArrayList<>();
                for (Map.Entry<Recognition.Rows.Table, List<Integer>> group :
                        SheetTable.byCells(layout).entrySet()) {
                    Recognition.Rows.Table table = group.getKey();
                    if (table.position() != null || SheetNames.match(table, name, 0)) {
                        add(group.getKey(), group.getValue(), new Sheet(name, "visible", 0, 1, 0, 0, ""), found);
                    }
                }
                return found;
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        });
    }

    private void findAll() throws IOException {
        for (Map.Entry<Recognition.Rows.Table, List<Integer>> group :
                SheetTable.byCells(layout).entrySet()) {
            boolean any = false;
            for (int i = 0; i < transcript.sheets().size() && fault == null; i++) {
                Sheet sheet = transcript.sheets().get(i);
                boolean matches = SheetNames.match(group.getKey(), sheet.name(), i) && isHere(group.getKey(), sheet);
                if (matches) {
                    any = true;
                    add(
                            group.getKey(),
                            group.getValue(),
                            sheet,
                            bySheet.computeIfAbsent(sheet.name(), n -> new ArrayList<>()));
                }
            }
            if (!any && fault == null && !transcript.parts()) {
                fault = transcript.fault() != null ? transcript.fault().asFault() : missing(group.getKey());
            }
        }
        transcript.sheets().stream().filter(s -> bySheet.containsKey(s.name())).forEach(this::noteHidden);
    }

    /** Whether cells that have a name are on a sheet. */
    private boolean isHere(Recognition.Rows.Table table, Sheet sheet) {
        return table.range() == null || SideBySide.area(table.range(), sheet.name(), transcript.ranges()) != null;
    }

    private Fault missing(Recognition.Rows.Table table) {
        List<String> sheets = transcript.sheets().stream().map(Sheet::name).toList();
        boolean sheetIsThere = false;
        for (int i = 0; i < sheets.size(); i++) {
            sheetIsThere |= SheetNames.match(table, sheets.get(i), i);
        }
        if (table.range() != null && sheetIsThere) {
            List<String> ranges = transcript.ranges().stream().map(Range::name).toList();
            return new Fault(
                    "WBK-04",
                    -1,
                    0,
                    0,
                    ranges.isEmpty() ? "no range or table with a name" : "the ranges " + listed(ranges),
                    "a range or table " + Shown.quoted(table.range()),
                    nearest(table.range(), ranges));
        }
        return new Fault(
                "WBK-04",
                -1,
                0,
                0,
                sheets.isEmpty()
                        ? "a workbook without sheets"
                        : (sheets.size() == 1 ? "the sheet " : "the sheets ") + listed(sheets),
                table.position() != null
                        ? "a sheet at position " + table.position()
                        : "a sheet " + Shown.quoted(table.sheet() == null ? "" : table.sheet()),
                table.sheet() == null ? "Ask the sender for the file again." : nearest(table.sheet(), sheets));
    }

    private static String listed(List<String> all) {
        return all.stream().limit(MOST_SHOWN).map(Shown::visible).collect(Collectors.joining(", "))
                + (all.size() > MOST_SHOWN ? " …" : "");
    }

    private static String nearest(String wanted, List<String> all) {
        String near = HeaderNames.nearest(wanted, all);
        return near == null ? "Change the layout, or ask the sender." : "The nearest is " + Shown.quoted(near) + ".";
    }

    private void noteHidden(Sheet sheet) {
        List<String> hidden = new ArrayList<>();
        if (!sheet.visible()) {
            hidden.add("the whole sheet");
        }
        if (sheet.hiddenRows() > 0) {
            hidden.add(sheet.hiddenRows() == 1 ? "one row" : sheet.hiddenRows() + " rows");
        }
        if (!sheet.hiddenColumns().isEmpty()) {
            hidden.add((sheet.hiddenColumns().matches("[A-Z]+") ? "column " : "columns ")
                    + sheet.hiddenColumns().replace(" ", ", ").replace(":", " to "));
        }
        if (!hidden.isEmpty()) {
            boolean skipped = ((Workbook) layout.format()).hiddenRows() == Workbook.HiddenRows.SKIP;
            notes.add(new Fault(
                    "WBK-11",
                    -1,
                    0,
                    0,
                    "hidden on the sheet " + Shown.quoted(sheet.name()) + ": " + String.join(", ", hidden),
                    "a sheet on which nothing is hidden",
                    skipped
                            ? "Hidden rows are passed over, hidden columns are read, as the layout says."
                            : "What is hidden is read too. The layout can pass over hidden rows."));
        }
    }

    /** Finds the rows of record types on a sheet. */
    private void add(Recognition.Rows.Table table, List<Integer> types, Sheet sheet, List<SheetTable> to)
            throws IOException {
        Range range = table.range() == null
                ? null
                : SideBySide.named(table.range(), sheet.name(), transcript.ranges())
                        .findFirst()
                        .orElse(null);
        Area area =
                table.range() == null ? Area.ALL : SideBySide.area(table.range(), sheet.name(), transcript.ranges());
        if (area == null) {
            area = Area.ALL;
        }
        int[][] own = Arrays.stream(ofLayout).map(int[]::clone).toArray(int[][]::new);
        int header = header(table, range, area, types, sheet, own);
        if (fault != null) {
            return;
        }
        int first = Math.max(area.firstRow(), header + 1);
        boolean bounded = area.lastRow() < Area.ALL.lastRow();
        int last = bounded ? area.lastRow() : sheet.lastRow() == 0 ? Area.ALL.lastRow() : sheet.lastRow();
        if (range != null && range.totals() > 0 && types.stream().noneMatch(this::isLast)) {
            last -= range.totals();
        }
        int lastPlain = table.untilBlank() && !transcript.parts() ? lastBeforeBlank(sheet, area, first, last) : last;
        boolean told = types.stream()
                .anyMatch(t -> SheetTable.rows(layout.recordTypes().get(t)).column() != null);
        to.add(new SheetTable(layout, types, area, header, first, told ? last : lastPlain, lastPlain, own));
    }

    private boolean isLast(int type) {
        return SheetTable.rows(layout.recordTypes().get(type)).last() != null;
    }

    /** The row that names the columns, 0 where there is none; what it has to say is resolved. */
    private int header(
            Recognition.Rows.Table table, Range range, Area area, List<Integer> types, Sheet sheet, int[][] own)
            throws IOException {
        boolean wanted = types.stream().anyMatch(this::hasNames);
        if (table.header() != null) {
            int row = table.header();
            if (wanted) {
                resolve(sheet, row, area, types, own);
            }
            return row;
        }
        if (range != null && range.table()) {
            if (wanted) {
                resolve(sheet, range.headers() == 0 ? 0 : area.firstRow(), area, types, own);
            }
            return range.headers() == 0 ? 0 : area.firstRow() + range.headers() - 1;
        }
        if (!wanted) {
            return 0;
        }
        Found best = find(sheet, area, types);
        if (best == null) {
            fault = transcript.fault() != null && !transcript.parts()
                    ? transcript.fault().asFault()
                    : new Fault(
                            "HDR-01",
                            -1,
                            0,
                            0,
                            "nothing on the sheet " + Shown.quoted(sheet.name()),
                            "a header row",
                            "Check which sheet the layout asks for.");
            return 0;
        }
        resolve(sheet, best.cells(), area, types, own);
        return best.row();
    }

    private boolean hasNames(int type) {
        return layout.recordTypes().get(type).fields().stream().anyMatch(f -> f.place() instanceof Place.Header);
    }

    /** A row with its cells by their columns, from 1. */
    private record Found(int row, List<String> cells) {}

    /** The row that has most of the names that fields stand under, the first of them. */
    private Found find(Sheet sheet, Area area, List<Integer> types) throws IOException {
        List<String> wanted = types.stream()
                .flatMap(t -> layout.recordTypes().get(t).fields().stream())
                .map(Field::place)
                .filter(Place.Header.class::isInstance)
                .map(p -> names.key(((Place.Header) p).name()))
                .distinct()
                .toList();
        Found best = null;
        long most = -1;
        SheetRows rows = new SheetRows(source, transcript, sheet);
        for (int looked = 0; looked < MOST_ROWS && rows.next(); looked++) {
            if (!area.hasRow(rows.row())) {
                continue;
            }
            List<String> cells = rows.cells(area);
            List<String> keys = cells.stream().map(c -> names.key(c.strip())).toList();
            long has = wanted.stream().filter(keys::contains).count();
            if (has > most) {
                most = has;
                best = new Found(rows.row(), cells);
            }
            if (has == wanted.size()) {
                break;
            }
        }
        return best;
    }

    private void resolve(Sheet sheet, int row, Area area, List<Integer> types, int[][] own) throws IOException {
        SheetRows rows = new SheetRows(source, transcript, sheet);
        while (row > 0 && rows.next() && rows.row() <= row) {
            if (rows.row() == row && rows.isIn(area)) {
                resolve(sheet, rows.cells(area), area, types, own);
                return;
            }
        }
        fault = new Fault(
                "HDR-01",
                -1,
                0,
                0,
                "nothing in row " + row + " of the sheet " + Shown.quoted(sheet.name()),
                "a header row",
                "Check the row in which the header stands.");
    }

    private void resolve(Sheet sheet, List<String> cells, Area area, List<Integer> types, int[][] own) {
        List<String> stripped = cells.stream().map(String::strip).toList();
        int[] columnOfName = new int[stripped.size()];
        List<String> named = new ArrayList<>();
        for (int c = 0; c < stripped.size(); c++) {
            if (!stripped.get(c).isEmpty()) {
                columnOfName[named.size()] = c + 1;
                named.add(stripped.get(c));
            }
        }
        if (columns.isEmpty()) {
            columns = named;
        }
        for (int t : types) {
            RecordType type = layout.recordTypes().get(t);
            int[] columnOf = new int[own[t].length];
            Arrays.fill(columnOf, -1);
            Fault found = names.resolve(named, type.fields(), columnOf, 0, notes);
            if (found != null) {
                fault = onSheet(found, sheet);
                return;
            }
            for (int f = 0; f < columnOf.length; f++) {
                own[t][f] = columnOf[f] >= 0 ? columnOfName[columnOf[f]] : own[t][f];
            }
        }
    }

    private static Fault onSheet(Fault f, Sheet sheet) {
        return new Fault(
                f.code(),
                f.column(),
                f.from(),
                f.to(),
                f.found() + " on the sheet " + Shown.quoted(sheet.name()),
                f.expected(),
                f.advice());
    }

    /** The last row before one in which nothing stands in the cells. */
    private int lastBeforeBlank(Sheet sheet, Area area, int first, int last) throws IOException {
        SheetRows rows = new SheetRows(source, transcript, sheet);
        int behind = first - 1;
        while (rows.next()) {
            int row = rows.row();
            if (row < first || !rows.isIn(area)) {
                continue;
            }
            if (row > behind + 1) {
                break;
            }
            behind = row;
        }
        return Math.min(last, behind);
    }

    /** What stands in front of single rows, so that they can be read without their workbook: the same, and the rows of names. */
    byte[] headOfParts() throws IOException {
        RowBytes head = new RowBytes();
        head.addAscii(Transcript.FIRST_LINE_OF_PARTS + "\n");
        for (Sheet sheet : transcript.sheets()) {
            head.add(line(sheet.asLine()));
        }
        for (Range range : transcript.ranges()) {
            head.add(line(range.asLine()));
        }
        for (Sheet sheet : transcript.sheets()) {
            for (SheetTable table : bySheet.getOrDefault(sheet.name(), List.of())) {
                head.add(headerLine(sheet, table));
            }
        }
        return Arrays.copyOf(head.bytes, head.length);
    }

    private byte[] headerLine(Sheet sheet, SheetTable table) throws IOException {
        SheetRows rows = new SheetRows(source, transcript, sheet);
        while (rows.next() && rows.row() <= table.headerRow()) {
            if (rows.row() == table.headerRow() && rows.isIn(table.area())) {
                return rows.asHeader();
            }
        }
        return new byte[0];
    }

    /** The same where the workbook is gone: columns in the order of the fields. */
    static byte[] headOfLayout(Layout layout) {
        RowBytes head = new RowBytes();
        head.add(line(Transcript.FIRST_LINE_OF_PARTS));
        for (RecordType type : layout.recordTypes()) {
            Recognition.Rows when = SheetTable.rows(type);
            List<String> cells = type.fields().stream()
                    .map(f -> f.place() instanceof Place.Header h ? h.name() : "")
                    .toList();
            if (!when.plain() || cells.stream().allMatch(String::isEmpty)) {
                continue;
            }
            int row = when.header() == null || when.header() == 0 ? 1 : when.header();
            head.add(CellText.quoted(SheetNames.isPattern(when.sheet()) ? ANY_SHEET : when.sheet()));
            head.addAscii("," + row + "," + Transcript.HEADER);
            for (String cell : cells) {
                head.add(CellText.SEPARATOR);
                head.add(cell.isEmpty() ? new byte[0] : CellText.quoted(cell));
            }
            head.add((byte) '\n');
        }
        return Arrays.copyOf(head.bytes, head.length);
    }

    private static byte[] line(String text) {
        return (text + "\n").getBytes(StandardCharsets.UTF_8);
    }
}
