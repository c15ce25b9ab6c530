package ninepin.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.function.IntFunction;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ninepin.core.bytes.MemorySource;
import ninepin.core.format.xml.proposer.ElementTree;
import ninepin.core.infer.Proposal;
import ninepin.core.infer.TypeGuess;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCheck;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Severity;
import ninepin.core.layout.Xml;
import ninepin.core.testing.Places;
import ninepin.core.testing.Reading;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** Samples with known layouts: what the sample decides is proposed, what it does not is said to be unsure. */
class ProposerTest {

    private static final Charset WINDOWS_1252 = Charset.forName("windows-1252");

    /** A column of a generated sample: its type as the proposal words it, and its values. */
    private record Column(String name, String type, IntFunction<String> value) {}

    private static final Random RANDOM = new Random(3);

    private static String day(int i, String pattern) {
        return LocalDate.of(2026, 1, 1).plusDays(i * 37L % 360).format(DateTimeFormatter.ofPattern(pattern));
    }

    private static final List<Column> COLUMNS = List.of(
            new Column("Number", "INTEGER", i -> String.valueOf(100 + i * 3)),
            new Column("Signed", "INTEGER", i -> String.valueOf(50 - i)),
            new Column("Code", "CHARACTER VARYING", i -> String.format("%05d", 471 + i)),
            new Column("Comma", "DECIMAL with comma", i -> String.format(Locale.GERMANY, "%.2f", 3.5 + i / 7.0)),
            new Column("Point", "DECIMAL", i -> String.format(Locale.ROOT, "%.3f", 1.25 + i / 9.0)),
            new Column("Grouped", "DECIMAL with comma", i -> String.format(Locale.GERMANY, "%,.2f", 1234.5 + i * 99)),
            new Column("Iso", "DATE yyyy-MM-dd", i -> day(i, "yyyy-MM-dd")),
            new Column("German", "DATE dd.MM.yyyy", i -> day(i, "dd.MM.yyyy")),
            new Column("British", "DATE dd/MM/yyyy", i -> day(i, "dd/MM/yyyy")),
            new Column("American", "DATE MM/dd/yyyy", i -> day(i, "MM/dd/yyyy")),
            new Column("Compact", "DATE yyyyMMdd", i -> day(i, "yyyyMMdd")),
            new Column("Clock", "TIME HH:mm", i -> String.format("%02d:%02d", i % 24, i * 7 % 60)),
            new Column("Seconds", "TIME HH:mm:ss", i -> String.format("%02d:%02d:%02d", i % 24, i * 7 % 60, i % 60)),
            new Column("Moment", "TIMESTAMP yyyy-MM-dd HH:mm:ss", i -> day(i, "yyyy-MM-dd") + " 04:0" + i % 10 + ":09"),
            new Column("Flag", "BOOLEAN", i -> i % 3 == 0 ? "Y" : "N"),
            new Column("Word", "BOOLEAN", i -> i % 2 == 0 ? "true" : "false"),
            new Column("Name", "CHARACTER VARYING", i -> "Hof " + (char) ('A' + i % 26) + i),
            new Column("Umlaut", "CHARACTER VARYING", i -> i % 2 == 0 ? "Söll" : "Kühn " + i),
            new Column("Mixed", "CHARACTER VARYING", i -> i % 2 == 0 ? "A" + i : String.valueOf(i)),
            new Column("Sparse", "INTEGER", i -> i % 4 == 0 ? "" : String.valueOf(i)));

