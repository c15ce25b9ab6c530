package ninepin.core.format.workbook;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.lines.TypeTags;
import ninepin.core.format.lines.WindowReader;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Shown;
import ninepin.core.layout.Workbook;
import ninepin.core.layout.Workbook.HiddenRows;
import ninepin.core.layout.Workbook.MergedCells;
import ninepin.core.record.Fault;
import ninepin.core.record.GatheredValues;
import ninepin.core.record.Position;
import ninepin.core.record.RawRecord;

/** Reads the rows of a transcript that a layout asks for. */
final class WorkbookReader extends WindowReader {

    private static final byte[] FAULT = Transcript.FAULT.getBytes(StandardCharsets.US_ASCII);

    private final WorkbookRecord row;
    private final WorkbookTables tables;
    private final boolean skipHidden;
    private final boolean eachMerged;
    private final CellScanner scanner = new CellScanner();
    /** The cells of the row by their columns. */
    private Cell[] cells = {};

    private final GatheredValues values = new GatheredValues();
    private final CellValues[][] cellValues;
    private final List<String> typeNames;

    /** The name of the sheet as it stands before a row, with quotes and comma, and what is on that sheet. */
    private byte[] prefix = {};

    private String sheet;
    private List<SheetTable> onSheet = List.of();

    /** Where the row stands that was found, and how its line begins. */
    private SheetTable table;

    private int number;
    private int cellsFrom;
    private boolean blankRow;
    private int type;

    WorkbookReader(ByteSource source, Position start, long body, Layout layout, WorkbookTables tables) {
        this(source, start, body, layout, tables, new WorkbookRecord());
    }

    private WorkbookReader(
            ByteSource source, Position start, long body, Layout layout, WorkbookTables tables, WorkbookRecord row) {
        super(source, start, body, FileCharset.UTF_8, layout.format().blankRows(), null, row);
        this.row = row;
        this.tables = tables;
        Workbook format = (Workbook) layout.format();
        this.skipHidden = format.hiddenRows() == HiddenRows.SKIP;
        this.eachMerged = format.mergedCells() == MergedCells.EACH;
        this.typeNames = layout.recordTypes().stream().map(t -> t.name()).toList();
        this.cellValues = layout.recordTypes().stream()
                .map(t -> {
                    List<CellValues> all = new ArrayList<>();
                    for (Field field : t.fields()) {
                        all.add(new CellValues(field, all.size()));
                    }
                    return all.toArray(CellValues[]::new);
                })
                .toArray(CellValues[][]::new);
    }

    @Override
    protected void passOver() throws IOException {
        while (!atEnd()) {
            int end = lineEndFrom(0);
            if (isWanted(end)) {
                return;
            }
            passLine();
        }
    }

    /** Whether a line is a row that the layout asks for. */
    private boolean isWanted(int end) {
        byte[] bytes = heldBytes();
        int from = heldFrom();
        if (end == 0 || bytes[from] != CellText.QUOTE) {
            // What kept the workbook from being read on ends the run there; a line that is no row was edited so.
            table = null;
            boolean says = end > 0 && bytes[from] == CellText.JUMP;
            return says ? startsWith(FAULT) : tables.ofParts() && end > 0;
        }
        if (end < prefix.length
                || prefix.length == 0
                || !Arrays.equals(bytes, from, from + prefix.length, prefix, 0, prefix.length)) {
            readSheet(bytes, from, end);
        }
        if (onSheet.isEmpty()) {
            return false;
        }
        int at = prefix.length;
        number = 0;
        while (at < end && bytes[from + at] >= '0' && bytes[from + at] <= '9' && number < 100_000_000) {
            number = number * 10 + bytes[from + at++] - '0';
        }
        at++;
        int flags = at;
        while (at < end && bytes[from + at] != CellText.SEPARATOR) {
            at++;
        }
        cellsFrom = Math.min(at + 1, end);
        if (at > flags && isPassed(bytes, from + flags)) {
            return false;
        }
        table = tableOf(bytes, from + cellsFrom, from + end);
        return table != null && (!table.isBehind(number) || isTold(bytes, from + cellsFrom, from + end));
    }

    private boolean isTold(byte[] bytes, int from, int end) {
        scanner.begin(bytes, from, end);
        while (scanner.next()) {
            if (table.isTold(scanner.column + 1, scanner.cell, bytes)) {
                return true;
            }
        }
        return false;
    }

    /** The second letter tells {@code header} from {@code hidden}. */
    private boolean isPassed(byte[] bytes, int flag) {
        return bytes[flag + 1] == 'e' || skipHidden && bytes[flag + 1] == 'i';
    }

    private void readSheet(byte[] bytes, int from, int end) {
        scanner.begin(bytes, from, from + end);
        scanner.next();
        sheet = scanner.cell.value(bytes);
        onSheet = tables.on(sheet);
        int length = Math.min(end, scanner.cell.to + 2 - from);
        prefix = Arrays.copyOfRange(bytes, from, from + length);
    }

