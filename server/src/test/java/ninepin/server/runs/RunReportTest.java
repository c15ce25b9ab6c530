package ninepin.server.runs;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.Tally;
import ninepin.core.run.RunAccount;
import ninepin.server.runs.FindingMapper.ReasonRow;
import ninepin.server.runs.LegAccounts.PlaceView;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A run as it is mailed: all its figures, in words that a browser and a spreadsheet do not take for anything else. */
class RunReportTest {

    private static final Instant AT = Instant.parse("2026-11-23T05:06:07Z");

    private static RunView run(Tally tally, long open, String fileName, String message) {
        return new RunView(
                7,
                "slips",
                "Slips & more",
                3,
                RunState.FINISHED,
                false,
                "anna",
                fileName,
                1234,
                "f".repeat(64),
                AT,
                AT,
                AT.plusSeconds(61),
                61_250,
                0,
                null,
                message,
                1234,
                2,
                tally,
                open,
                Shares.NONE,
                RunAccount.balances(tally, open, true),
                0,
                -1,
                -1,
                null,
                null,
                null,
                null);
    }

    private static PlaceView place(int number, String to, Tally tally, RunAccount.DeliveryAccount... deliveries) {
        return new PlaceView(
                number,
                to,
                "tables",
                RunState.FINISHED,
                null,
                null,
                AT,
                AT,
                tally,
                List.of(deliveries),
                tally.balances(),
                0);
    }

    private static RunAccount.DeliveryAccount delivery(
            int number, String to, long records, RowCounts rows, long refused) {
        return new RunAccount.DeliveryAccount(number, to, records, rows, refused);
    }

    private static final Tally WHOLE = new Tally(13, 7, 12, 1, 2, 4, 1, 3, 5, 1, 0);

    private static RunReport twoPlaces() {
        return new RunReport(
                run(WHOLE, 0, "slips.csv", null),
                List.of(new ReasonRow("reject", "NUM-01", "Farm: expected a whole number", 3, 8, "\"x\"")),
                List.of(
                        place(
                                0,
                                "slip",
                                new Tally(13, 6, 9, 1, 2, 4, 1, 3, 5, 1, 0, 1),
                                delivery(0, "slip", 6, new RowCounts(9, 1, 2, 0), 1)),
                        place(
                                1,
                                "out.csv",
                                new Tally(13, 5, 3, 0, 0, 4, 1, 3, 5, 1, 0, 2),
                                delivery(1, "out.csv", 5, RowCounts.added(3), 0))),
                ZoneOffset.UTC);
    }

    @Test
    void the_page_has_every_figure_of_the_run_of_its_places_and_deliveries() {
        String page = twoPlaces().html();
        assertThat(page)
                .contains("<h1>Slips &amp; more, run 7</h1>")
                .contains("2026-11-23 05:06:07", "2026-11-23 05:07:08", "61.3 s at work")
                .contains("<h2>Places</h2>", "<h2>Deliveries</h2>", "For other places", "Not in all places yet")
                .contains("It balances: every record read is accounted for, once.")
                .contains(
                        "<td class=\"n\">13<td class=\"n\">7<td class=\"n\">4<td class=\"n\">1<td class=\"n\">1<td class=\"n\">0<td class=\"n\">0")
                .contains(
                        "<td class=\"data\">out.csv<td class=\"n\">5<td class=\"n\">3<td class=\"n\">0<td class=\"n\">0<td class=\"n\">0<td class=\"n\">0");
        assertThat(page.split("<table>", -1)).hasSize(5);
    }

    @Test
    void of_one_place_nothing_is_said_about_others() {
        RunReport report = new RunReport(
                run(new Tally(3, 3, 3, 0, 0, 0, 0, 0, 0), 0, "slips.csv", null),
                List.of(),
                List.of(place(
                        0,
                        "slip",
                        new Tally(3, 3, 3, 0, 0, 0, 0, 0, 0),
                        delivery(0, "slip", 3, RowCounts.added(3), 0))),
                ZoneOffset.UTC);
        assertThat(report.html())
                .doesNotContain("Places", "other places")
                .contains("<h2>Deliveries</h2>", "<p>None.</p>");
        assertThat(report.delimited()).doesNotContain("other places").contains("delivery slip,records,3,,\r\n");
    }

    @Test
    void the_delimited_form_has_a_line_for_each_figure() {
        assertThat(twoPlaces().delimited().lines())
                .startsWith(
                        "kind,name,count,first line,example",
                        "run,7,,,\"Slips & more, slips.csv, Finished\"",
                        "tally,read,13,,",
                        "tally,delivered,7,,",
                        "tally,rejected,4,,",
                        "tally,set aside,1,,",
                        "tally,without rows,1,,",
                        "tally,for other places,0,,",
                        "tally,not in all places yet,0,,",
                        "tally,rows added,12,,")
                .contains(
                        "place slip,for other places,1,,",
                        "place out.csv,delivered,5,,",
                        "delivery slip,rows changed,1,,",
                        "delivery slip,documents refused,1,,",
                        "delivery out.csv,rows added,3,,")
                .endsWith("reject,Farm: expected a whole number [NUM-01],3,8,\"\"\"x\"\"\"");
    }

    @Test
    void an_account_that_does_not_balance_says_so() {
        RunReport report = new RunReport(
                run(new Tally(5, 3, 3, 0, 0, 1, 0, 0, 0), 0, "slips.csv", null), List.of(), List.of(), ZoneOffset.UTC);
        assertThat(report.html()).contains("It does not balance.").doesNotContain("It balances");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "<script>alert(1)</script>.csv | &lt;script&gt;alert(1)&lt;/script&gt;.csv",
                "a\"b'c.csv | a&quot;b&#39;c.csv",
                "a&b.csv | a&amp;b.csv",
            })
    void what_came_from_outside_is_text_on_the_page(String name, String shown) {
        String page = new RunReport(
                        run(Tally.ZERO, 0, name, name),
                        List.of(new ReasonRow("note", "X-01", name, 1, 1, name)),
                        List.of(),
                        ZoneOffset.UTC)
                .html();
        assertThat(page).contains(shown).doesNotContain(name);
    }

    @ParameterizedTest
    @CsvSource(
            quoteCharacter = '`',
            value = {"=1+1, '=1+1", "+cmd, '+cmd", "@SUM(A1), '@SUM(A1)", "-2, -2"})
    void what_a_spreadsheet_would_compute_is_text_in_the_delimited_form(String example, String safe) {
        String text = new RunReport(
                        run(Tally.ZERO, 0, "a.csv", null),
                        List.of(new ReasonRow("note", "X-01", "found", 1, 1, example)),
                        List.of(),
                        ZoneOffset.UTC)
                .delimited();
        assertThat(text.lines().reduce((a, b) -> b)).get().asString().endsWith("," + safe);
    }
}
