package ninepin.core.format.workbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.MemorySource;
import ninepin.core.format.Proposals;
import ninepin.core.infer.Proposal;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.FileCheck;
import ninepin.core.testing.Reading;
import ninepin.core.testing.WorkbookText;
import org.junit.jupiter.api.Test;

/** Layouts proposed from workbooks, as a person would describe them, and what they then read. */
class WorkbookProposerTest {

    private static final String PRICES =
            """
            sheet Butter
            merge A1:D1
            1: Milk Exchange
            2: October 2026
            4: Day | Grade | Volume | Price | Contract
            5: {dd.mm.yyyy}46296 | A | 74 | 6.10 | '04001
            6: {dd.mm.yyyy}46297 | B | 48 | 4.5 | '04002
            7: {dd.mm.yyyy}46298 | A | 49 | 5.85 | '04003
            9: Total | | =SUM(C5:C7) -> 171
            12: Prices are made up.
            """;

    private static Proposal proposed(String... workbooks) throws IOException {
        List<ByteSource> samples = new ArrayList<>();
        for (String workbook : workbooks) {
            samples.add(new MemorySource(WorkbookText.bytes(workbook)));
        }
        return Proposals.of(samples, "proposed", "Proposed");
    }

    /** Record types with how they are told, and fields with their places and types, a line each. */
    private static List<String> words(Proposal proposal) {
        List<String> words = new ArrayList<>();
        proposal.layout().recordTypes().forEach(t -> {
            words.add(t.name() + " " + t.when().sentence());
            t.fields()
                    .forEach(f -> words.add("- " + f.name() + " " + f.place().words() + ", "
                            + f.type().label()));
        });
        return words;
    }

    @Test
    void a_total_without_decimals_by_chance_has_those_of_what_it_totals() throws IOException {
        String half = PRICES.replace("| A | 74 |", "| A | 73.75 |").replace("| B | 48 |", "| B | 48.25 |");
        assertThat(words(proposed(half))).last().isEqualTo("- Volume under the header \"Volume\", DECIMAL(7,2)");
    }

    @Test
    void a_sheet_with_a_title_a_total_and_a_remark() throws IOException {
        Proposal proposal = proposed(PRICES);
        assertThat(words(proposal))
                .containsExactly(
                        "Butter is each row of sheet Butter",
                        "- Day under the header \"Day\", DATE",
                        "- Grade under the header \"Grade\", CHARACTER VARYING(10)",
                        "- Volume under the header \"Volume\", INTEGER",
                        "- Price under the header \"Price\", DECIMAL(5,2)",
                        "- Contract under the header \"Contract\", CHARACTER VARYING(10)",
                        "Butter total has Total in column A of sheet Butter",
                        "- Volume under the header \"Volume\", INTEGER");
        assertThat(proposal.layout().fileChecks())
                .extracting(FileCheck::sentence)
                .containsExactly("Butter total.Volume is the total of Butter.Volume");
        Reading reading = Reading.of(proposal.layout(), WorkbookText.bytes(PRICES));
        assertThat(reading.records).hasSize(4);
        assertThat(reading.findings).as("the remark is passed over").isEmpty();
    }

    @Test
    void remarks_behind_a_blank_row_end_the_records() throws IOException {
        Proposal proposal = proposed(PRICES.replace("9: Total", "9: Remark"));
        assertThat(proposal.guesses())
                .anySatisfy(g -> assertThat(g.choice()).isEqualTo("until a blank one, on Butter"));
        Reading reading = Reading.of(proposal.layout(), WorkbookText.bytes(PRICES.replace("9: Total", "9: Remark")));
        assertThat(reading.records).hasSize(3);
        assertThat(reading.findings).isEmpty();
    }

