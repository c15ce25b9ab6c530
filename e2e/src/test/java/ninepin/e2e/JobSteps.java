package ninepin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ninepin.e2e.Steps.exactly;
import static ninepin.e2e.Steps.inExactly;
import static ninepin.e2e.Steps.kept;
import static ninepin.e2e.Steps.named;
import static ninepin.e2e.Steps.noViolations;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import org.assertj.core.api.Assertions;
import org.assertj.core.api.ListAssert;

/** What people do with a job in the interface: make one of a sample, give it a table, put it live, run a file. */
abstract class JobSteps {

    final Demo demo = Demo.shared();
    final Page page = demo.signedIn(1280, 800, "light");

    Path file(String name, String text) {
        try {
            return Files.writeString(demo.folder.resolve(name), text.replace("\n", "\r\n"), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    void newJob(String title, Path sample) {
        page.navigate(demo.address() + "/jobs");
        page.getByRole(AriaRole.BUTTON, named("New job")).click();
        page.getByLabel("A sample: a file like the ones that will come").setInputFiles(sample);
        page.getByLabel("Title").fill(title);
        page.getByRole(AriaRole.BUTTON, named("Make the job")).click();
        page.waitForURL("**/jobs/" + title.toLowerCase().replace(' ', '-') + "*");
    }

    void section(String name) {
        page.getByRole(AriaRole.BUTTON, named(name)).click();
    }

    /** Makes a table for the delivery in focus in the dialog, as it is proposed. */
    void makeTable(String table) {
        page.getByLabel("Goes to").selectOption("warehouse");
        page.getByRole(AriaRole.BUTTON, named("Make a table from the shaping")).click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        dialog.getByLabel("Name of the table in warehouse").fill(table);
        assertThat(dialog.getByRole(AriaRole.REGION)).containsText("CREATE TABLE `" + table + "`");
        noViolations(page);
        dialog.getByRole(AriaRole.BUTTON, inExactly("Make it")).click();
        assertThat(page.getByText("The table " + table + " is made.")).isVisible();
        kept(page);
    }

    void putLive() {
        page.getByRole(AriaRole.BUTTON, exactly("Put live")).click();
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Put live"))
                .click();
        assertThat(page.getByText(Pattern.compile("Version \\d+ is live\\."))).isVisible();
    }

    void run(Path file) {
        page.getByRole(AriaRole.BUTTON, exactly("Run a file")).click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        dialog.getByLabel("File").setInputFiles(file);
        dialog.getByRole(AriaRole.BUTTON, inExactly("Run")).click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("finished");
    }

    /** The figure that stands behind a word of the tally. */
    void tally(String word, int n) {
        Locator line = page.getByRole(AriaRole.REGION, exactly("Tally"))
                .locator("div")
                .filter(new Locator.FilterOptions().setHasText(Pattern.compile("^" + word + "\\s*" + n + "$")));
        assertThat(line.first()).isVisible();
    }

    static ListAssert<String> that(List<String> lines) {
        return Assertions.assertThat(lines);
    }

    List<String> rows(String statement) {
        return demo.database.rows("larkfell", statement);
    }
}
