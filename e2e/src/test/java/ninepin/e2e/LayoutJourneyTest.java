package ninepin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ninepin.e2e.Steps.exactly;
import static ninepin.e2e.Steps.kept;
import static ninepin.e2e.Steps.named;
import static ninepin.e2e.Steps.noViolations;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import ninepin.standins.TankerCollections;
import ninepin.standins.TankerCollections.Mistake;
import org.junit.jupiter.api.Test;

/** A person meets files of other kinds than delimited ones. */
class LayoutJourneyTest {

    private final Demo demo = Demo.shared();

    @Test
    void a_fixed_length_file_never_seen_is_proposed_corrected_on_the_ruler_and_read() throws IOException {
        Page page = demo.signedIn(1280, 800, "light");
        page.navigate(demo.address() + "/jobs");
        page.getByRole(AriaRole.BUTTON, named("New job")).click();
        page.getByLabel("A sample: a file like the ones that will come").setInputFiles(tanker(Mistake.NONE));
        Locator proposal = page.getByRole(AriaRole.REGION, named("Proposed layout"));
        assertThat(proposal).containsText("fixed-length");
        assertThat(proposal).containsText("header, type R, type C, trailer");
        assertThat(proposal).containsText("type C belongs to type R");
        noViolations(page);
        page.getByLabel("Title").fill("Rounds");
        page.getByRole(AriaRole.BUTTON, named("Make the job")).click();
        page.waitForURL("**/jobs/rounds*");

        page.navigate(demo.address() + "/jobs/rounds?section=2&type=1&view=file");
        Locator edge = page.getByRole(AriaRole.SLIDER, named("field 2 begins at"));
        assertThat(edge).hasAttribute("aria-valuenow", "8");
        edge.focus();
        page.keyboard().press("ArrowRight");
        assertThat(edge).hasAttribute("aria-valuenow", "9");
        assertThat(page.getByRole(AriaRole.ROW, named("field 1"))).containsText("2–8");
        page.keyboard().press("ArrowLeft");
        assertThat(page.getByRole(AriaRole.ROW, named("field 1"))).containsText("2–7");
        kept(page);
        page.getByRole(AriaRole.TAB, named("Records")).click();
        page.getByRole(AriaRole.GROUP, exactly("Record types"))
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("type C"))
                .click();
        assertThat(page.getByRole(AriaRole.TABLE, named("Records"))).containsText("field 3");
        noViolations(page);
    }

    @Test
    void a_wrong_trailer_is_found_with_both_totals_and_stops_the_file() throws IOException {
        Page page = demo.signedIn(1280, 800, "dark");
        page.navigate(demo.address() + "/jobs/tanker-collections?section=3&view=file");
        page.locator("input[type=file]").first().setInputFiles(tanker(Mistake.TRAILER));
        Locator findings = page.getByRole(AriaRole.REGION, named("Findings"));
        assertThat(findings).containsText("That is the total of collection.litres");
        assertThat(page.getByText("halted")).isVisible();
        noViolations(page);

        page.navigate(demo.address() + "/jobs/farm-register?section=4&view=rows&delivery=1");
        page.getByRole(AriaRole.TABLE, named("Rows"))
                .getByRole(AriaRole.CELL)
                .nth(3)
                .click();
        String cows = page.locator("[data-lit]").textContent();
        page.getByRole(AriaRole.TAB, named("File")).click();
        assertThat(page.locator("[role=option][aria-selected=true] .bg-pine")).hasText(cows);
        noViolations(page);
    }

    private Path tanker(Mistake mistake) throws IOException {
        Path file = demo.folder.resolve("rounds.dat");
        try (OutputStream out = Files.newOutputStream(file)) {
            new TankerCollections(21, mistake).write(11, LocalDate.of(2026, 10, 5), 77_001, 5, 14, out);
        }
        return file;
    }
}
