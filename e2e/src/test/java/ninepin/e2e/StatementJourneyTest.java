package ninepin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ninepin.e2e.Steps.exactly;
import static ninepin.e2e.Steps.inExactly;
import static ninepin.e2e.Steps.named;
import static ninepin.e2e.Steps.noViolations;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** Rows of a query become files of a layout; a proof keeps what they should be; a run is seen, fetched and undone. */
class StatementJourneyTest {

    private final Demo demo = Demo.shared();

    @Test
    void a_statement_is_asked_proved_written_and_taken_back() throws IOException {
        Page page = demo.signedIn(1280, 800, "light");
        page.navigate(demo.address() + "/jobs/producer-statement?section=1");

        // The query gives the sample; it may not be one that the database does not take.
        Locator query = page.getByLabel("Query", exactlyLabelled());
        String statement = query.inputValue();
        query.fill("SELECT nothing FROM collection");
        page.getByRole(AriaRole.BUTTON, exactly("Take its first rows as the sample"))
                .click();
        assertThat(page.getByRole(AriaRole.ALERT)
                        .or(page.getByText("Unknown column"))
                        .first())
                .isVisible();
        query.fill(statement);
        page.getByRole(AriaRole.BUTTON, exactly("Take its first rows as the sample"))
                .click();
        assertThat(page.getByText("The first rows are the sample now.")).isVisible();
        noViolations(page);

        // What it writes is seen before it is written.
        page.navigate(demo.address() + "/jobs/producer-statement?section=5&delivery=1");
        page.getByLabel("Records, documents kept whole").fill("150");
        page.getByRole(AriaRole.BUTTON, named("See what it writes")).click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("2 files");
        assertThat(dialog.getByRole(AriaRole.REGION))
                .containsText(Pattern.compile("H\\d{8}LARKFELL DAIRY CO-OPERATIVE\\s+P00000100001"));
        noViolations(page);
        page.keyboard().press("Escape");

        // Kept as a proof, it is red as soon as something else is made, with exactly what.
        page.getByRole(AriaRole.BUTTON, named("Proofs")).click();
        dialog.getByLabel("Keep the sample as a proof named").fill("one month");
        dialog.getByRole(AriaRole.BUTTON, inExactly("Keep it")).click();
        assertThat(dialog).containsText("one-month green");
        page.keyboard().press("Escape");
        page.navigate(demo.address() + "/jobs/producer-statement?section=4&delivery=1");
        page.getByRole(AriaRole.BUTTON, exactly("Rule of text")).click();
        page.getByLabel("Constant for text").fill("RAW MILK");
        assertThat(page.getByRole(AriaRole.BUTTON, named("Proofs"))).containsText("1 red");
        page.getByRole(AriaRole.BUTTON, named("Put live")).click();
        assertThat(dialog).containsText("The proof one-month is red: record 1 → statement_");
        assertThat(dialog.getByRole(AriaRole.BUTTON, inExactly("Put live"))).isDisabled();
        page.keyboard().press("Escape");
        page.getByRole(AriaRole.BUTTON, named("Proofs")).click();
        assertThat(dialog.getByRole(AriaRole.REGION, inNamed("Differences"))).containsText("\"RAW MILK\"");
        noViolations(page);
        dialog.getByRole(AriaRole.BUTTON, inExactly("Expect this from now on")).click();
        assertThat(dialog).containsText("one-month green");
        page.keyboard().press("Escape");
        page.getByRole(AriaRole.BUTTON, named("Put live")).click();
        dialog.getByRole(AriaRole.BUTTON, inExactly("Put live")).click();
        assertThat(page.getByText(Pattern.compile("Version \\d+ is live"))).isVisible();

        // Asked now, the files stand in the bank's folder, and nowhere in between.
        page.getByRole(AriaRole.BUTTON, exactly("Run")).click();
        dialog.getByRole(AriaRole.BUTTON, inExactly("Ask the database now")).click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("finished");
        Locator files = page.getByRole(AriaRole.REGION, named("Files written"));
        assertThat(files).containsText("2 files written");
        noViolations(page);
        Download download = page.waitForDownload(
                () -> files.getByRole(AriaRole.LINK).first().click());
        Path bank = demo.folder.resolve("bank").resolve("drop");
        List<String> written = Files.readAllLines(bank.resolve(download.suggestedFilename()));
        org.assertj.core.api.Assertions.assertThat(written)
                .isEqualTo(Files.readAllLines(download.path()))
                .hasSize(152);
        org.assertj.core.api.Assertions.assertThat(written.get(1)).contains("RAW MILK");
        org.assertj.core.api.Assertions.assertThat(written.get(151)).startsWith("T000150");

        // Undone, the files are gone, but for one that somebody has changed.
        Files.writeString(bank.resolve(download.suggestedFilename()), "mine");
        page.getByRole(AriaRole.BUTTON, exactly("More")).click();
        page.getByRole(AriaRole.MENUITEM, named("Take back")).click();
        dialog.getByRole(AriaRole.BUTTON, inExactly("Take back")).click();
        assertThat(page.getByRole(AriaRole.REGION, named("What was taken back")))
                .containsText(download.suggestedFilename() + " (changed)");
        noViolations(page);
        org.assertj.core.api.Assertions.assertThat(Files.readString(bank.resolve(download.suggestedFilename())))
                .isEqualTo("mine");
    }

    @Test
    void a_statement_of_its_own_is_shown_to_the_database_and_runs_with_the_rows() {
        Page page = demo.signedIn(1024, 800, "dark");
        page.navigate(demo.address() + "/jobs/farm-register?section=5");
        page.getByRole(AriaRole.BUTTON, named("A statement before or after the rows"))
                .click();
        page.getByLabel("Statement 1", exactlyLabelled()).fill("DELETE FROM herdd WHERE cows > :most");
        assertThat(page.getByText("there is no host variable :most")).isVisible();
        page.getByLabel("Statement 1", exactlyLabelled())
                .fill("DELETE FROM herdd WHERE cows > 9000 AND :today > '2020-01-01'");
        assertThat(page.getByText("Table 'larkfell.herdd' doesn't exist")).isVisible();
        page.getByLabel("Statement 1", exactlyLabelled())
                .fill("DELETE FROM herd WHERE cows > 9000 AND :today > '2020-01-01'");
        assertThat(page.getByText("the database does not take it")).isHidden();
        noViolations(page);
        page.getByRole(AriaRole.BUTTON, exactly("Remove statement 1")).click();
        assertThat(page.getByLabel("Statement 1", exactlyLabelled())).isHidden();
    }

    private static Page.GetByLabelOptions exactlyLabelled() {
        return new Page.GetByLabelOptions().setExact(true);
    }

    private static Locator.GetByRoleOptions inNamed(String name) {
        return new Locator.GetByRoleOptions().setName(name);
    }
}
