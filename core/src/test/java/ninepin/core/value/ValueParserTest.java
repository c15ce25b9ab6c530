package ninepin.core.value;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.HexFormat;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.BigRange;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Scale;
import ninepin.core.job.Definitions;
import ninepin.core.layout.DataType;
import ninepin.core.layout.FileCharset;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvFileSource;

class ValueParserTest {

    /** The table {@code values.csv}: type as JSON, text or, behind 0x, bytes, value in ISO form or {@code !CODE words of the advice}. */
    @ParameterizedTest(name = "{0} {1}")
    @CsvFileSource(resources = "values.csv", delimiter = '|', numLinesToSkip = 1)
    void a_text_is_a_value_or_a_sharp_problem(String type, String text, String expected) {
        DataType dataType = Definitions.mapper().readValue(type.strip(), DataType.class);
        byte[] bytes = text != null && text.strip().startsWith("0x")
                ? HexFormat.of().parseHex(text.strip().substring(2))
                : (text == null ? "" : text.strip().replace("␣", " ").replace("␀", "\0"))
                        .getBytes(StandardCharsets.UTF_8);
        Value value = new Value();
        Problem problem = ValueParser.of(dataType, FileCharset.UTF_8).parse(bytes, 0, bytes.length, value);
        String outcome = problem == null
                ? String.valueOf(value.text(StandardCharsets.UTF_8))
                : "!" + problem.code() + (problem.advice() == null ? "" : " " + problem.advice());
        assertThat(outcome).startsWith(expected.strip().replace("␣", " "));
        if (problem == null && !expected.startsWith("!")) {
            assertThat(outcome).isEqualTo(expected.strip().replace("␣", " "));
        }
    }

    @Property
    void every_decimal_is_read_exactly(
            @ForAll @BigRange(min = "-99999999999999999999", max = "99999999999999999999") @Scale(6) BigDecimal d) {
        Value value = new Value();
        byte[] bytes = d.toPlainString().replace('.', ',').getBytes(StandardCharsets.US_ASCII);
        Problem problem = ValueParser.of(new DataType.Decimal(38, 6, ',', null), FileCharset.UTF_8)
                .parse(bytes, 0, bytes.length, value);
        assertThat(problem).isNull();
        assertThat(value.ordered()).isEqualByComparingTo(d);
    }

    @Property
    void every_day_of_ten_thousand_years_is_read(@ForAll @IntRange(min = -719162, max = 2932896) int epochDay) {
        LocalDate day = LocalDate.ofEpochDay(epochDay);
        byte[] bytes = day.format(DateTimeFormatter.ofPattern("dd.MM.uuuu")).getBytes(StandardCharsets.US_ASCII);
        Value value = new Value();
        assertThat(ValueParser.of(new DataType.Date("dd.MM.yyyy"), FileCharset.UTF_8)
                        .parse(bytes, 0, bytes.length, value))
                .isNull();
        assertThat(value.number()).isEqualTo(epochDay);
    }
}
