package ninepin.core.format.fixedlength.copybook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import ninepin.core.infer.Proposal;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.NumberForm;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.testing.Places;
import ninepin.core.testing.Reading;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

class CopybookLayoutTest {

    private static final String COLLECTION =
            """
            000100*  WHAT A TANKER COLLECTS AT A FARM
            000200 01  COLLECTION-REC.
            000300     05  REC-TYPE             PIC X.
            000400         88  IS-COLLECTION    VALUE 'C'.
            000500     05  FARM-NO              PIC 9(5).
            000600     05  TAKEN.
            000700         10  TAKEN-ON         PIC 9(8).
            000800         10  TAKEN-AT         PIC 9(4).
            000900     05  LITRES               PIC S9(7)V99 COMP-3.
            001000     05  TEMPERATURE          PIC S9(3)V9.
            001100     05  TEMP-TEXT REDEFINES TEMPERATURE PIC X(4).
            001200     05  COUNTS OCCURS 2 TIMES.
            001300         10  CELLS            PIC S9(9) COMP.
            001400     05  FILLER               PIC X(10).
            001500     05  REMARK               PIC X(20).
            """;

    private static Proposal propose(String text, String... taken) {
        return CopybookLayout.propose(text, FileCharset.IBM_037, Set.of(taken), "c", null);
    }

    private static List<String> fields(RecordType type) {
        return type.fields().stream()
                .map(f -> f.name() + " " + Places.span(f).start() + "+"
                        + Places.span(f).length())
                .toList();
    }

    @Test
    void positions_follow_from_pictures_usages_and_repetitions() {
        Proposal p = propose(COLLECTION);
        assertThat(fields(p.layout().firstType()))
                .containsExactly(
                        "rec_type 1+1",
                        "farm_no 2+5",
                        "taken_on 7+8",
                        "taken_at 15+4",
                        "litres 19+5",
                        "temperature 24+4",
                        "cells_1 28+4",
                        "cells_2 32+4",
                        "remark 46+20");
        FixedLength format = (FixedLength) p.layout().format();
        assertThat(format.blockSize()).isEqualTo(65);
        assertThat(p.layout().firstType().field("rec_type").orElseThrow().checks())
                .hasToString("[OneOf[values=[C], severity=reject]]");
        assertThat(p.alternatives())
                .containsExactly(new Proposal.Alternative(
                        "temperature",
                        List.of("temperature", "temp_text", "each of temperature as a record type"),
                        "temperature"));
    }

    @Test
    void of_what_is_described_twice_the_one_is_taken_that_is_asked_for() {
        assertThat(fields(propose(COLLECTION, "temp_text").layout().firstType()))
                .contains("temp_text 24+4")
                .doesNotContain("temperature 24+4");
    }

