package ninepin.core.format.workbook;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import ninepin.core.layout.CellName;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.record.RecordWriter;
import ninepin.core.value.UnwritableException;

/** Writes records as the lines of a transcript, of which the workbook is composed when all of them are there. */
final class WorkbookWriter implements RecordWriter {

    private final OutputStream out;
    private final Layout layout;
    private final WrittenTables tables;

    /**
     * @param state how far the tables had come; empty for a file that begins
     * @param begun whether what stands in front is written
     */
    WorkbookWriter(OutputStream out, Layout layout, String state, boolean begun) throws IOException {
        this.out = out;
        this.layout = layout;
        this.tables = new WrittenTables(layout, state);
        if (!begun) {
            begin();
        }
    }

    private void begin() throws IOException {
        line(Transcript.FIRST_LINE);
        for (WrittenTables.Table table : tables.fixed()) {
            writeHeader(table);
        }
    }

    private void writeHeader(WrittenTables.Table table) throws IOException {
        if (table.headerRow() > 0) {
            RowBytes row = head(table.sheet(), table.headerRow(), Transcript.HEADER);
            int at = 0;
            for (WrittenTables.Heading heading : table.headings()) {
                at = place(row, at, heading.column());
                row.add(CellText.quoted(heading.name()));
            }
            line(row);
        }
    }

    private static RowBytes head(String sheet, int number, String flags) {
        RowBytes row = new RowBytes();
        row.add(CellText.quoted(sheet));
        row.add(CellText.SEPARATOR);
        row.add(number);
        row.add(CellText.SEPARATOR);
        row.addAscii(flags);
        return row;
    }

    /** Goes to a column from the one before; both from 1, 0 where none was written. */
    private static int place(RowBytes row, int before, int column) {
        if (column - before > SheetTranscriber.MOST_EMPTY) {
            row.add(CellText.SEPARATOR);
            row.add(CellText.JUMP);
            row.addAscii(CellName.letters(column));
            row.add(CellText.SEPARATOR);
        } else {
            for (int i = before; i < column; i++) {
                row.add(CellText.SEPARATOR);
            }
        }
        return column;
    }

    @Override
    public String state() throws IOException {
        return tables.state();
    }

    @Override
    public void write(int type, List<String> values) throws IOException {
        List<Field> fields = layout.recordTypes().get(type).fields();
        String[] cells = new String[fields.size()];
        for (int f = 0; f < cells.length; f++) {
            cells[f] = values.get(f) == null ? null : WrittenCell.of(fields.get(f), values.get(f));
        }
        String sheet = sheetName(fields, values);
        WrittenTables.Table table = tables.of(type, sheet);
        requireTag(type, table, values);
        if (tables.isNew(table)) {
            writeHeader(table);
        }
        RowBytes row = head(table.sheet(), tables.nextRow(table), "");
        int at = 0;
        for (WrittenTables.Cell cell : table.cells(type)) {
            String text = cell.field() < 0 ? cell.constant() : cells[cell.field()];
            if (text != null) {
                at = place(row, at, cell.column());
                row.add(text.getBytes(StandardCharsets.UTF_8));
            }
        }
        if (row.isFull()) {
            throw new UnwritableException(layout.recordTypes().get(type).name(), "has more text than a row may have");
        }
        line(row);
    }

    /** Where a field stands in the column that tells its record type, its value has to be one of the texts there. */
    private void requireTag(int type, WrittenTables.Table table, List<String> values) {
        Recognition.Rows when = SheetTable.rows(layout.recordTypes().get(type));
        for (WrittenTables.Cell cell : table.cells(type)) {
            boolean tells = when.column() != null && cell.column() == CellName.column(when.column());
            if (tells && cell.field() >= 0 && !when.values().contains(values.get(cell.field()))) {
                throw new UnwritableException(
                        layout.recordTypes()
                                .get(type)
                                .fields()
                                .get(cell.field())
                                .name(),
                        "stands where " + String.join(" or ", when.values()) + " tells the rows");
            }
        }
    }

    private static String sheetName(List<Field> fields, List<String> values) {
        for (int f = 0; f < fields.size(); f++) {
            if (fields.get(f).place() instanceof Place.SheetName) {
                return WrittenTables.requireSheetName(fields.get(f).name(), values.get(f));
            }
        }
        return null;
    }

    private void line(RowBytes row) throws IOException {
        row.add((byte) '\n');
        out.write(row.bytes, 0, row.length);
    }

    private void line(String text) throws IOException {
        out.write((text + "\n").getBytes(StandardCharsets.UTF_8));
    }

    /** Writes at the end which cells have names. */
    @Override
    public void close() throws IOException {
        try (out) {
            for (Transcript.Range range : tables.ranges()) {
                line(range.asLine());
            }
        }
    }
}
