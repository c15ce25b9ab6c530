package ninepin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ninepin.e2e.Steps.exactly;
import static ninepin.e2e.Steps.inExactly;
import static ninepin.e2e.Steps.named;
import static ninepin.e2e.Steps.noViolations;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** What somebody does in the first hour, with files of their own: everything through the screens, nothing prepared. */
class NewcomerJourneyTest extends JobSteps {

    @Test
    void an_own_delimited_file_goes_to_a_table_that_is_made_in_the_dialog() {
        Path first = file(
                "feed.csv",
                """
                Silo,Farm,Feed,Tonnes,Delivered,Note
                1,7,barley,12.50,2026-10-01,
                2,7,"maize, ground",8.00,2026-10-02,"said ""dry""\"
                3,114,hay,3.25,2026-10-02,
                4,115,hay,,2026-10-05,late
                """);
        newJob("Feed silos", first);
        assertThat(page.getByText("4 records = 4 rows + 0 rejects")).isVisible();
        section("5 Delivery");
        assertThat(page.getByText("There is no delivery yet")).isVisible();
        makeTable("feed_silo");
        section("4 Shaping");
        assertThat(page.getByRole(AriaRole.REGION, named("Findings"))).not().containsText("rejected");

        page.getByRole(AriaRole.BUTTON, exactly("Rehearse")).click();
        Locator rehearsal = page.getByRole(AriaRole.DIALOG);
        assertThat(rehearsal).containsText("4 read = 4 would be delivered + 0 would be rejected");
        assertThat(rehearsal.getByRole(AriaRole.TABLE)).containsText("feed_silo");
        noViolations(page);
        page.keyboard().press("Escape");
        that(rows("SELECT COUNT(*) FROM feed_silo"))
                .as("a rehearsal delivers nothing")
                .containsExactly("0");

        putLive();
        run(first);
        tally("Read", 4);
        tally("Delivered", 4);
        that(rows("SELECT silo, farm, feed, tonnes, delivered, note FROM feed_silo ORDER BY silo"))
                .containsExactly(
                        "1|7|barley|12.50|2026-10-01|null",
                        "2|7|maize, ground|8.00|2026-10-02|said \"dry\"",
                        "3|114|hay|3.25|2026-10-02|null",
                        "4|115|hay|null|2026-10-05|late");

        // The same file again is refused, and says why.
        page.goBack();
        page.getByRole(AriaRole.BUTTON, exactly("Run a file")).click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        dialog.getByLabel("File").setInputFiles(first);
        dialog.getByRole(AriaRole.BUTTON, inExactly("Run")).click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("refused");
        assertThat(page.getByText("was delivered by run").first()).isVisible();
        noViolations(page);
    }

    @Test
    void a_document_with_children_goes_to_two_tables_whose_rows_are_counted_each() {
        Path sample = file(
                "herds.xml",
                """
                <?xml version="1.0" encoding="UTF-8"?>
                <herds>
                  <herd no="7"><name>Söll</name>
                    <cow ear="A1"><born>2021-03-01</born></cow>
                    <cow ear="A2"><born>2022-04-11</born></cow>
                  </herd>
                  <herd no="8"><name>Lark &amp; Fell</name>
                    <cow ear="B1"><born>2020-01-05</born></cow>
                  </herd>
                  <herd no="9"><name>Empty</name></herd>
                </herds>
                """);
        newJob("Herds and cows", sample);
        assertThat(page.getByText("6 records in 3 documents")).isVisible();
        section("5 Delivery");
        page.getByLabel("Rows are made of").selectOption("each herd");
        makeTable("herd_of_test");
        page.getByRole(AriaRole.BUTTON, exactly("Another delivery")).click();
        page.getByLabel("Rows are made of").selectOption("each cow");
        makeTable("cow_of_test");
        putLive();
        run(sample);
        tally("Read", 6);
        tally("Delivered", 6);
        Locator deliveries = page.getByRole(AriaRole.REGION, exactly("Deliveries"));
        assertThat(deliveries
                        .getByRole(AriaRole.ROW)
                        .filter(new Locator.FilterOptions().setHasText(Pattern.compile("^herd_of_test")))
                        .last())
                .containsText("3");
        assertThat(deliveries).containsText("cow_of_test");
        noViolations(page);
        that(rows("SELECT COUNT(*) FROM herd_of_test UNION ALL SELECT COUNT(*) FROM cow_of_test"))
                .containsExactly("3", "3");
        that(rows("SELECT name FROM herd_of_test WHERE no = 8")).containsExactly("Lark & Fell");
    }

