package ninepin.core.preview;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import ninepin.core.bytes.MemorySource;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.Layout;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.Layouts;
import ninepin.core.testing.Quality;
import org.junit.jupiter.api.Test;

class PreviewerTest {

    private static Preview preview(Layout layout, String file, long from, int count) throws IOException {
        Job job = Quality.job(Mode.ADD, null);
        return Previewer.of(
                new MemorySource(file.getBytes(Quality.CHARSET)),
                layout,
                job,
                ShapingContext.of(new RunFacts(0, "quality.csv", LocalDate.of(2026, 11, 23), Map.of())),
                from,
                count);
    }

    @Test
    void places_in_file_record_and_row_belong_together() throws IOException {
        Preview p = preview(
                Quality.layout(),
                Quality.HEADER + "a1;7;FAT;3,75;03.11.2026;\"Käse;\nmild\"\r\n;;;;;\r\na2;x;FAT;1;03.11.2026;\r\n",
                1,
                10);
        assertThat(p.lines()).singleElement().satisfies(l -> assertThat(l.kind())
                .isEqualTo(Preview.LineKind.HEADER));
        Preview.Item first = p.records().get(0);
        List<String> cells = first.cells().stream()
                .map(c -> first.text().substring(c.from(), c.to()))
                .toList();
        assertThat(cells).containsExactly("a1", "7", "FAT", "3,75", "03.11.2026", "Käse;\nmild");
        assertThat(first.values()).containsExactly("a1", "7", "FAT", "3.75", "2026-11-03", "Käse;\nmild");
        assertThat(p.rows()).singleElement().satisfies(r -> {
            assertThat(r.record()).isEqualTo(1);
            assertThat(r.values()).containsExactly("A1", "7", "FAT", "3.75", "2026-11-03", "Käse;\nmild", "0", "2");
        });
        assertThat(p.records()).extracting(Preview.Item::fate).containsExactly("row", "blank", "reject");
        assertThat(p.summary()).isEqualTo(new Preview.Summary(2, 2, 1, 1, 0, false, 1, 0, 0, Shares.NONE, false));
        assertThat(p.findings().get(0).line()).isEqualTo(5);
    }

    @Test
    void a_part_is_shown_and_the_whole_is_counted() throws IOException {
        StringBuilder file = new StringBuilder(Quality.HEADER);
        for (int i = 1; i <= 10_000; i++) {
            file.append(Quality.line(i));
        }
        Preview p = preview(Quality.layout(), file.toString(), 9_990, 5);
        assertThat(p.records()).extracting(Preview.Item::number).containsExactly(9990L, 9991L, 9992L, 9993L, 9994L);
        assertThat(p.rows()).hasSize(5);
        assertThat(p.lines()).isEmpty();
        assertThat(p.summary().read()).isEqualTo(10_000);
    }

    @Test
    void it_is_counted_how_many_records_have_a_value_in_a_field() throws IOException {
        Layout layout = Definitions.layout(
                """
                {"name": "herds", "format": {"kind": "delimited", "delimiter": ",", "header": false},
                 "recordTypes": [
                   {"name": "farm", "when": {"by": "tag", "column": 1, "values": ["F"]}, "fields": [
                     {"name": "number", "column": 2, "type": {"is": "integer"}},
                     {"name": "note", "column": 3, "type": {"is": "text", "length": 20}}]},
                   {"name": "cow", "when": {"by": "tag", "column": 1, "values": ["C"]}, "fields": [
                     {"name": "ear", "column": 2, "type": {"is": "text", "length": 20}}]}]}""");
        Preview p = preview(layout, "F,7,\nF,seven,\nF,,\n", 1, 1);
        assertThat(p.types())
                .containsExactly(
                        new Preview.TypeCount("farm", List.of("number", "note"), 3, List.of(2L, 0L)),
                        new Preview.TypeCount("cow", List.of("ear"), 0, List.of(0L)));
    }

    @Test
    void a_sample_that_cannot_be_read_is_shown_with_the_reason() throws IOException {
        Preview p = preview(Quality.layout(), "Sample,Farm\r\na,b\r\n", 1, 10);
        assertThat(p.opening().message()).contains("[HDR-02]");
        assertThat(p.records()).extracting(Preview.Item::text).containsExactly("a,b");
        assertThat(p.lines()).extracting(Preview.Line::text).containsExactly("Sample,Farm");
    }

    @Test
    void blank_rows_and_skipped_lines_follow_the_layout() throws IOException {
        Layout layout = Layouts.delimited()
                .skip(2)
                .blankRows(BlankRows.REJECT)
                .text("Sample")
                .build();
        Preview p = preview(layout, "made by the laboratory\r\n\r\nSample\r\nx\r\n\r\ny\r\n", 1, 10);
        assertThat(p.lines()).extracting(Preview.Line::line).containsExactly(1L, 3L);
        assertThat(p.summary()).isEqualTo(new Preview.Summary(3, 3, 2, 1, 0, false, 0, 0, 0, Shares.NONE, false));
        assertThat(p.findings().get(0).code()).isEqualTo("ROW-03");
    }
}