    /** A value as it comes again and again, and the type that is proposed for such. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "2015/01/01 01:00:00 2016/12/31 23:59:59 | TIMESTAMP yyyy/MM/dd HH:mm:ss",
                "23/11/2026 10:00 1/12/2026 9:30 | TIMESTAMP d/M/yyyy H:mm[:ss]",
                "11/23/2026 2:05 PM 1/3/2026 12:30 AM | TIMESTAMP M/d/yyyy h:mm[:ss] a",
                "2026-11-23T10:00:00Z 2026-11-24T11:30:00+02:00 | TIMESTAMP yyyy-MM-dd'T'HH:mm[:ss][X]",
                "2026-11-23T10:00:00.250Z 2026-11-24T11:30:00.5Z | TIMESTAMP yyyy-MM-dd'T'HH:mm:ss[.SSS][X]",
                "2026-11-23 10:00:00.123456 2026-11-24 11:30:00 | TIMESTAMP yyyy-MM-dd HH:mm:ss[.SSSSSS][X]",
                "Jan 1 2000 Dec 31 2001 | DATE MMM d yyyy",
                "1-Jan-2000 31-DEC-2001 | DATE d-MMM-yyyy",
                "+1 +290 +44 | CHARACTER VARYING",
                "+1 -290 | INTEGER",
                "-122.419415500000012 37.774929500000001 | DECIMAL",
                "1200 12.5 7 | DECIMAL",
                "007 12 | CHARACTER VARYING"
            })
    void values_of_every_day_have_their_types(String values, String type) throws IOException {
        List<String> some = new ArrayList<>();
        Matcher one = Pattern.compile("\\S+(?: \\d{1,2}:\\S+)?(?: [AP]M)?(?: \\d+ \\d{4})?")
                .matcher(values);
        while (one.find()) {
            some.add(one.group());
        }
        StringBuilder text = new StringBuilder("Value;Note\n");
        for (int i = 0; i < 60; i++) {
            text.append(some.get(i % some.size())).append(";n").append(i).append('\n');
        }
        byte[] bytes = text.toString().getBytes(StandardCharsets.UTF_8);
        Layout layout = Proposals.of(new MemorySource(bytes), "v", null).layout();
        assertThat(words(layout.firstType().fields().get(0).type())).isEqualTo(type);
        assertThat(Reading.of(layout, bytes).findings).isEmpty();
    }

    /** Another pattern that makes the same of every value leaves no doubt, and is no choice. */
    @Test
    void patterns_that_read_alike_leave_no_doubt() throws IOException {
        StringBuilder text = new StringBuilder("At;N\n");
        for (int i = 0; i < 20; i++) {
            text.append("2026-11-")
                    .append(10 + i)
                    .append("T04:17:30;")
                    .append(i)
                    .append('\n');
        }
        Proposal.FieldProfile at = Proposals.of(new MemorySource(text.toString().getBytes()), "v", null)
                .fields()
                .get(0);
        assertThat(at.type()).isEqualTo("TIMESTAMP yyyy-MM-dd'T'HH:mm:ss");
        assertThat(at.sureness()).isEqualTo(Proposal.Sureness.SURE);
        assertThat(at.choices())
                .filteredOn(t -> t instanceof DataType.Timestamp)
                .hasSize(1);
    }

    /** A column with what may stand for NULL in it; what is taken for NULL, and the type of the others. */
    @ParameterizedTest
    @CsvSource({
        "1 \\N 3, \\N, INTEGER",
        "some \\N words, \\N, CHARACTER VARYING",
        "1.5 NA 3, NA, DECIMAL",
        "2026-11-23 NULL 2026-11-24, NULL, DATE yyyy-MM-dd",
        "NA SA EU, , CHARACTER VARYING",
        "NA NA NA, , CHARACTER VARYING"
    })
    void what_stands_for_null_is_seen(String values, String nullText, String type) throws IOException {
        List<String> some = List.of(values.split(" "));
        StringBuilder text = new StringBuilder("Value;N\n");
        for (int i = 0; i < 30; i++) {
            text.append(some.get(i % some.size())).append(';').append(i).append('\n');
        }
        byte[] bytes = text.toString().getBytes(StandardCharsets.UTF_8);
        Layout layout = Proposals.of(new MemorySource(bytes), "v", null).layout();
        assertThat(((Delimited) layout.format()).habitsOrNone().nullText()).isEqualTo(nullText);
        assertThat(words(layout.firstType().fields().get(0).type())).isEqualTo(type);
        Reading reading = Reading.of(layout, bytes);
        assertThat(reading.findings).isEmpty();
        assertThat(reading.records.get(1).get(1)).isEqualTo(nullText == null ? some.get(1) : null);
    }

