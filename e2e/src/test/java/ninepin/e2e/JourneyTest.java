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
import java.nio.charset.Charset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** What a person does with the product, from one end to the other, in the real interface. */
class JourneyTest {

    private static final Charset WINDOWS_1252 = Charset.forName("windows-1252");

    private final Demo demo = Demo.shared();

    @Test
    void a_file_is_picked_up_its_mistake_found_the_layout_corrected_rehearsed_and_put_live() throws Exception {
        Page page = demo.signedIn(1280, 800, "light");
        Files.write(
                demo.outbox().resolve("quality_journey.csv"),
                ("Sample;Farm;Route;Test;Value;Unit;Taken;Temperature;Remark\r\n"
                                + "990101-00001;7;R01;FAT;4,11;%;03.11.2026;3,9;\r\n"
                                + "990101-00001;7;R01;PROT;12O0;%;03.11.2026;3,9;\r\n"
                                + "990101-00002;7;R01;UREA;21,5;mg/dl;03.11.2026;3,9;Prüfung\r\n")
                        .getBytes(WINDOWS_1252));

        // The schedule looks, the file is ready, and its run appears.
        page.navigate(demo.address() + "/runs");
        Locator row =
                page.getByRole(AriaRole.ROW).filter(new Locator.FilterOptions().setHasText("quality_journey.csv"));
        assertThat(row)
                .isVisible(new com.microsoft.playwright.assertions.LocatorAssertions.IsVisibleOptions()
                        .setTimeout(60_000));
        row.click();
        // The list of runs, which says so of others, stays until the run is there.
        assertThat(page.getByText("It balances")).isVisible();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("with rejects");
        noViolations(page);

        // The letter O, marked in the raw record.
        page.getByText("Value: expected a number with decimal comma").click();
        assertThat(page.locator("mark")).hasText("12O0");
        assertThat(page.getByText("Character 3 is the letter O, not the digit 0."))
                .isVisible();

        // The unknown test is right after all: the list of the check is corrected on the sheet.
        page.navigate(demo.address() + "/jobs/quality-results?section=3&view=rows");
        page.locator("input[type=file]").first().setInputFiles(file("quality_sample.csv", "UREA"));
        assertThat(page.getByRole(AriaRole.REGION, named("Findings")).getByText("\"UREA\""))
                .isVisible();
        noViolations(page);
        page.getByRole(AriaRole.BUTTON, named("Remove the check Test is one of FAT, PROT, CELLS, GERMS, FREEZE"))
                .click();

        // The code list does not know it either; it is added from the sample.
        page.getByRole(AriaRole.BUTTON, named("4 Shaping")).click();
        page.getByLabel("Meaning of UREA").fill("urea");
        noViolations(page);
        page.getByRole(AriaRole.BUTTON, exactly("Add UREA to tests")).click();
        assertThat(page.getByText("UREA is in tests now, version 2.")).isVisible();
        assertThat(page.getByText("1 record = 1 row + 0 rejects")).isVisible();
        assertThat(page.getByText("Kept, not live yet")).isVisible();

        page.getByRole(AriaRole.BUTTON, exactly("Rehearse")).click();
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("1 read = 1 would be delivered + 0 would be rejected");
        page.keyboard().press("Escape");

        page.getByRole(AriaRole.BUTTON, exactly("Put live")).click();
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("layout › recordTypes › result › fields › Test");
        noViolations(page);
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Put live"))
                .click();
        assertThat(page.getByText(Pattern.compile("Version \\d+ is live"))).isVisible();

        // A file given by hand runs with the new version.
        page.getByRole(AriaRole.BUTTON, exactly("Run a file")).click();
        page.getByRole(AriaRole.DIALOG).getByLabel("File").setInputFiles(file("by-hand.csv", "UREA"));
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Run"))
                .click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("finished");
        assertThat(demo.database.rows(
                        "larkfell",
                        "SELECT sample_no, test_name, value, remark FROM quality_result WHERE test = 'UREA'"))
                .containsExactly("990101-00009|urea|21.500|Prüfung");
    }

    @Test
    void clicking_a_value_lights_up_its_bytes_its_record_its_rule_and_its_row() {
        Page page = demo.signedIn(1280, 800, "dark");
        page.navigate(demo.address() + "/jobs/quality-results?section=4&view=rows");
        page.getByRole(AriaRole.TABLE, named("Rows"))
                .getByRole(AriaRole.CELL)
                .nth(6)
                .click();
        assertThat(page.locator("[data-lit]")).hasCount(1);
        String value = page.locator("[data-lit]").textContent();
        page.getByRole(AriaRole.TAB, named("Records")).click();
        assertThat(page.locator("[data-lit]")).hasText(value);
        page.getByRole(AriaRole.TAB, named("File")).click();
        assertThat(page.locator("[role=option][aria-selected=true] .bg-pine")).hasText(value.replace('.', ','));
        assertThat(page.locator("li.bg-pine-wash")).containsText("value");
        noViolations(page);
    }

    @Test
    void a_new_job_is_made_from_a_sample_by_keyboard_and_says_what_it_still_lacks() {
        Page page = demo.signedIn(1024, 800, "light");
        page.navigate(demo.address() + "/jobs");
        page.getByRole(AriaRole.BUTTON, named("New job")).focus();
        page.keyboard().press("Enter");
        page.getByLabel("A sample: a file like the ones that will come")
                .setInputFiles(file("tank levels.csv", "LEVEL"));
        page.getByLabel("Title").fill("Tank levels");
        assertThat(page.getByRole(AriaRole.BUTTON, named("Make the job"))).isEnabled();
        page.getByRole(AriaRole.BUTTON, named("Make the job")).focus();
        page.keyboard().press("Enter");
        page.waitForURL("**/jobs/tank-levels*");
        assertThat(page.getByText("1 record = 1 row + 0 rejects")).isVisible();
        page.keyboard().press("5");
        assertThat(page.getByText("There is no delivery yet")).isVisible();
        noViolations(page);
        for (String screen : List.of("/today", "/jobs", "/connections?connection=warehouse&table=quality_result")) {
            page.navigate(demo.address() + screen);
            page.waitForTimeout(500);
            noViolations(page);
        }
    }

    private Path file(String name, String test) {
        try {
            Path file = demo.folder.resolve(name);
            Files.write(
                    file,
                    ("Sample;Farm;Route;Test;Value;Unit;Taken;Temperature;Remark\r\n990101-00009;7;R01;" + test
                                    + ";21,5;mg/dl;03.11.2026;3,9;Prüfung\r\n")
                            .getBytes(WINDOWS_1252));
            return file;
        } catch (java.io.IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }
}
