package ninepin.core.format.workbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.TimeUnit;
import ninepin.core.format.Formats;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.record.RecordWriter;
import ninepin.core.testing.Reading;
import ninepin.core.value.UnwritableException;
import org.apache.poi.ss.usermodel.CellType;
import org.apache.poi.xssf.usermodel.XSSFSheet;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Workbooks that are written open in an office program and in another library, with types, widths, a frozen header and formats. */
class WrittenWorkbookTest {

    private static final Layout PRICES = Definitions.layout(
            """
            {"name":"prices","format":{"kind":"workbook"},"recordTypes":[
             {"name":"price","when":{"by":"rows","sheet":"Butter & Co","header":3,"range":"Butter_prices"},"fields":[
              {"name":"day","header":"Day","type":{"is":"date","pattern":"dd.MM.yyyy"}},
              {"name":"grade","header":"Grade","type":{"is":"text","length":40}},
              {"name":"tonnes","header":"Tonnes","type":{"is":"integer"}},
              {"name":"price","header":"Price","type":{"is":"decimal","precision":9,"scale":2,"decimalSign":","}},
              {"name":"fixed","header":"Fixed at","type":{"is":"timestamp","pattern":"dd.MM.yyyy HH:mm:ss"}},
              {"name":"at","header":"Time","type":{"is":"time","pattern":"HH:mm"}},
              {"name":"organic","header":"Organic","type":{"is":"boolean","trueTokens":["yes"],"falseTokens":["no"]}}]},
             {"name":"total","when":{"by":"rows","sheet":"Butter & Co","header":3,"range":"Butter_prices","column":"A","values":["Total"]},"fields":[
              {"name":"tonnes","header":"Tonnes","type":{"is":"integer"}}]},
             {"name":"grade","when":{"by":"rows","sheet":"Grades","header":0},"fields":[
              {"name":"code","letter":"B","type":{"is":"text","length":10}}]}],
             "fileChecks":[{"rule":"total","field":"total.tonnes","of":"price.tonnes"}]}
            """);

    private static final List<String> FIRST =
            List.of("2026-10-01", "=1+1 \"A\" <ä>", "74", "6.10", "2026-10-01T08:30", "08:30", "true");
    private static final List<String> SECOND = Arrays.asList("1999-12-31", "007", "-3", "0.50", null, "23:59", "false");