    /** What stands behind the first lines counts as well. */
    @Test
    void a_proposal_rejects_no_record_of_its_sample() throws IOException {
        StringBuilder text = new StringBuilder("Number;Name;Day\n");
        for (int i = 0; i < 9_000; i++) {
            text.append(i < 8_000 ? String.valueOf(i) : i + ".5")
                    .append(i < 8_500 ? ";short;" : ";" + "a much longer name ".repeat(8) + ";")
                    .append(i == 8_900 ? "unknown\n" : "2026-11-23\n");
        }
        byte[] bytes = text.toString().getBytes(StandardCharsets.UTF_8);
        Layout layout = Proposals.of(new MemorySource(bytes), "v", null).layout();
        Reading reading = Reading.of(layout, bytes);
        assertThat(reading.findings).isEmpty();
        assertThat(reading.records).hasSize(9_000);
        assertThat(layout.firstType().fields()).extracting(f -> words(f.type())).startsWith("DECIMAL");
    }

    private static String words(DataType type) {
        return TypeGuess.words(type).replaceAll("\\(.*?\\)", "");
    }

    @Test
    void types_and_names_of_generated_delimited_samples_are_found() throws IOException {
        int right = 0;
        int all = 0;
        List<String> wrong = new ArrayList<>();
        for (int sample = 0; sample < 60; sample++) {
            char delimiter = ";,\t|".charAt(sample % 4);
            boolean header = sample % 3 != 0;
            Charset charset = sample % 2 == 0 ? StandardCharsets.UTF_8 : WINDOWS_1252;
            List<Column> columns = new ArrayList<>();
            for (int c = 0; c < 4 + sample % 5; c++) {
                columns.add(COLUMNS.get(RANDOM.nextInt(COLUMNS.size())));
            }
            columns = columns.stream().distinct().toList();
            if (columns.size() < 2) {
                continue;
            }
            Layout layout = Proposals.of(
                            new MemorySource(text(columns, delimiter, header, 40 + sample)
                                    .getBytes(charset)),
                            "s",
                            null)
                    .layout();
            Delimited format = (Delimited) layout.format();
            assertThat(format.delimiter()).isEqualTo(String.valueOf(delimiter));
            List<Field> fields = layout.firstType().fields();
            for (int c = 0; c < columns.size(); c++) {
                all++;
                Field field = c < fields.size() ? fields.get(c) : null;
                String found = field == null ? "nothing" : words(field.type());
                boolean named = field != null
                        && field.name().equals(format.header() ? columns.get(c).name() : "column " + (c + 1));
                if (named
                        && format.header() == header
                        && found.equals(columns.get(c).type())) {
                    right++;
                } else {
                    wrong.add(columns.get(c).name() + " as " + found + (format.header() == header ? "" : " (header!)"));
                }
            }
        }
        System.out.printf("proposals: %d of %d fields of delimited samples right; wrong: %s%n", right, all, wrong);
        assertThat(right).isGreaterThan(all * 97 / 100);
    }

    private static String text(List<Column> columns, char delimiter, boolean header, int rows) {
        StringBuilder text = new StringBuilder();
        String d = String.valueOf(delimiter);
        if (header) {
            text.append(String.join(d, columns.stream().map(Column::name).toList()))
                    .append("\r\n");
        }
        for (int i = 0; i < rows; i++) {
            int row = i;
            text.append(String.join(
                            d,
                            columns.stream()
                                    .map(c -> c.value().apply(row))
                                    .map(v -> v.indexOf(delimiter) >= 0 ? '"' + v + '"' : v)
                                    .toList()))
                    .append("\r\n");
        }
        return text.toString();
    }