    /** A picture with its usage, and the type and length that follow. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "PIC X(12)                       | text 12                         | 12",
                "PIC A(3)                        | text 3                          | 3",
                "PIC 9(6)                        | integer digits leading          | 6",
                "PIC S9(6)                       | integer digits overpunched      | 6",
                "PIC S9(6) SIGN LEADING          | integer digits overpunched-leading | 6",
                "PIC S9(6) SIGN IS TRAILING SEPARATE CHARACTER | integer digits trailing | 7",
                "PIC S9(6) SIGN LEADING SEPARATE | integer digits leading          | 7",
                "PIC 9(4)V99                     | decimal 6,2 digits leading implied | 6",
                "PIC S9(4)V9(2) COMP-3           | decimal 6,2 packed leading      | 4",
                "PIC S9(5) USAGE IS PACKED-DECIMAL | integer packed leading        | 3",
                "PIC S9(4) COMP                  | integer binary leading          | 2",
                "PIC S9(9) BINARY                | integer binary leading          | 4",
                "PIC S9(18) COMP-5               | integer binary leading          | 8",
                "PIC 9(4) COMP-5                 | integer binary unsigned         | 2",
                "PIC 9(2)V99 COMP-5              | decimal 5,2 binary unsigned     | 2",
                "PIC 9(9) COMP                   | integer binary unsigned         | 4",
                "PIC ZZZ,ZZ9.99-                 | decimal 8,2 , digits trailing   | 11",
                "PIC ZZZ.ZZ9,99-                 | decimal 8,2 . digits trailing   | 11",
                "PIC ZZ9,99                      | decimal 5,2 written             | 6",
                "PIC -(6)9.99                    | decimal 8,2 written             | 10",
                "PIC ---,--9.99                  | decimal 7,2 , written           | 10",
                "PIC ++++9                       | decimal 4,0 written             | 5",
                "PIC -9(4).9(2)                  | decimal 6,2 written             | 8",
                "PIC ZZ9+                        | decimal 3,0 digits trailing     | 4",
                "PIC -ZZ9                        | text 4                          | 4",
                "PIC $ZZ9.99CR                   | text 9                          | 9",
                "PIC S9(31)                      | decimal 31,0 digits overpunched implied | 31",
                "PIC S9(29)V99 COMP-3            | decimal 31,2 packed leading     | 16",
                "PIC VPP99                       | decimal 4,4 digits leading implied | 2",
                "PIC XX/XX                       | text 5                          | 5",
            })
    void each_picture_has_its_type_and_length(String clause, String type, int length) {
        Field field = propose("01 R.\n 05 A " + clause + ".\n")
                .layout()
                .firstType()
                .fields()
                .get(0);
        assertThat(words(field.type())).isEqualTo(type);
        assertThat(field.room()).isEqualTo(length);
    }

    private static String words(DataType type) {
        if (type instanceof DataType.CharacterVarying t) {
            return "text " + t.length();
        }
        NumberForm form = type instanceof DataType.IntegerNumber i ? i.form() : ((DataType.Decimal) type).form();
        String kind = type instanceof DataType.Decimal d
                ? "decimal " + d.precision() + "," + d.scale()
                        + (d.groupingSign() == null ? "" : " " + d.groupingSign())
                : "integer";
        if (form == null) {
            return kind + (type instanceof DataType.Decimal ? " written" : " digits leading");
        }
        return kind + " " + form.written() + " " + form.sign() + (form.implied() ? " implied" : "");
    }

    /** An entry that cannot be read, and how many bytes are passed over for it. */
    @ParameterizedTest
    @CsvSource({
        "USAGE POINTER, 4, Addresses",
        "INDEX, 4, Addresses",
        "COMP-1, 4, Floating",
        "COMP-2, 8, Floating",
        "PIC N(5), 10, picture",
        "PIC 9(3)PP, 3, picture",
        "PIC S9(19) COMP, 8, 19 digits",
        "PIC S9(40), 40, 40 digits"
    })
    void what_cannot_be_read_is_left_out_and_told_with_its_line(String clause, int bytes, String why) {
        Proposal p = propose("01 R.\n 05 A PIC X.\n 05 B " + clause + ".\n 05 C PIC X.\n");
        assertThat(fields(p.layout().firstType())).containsExactly("a 1+1", "c " + (2 + bytes) + "+1");
        assertThat(p.guesses()).anySatisfy(g -> {
            assertThat(g.part()).isEqualTo("left out");
            assertThat(g.choice()).isEqualTo("b, line 3");
            assertThat(g.why()).contains(why);
        });
    }

    @Test
    void what_has_no_known_length_refuses_the_book_and_says_where() {
        assertThatThrownBy(() -> propose("01 R.\n 05 A PIC X.\n 05 B COMP-9.\n"))
                .hasMessageContaining("line 3: COMP-9 is not understood");
        assertThatThrownBy(() -> propose("01 R.\n 05 A PIC 9#9.\n"))
                .hasMessageContaining("line 2: the picture 9#9 is not understood");
    }

    @Test
    void an_entry_of_level_77_belongs_to_no_record() {
        Proposal p = propose("77 COUNTER PIC 9(4).\n01 R.\n 05 A PIC X(3).\n77 SWITCH PIC X.\n");
        assertThat(fields(p.layout().firstType())).containsExactly("a 1+3");
        assertThat(p.guesses().stream().filter(g -> g.part().equals("left out")))
                .extracting(Proposal.Guess::choice)
                .containsExactly("counter, line 1", "switch, line 4");
    }