    /** Where the row belongs; of several tables on a sheet the one that a cell of the line stands in. */
    private SheetTable tableOf(byte[] bytes, int from, int end) {
        if (onSheet.size() == 1) {
            SheetTable only = onSheet.get(0);
            return only.hasRow(number) ? only : null;
        }
        scanner.begin(bytes, from, end);
        while (scanner.next()) {
            if (scanner.cell.isEmpty()) {
                continue;
            }
            for (SheetTable t : onSheet) {
                if (t.hasRow(number) && t.hasColumn(scanner.column + 1)) {
                    return t;
                }
            }
        }
        return null;
    }

    @Override
    protected void cut() throws IOException {
        super.cut();
        row.beginRow(sheet, number);
        row.values(null);
        blankRow = false;
        if (row.fault() != null) {
            return;
        }
        if (table == null) {
            row.beginRow(null, 0);
            row.fault(startsWithFault() ? tables.fault().halting() : notARow());
            return;
        }
        readCells();
    }

    private boolean startsWithFault() {
        return tables.fault() != null && row.length() > 0 && row.buffer()[row.start()] == CellText.JUMP;
    }

    private Fault notARow() {
        String found = new String(row.buffer(), row.start(), Math.min(60, row.length()), StandardCharsets.UTF_8);
        return new Fault(
                "WBK-12",
                -1,
                0,
                row.length(),
                Shown.quoted(found),
                "a row of a sheet",
                "It begins with the name of the sheet in quotes and the number of the row.");
    }

    private void readCells() {
        byte[] bytes = row.buffer();
        int width = table.width();
        makeRoom(width);
        scanner.begin(bytes, row.start() + cellsFrom, row.start() + row.length());
        blankRow = true;
        int done = 1;
        while (done < width && scanner.next(cells[Math.min(done, width)])) {
            int column = scanner.column + 1;
            Cell found = cells[done];
            if (column > done) {
                found = moved(done, Math.min(column, width));
                if (column >= width) {
                    done = width;
                    break;
                }
            }
            done = column + 1;
            if (found.covered && !eachMerged) {
                found.none(found.from - 1);
            }
            boolean wanted = table.wants(column);
            blankRow &= !wanted || found.isEmpty();
        }
        for (; done < width; done++) {
            cells[done].none(row.start() + row.length());
        }
        if (!blankRow) {
            type = table.typeOf(number, cells, bytes);
            take(bytes);
        }
    }

    private void makeRoom(int width) {
        if (cells.length > width) {
            return;
        }
        Cell[] more = Arrays.copyOf(cells, width + 1);
        for (int i = cells.length; i < more.length; i++) {
            more[i] = new Cell();
        }
        cells = more;
    }

    /** Moves a cell to the column that a jump leads to; those between are empty. */
    private Cell moved(int from, int to) {
        Cell cell = cells[from];
        cells[from] = cells[to];
        cells[to] = cell;
        for (int i = from; i < to; i++) {
            cells[i].none(cell.from);
        }
        return cell;
    }

    /** Makes the cells those of a record. */
    private void take(byte[] bytes) {
        int start = row.start();
        if (type == TypeTags.UNKNOWN) {
            row.fault(unknown(bytes));
            return;
        }
        int[] columns = table.columns(type);
        row.standIn(columns);
        row.beginValues(columns.length);
        values.clear();
        for (int f = 0; f < columns.length; f++) {
            int column = columns[f];
            if (column == SheetTable.SHEET_NAME) {
                row.add(1, prefix.length - 2, RawRecord.QUOTED);
                byte[] name = sheet.getBytes(StandardCharsets.UTF_8);
                values.put(row, f, name, 0, name.length);
            } else if (column == SheetTable.LACKING || !table.hasColumn(column)) {
                row.add(row.length(), row.length(), (byte) 0);
            } else {
                Cell cell = cells[column];
                row.add(cell.from - start, cell.to - start, cell.text ? RawRecord.QUOTED : 0);
                if (cell.broken) {
                    row.fault(brokenText(f));
                } else if (!cell.isEmpty()) {
                    cellValues[type][f].take(row, cell, bytes, values);
                }
            }
        }
        row.values(values.bytes());
    }

    private Fault brokenText(int field) {
        return new Fault(
                "WBK-12",
                field,
                row.from(field),
                row.to(field),
                "a text whose quotes do not close, or with something behind them",
                "a text between quotes, a quote inside it as \\\"",
                null);
    }

    private Fault unknown(byte[] bytes) {
        int column = table.tagColumn();
        String found = column == 0 ? "" : cells[column].value(bytes);
        int from = column == 0 ? 0 : cells[column].from - row.start();
        int to = column == 0 ? row.length() : cells[column].to - row.start();
        return new Fault(
                "TAG-01",
                Fault.NO_FIELD,
                from,
                to,
                found.isEmpty() ? "a row of no type" : Shown.quoted(found),
                table.tags().isEmpty() ? "one of " + String.join(", ", typeNames) : "one of the texts " + table.tags(),
                "Add a record type for it to the layout if it is right.");
    }

    @Override
    protected boolean isBlank() {
        return blankRow;
    }

    @Override
    protected void become(int ignored) {
        row.type(type);
    }
}