    @Test
    void sheets_that_are_alike_are_one_record_type_with_the_name_of_the_sheet() throws IOException {
        String months =
                """
                sheet 2026-09
                1: Farm | Litres
                2: 17 | 812.5
                sheet 2026-10
                1: Farm | Litres
                2: 9 | 40
                """;
        assertThat(words(proposed(months)))
                .containsExactly(
                        "row is each row of sheet 2026-*",
                        "- sheet the name of its sheet, CHARACTER VARYING(31)",
                        "- Farm under the header \"Farm\", INTEGER",
                        "- Litres under the header \"Litres\", DECIMAL(6,1)");
        String others =
                months.replace("2026-09", "North").replace("2026-10", "South") + "sheet Notes\n1: a | b\n2: c | d\n";
        assertThat(words(proposed(others)))
                .filteredOn(w -> !w.startsWith("-"))
                .containsExactly(
                        "North is each row of sheet North",
                        "South is each row of sheet South",
                        "Notes is each row of sheet Notes");
        assertThat(words(proposed(others.substring(0, others.indexOf("sheet Notes")))))
                .first()
                .isEqualTo("row is each row of each sheet");
    }

    @Test
    void tables_and_ranges_with_names_are_record_types() throws IOException {
        String tables =
                """
                name Farms = Sheet!$A$1:$B$3
                name Routes = Sheet!$D$1:$E$3
                name One = Sheet!$D$1
                sheet Sheet
                1: No | Name | | No | Km
                2: 1 | Birk | | R01 | 40
                3: 2 | Sand | | R02 | 55
                """;
        assertThat(words(proposed(tables)))
                .containsExactly(
                        "Farms is each row of Farms of sheet Sheet",
                        "- No under the header \"No\", INTEGER",
                        "- Name under the header \"Name\", CHARACTER VARYING(10)",
                        "Routes is each row of Routes of sheet Sheet",
                        "- No under the header \"No\", CHARACTER VARYING(10)",
                        "- Km under the header \"Km\", INTEGER");
    }

    @Test
    void columns_without_names_stand_by_their_letters() throws IOException {
        assertThat(words(proposed("sheet S\n1: 1 | x | {hh:mm}0.5\n2: 2 | y | {hh:mm}0.25\n3: 3 | z | {hh:mm}0.75\n")))
                .containsExactly(
                        "S is each row of sheet S",
                        "- column A in column A, INTEGER",
                        "- column B in column B, CHARACTER VARYING(10)",
                        "- column C in column C, TIME");
        assertThat(words(proposed("sheet S\n1: No | | No\n2: 1 | 5 | 7\n3: 2 | 6 | 8\n")))
                .contains(
                        "- No in column A, INTEGER", "- column B in column B, INTEGER", "- No C in column C, INTEGER");
    }

    @Test
    void what_cells_are_counts_more_than_how_they_look() throws IOException {
        Proposal proposal = proposed(
                """
                sheet S
                1: Day as number | Code | Switch | Moment
                2: 20261001 | '4711 | TRUE | {yyyy-mm-dd}46296
                3: 20261002 | '4712 | FALSE | {yyyy-mm-dd hh:mm}46296.5
                """);
        assertThat(words(proposal))
                .contains(
                        "- Day as number under the header \"Day as number\", INTEGER",
                        "- Code under the header \"Code\", CHARACTER VARYING(10)",
                        "- Switch under the header \"Switch\", BOOLEAN",
                        "- Moment under the header \"Moment\", TIMESTAMP");
    }

    @Test
    void values_of_several_samples_say_what_the_fields_are() throws IOException {
        String first = "sheet S\n1: No | Name\n2: 1 | a\n";
        String second = "sheet S\n3: Name | No\n4: b | 2.5\n";
        assertThat(words(proposed(first, second))).contains("- No under the header \"No\", DECIMAL(4,1)");
    }

    @Test
    void hidden_sheets_are_left_out_and_what_is_no_workbook_is_said() throws IOException {
        assertThat(words(proposed("sheet S hidden\n1: a | b\n2: 1 | 2\nsheet T\n1: c | d\n2: 3 | 4\n")))
                .first()
                .isEqualTo("T is each row of sheet T");
        assertThatThrownBy(() -> proposed("sheet S"))
                .isInstanceOf(DefinitionException.class)
                .hasMessageContaining("no sheet with a table");
        byte[] broken = java.util.Arrays.copyOf(WorkbookText.bytes(PRICES), 900);
        assertThatThrownBy(() -> Proposals.of(new MemorySource(broken), "p", "P"))
                .isInstanceOf(DefinitionException.class)
                .hasMessageContaining("trouble in the package");
    }
}