    @Test
    void what_occurs_a_varying_number_of_times_is_read_up_to_the_most() throws IOException {
        Proposal p = CopybookLayout.propose(
                "01 ROUND.\n 05 STOPS PIC 9.\n 05 STOP OCCURS 0 TO 3 TIMES DEPENDING ON STOPS.\n"
                        + "  10 FARM PIC 9(3).\n  10 LITRES PIC 9(4).\n",
                FileCharset.ISO_8859_1,
                Set.of(),
                "x",
                null);
        assertThat(fields(p.layout().firstType()))
                .containsExactly(
                        "stops 1+1",
                        "farm_1 2+3",
                        "litres_1 5+4",
                        "farm_2 9+3",
                        "litres_2 12+4",
                        "farm_3 16+3",
                        "litres_3 19+4");
        assertThat(p.guesses())
                .anyMatch(g -> g.part().equals("occurs") && g.choice().equals("stop up to 3 times"));
        assertThat(Reading.of(p.layout(), "203801200410310\n0\n".getBytes(StandardCharsets.US_ASCII)).records)
                .containsExactly(
                        Arrays.asList("round", "2", "38", "120", "41", "310", null, null),
                        Arrays.asList("round", "0", null, null, null, null, null, null));
    }

    @Test
    void descriptions_of_the_same_bytes_are_record_types_where_they_are_asked_for() {
        String book = "01 ENTRY-RECORD.\n 05 KIND PIC X.\n  88 IS-MILK VALUE 'M'.\n  88 IS-FEED VALUE 'F'.\n"
                + " 05 FARM PIC 9(4).\n 05 MILK.\n  10 LITRES PIC 9(5).\n 05 FEED REDEFINES MILK.\n"
                + "  10 SORT-OF PIC X(3).\n  10 BAGS PIC 99.\n";
        Proposal one = propose(book);
        assertThat(one.alternatives())
                .containsExactly(new Proposal.Alternative(
                        "milk", List.of("milk", "feed", "each of milk as a record type"), "milk"));
        Proposal each = propose(book, "each of milk as a record type");
        assertThat(each.layout().recordTypes()).extracting(RecordType::name).containsExactly("milk", "feed");
        assertThat(each.layout().recordTypes())
                .extracting(t -> ((Recognition.Tag) t.when()).values())
                .containsExactly(List.of("M"), List.of("F"));
        assertThat(fields(each.layout().recordTypes().get(0))).containsExactly("kind 1+1", "farm 2+4", "litres 6+5");
        assertThat(fields(each.layout().recordTypes().get(1)))
                .containsExactly("kind 1+1", "farm 2+4", "sort_of 6+3", "bags 9+2");
        assertThat(each.alternatives().get(0).taken()).isEqualTo("each of milk as a record type");
    }

    @Test
    void records_of_several_kinds_are_told_apart_by_the_values_the_copybook_gives() {
        Proposal p = propose(
                """
                01 HEAD. 05 TAG PIC XX VALUE 'HD'. 05 DAY-OF PIC 9(8).
                01 LINE-REC. 05 TAG PIC XX VALUE 'LI'. 05 AMOUNT PIC S9(5)V99.
                """);
        assertThat(p.layout().recordTypes()).extracting(RecordType::name).containsExactly("head", "line_rec");
        assertThat(p.layout().recordTypes().get(1).when()).isEqualTo(new Recognition.Tag(null, 1, List.of("LI")));
    }

    static Stream<List<String>> wrong() {
        return Stream.of(
                List.of("", "no data description entry"),
                List.of("05 A PIC X", "does not end with a period"),
                List.of("05 A PIC Q(3).", "line 1: the picture Q(3) is not understood"),
                List.of("05 A.\n05 B PIC X.", "A has neither a PICTURE nor entries below it"),
                List.of("05 A OCCURS 1 TO 9999 TIMES DEPENDING ON N PIC X.", "expected 1 to 1000"),
                List.of("77 A PIC X.", "no data description entry of a record"),
                List.of("05 A PIC X(99999).", "repeats X 99999 times"),
                List.of("01 A. 05 B PIC X. 10 C PIC X.", "stands below B, which has a PICTURE"),
                List.of("88 A VALUE 'X'.", "belongs to no entry"),
                List.of("05 A PIC X VALUE 'x.", "a literal is not closed"),
                List.of("hello world.", "expected a level number, found HELLO"));
    }

    @ParameterizedTest
    @MethodSource("wrong")
    void what_is_not_understood_is_said_with_its_line(List<String> c) {
        assertThatThrownBy(() -> propose(c.get(0)))
                .isInstanceOf(DefinitionException.class)
                .hasMessageContaining(c.get(1));
    }
}
