package ninepin.core.format.workbook;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.testing.Reading;
import ninepin.core.testing.SpoiltBytes;
import ninepin.core.testing.WorkbookText;
import org.apache.poi.poifs.crypt.EncryptionInfo;
import org.apache.poi.poifs.crypt.EncryptionMode;
import org.apache.poi.poifs.filesystem.POIFSFileSystem;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.CellType;
import org.apache.poi.ss.usermodel.DateUtil;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.Sheet;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** What is read from a workbook is what another library reads; what is no workbook, or a broken one, is said. */
class WorkbookReaderTest {

    private static final String[] FORMATS = {
        "General", "0.00", "yyyy-mm-dd", "dd.mm.yyyy hh:mm", "00000", "#,##0.0", "@", "[h]:mm", "d mmm yyyy"
    };

    /** All cells of each sheet as text, the letters A to E. */
    private static final Layout CELLS = Definitions.layout(
            """
            {"name":"cells","format":{"kind":"workbook"},"recordTypes":[{"name":"row","when":{"by":"rows","header":0},"fields":[
             {"name":"sheet","sheet":true},{"name":"a","letter":"A","type":{"is":"text","length":1000}},
             {"name":"b","letter":"B","type":{"is":"text","length":1000}},{"name":"c","letter":"C","type":{"is":"text","length":1000}},
             {"name":"d","letter":"D","type":{"is":"text","length":1000}},{"name":"e","letter":"E","type":{"is":"text","length":1000}}]}]}
            """);

    private static final String SAMPLE =
            """
            name Farms = Sheet!$A$1:$C$4
            sheet Sheet
            merge A2:A3
            1: No | Name | Taken
            2: 1 | Birk & Söhne | {yyyy-mm-dd}46296
            3 hidden: | inline:Sand | {yyyy-mm-dd hh:mm}46296.5
            4: =A2+1 -> 2 | #N/A | TRUE
            sheet More hidden
            hide B:C
            7: x | {00000}12 | | | 1.5E-7
            """;

    private static void fill(XSSFWorkbook book, Random random) {
        CellStyle[] styles = new CellStyle[FORMATS.length];
        for (int i = 0; i < styles.length; i++) {
            styles[i] = book.createCellStyle();
            styles[i].setDataFormat(book.createDataFormat().getFormat(FORMATS[i]));
        }
        for (int s = 0; s <= random.nextInt(3); s++) {
            Sheet sheet = book.createSheet("Sheet " + s);
            for (int r = 0; r < 12; r++) {
                Row row = random.nextInt(4) == 0 ? null : sheet.createRow(r);
                for (int c = 0; row != null && c < 5; c++) {
                    if (random.nextInt(3) > 0) {
                        fill(row.createCell(c), random, styles);
                    }
                }
            }
        }
    }

    private static void fill(Cell cell, Random random, CellStyle[] styles) {
        if (random.nextBoolean()) {
            cell.setCellStyle(styles[random.nextInt(styles.length)]);
        }
        switch (random.nextInt(7)) {
            case 0 -> cell.setCellValue(random.nextBoolean());
            // The first 60 days of the calendar of spreadsheets are its own; small files for people to read have them.
            case 1 -> cell.setCellValue(61 + random.nextInt(100_000));
            case 2 -> cell.setCellValue(61 + random.nextInt(80_000) + random.nextInt(1_000) / 1_000.0);
            case 3 -> cell.setCellValue(-random.nextDouble() * 1e6);
            case 4 -> cell.setCellErrorValue(org.apache.poi.ss.usermodel.FormulaError.DIV0.getCode());
            default -> cell.setCellValue("ä \"<&>_x0041_\n\t\\ 😀".substring(0, random.nextInt(12)));
        }
    }

    /** A cell as the other library reads it. */
    private static String opinion(Cell cell) {
        if (cell == null || cell.getCellType() == CellType.BLANK) {
            return null;
        }
        return switch (cell.getCellType()) {
            case BOOLEAN -> cell.getBooleanCellValue() ? "TRUE" : "FALSE";
            case ERROR -> "error";
            case NUMERIC -> number(cell);
            default -> cell.getStringCellValue();
        };
    }

    private static String number(Cell cell) {
        double value = cell.getNumericCellValue();
        boolean elapsed = cell.getCellStyle().getDataFormatString().equals("[h]:mm");
        if (DateUtil.isCellDateFormatted(cell) && !elapsed && value > 0) {
            LocalDateTime at = DateUtil.getLocalDateTime(value, false, false);
            return "at " + at.withNano(0);
        }
        return "number " + value;
    }

