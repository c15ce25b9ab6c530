package ninepin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ninepin.e2e.Steps.exactly;
import static ninepin.e2e.Steps.inExactly;
import static ninepin.e2e.Steps.kept;
import static ninepin.e2e.Steps.named;
import static ninepin.e2e.Steps.noViolations;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.regex.Pattern;
import ninepin.standins.QualityResults;
import org.junit.jupiter.api.Test;

/** A person watches a large load, stops it, restarts it, takes the rejects away, and tidies up. */
class RunJourneyTest {

    private static final int LINES = 250_000;
    private static final int BROKEN = 20;

    private final Demo demo = Demo.shared();
    private final LocatorAssertions.IsVisibleOptions soon = new LocatorAssertions.IsVisibleOptions().setTimeout(60_000);

    @Test
    void a_large_load_is_watched_stopped_restarted_and_its_tally_balances() throws IOException {
        Page page = demo.signedIn(1280, 800, "light");
        page.navigate(demo.address() + "/jobs/quality-results");
        page.getByRole(AriaRole.BUTTON, exactly("Run a file")).click();
        page.getByRole(AriaRole.DIALOG).getByLabel("File").setInputFiles(largeFile());
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Run"))
                .click();

        // Progress comes by itself, without a reload.
        Locator progress = page.getByRole(AriaRole.PROGRESSBAR, named("Progress"));
        assertThat(progress).isVisible(soon);
        assertThat(progress)
                .hasAttribute(
                        "aria-valuenow",
                        Pattern.compile("[1-9][0-9]?"),
                        new LocatorAssertions.HasAttributeOptions().setTimeout(60_000));
        page.getByRole(AriaRole.BUTTON, exactly("Stop")).click();
        Locator heading = page.getByRole(AriaRole.HEADING, named("Run"));
        assertThat(page.getByRole(AriaRole.BUTTON, exactly("Restart"))).isVisible(soon);
        assertThat(heading).containsText("stopped");
        assertThat(page.getByText("It balances")).isVisible();
        long before = rows();
        assertThat(before).isBetween(1L, LINES - 1L);
        noViolations(page);

        page.getByRole(AriaRole.BUTTON, exactly("Restart")).click();
        assertThat(heading)
                .containsText("with rejects", new LocatorAssertions.ContainsTextOptions().setTimeout(90_000));
        assertThat(page.getByText("It balances")).isVisible();
        assertThat(page.getByText("1 restart,")).isVisible();
        assertThat(rows()).isEqualTo(LINES - BROKEN);
        Download download = page.waitForDownload(() -> {
            page.getByRole(AriaRole.BUTTON, exactly("More")).click();
            page.getByText("Download the rejects").click();
        });
        try (var lines = Files.lines(download.path(), Charset.forName("windows-1252"))) {
            assertThat(lines.filter(l -> l.contains("a line that was cut"))).hasSize(BROKEN);
        }
    }

    /** Makes the rule of farm a formula, first with a slip, then with what is offered while typing. */
    private static void writeFormula(Page page) {
        page.getByRole(AriaRole.BUTTON, exactly("Rule of farm")).click();
        page.getByLabel("Origin of farm").selectOption("a formula");
        Locator formula = page.getByLabel("Formula of farm");
        formula.click();
        page.keyboard().press("Control+A");
        page.keyboard().type("UPPER(farn");
        Locator outcome = page.locator("p[role=status]");
        assertThat(outcome).containsText("There is no field farn. Is Farm meant?");
        noViolations(page);
        page.keyboard().press("Control+A");
        page.keyboard().type("UPPER(far");
        assertThat(page.locator(".cm-tooltip-autocomplete")).containsText("Tarn End");
        // A list that has only just opened takes no key yet, so that nobody chooses by mistake.
        page.waitForTimeout(150);
        page.keyboard().press("Enter");
        assertThat(formula).hasText("UPPER(Farm)");
        assertThat(outcome).containsText("TARN END");
    }

