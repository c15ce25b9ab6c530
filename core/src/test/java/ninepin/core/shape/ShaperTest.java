package ninepin.core.shape;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.time.LocalDate;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import ninepin.core.check.RecordChecker;
import ninepin.core.job.Definitions;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.read.DelimitedReader;
import ninepin.core.read.Opening;
import ninepin.core.source.MemorySource;
import ninepin.core.testing.Layouts;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvFileSource;

class ShaperTest {

    /** The table {@code rules.csv}: a rule as JSON, the text of the field T, the value of the row; ␣ ↹ ¶ stand for themselves. */
    @ParameterizedTest(name = "{0} of {1}")
    @CsvFileSource(resources = "rules.csv", delimiter = '|', quoteCharacter = '`', numLinesToSkip = 1)
    void a_rule_gives_the_value_of_its_target_field(String rule, String text, String value) throws IOException {
        for (FileCharset charset : EnumSet.range(FileCharset.UTF_8, FileCharset.WINDOWS_1252)) {
            assertThat(shaped(Definitions.mapper().readValue(rule, Rule.class), plain(text), charset))
                    .as(charset.label())
                    .isEqualTo("NULL".equals(value) ? null : plain(value));
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
        Opening opening = Opening.of(source, layout);
        DelimitedReader reader = new DelimitedReader(source, (Delimited) layout.format(), opening.body());
        RecordChecker checker = new RecordChecker(layout, opening, LocalDate.of(2026, 11, 23));
        reader.next();
        assertThat(checker.check(reader.record())).isNull();
        RowBuffer row = new RowBuffer();
        RunFacts facts = new RunFacts(7, "q.csv", LocalDate.of(2026, 11, 23), Map.of("season", "winter"));
        new Shaper(layout, 0, List.of(rule, rule), facts).shape(reader.record(), checker.values(), row);
        assertThat(row.rows()).isEqualTo(1);
        assertThat(row.row(0).get(0)).isEqualTo(row.row(0).get(1));
        return row.row(0).get(0);
    }
}