    /** A value that was read, so that it can be compared: numbers as binary fractions, moments by the second. */
    private static String comparable(String value, String opinion) {
        if (value == null || opinion == null) {
            return value;
        }
        if (opinion.startsWith("number ")) {
            return value.matches("-?[\\d.E-]+") ? "number " + new BigDecimal(value).doubleValue() : value;
        }
        if (opinion.startsWith("at ")) {
            return "at "
                    + LocalDateTime.parse(value.length() == 10 ? value + "T00:00:00" : value)
                            .withNano(0);
        }
        return value;
    }

    @Property(tries = 150)
    void values_are_those_that_another_library_reads(@ForAll long seed) throws IOException {
        Random random = new Random(seed);
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        List<List<String>> opinions = new ArrayList<>();
        try (XSSFWorkbook book = new XSSFWorkbook()) {
            fill(book, random);
            book.write(bytes);
        }
        try (XSSFWorkbook book = new XSSFWorkbook(new ByteArrayInputStream(bytes.toByteArray()))) {
            for (Sheet sheet : book) {
                for (Row row : sheet) {
                    List<String> values = new ArrayList<>(List.of("row", sheet.getSheetName()));
                    for (int c = 0; c < 5; c++) {
                        values.add(opinion(row.getCell(c)));
                    }
                    if (values.subList(2, 7).stream().anyMatch(v -> v != null)) {
                        opinions.add(values);
                    }
                }
            }
        }
        List<List<String>> records = Reading.of(CELLS, bytes.toByteArray()).records;
        List<List<String>> compared = new ArrayList<>();
        for (int i = 0; i < Math.min(records.size(), opinions.size()); i++) {
            List<String> values = new ArrayList<>(records.get(i).subList(0, 2));
            for (int c = 2; c < 7; c++) {
                String opinion = opinions.get(i).get(c);
                boolean error = "error".equals(opinion) && records.get(i).get(c) == null;
                values.add(error ? "error" : comparable(records.get(i).get(c), opinion));
            }
            compared.add(values);
        }
        assertThat(records).hasSameSizeAs(opinions);
        assertThat(compared).isEqualTo(opinions);
    }

    private static Map<String, byte[]> parts(byte[] workbook) throws IOException {
        Map<String, byte[]> parts = new LinkedHashMap<>();
        try (ZipInputStream zip = new ZipInputStream(new ByteArrayInputStream(workbook))) {
            for (ZipEntry e = zip.getNextEntry(); e != null; e = zip.getNextEntry()) {
                parts.put(e.getName(), zip.readAllBytes());
            }
        }
        return parts;
    }

