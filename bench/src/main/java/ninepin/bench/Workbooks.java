package ninepin.bench;

import java.io.BufferedOutputStream;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.stream.Stream;
import ninepin.core.format.Transcripts;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import org.dhatim.fastexcel.Worksheet;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.Row;

/** Reading: the eight fields as a workbook, numbers and dates as such, and what they are measured against. */
final class Workbooks {

    private static final DateTimeFormatter DATE = DateTimeFormatter.ofPattern("dd.MM.yyyy");

    private Workbooks() {}

    /** Writes the rows of the delimited file to a sheet, texts shared, as spreadsheets write them. */
    static void write(Path delimited, Path workbook) throws IOException {
        List<Field> fields = EightFields.layout().firstType().fields();
        try (BufferedReader in = Files.newBufferedReader(delimited);
                OutputStream out = new BufferedOutputStream(Files.newOutputStream(workbook));
                org.dhatim.fastexcel.Workbook book = new org.dhatim.fastexcel.Workbook(out, "bench", "1.0")) {
            Worksheet sheet = book.newWorksheet("Results");
            String[] names = in.readLine().split(";");
            for (int c = 0; c < names.length; c++) {
                sheet.value(0, c, names[c]);
            }
            String row;
            for (int r = 1; (row = in.readLine()) != null; r++) {
                String[] values = row.split(";", -1);
                for (int c = 0; c < values.length; c++) {
                    put(sheet, r, c, values[c], fields.get(c).type());
                }
                if (r % 1_000 == 0) {
                    sheet.flush();
                }
            }
        }
    }

    private static void put(Worksheet sheet, int row, int column, String value, DataType type) {
        if (value.isEmpty()) {
            return;
        }
        if (type instanceof DataType.IntegerNumber) {
            sheet.value(row, column, Long.valueOf(value));
        } else if (type instanceof DataType.Decimal) {
            sheet.value(row, column, Double.valueOf(value.replace(',', '.')));
        } else if (type instanceof DataType.Date) {
            sheet.value(row, column, LocalDate.parse(value, DATE));
            sheet.style(row, column).format("dd.mm.yyyy").set();
        } else {
            sheet.value(row, column, value);
        }
    }

    /** The layout of the eight fields, with the same types and checks. */
    static Layout layout() {
        return new Layout(
                "workbook",
                null,
                new ninepin.core.layout.Workbook(),
                List.of(new RecordType(
                        "row",
                        new Recognition.Rows("Results"),
                        null,
                        null,
                        null,
                        EightFields.layout().firstType().fields())));
    }

    /** Transcribes, reads, types and checks a workbook; the nanoseconds it took. */
    static long check(Path file, Layout layout, Path folder, long expected) throws IOException {
        long begun = System.nanoTime();
        Path text = new Transcripts(folder).readable(file, layout);
        OtherKinds.check(text, layout, expected);
        long took = System.nanoTime() - begun;
        Files.delete(text);
        return took;
    }

    /** Passes over the cells of a workbook with a bare reader; the nanoseconds it took. */
    static long cells(Path file) throws IOException {
        long begun = System.nanoTime();
        long[] characters = {0};
        try (ReadableWorkbook book = new ReadableWorkbook(file.toFile());
                Stream<Row> rows = book.getFirstSheet().openStream()) {
            rows.forEach(row -> {
                for (Cell cell : row) {
                    characters[0] += cell == null ? 0 : cell.getRawValue().length();
                }
            });
        }
        if (characters[0] == 0) {
            throw new IllegalStateException("no cells in " + file);
        }
        return System.nanoTime() - begun;
    }
}