    @Test
    void a_date_that_may_be_read_in_two_ways_is_unsure_and_says_so() throws IOException {
        StringBuilder text = new StringBuilder("Day;N\n");
        for (int i = 1; i <= 12; i++) {
            text.append(String.format("%02d/%02d/2026;%d%n", i, 13 - i, i));
        }
        Proposal.FieldProfile day = Proposals.of(
                        new MemorySource(text.toString().getBytes()), "d", null)
                .fields()
                .get(0);
        assertThat(day.sureness()).isEqualTo(Proposal.Sureness.UNSURE);
        assertThat(day.choices()).contains(new DataType.Date("MM/dd/yyyy"));
    }

    @Test
    void values_that_speak_against_a_type_are_shown() throws IOException {
        StringBuilder text = new StringBuilder("Volume;Farm\n");
        for (int i = 0; i < 40; i++) {
            text.append(i == 17 ? "12O0" : 1000 + i)
                    .append(';')
                    .append("F")
                    .append(i % 4)
                    .append('\n');
        }
        Proposal proposal = Proposals.of(new MemorySource(text.toString().getBytes()), "v", null);
        Proposal.FieldProfile volume = proposal.fields().get(0);
        // What would reject a value of the sample is offered, and not proposed.
        assertThat(volume.type()).startsWith("CHARACTER VARYING");
        assertThat(volume.choices()).contains(new DataType.IntegerNumber());
        assertThat(volume.sureness()).isEqualTo(Proposal.Sureness.UNSURE);
        assertThat(volume.note()).isEqualTo("nearly all values are INTEGER");
        assertThat(volume.misfits()).containsExactly("12O0");
        assertThat(proposal.fields().get(1).likelyCodes()).containsExactly("F0", "F1", "F2", "F3");
    }

    @Test
    void record_types_and_edges_of_a_fixed_length_file_are_found() throws IOException {
        StringBuilder text = new StringBuilder(line("H20261123R07"));
        for (int r = 0; r < 6; r++) {
            text.append(line(
                    String.format("R%06dLK-%04d %-20s20261123%02d17", 120 + r, 1049 + r, "Edda Brück " + r, 4 + r)));
            for (int s = 1; s <= 12; s++) {
                text.append(line(String.format(
                        "C%03d%05d%06d%s",
                        s, 7 + (r * 53 + s * 17) % 200, 380 + (s * 977 + r * 331) % 2900, "Tank " + s)));
            }
        }
        // As many collections as there are rounds begin the count, and the total is not quite right.
        text.append(line("T000072000" + 124_456));
        Layout layout = Proposals.of(new MemorySource(text.toString().getBytes(StandardCharsets.ISO_8859_1)), "t", null)
                .layout();
        assertThat(layout.format()).isInstanceOf(FixedLength.class);
        assertThat(((FixedLength) layout.format()).length()).isEqualTo(80);
        assertThat(layout.recordTypes())
                .extracting(RecordType::name)
                .containsExactly("header", "type R", "type C", "trailer");
        assertThat(layout.recordTypes().get(2).parent()).isEqualTo("type R");
        assertThat(layout.firstType().fields().get(0).type()).isEqualTo(new DataType.Date("yyyyMMdd"));
        List<Integer> starts = layout.recordTypes().get(2).fields().stream()
                .map(f -> Places.span(f).start())
                .toList();
        assertThat(starts).startsWith(2).contains(5, 10, 16);
        assertThat(layout.recordTypes().get(3).fields())
                .extracting(f -> Places.span(f).start() + "+" + Places.span(f).length())
                .containsExactly("2+6", "8+9");
        assertThat(layout.fileChecks())
                .contains(new FileCheck.Count("trailer.field 1", "type C", Severity.HALT))
                .hasSize(2);
        List<Integer> round = layout.recordTypes().get(1).fields().stream()
                .map(f -> Places.span(f).start())
                .toList();
        assertThat(round).contains(2, 8, 16, 36);
    }