    @Test
    void a_value_asked_at_start_is_asked_and_a_job_and_connection_say_what_hangs_on_them() throws IOException {
        Page page = demo.signedIn(1280, 900, "light");
        page.navigate(demo.address() + "/jobs");
        page.getByRole(AriaRole.BUTTON, named("New job")).click();
        page.getByLabel("A sample: a file like the ones that will come").setInputFiles(smallFile());
        page.getByLabel("Title").fill("Asked about");
        page.getByRole(AriaRole.BUTTON, named("Make the job")).click();
        page.waitForURL("**/jobs/asked-about*");
        demo.database.execute("larkfell", "CREATE TABLE IF NOT EXISTS asked (farm VARCHAR(80), season VARCHAR(20))");
        page.getByRole(AriaRole.BUTTON, named("5 Delivery")).click();
        page.getByLabel("Goes to").selectOption("warehouse");
        page.getByLabel("Table").selectOption("asked");
        page.keyboard().press("Escape");
        page.getByRole(AriaRole.BUTTON, named("4 Shaping")).click();
        page.getByRole(AriaRole.BUTTON, exactly("Propose rules by name")).click();
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("The same name; the type fits");
        noViolations(page);
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Take it"))
                .click();
        page.keyboard().press("Escape");
        page.getByRole(AriaRole.BUTTON, exactly("season")).click();
        page.getByLabel("Origin of season").selectOption("asked at start: a new value");
        page.getByLabel("Name in rules").fill("season");
        page.getByLabel("Question").fill("Which season is it?");
        writeFormula(page);
        kept(page);
        page.getByRole(AriaRole.BUTTON, exactly("Put live")).click();
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Put live"))
                .click();
        assertThat(page.getByText("Version 1 is live.")).isVisible();

        page.getByRole(AriaRole.BUTTON, exactly("Run a file")).click();
        page.getByRole(AriaRole.DIALOG).getByLabel("File").setInputFiles(smallFile());
        page.getByRole(AriaRole.DIALOG).getByLabel("Which season is it?").fill("winter");
        noViolations(page);
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Run"))
                .click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("finished");
        assertThat(demo.database.rows("larkfell", "SELECT * FROM asked")).containsExactly("TARN END|winter");

        page.navigate(demo.address() + "/connections?connection=warehouse");
        page.getByRole(AriaRole.BUTTON, named("Delete…")).click();
        for (String job : List.of("asked-about", "farm-register", "tanker-collections")) {
            assertThat(page.getByRole(AriaRole.DIALOG).getByRole(AriaRole.LINK, inExactly(job)))
                    .hasAttribute("href", "/jobs/" + job + "?section=5");
        }
        assertThat(page.getByRole(AriaRole.DIALOG).getByRole(AriaRole.BUTTON, inExactly("Delete")))
                .isDisabled();
        noViolations(page);
        page.keyboard().press("Escape");

        page.navigate(demo.address() + "/jobs/asked-about");
        page.getByRole(AriaRole.BUTTON, exactly("More")).click();
        page.getByRole(AriaRole.MENUITEM, named("Delete this job…")).click();
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("1 version, and the record of 1 run with 0 rejects");
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Delete"))
                .click();
        assertThat(page.getByText("Asked about is deleted.")).isVisible();
        assertThat(page.getByRole(AriaRole.TABLE).getByText("asked-about")).hasCount(0);
        assertThat(demo.database.rows("larkfell", "SELECT COUNT(*) FROM asked")).containsExactly("1");
    }

    private long rows() {
        return Long.parseLong(demo.database
                .rows("larkfell", "SELECT COUNT(*) FROM quality_result WHERE source_file = 'large.csv'")
                .get(0));
    }

    private Path largeFile() throws IOException {
        Path file = demo.folder.resolve("large.csv");
        try (OutputStream out = Files.newOutputStream(file)) {
            new QualityResults(99, false).write(LocalDate.of(2031, 1, 1), LINES - BROKEN, out);
            out.write("a line that was cut\r\n".repeat(BROKEN).getBytes(StandardCharsets.US_ASCII));
        }
        return file;
    }

    private Path smallFile() throws IOException {
        return Files.writeString(demo.folder.resolve("small.csv"), "Farm;Litres\nTarn End;12\n");
    }
}
