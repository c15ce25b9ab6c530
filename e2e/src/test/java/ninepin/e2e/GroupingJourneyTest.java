package ninepin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ninepin.e2e.Steps.exactly;
import static ninepin.e2e.Steps.inExactly;
import static ninepin.e2e.Steps.named;
import static ninepin.e2e.Steps.noViolations;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

/** A supplies file becomes vouchers: gathered, shaped by proposals, words and formulas, sent by lanes, and put live. */
class GroupingJourneyTest {

    private final Demo demo = Demo.shared();

    @Test
    void rows_are_gathered_into_documents_shaped_and_delivered() throws IOException {
        demo.database.execute(
                "larkfell",
                "CREATE TABLE IF NOT EXISTS slip (slip_no VARCHAR(10) PRIMARY KEY, booked_on DATE NOT NULL, total DECIMAL(9,2),"
                        + " lines_in_all INT, note VARCHAR(60), loaded_by_run INT)");
        Page page = demo.signedIn(1280, 900, "light");
        page.navigate(demo.address() + "/code-lists");
        page.getByRole(AriaRole.BUTTON, exactly("New code list")).click();
        page.getByLabel("Title").fill("Shelves");
        page.getByRole(AriaRole.BUTTON, exactly("Make it")).click();
        page.waitForURL("**/code-lists/shelves");
        page.getByLabel("New value")
                .evaluate("(cell) => { const data = new DataTransfer();"
                        + " data.setData('text/plain', 'A1\\tleft\\nA2\\tright'); cell.dispatchEvent("
                        + "new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true })); }");
        assertThat(page.getByLabel("meaning of line 2")).hasValue("right");
        noViolations(page);
        page.getByRole(AriaRole.BUTTON, exactly("Save a version")).click();
        assertThat(page.getByText("Version 2 is saved.")).isVisible();

        page.navigate(demo.address() + "/jobs");
        page.getByRole(AriaRole.BUTTON, named("New job")).click();
        page.getByLabel("A sample: a file like the ones that will come").setInputFiles(slips());
        page.getByLabel("Title").fill("Slips of the store");
        page.getByRole(AriaRole.BUTTON, named("Make the job")).click();
        page.waitForURL("**/jobs/slips-of-the-store*");
        page.getByRole(AriaRole.BUTTON, named("5 Delivery")).click();
        page.getByLabel("Goes to").selectOption("warehouse");
        page.getByLabel("Table").selectOption("slip");
        page.keyboard().press("Escape");

        // Rows with one number are one slip; with the day in the key there are more.
        page.getByRole(AriaRole.BUTTON, named("4 Shaping")).click();
        page.getByRole(AriaRole.BUTTON, named("Documents Each")).click();
        page.getByRole(AriaRole.BUTTON, exactly("Gather records")).click();
        page.getByLabel("A document is called").fill("slip");
        Locator head = page.getByRole(AriaRole.GROUP, named("Of the head"));
        head.getByRole(AriaRole.BUTTON, inExactly("Booked")).click();
        Locator formed = page.getByText("forms of 6 records", new Page.GetByTextOptions().setExact(false))
                .or(page.getByText("form of 6 records"));
        assertThat(formed).containsText("3 documents");
        assertThat(page.getByRole(AriaRole.REGION, named("Findings")))
                .containsText("the same in every record of a slip");
        page.getByRole(AriaRole.GROUP, named("One document has one"))
                .getByRole(AriaRole.BUTTON, inExactly("Booked"))
                .click();
        assertThat(formed).containsText("4 documents");
        noViolations(page);

        page.getByLabel("Rows are made of").selectOption("each slip record");
        page.getByRole(AriaRole.BUTTON, exactly("Propose rules by name")).click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("slip_no is the field Slip");
        assertThat(dialog).containsText("booked_on is the field Booked");
        noViolations(page);
        dialog.getByRole(AriaRole.BUTTON, inExactly("Take all 3")).click();
        page.getByRole(AriaRole.BUTTON, named("Say it in words")).click();
        page.getByLabel("Instructions, one on a line").fill("total the amount into total\nmake it nice");
        Locator words = page.getByRole(AriaRole.REGION, named("Say it in words"));
        assertThat(words).containsText("total is what SUM(");
        assertThat(words).containsText("The nearest that is understood");
        noViolations(page);
        words.getByRole(AriaRole.BUTTON, inExactly("Take: total the amount into total"))
                .click();
        words.getByRole(AriaRole.BUTTON, inExactly("Close")).click();
        page.getByRole(AriaRole.BUTTON, exactly("lines_in_all")).click();
        page.getByLabel("Origin of lines_in_all").selectOption("a formula");
        page.getByLabel("Formula of lines_in_all").click();
        page.keyboard().press("Control+A");
        page.keyboard().type("COUNT(*)");
        assertThat(page.locator("p[role=status]").filter(new Locator.FilterOptions().setHasText("record 1")))
                .containsText("2");
        page.keyboard().press("Escape");
        page.getByRole(AriaRole.BUTTON, exactly("note")).click();
        page.getByLabel("Origin of note").selectOption("a code list");
        page.getByLabel("Code list").selectOption("shelves");
        page.getByLabel("Field", new Page.GetByLabelOptions().setExact(true)).selectOption("Slip");
        page.getByLabel("When blank, for note").fill("none");
        assertThat(page.getByRole(AriaRole.REGION, named("Values that are not")))
                .containsText("S1");
        page.getByLabel("Origin of note").selectOption("a constant");
        page.getByLabel("Constant for note").fill("from the store");

        // What has to hold across a slip, as a note.
        page.getByRole(AriaRole.BUTTON, named("3 Checks")).click();
        page.getByRole(AriaRole.BUTTON, named("Add a check across a document")).click();
        page.getByRole(AriaRole.BUTTON, exactly("Add")).click();
        assertThat(page.getByRole(AriaRole.REGION, named("Findings"))).containsText("add up to 0");
        noViolations(page);

        page.getByRole(AriaRole.BUTTON, exactly("Rehearse")).click();
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("6 read");
        page.keyboard().press("Escape");
        page.getByRole(AriaRole.BUTTON, exactly("Put live")).click();
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Put live"))
                .click();
        assertThat(page.getByText("Version 1 is live.")).isVisible();
        page.getByRole(AriaRole.BUTTON, exactly("Run a file")).click();
        page.getByRole(AriaRole.DIALOG).getByLabel("File").setInputFiles(slips());
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Run"))
                .click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("finished");
        assertThat(page.getByText("It balances")).isVisible();
        assertThat(demo.database.rows(
                        "larkfell", "SELECT slip_no, booked_on, total, lines_in_all, note FROM slip ORDER BY slip_no"))
                .contains("S1|2026-11-20|0.00|2|from the store", "S3|2026-11-20|2.50|1|from the store");
    }