    @Test
    void json_on_one_line_is_shown_on_several_and_goes_to_two_tables() {
        Path sample = file(
                "weather.json",
                """
                {"stations":[{"station":"WS-01","name":"Söllbridge","place":{"valley":"Lark, lower","height":310},\
                "readings":[{"at":"2026-11-28T03:00:00","temperature":-0.2},{"at":"2026-11-28T09:00:00","temperature":1.5}]},\
                {"station":"WS-02","name":"Kirkfell","place":{"valley":"Mere","height":null},"readings":[]}]}
                """);
        newJob("Valley weather", sample);
        assertThat(page.getByText("4 records in 2 documents")).isVisible();
        page.getByRole(AriaRole.TAB, named("File")).click();
        Locator lines =
                page.getByRole(AriaRole.LISTBOX, named("Lines of the file")).getByRole(AriaRole.OPTION);
        assertThat(lines.filter(new Locator.FilterOptions().setHasText("WS-01")))
                .hasText(Pattern.compile("stations\\s*\"station\":\"WS-01\",$"));
        assertThat(lines.filter(new Locator.FilterOptions().setHasText("T09:00")))
                .hasText(Pattern.compile("readings\\s*\\{\"at\":\"2026-11-28T09:00:00\",\"temperature\":1.5\\}$"));
        noViolations(page);
        section("5 Delivery");
        page.getByLabel("Rows are made of").selectOption("each stations");
        makeTable("station_of_test");
        page.getByRole(AriaRole.BUTTON, exactly("Another delivery")).click();
        page.getByLabel("Rows are made of").selectOption("each readings");
        makeTable("reading_of_test");
        putLive();
        run(sample);
        tally("Read", 4);
        tally("Delivered", 4);
        that(rows("SELECT station, name, height FROM station_of_test ORDER BY station"))
                .containsExactly("WS-01|Söllbridge|310", "WS-02|Kirkfell|null");
        that(rows("SELECT temperature FROM reading_of_test ORDER BY at")).containsExactly("-0.2", "1.5");
    }

    @Test
    void a_live_job_is_changed_while_it_goes_on_with_what_is_live() {
        Path first = file("tanks-1.csv", "Tank;Litres\n1;100\n2;200\n3;300\n");
        Path second = file("tanks-2.csv", "Tank;Litres\n4;100\n5;200\n6;900\n");
        Path third = file("tanks-3.csv", "Tank;Litres\n7;100\n8;200\n9;900\n");
        newJob("Tank stock", first);
        section("5 Delivery");
        makeTable("tank_stock");
        putLive();
        assertThat(page.getByRole(AriaRole.BUTTON, exactly("Put live"))).isDisabled();

        // A change is kept, and is not live.
        page.getByRole(AriaRole.BUTTON, exactly("More")).click();
        page.getByRole(AriaRole.MENUITEM, named("Title and description")).click();
        page.getByRole(AriaRole.TEXTBOX, exactly("Title")).fill("Stock of the tanks");
        noViolations(page);
        page.keyboard().press("Escape");
        assertThat(page.getByText("Kept, not live yet")).isVisible();
        run(second);
        assertThat(page.getByText(", version 1,")).isVisible();
        that(rows("SELECT COUNT(*) FROM tank_stock")).containsExactly("3");

        page.navigate(demo.address() + "/jobs");
        Locator line =
                page.getByRole(AriaRole.ROW).filter(new Locator.FilterOptions().setHasText("Stock of the tanks"));
        assertThat(line).containsText("changes not live yet");
        noViolations(page);
        line.getByRole(AriaRole.LINK).first().click();
        page.getByRole(AriaRole.BUTTON, exactly("Put live")).click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("Tank stock");
        assertThat(dialog).containsText("Stock of the tanks");
        dialog.getByRole(AriaRole.BUTTON, inExactly("Put live")).click();
        assertThat(page.getByText("Version 2 is live.")).isVisible();
        run(third);
        assertThat(page.getByText(", version 2,")).isVisible();
        that(rows("SELECT COUNT(*) FROM tank_stock")).containsExactly("6");
    }

    @Test
    void a_query_is_asked_and_its_rows_written_to_a_file() throws IOException {
        demo.database.execute("larkfell", "CREATE TABLE churn (no INT PRIMARY KEY, litres DECIMAL(7,1), filled DATE)");
        demo.database.execute("larkfell", "INSERT INTO churn VALUES (1, 40.5, '2026-11-01'), (2, 38.0, '2026-11-02')");
        newJob("Churns", file("churns.csv", "no;litres;filled\n1;40.5;2026-11-01\n"));
        section("1 Pick-up");
        page.getByLabel("Records come from").selectOption("query");
        page.getByLabel("Database").selectOption("warehouse");
        page.getByLabel("Query", new Page.GetByLabelOptions().setExact(true))
                .fill("SELECT no, litres, filled FROM churn ORDER BY no");
        page.getByRole(AriaRole.BUTTON, exactly("Take its first rows as the sample"))
                .click();
        assertThat(page.getByText("The first rows are the sample now.")).isVisible();
        assertThat(page.getByText("2 records = 2 rows + 0 rejects")).isVisible();
        noViolations(page);

        section("5 Delivery");
        page.getByLabel("Goes to").selectOption("files in a folder");
        page.getByLabel("Root").selectOption("bank");
        page.getByLabel("File name").fill("churns_{number}.csv");
        page.getByLabel("Layout", new Page.GetByLabelOptions().setExact(true)).selectOption("churns");
        section("4 Shaping");
        page.getByRole(AriaRole.BUTTON, exactly("Propose rules by name")).click();
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Take all"))
                .click();
        putLive();
        page.getByRole(AriaRole.BUTTON, exactly("Run")).click();
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Ask the database now"))
                .click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("finished");
        assertThat(page.getByRole(AriaRole.REGION, named("Files written"))).containsText("churns_1.csv");
        that(Files.readAllLines(demo.folder.resolve("bank").resolve("churns_1.csv")))
                .containsExactly("no;litres;filled", "1;40.5;2026-11-01", "2;38.0;2026-11-02");
    }
}
