package ninepin.core.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import ninepin.core.bytes.MemorySource;
import ninepin.core.format.Formats;
import ninepin.core.format.delimited.DelimitedReader;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Layout;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordReader;
import ninepin.core.testing.Layouts;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvFileSource;

class RecordCheckerTest {

    /** The table {@code checks.csv}: type and check as JSON, a text, and what is said of it behind its place; - for nothing. */
    @ParameterizedTest(name = "{1} of {2}")
    @CsvFileSource(
            resources = "checks.csv",
            delimiter = '|',
            quoteCharacter = '`',
            numLinesToSkip = 1,
            maxCharsPerColumn = 4096)
    void a_check_holds_or_says_what_was_expected(String type, String check, String text, String finding)
            throws IOException {
        Layout layout = Layouts.delimited()
                .text("Id")
                .field(
                        "F",
                        Definitions.mapper().readValue(type, DataType.class),
                        Definitions.mapper().readValue(check, Check.class))
                .build();
        List<Finding> found = findings(layout, "Id;F\n1;" + (text == null ? "" : text.replace("␣", " ")) + "\n");
        if (finding.equals("-")) {
            assertThat(found).isEmpty();
        } else {
            Finding only = found.get(0);
            assertThat(found).hasSize(1);
            assertThat(only.severity() + only.message().replaceFirst("^line 2 · F \\(columns? [\\d–]+\\): found", ""))
                    .isEqualTo(finding.replace("␣", " "));
        }
    }

    @Test
    void a_finding_inside_quoted_text_names_its_own_line_columns_and_bytes() throws IOException {
        Layout layout = Layouts.delimited()
                .text("A")
                .field("B", new DataType.IntegerNumber())
                .build();
        Finding finding = findings(layout, "A;B\r\n\"zwei\r\nZäilen\";1x2\r\n").get(0);
        assertThat(finding.message())
                .isEqualTo(
                        "line 3 · B (columns 9–11): found \"1x2\", expected a whole number. Character 2 is the letter x."
                                + " [NUM-01]");
        assertThat(finding.offset()).isEqualTo(21);
        assertThat(finding.length()).isEqualTo(3);
    }

    @Test
    void every_second_key_is_found_among_many_with_the_line_of_the_first() throws IOException {
        Layout layout = Layouts.delimited()
                .text("A", new Check.Unique(List.of("B"), null))
                .text("B")
                .build();
        Random random = new Random(5);
        StringBuilder file = new StringBuilder("A;B\n");
        Map<String, Integer> first = new HashMap<>();
        List<String> expected = new ArrayList<>();
        for (int line = 2; line < 120_000; line++) {
            String row = random.nextInt(60_000) + ";" + random.nextInt(3);
            file.append(row).append('\n');
            Integer before = first.putIfAbsent(row, line);
            if (before != null) {
                expected.add("It stands first on line " + before + ".");
            }
        }
        assertThat(findings(layout, file.toString()).stream().map(Finding::advice))
                .isEqualTo(expected);
    }

    private static List<Finding> findings(Layout layout, String file) throws IOException {
        MemorySource source = new MemorySource(file.getBytes(StandardCharsets.UTF_8));
        Opening opening = Formats.open(source, layout);
        RecordChecker checker = new RecordChecker(layout, opening, LocalDate.of(2026, 11, 23));
        DelimitedReader reader = new DelimitedReader(source, (Delimited) layout.format(), opening.body());
        List<Finding> all = new ArrayList<>();
        while (reader.next() != RecordReader.Item.END) {
            checker.check(reader.record());
            all.addAll(checker.findings());
        }
        return all;
    }
}