    private static byte[] written(Layout layout, Object... typesAndValues) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (RecordWriter writer = Formats.writer(out, layout)) {
            for (int i = 0; i < typesAndValues.length; i += 2) {
                @SuppressWarnings("unchecked")
                List<String> values = (List<String>) typesAndValues[i + 1];
                writer.write((Integer) typesAndValues[i], values);
            }
        }
        return Transcripts.composed(out.toByteArray(), layout);
    }

    private static byte[] prices() throws IOException {
        return written(PRICES, 0, FIRST, 2, List.of("0815"), 0, SECOND, 1, List.of("71"));
    }

    @Test
    void an_office_program_shows_what_was_written(@TempDir Path folder) throws Exception {
        Files.write(folder.resolve("prices.xlsx"), prices());
        Process office = new ProcessBuilder(
                        "soffice",
                        "-env:UserInstallation=" + folder.resolve("profile").toUri(),
                        "--headless",
                        "--convert-to",
                        // Comma, quotes, UTF-8, cells as they are shown, every sheet a file.
                        "csv:Text - txt - csv (StarCalc):44,34,76,1,,0,false,true,true,false,false,-1",
                        "--outdir",
                        folder.toString(),
                        folder.resolve("prices.xlsx").toString())
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("log").toFile())
                .start();
        assertThat(office.waitFor(120, TimeUnit.SECONDS))
                .as("the office program ends")
                .isTrue();
        assertThat(Files.readString(folder.resolve("prices-Butter & Co.csv")))
                .isEqualTo(
                        """
                        ,,,,,,
                        ,,,,,,
                        Day,Grade,Tonnes,Price,Fixed at,Time,Organic
                        2026-10-01,"=1+1 ""A"" <ä>",74,6.10,2026-10-01 08:30:00,08:30:00,TRUE
                        1999-12-31,007,-3,0.50,,23:59:00,FALSE
                        Total,,71,,,,
                        """);
        assertThat(Files.readString(folder.resolve("prices-Grades.csv"))).isEqualTo(",0815\n");
    }

    @Test
    void types_widths_formats_and_a_frozen_header_are_kept() throws IOException {
        try (XSSFWorkbook book = new XSSFWorkbook(new ByteArrayInputStream(prices()))) {
            XSSFSheet sheet = book.getSheet("Butter & Co");
            assertThat(sheet.getPaneInformation().isFreezePane()).isTrue();
            assertThat(sheet.getPaneInformation().getHorizontalSplitPosition()).isEqualTo((short) 3);
            assertThat(sheet.getColumnWidth(4)).isGreaterThan(sheet.getColumnWidth(2));
            assertThat(sheet.getRow(2).getCell(0).getCellStyle().getFont().getBold())
                    .isTrue();
            assertThat(sheet.getRow(3).getCell(0).getCellStyle().getDataFormatString())
                    .isEqualTo("yyyy\\-mm\\-dd");
            assertThat(sheet.getRow(3).getCell(1).getCellType()).isEqualTo(CellType.STRING);
            assertThat(sheet.getRow(3).getCell(1).getCellStyle().getDataFormatString())
                    .isEqualTo("@");
            assertThat(sheet.getRow(3).getCell(3).getNumericCellValue()).isEqualTo(6.1);
            assertThat(sheet.getRow(3).getCell(3).getCellStyle().getDataFormatString())
                    .isEqualTo("0.00");
            assertThat(sheet.getRow(3).getCell(6).getBooleanCellValue()).isTrue();
            assertThat(sheet.getRow(4).getCell(4)).isNull();
            assertThat(book.getName("Butter_prices").getRefersToFormula()).isEqualTo("'Butter & Co'!$A$3:$G$6");
        }
    }

    @Test
    void it_is_read_back_by_the_same_layout() throws IOException {
        Reading reading = Reading.of(PRICES, prices());
        assertThat(reading.findings).isEmpty();
        assertThat(reading.records)
                .containsExactly(
                        List.of(
                                "price",
                                "2026-10-01",
                                "=1+1 \"A\" <ä>",
                                "74",
                                "6.10",
                                "2026-10-01T08:30",
                                "08:30",
                                "true"),
                        Arrays.asList("price", "1999-12-31", "007", "-3", "0.50", null, "23:59", "false"),
                        List.of("total", "71"),
                        List.of("grade", "0815"));
        assertThat(prices()).as("the same rows give the same bytes").isEqualTo(prices());
    }

    @Test
    void rows_go_to_the_sheet_that_they_name_and_tables_stand_beside_each_other() throws IOException {
        Layout bySheet = Definitions.layout(
                """
                {"name":"l","format":{"kind":"workbook"},"recordTypes":[{"name":"r","when":{"by":"rows","sheet":"2026-*"},"fields":[
                 {"name":"month","sheet":true,"type":{"is":"text","length":31}},{"name":"n","header":"N","type":{"is":"integer"}}]}]}
                """);
        byte[] file =
                written(bySheet, 0, List.of("2026-10", "1"), 0, List.of("2026-11", "2"), 0, List.of("2026-10", "3"));
        assertThat(Reading.of(bySheet, file).records)
                .containsExactly(
                        List.of("r", "2026-10", "1"), List.of("r", "2026-10", "3"), List.of("r", "2026-11", "2"));
        assertThatThrownBy(() -> written(bySheet, 0, List.of("a/b", "1")))
                .isInstanceOf(UnwritableException.class)
                .hasMessageContaining("is no name of a sheet");

        Layout beside = Definitions.layout(
                """
                {"name":"l","format":{"kind":"workbook"},"recordTypes":[
                 {"name":"farm","when":{"by":"rows","sheet":"All","range":"Farms"},"fields":[{"name":"no","header":"No","type":{"is":"integer"}}]},
                 {"name":"route","when":{"by":"rows","sheet":"All","range":"Routes"},"fields":[{"name":"no","header":"No","type":{"is":"text","length":5}}]}]}
                """);
        byte[] both =
                written(beside, 0, List.of("1"), 1, List.of("R1"), 0, List.of("2"), 0, List.of("3"), 1, List.of("R2"));
        assertThat(Reading.of(beside, both).records)
                .containsExactly(
                        List.of("farm", "1"),
                        List.of("route", "R1"),
                        List.of("farm", "2"),
                        List.of("route", "R2"),
                        List.of("farm", "3"));
    }

    @ParameterizedTest
    @CsvSource({
        "text, text|length|100000, keeps",
        "'1234567890123456', integer||, has 16 digits; a workbook keeps 15 of a number",
        "'1899-12-31', date||, a workbook has days from 1900 to 9999",
        "'2026-10-01T08:30:00.000001', timestamp|pattern|yyyy-MM-dd'T'HH:mm:ss.SSSSSS, keeps milliseconds",
    })
    void what_a_cell_cannot_keep_is_not_written(String value, String type, String said) {
        String[] parts = type.split("\\|", -1);
        String more = parts[1].isEmpty()
                ? ""
                : ",\"" + parts[1] + "\":" + (parts[2].matches("\\d+") ? parts[2] : '"' + parts[2] + '"');
        Layout layout = Definitions.layout(
                "{\"name\":\"l\",\"format\":{\"kind\":\"workbook\"},\"recordTypes\":[{\"name\":\"r\","
                        + "\"when\":{\"by\":\"rows\",\"sheet\":\"S\"},\"fields\":[{\"name\":\"v\",\"header\":\"V\",\"type\":{\"is\":\""
                        + parts[0]
                        + "\"" + more + "}}]}]}");
        String written = value.equals("text") ? "x".repeat(40_000) : value;
        String expected = value.equals("text") ? "a cell has 32767 at most" : said;
        assertThatThrownBy(() -> written(layout, 0, List.of(written)))
                .isInstanceOf(UnwritableException.class)
                .hasMessageContaining(expected);
    }

    @Test
    void characters_that_xml_does_not_have_come_back() throws IOException {
        Layout layout = Definitions.layout(
                """
                {"name":"l","format":{"kind":"workbook"},"recordTypes":[{"name":"r","when":{"by":"rows","sheet":"S"},"fields":[
                 {"name":"v","header":"V","type":{"is":"text","length":100}}]}]}
                """);
        String odd = "a\u0001b\r\nc\td_x0041_ \\n \u00e4\ud83d\ude00 ]]>";
        Reading reading = Reading.of(layout, written(layout, 0, List.of(odd)));
        assertThat(reading.records).containsExactly(List.of("r", odd));
        assertThat(new String(written(layout), StandardCharsets.ISO_8859_1))
                .as("an empty one")
                .startsWith("PK");
    }
}