    private static String line(String text) {
        return String.format("%-80s%n", text);
    }

    @Test
    void elements_that_repeat_are_record_types_with_paths_and_namespaces() throws IOException {
        StringBuilder text = new StringBuilder("<register xmlns=\"urn:r\" xmlns:h=\"urn:h\" month=\"2026-11\">");
        for (int i = 1; i < 20; i++) {
            text.append("<farm number=\"" + i + "\"><name>Hof " + i + "</name><place><village>V" + i % 3
                    + "</village></place><h:herd breed=\"A\"><h:cows>" + i + "</h:cows></h:herd>"
                    + (i % 2 == 0 ? "<h:herd breed=\"B\"><h:cows>9</h:cows></h:herd>" : "") + "</farm>");
        }
        Layout layout = Proposals.of(
                        new MemorySource(text.append("</register>").toString().getBytes()), "x", null)
                .layout();
        assertThat(((Xml) layout.format()).namespaces())
                .containsEntry("n", "urn:r")
                .containsEntry("h", "urn:h");
        assertThat(layout.recordTypes()).extracting(RecordType::name).containsExactly("register", "farm", "herd");
        assertThat(layout.recordTypes().get(1).parent()).isEqualTo("register");
        assertThat(layout.recordTypes().get(2).parent()).isEqualTo("farm");
        RecordType farm = layout.recordTypes().get(1);
        assertThat(farm.fields()).extracting(Places::path).containsExactly("@number", "n:name", "n:place/n:village");
        assertThat(farm.fields().get(0).type()).isEqualTo(new DataType.IntegerNumber());
    }

    @Test
    void the_head_of_a_document_and_plain_elements_that_repeat_are_not_lost() throws IOException {
        String order = "<Auftrag no='7' xml:lang='de' xmlns:xsi='http://www.w3.org/2001/XMLSchema-instance'"
                + " xsi:noNamespaceSchemaLocation='a.xsd'><Währung>Krone</Währung><line item='Salt'/><line item='Rope'/>"
                + "<note>one</note><note>two</note><free>some <b>bold</b> words</free></Auftrag>";
        byte[] bytes = order.getBytes(StandardCharsets.UTF_8);
        Proposal proposal = Proposals.of(new MemorySource(bytes), "x", null);
        Layout layout = proposal.layout();
        assertThat(layout.firstType().fields())
                .extracting(Places::path)
                .containsExactly("@no", "@xml:lang", "Währung", "free/b");
        assertThat(layout.recordTypes()).extracting(RecordType::name).containsExactly("Auftrag", "line", "note");
        assertThat(proposal.guesses())
                .anyMatch(g ->
                        g.part().equals("left out") && g.choice().equals("text between the elements of /Auftrag/free"));
        assertThat(Reading.of(layout, bytes).records)
                .containsExactly(
                        List.of("Auftrag", "7", "de", "Krone", "bold"),
                        List.of("line", "Salt"),
                        List.of("line", "Rope"),
                        List.of("note", "one"),
                        List.of("note", "two"));
    }

    @Test
    void what_stands_around_a_long_list_is_left_out_and_told() throws IOException {
        String list = "<all day='2026-11-23'>" + "<farm no='1'/>".repeat(501) + "</all>";
        Proposal proposal = Proposals.of(new MemorySource(list.getBytes()), "x", null);
        assertThat(proposal.layout().recordTypes()).extracting(RecordType::name).containsExactly("farm");
        assertThat(proposal.guesses())
                .anyMatch(g -> g.part().equals("left out") && g.choice().equals("@day"));
    }

