package ninepin.core.shape;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import ninepin.core.bytes.MemorySource;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.codes.CodeList;
import ninepin.core.codes.CodeList.Entry;
import ninepin.core.codes.CodeList.Missing;
import ninepin.core.codes.CodeList.Policy;
import ninepin.core.codes.CodeTables;
import ninepin.core.format.Formats;
import ninepin.core.format.delimited.DelimitedReader;
import ninepin.core.formula.RecordContext;
import ninepin.core.job.Definitions;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.record.Opening;
import ninepin.core.testing.Layouts;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvFileSource;

class ShaperTest {

    private static final CodeTables CODES = CodeTables.of(List.of(
            new CodeList(
                    "routes",
                    null,
                    null,
                    List.of("route", "name", "no"),
                    List.of(
                            new Entry(List.of("R7", "South valley", "07"), null, null),
                            new Entry(List.of("R8", "Mill", "08"), null, LocalDate.of(2026, 10, 31)),
                            new Entry(List.of("R8", "New mill", "08"), LocalDate.of(2026, 12, 1), null)),
                    null,
                    null),
            new CodeList("passing", null, null, null, null, null, new Missing(Policy.PASS, null)),
            new CodeList("stated", null, null, null, null, null, new Missing(Policy.VALUE, "other"))));

    /** The table {@code rules.csv}: a rule as JSON, the text of the field T, the value of the row; ␣ ↹ ¶ stand for themselves. */
    @ParameterizedTest(name = "{0} of {1}")
    @CsvFileSource(resources = "rules.csv", delimiter = '|', quoteCharacter = '`', numLinesToSkip = 1)
    void a_rule_gives_the_value_of_its_target_field(String rule, String text, String value) throws IOException {
        for (FileCharset charset : EnumSet.range(FileCharset.UTF_8, FileCharset.WINDOWS_1252)) {
            Rule read = Definitions.mapper().readValue(rule, Rule.class);
            if (value != null && value.startsWith("!! ")) {
                assertThatThrownBy(() -> shaped(read, plain(text), charset)).hasMessageContaining(value.substring(3));
            } else {
                assertThat(shaped(read, plain(text), charset))
                        .as(charset.label())
                        .isEqualTo("NULL".equals(value) ? null : plain(value));
            }
            assertThat(Definitions.mapper().readValue(Definitions.mapper().writeValueAsString(read), Rule.class))
                    .isEqualTo(read);
        }
    }

    private static String plain(String shown) {
        return shown == null ? "" : shown.replace("␣", " ").replace("↹", "\t").replace("¶", "\n");
    }

    private static String shaped(Rule rule, String text, FileCharset charset) throws IOException {
        Layout layout = Layouts.delimited()
                .charset(charset)
                .text("T")
                .field("D", new DataType.Decimal(12, 2, ',', '.'))
                .field("B", new DataType.Bool(List.of("J"), List.of("N")))
                .field("S", new DataType.Timestamp("dd.MM.yyyy HH:mm:ss.SSS"))
                .build();
        String file = "T;D;B;S\r\n" + text + ";-1.234,50;j;03.11.2026 06:07:08.009\r\n";
        MemorySource source = new MemorySource(file.getBytes(charset.charset()));
        Opening opening = Formats.open(source, layout);
        DelimitedReader reader = new DelimitedReader(source, (Delimited) layout.format(), opening.body());
        RecordChecker checker = new RecordChecker(layout, opening, LocalDate.of(2026, 11, 23));
        reader.next();
        assertThat(checker.check(reader.record())).isNull();
        RowBuffer row = new RowBuffer();
        Map<String, String> asked = new HashMap<>(Map.of("season", "winter"));
        asked.put("none", null);
        RunFacts facts = new RunFacts(
                7,
                "q.csv",
                LocalDate.of(2026, 11, 23),
                LocalDateTime.of(2026, 11, 23, 4, 5, 6),
                "test",
                Map.of("plant", "LK", "season", "none"),
                asked);
        List<Finding> findings = new Shaper(
                        layout, 0, List.of(rule), new ShapingContext(facts, CODES, LookUpTables.NONE, Sequences.anew()))
                .shape(reader.record(), new RecordContext(checker.values()), row);
        if (row.rows() == 0) {
            return "! " + findings.get(0).message();
        }
        return row.row(0).get(0);
    }
}