    private static byte[] zipped(Map<String, byte[]> parts) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            for (Map.Entry<String, byte[]> part : parts.entrySet()) {
                zip.putNextEntry(new ZipEntry(part.getKey()));
                zip.write(part.getValue());
                zip.closeEntry();
            }
        }
        return out.toByteArray();
    }

    /** Thousands of cases ordinarily; {@code ./ninepin test --long} sets a million. */
    private static final int TRIES = Integer.getInteger("ninepin.tries", 3_000);

    @Test
    @Timeout(value = 6, unit = TimeUnit.HOURS)
    void spoilt_workbooks_give_findings_and_nothing_else(@TempDir Path folder) throws IOException {
        long first = new Random().nextLong();
        byte[] good = WorkbookText.bytes(SAMPLE);
        Map<String, byte[]> parts = parts(good);
        Path file = folder.resolve("workbook");
        Path text = folder.resolve("text");
        for (int i = 0; i < TRIES; i++) {
            Random random = new Random(first + i);
            byte[] spoilt;
            if (random.nextInt(4) == 0) {
                spoilt = SpoiltBytes.of(good, random);
            } else {
                Map<String, byte[]> own = new LinkedHashMap<>(parts);
                String part = List.copyOf(parts.keySet()).get(random.nextInt(parts.size()));
                own.put(part, SpoiltBytes.of(own.get(part), random));
                if (random.nextInt(20) == 0) {
                    own.remove(part);
                }
                spoilt = zipped(own);
            }
            try {
                Files.write(file, spoilt);
                Transcriber.transcribe(file, SideBySide.NONE, text);
                Reading reading = Reading.of(CELLS, Files.readAllBytes(text));
                reading.findings.forEach(f -> assertThat(f).isNotEmpty());
                try (Stream<Path> left = Files.list(folder)) {
                    assertThat(left.count()).as("nothing else is left").isEqualTo(2);
                }
            } catch (IOException | RuntimeException | AssertionError e) {
                throw new AssertionError("with the seed " + (first + i), e);
            }
        }
        System.out.printf("workbooks: %d spoilt files from the seed %d on%n", TRIES, first);
    }

    private static String opening(byte[] file) throws IOException {
        return String.join("\n", Reading.of(CELLS, file).findings);
    }

    @Test
    void what_is_no_workbook_is_said_with_what_to_do() throws Exception {
        assertThat(opening(new byte[0])).startsWith("an empty file (0 bytes)");
        assertThat(opening("Month;Grade\n".getBytes(StandardCharsets.UTF_8)))
                .startsWith("a file that begins with \"Month;Gr\"");
        ByteArrayOutputStream encrypted = new ByteArrayOutputStream();
        try (POIFSFileSystem container = new POIFSFileSystem()) {
            var encryptor = new EncryptionInfo(EncryptionMode.agile).getEncryptor();
            encryptor.confirmPassword("fell");
            try (var out = encryptor.getDataStream(container)) {
                out.write(WorkbookText.bytes(SAMPLE));
            }
            container.writeFilesystem(encrypted);
        }
        assertThat(opening(encrypted.toByteArray()))
                .startsWith("an encrypted workbook, or one of the older form (.xls)");
        byte[] good = WorkbookText.bytes(SAMPLE);
        assertThat(opening(java.util.Arrays.copyOf(good, good.length - 200))).contains("trouble in the package");
        assertThat(opening(zipped(Map.of("letter.txt", new byte[3])))).contains("the part xl/workbook.xml is missing");
    }

    @Test
    void a_document_type_is_refused_and_nothing_outside_is_read(@TempDir Path folder) throws IOException {
        Path secret = Files.writeString(folder.resolve("secret"), "a secret");
        Map<String, byte[]> parts = parts(WorkbookText.bytes(SAMPLE));
        String sheet = new String(parts.get("xl/worksheets/sheet1.xml"), StandardCharsets.UTF_8);
        String type = "<!DOCTYPE x [<!ENTITY e SYSTEM \"" + secret.toUri() + "\">]>";
        parts.put(
                "xl/worksheets/sheet1.xml",
                sheet.replace("?>\n", "?>\n" + type).replace("Sand", "&e;").getBytes(StandardCharsets.UTF_8));
        Reading reading = Reading.of(CELLS, zipped(parts));
        assertThat(reading.records).isEmpty();
        assertThat(reading.findings.toString())
                .contains("a document type declaration")
                .doesNotContain("a secret");
    }

    @Test
    void a_workbook_that_unpacks_without_end_is_refused() throws IOException {
        Map<String, byte[]> parts = parts(WorkbookText.bytes(SAMPLE));
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        byte[] blanks = " ".repeat(1 << 20).getBytes(StandardCharsets.US_ASCII);
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            for (Map.Entry<String, byte[]> part : parts.entrySet()) {
                zip.putNextEntry(new ZipEntry(part.getKey()));
                if (part.getKey().endsWith("sheet1.xml")) {
                    for (int i = 0; i < 300; i++) {
                        zip.write(blanks);
                    }
                }
                zip.write(part.getValue());
                zip.closeEntry();
            }
        }
        assertThat(opening(out.toByteArray())).contains("unpacks to more than 200 times as many");
    }

    @Test
    void the_same_workbook_always_gives_the_same_text(@TempDir Path folder) throws IOException {
        Path file = Files.write(folder.resolve("book.xlsx"), WorkbookText.bytes(SAMPLE));
        Transcripts transcripts = new Transcripts(folder.resolve("texts"));
        Path text = transcripts.readable(file, CELLS);
        byte[] first = Files.readAllBytes(text);
        Files.delete(text);
        assertThat(transcripts.readable(file, CELLS)).isEqualTo(text).hasBinaryContent(first);
        assertThat(new String(first, StandardCharsets.UTF_8))
                .contains("\"Sheet\",3,hidden,^1,\"Sand\",2026-10-01T12:00:00\n")
                .contains("\"More\",7,,\"x\",12{00000},,,0.00000015\n")
                .contains("@sheet \"More\",hidden,")
                .contains("@range \"Farms\",\"Sheet\",A1:C4,range,0,0\n");
    }
}