    /** A sample of several megabytes that is as awkward as can be. */
    static Stream<String> giants() {
        String line = "1;2;3\n".repeat(30_000);
        return Stream.of(
                "x".repeat(1_500_000) + "\n" + "a 1\n".repeat(60_000),
                "1;".repeat(500_000) + "\n",
                "R" + "1 a".repeat(400_000) + "\n" + line,
                "\"" + line,
                "<a " + IntStream.range(0, 900).mapToObj(n -> "a" + n + "='1' ").collect(Collectors.joining()) + "/>",
                "<a>"
                        + IntStream.range(0, 30_000)
                                .mapToObj(n -> "<e" + n + " b" + n + "='1'/>")
                                .collect(Collectors.joining())
                        + "</a>",
                "<a>".repeat(200) + "<b>1</b>".repeat(50_000) + "</a>".repeat(200));
    }

    @ParameterizedTest
    @MethodSource("giants")
    @Timeout(120)
    void a_large_and_awkward_sample_ends_in_time(String sample) throws IOException {
        Layout layout =
                Proposals.of(new MemorySource(sample.getBytes()), "x", null).layout();
        assertThat(layout.recordTypes().stream()
                        .mapToInt(t -> t.fields().size())
                        .sum())
                .isBetween(1, 10_000);
    }

    /** Each element in a namespace of its own: as many as the start of a sample holds. */
    @Test
    @Timeout(120)
    void namespaces_by_the_hundred_thousand_end_in_time_and_are_told() throws IOException {
        StringBuilder text = new StringBuilder("<!DOCTYPE all><all>");
        for (int i = 0; i < 100_000; i++) {
            text.append("<e xmlns='u").append(i).append("'>1</e>");
        }
        byte[] bytes = text.append("</all>").toString().getBytes();
        Proposal proposal = Proposals.of(new MemorySource(bytes), "x", null);
        assertThat(proposal.guesses()).extracting(Proposal.Guess::part).contains("left out", "not read");
        assertThat(proposal.layout().firstType().fields()).hasSizeLessThan(5_000);
        assertThat(ElementTree.of(new ByteArrayInputStream(bytes), Map.of(), bytes.length)
                        .branches())
                .hasSizeLessThan(5_000);
    }

    @Test
    void tags_in_the_first_column_make_record_types() throws IOException {
        StringBuilder text = new StringBuilder("HD;2026-11-23\n");
        for (int i = 0; i < 10; i++) {
            text.append("VO;").append(100 + i).append(";Store;12,50\n");
            text.append("LI;1;Salt\nLI;2;Rope\n");
        }
        Layout layout = Proposals.of(new MemorySource(text.toString().getBytes()), "v", null)
                .layout();
        assertThat(layout.recordTypes()).extracting(RecordType::name).containsExactly("header", "type VO", "type LI");
        assertThat(layout.recordTypes().get(2).parent()).isEqualTo("type VO");
    }

    @Test
    void whatever_the_sample_is_there_is_a_layout() throws IOException {
        for (String text :
                List.of("", "x", "\n\n", "<a/>", "<a", "1;2", "\0\0\0", "just a line of prose\n", "a\tb\n\"")) {
            assertThat(Proposals.of(new MemorySource(text.getBytes()), "w", null)
                            .layout()
                            .recordTypes())
                    .isNotEmpty();
        }
    }

    @ParameterizedTest
    @CsvSource({"fixed, 90000, 20", "fixed, 120000, 2", "delimited, 60000, 20", "delimited, 120000, 2"})
    void a_proposal_says_when_it_looked_at_part_of_the_lines(String kind, int lines, int fields) throws IOException {
        String row = (kind.equals("fixed") ? "X1" : "X1;").repeat(fields) + "\n";
        Proposal proposal = Proposals.of(
                List.of(new MemorySource(row.repeat(lines).getBytes(StandardCharsets.UTF_8))), "many", null);
        assertThat(proposal.guesses())
                .filteredOn(g -> g.part().equals("looked at"))
                .singleElement()
                .satisfies(g -> assertThat(g.choice()).matches("the first [\\d,]+ lines"));
        Proposal few =
                Proposals.of(List.of(new MemorySource(row.repeat(50).getBytes(StandardCharsets.UTF_8))), "few", null);
        assertThat(few.guesses()).noneMatch(g -> g.part().equals("looked at"));
    }
}