    /** A price is looked up by two columns; what is left unpriced is noted; a total by farm is said in words. */
    @Test
    void fields_are_looked_up_and_groups_are_delivered_beside_their_records() throws IOException {
        demo.database.execute(
                "larkfell",
                "CREATE TABLE IF NOT EXISTS feed_price (article VARCHAR(10), grade INT, price DECIMAL(7,2), mill VARCHAR(20),"
                        + " PRIMARY KEY (article, grade))");
        demo.database.execute(
                "larkfell",
                "REPLACE INTO feed_price VALUES ('barley', 1, 0.31, 'Thornmill'), ('barley', 2, 0.28, 'Thornmill')");
        demo.database.execute(
                "larkfell",
                "CREATE TABLE IF NOT EXISTS feed_taken (farm INT, article VARCHAR(10), cost DECIMAL(9,2), mill VARCHAR(20))");
        Path feed = Files.writeString(
                demo.folder.resolve("feed.csv"),
                "Farm;Article;Grade;Kilos\n7;barley;1;100\n7;barley;2;50\n9;barley;1;10\n9;oats;1;40\n");
        Page page = demo.signedIn(1280, 900, "dark");
        page.navigate(demo.address() + "/jobs");
        page.getByRole(AriaRole.BUTTON, named("New job")).click();
        page.getByLabel("A sample: a file like the ones that will come").setInputFiles(feed);
        page.getByLabel("Title").fill("Feed taken");
        page.getByRole(AriaRole.BUTTON, named("Make the job")).click();
        page.waitForURL("**/jobs/feed-taken*");
        page.getByRole(AriaRole.BUTTON, named("5 Delivery")).click();
        page.getByLabel("Goes to").selectOption("warehouse");
        page.getByLabel("Table").selectOption("feed_taken");

        page.getByRole(AriaRole.BUTTON, named("4 Shaping")).click();
        page.getByRole(AriaRole.BUTTON, named("Look-ups Nothing")).click();
        page.getByRole(AriaRole.BUTTON, named("Fields from a table")).click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("The look-up found1: choose the table.");
        Locator lookUp = page.getByRole(AriaRole.REGION, named("Look-up "));
        lookUp.getByLabel("Named").fill("priced");
        lookUp.getByLabel("Connection").selectOption("warehouse");
        lookUp.getByLabel("Table").selectOption("feed_price");
        lookUp.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Say by which key"))
                .click();
        lookUp.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Another part of the key"))
                .click();
        lookUp.getByLabel("A key that is not there").selectOption("leaves the fields NULL, with a note");
        assertThat(lookUp).containsText("2 keys, read");
        Locator findings = page.getByRole(AriaRole.REGION, named("Findings"));
        assertThat(findings).containsText("no row of the table feed_price with article \"oats\" and grade \"1\"");
        noViolations(page);

        page.getByRole(AriaRole.BUTTON, exactly("Propose rules by name")).click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("mill is the field priced.mill");
        dialog.getByRole(AriaRole.BUTTON, inExactly("Take all 3")).click();
        page.getByRole(AriaRole.BUTTON, exactly("cost")).click();
        page.getByLabel("Origin of cost").selectOption("a formula");
        page.getByLabel("Formula of cost").click();
        page.keyboard().press("Control+A");
        page.keyboard().type("Kilos * priced.price");
        page.keyboard().press("Escape");
        page.getByRole(AriaRole.BUTTON, named("Say it in words")).click();
        page.getByLabel("Instructions, one on a line").fill("total the kilos by farm");
        Locator words = page.getByRole(AriaRole.REGION, named("Say it in words"));
        assertThat(words).containsText("for each Farm the total of Kilos");
        words.getByRole(AriaRole.BUTTON, inExactly("Take: total the kilos by farm"))
                .click();
        assertThat(page.getByLabel("Rows are made of")).hasValue(java.util.regex.Pattern.compile("groups .*"));
        noViolations(page);
        page.getByRole(AriaRole.BUTTON, named("5 Delivery")).click();
        page.getByLabel("Goes to").selectOption("warehouse");
        page.getByRole(AriaRole.BUTTON, named("Make a table from the shaping")).click();
        page.getByLabel("Name of the table in warehouse").fill("feed_by_farm");
        assertThat(dialog.getByRole(AriaRole.REGION)).containsText("CREATE TABLE `feed_by_farm`");
        noViolations(page);
        dialog.getByRole(AriaRole.BUTTON, inExactly("Make it")).click();
        assertThat(page.getByText("The table feed_by_farm is made.")).isVisible();
        assertThat(dialog).isHidden();
        page.getByRole(AriaRole.TAB, named("Rows")).click();
        assertThat(page.getByRole(AriaRole.TABLE, named("Rows"))).containsText("150");

        page.getByRole(AriaRole.BUTTON, exactly("Put live")).click();
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Put live"))
                .click();
        assertThat(page.getByText("Version 1 is live.")).isVisible();
        page.getByRole(AriaRole.BUTTON, exactly("Run a file")).click();
        page.getByRole(AriaRole.DIALOG).getByLabel("File").setInputFiles(feed);
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Run"))
                .click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("finished");
        assertThat(demo.database.rows("larkfell", "SELECT * FROM feed_taken ORDER BY farm, cost"))
                .containsExactly(
                        "7|barley|14.00|Thornmill",
                        "7|barley|31.00|Thornmill",
                        "9|oats|null|null",
                        "9|barley|3.10|Thornmill");
        assertThat(demo.database.rows("larkfell", "SELECT * FROM feed_by_farm ORDER BY farm"))
                .containsExactly("7|150", "9|50");
    }

    private Path slips() throws IOException {
        return Files.writeString(
                demo.folder.resolve("slips.csv"),
                "Slip;Booked;Article;Amount\nS1;2026-11-20;twine;12.40\nS1;2026-11-20;account;-12.40\n"
                        + "S2;2026-11-20;salt;8.90\nS2;2026-11-21;account;-8.90\nS2;2026-11-21;salt;1.00\n"
                        + "S3;2026-11-20;filter;2.50\n");
    }
}
