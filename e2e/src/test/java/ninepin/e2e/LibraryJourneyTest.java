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
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.YearMonth;
import ninepin.standins.FarmRegister;
import ninepin.standins.TankerCollections;
import ninepin.standins.TankerCollections.Mistake;
import org.junit.jupiter.api.Test;

/** A person keeps layouts in the library: makes them of what there is, changes them, and hands them to jobs. */
class LibraryJourneyTest {

    private final Demo demo = Demo.shared();

    @Test
    void a_tanker_file_never_seen_becomes_a_layout_whose_wrong_trailer_is_found() throws IOException {
        Page page = demo.signedIn(1280, 800, "light");
        page.navigate(demo.address() + "/layouts");
        page.getByRole(AriaRole.BUTTON, named("New layout")).click();
        page.getByLabel("Files").setInputFiles(tanker());
        Locator proposal = page.getByRole(AriaRole.REGION, named("Proposed layout"));
        assertThat(proposal).containsText("header, type R, type C, trailer");
        assertThat(proposal).containsText("trailer.field 1 is the number of type C records");
        assertThat(proposal).containsText("trailer.field 2 is the total of type C.field 4");
        proposal.getByRole(AriaRole.BUTTON, inExactly("type C")).click();
        proposal.getByLabel("Name of field 4").fill("litres");
        noViolations(page);
        page.getByLabel("Title").fill("New rounds");
        page.getByRole(AriaRole.BUTTON, named("Make the layout")).click();
        page.waitForURL("**/layouts/new-rounds*");

        Locator findings = page.getByRole(AriaRole.REGION, named("Findings"));
        assertThat(findings).containsText("That is the total of type C.litres");
        page.getByRole(AriaRole.GROUP, named("Record types of the layout"))
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("type R"))
                .click();
        Locator edge = page.getByRole(AriaRole.SLIDER, named("field 2 begins at"));
        edge.focus();
        page.keyboard().press("ArrowRight");
        assertThat(edge).hasAttribute("aria-valuenow", "9");
        assertThat(page.getByText("Kept, not saved as a version yet")).isVisible();
        page.getByRole(AriaRole.BUTTON, exactly("Save a version")).click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("No job works with this layout.");
        dialog.getByLabel("What it is for").fill("tanker one to the right");
        noViolations(page);
        dialog.getByRole(AriaRole.BUTTON, inExactly("Save the version")).click();
        assertThat(page.getByText("Version 2 of new-rounds is saved.")).isVisible();
        page.getByRole(AriaRole.BUTTON, exactly("Versions")).click();
        assertThat(dialog).containsText("tanker one to the right");
        assertThat(dialog).containsText("field 2 › start");
        noViolations(page);
        page.keyboard().press("Escape");

        page.getByRole(AriaRole.TAB, named("Raw")).click();
        page.getByLabel("Find a text").fill("T0000");
        page.getByRole(AriaRole.BUTTON, exactly("Find")).click();
        assertThat(page.locator("mark")).hasText("T0000");
        page.getByLabel("Go to line").fill("3");
        page.getByLabel("Go to line").press("Enter");
        assertThat(page.getByText("lines 3 to")).isVisible();
        noViolations(page);
    }

    @Test
    void a_schema_becomes_a_layout_that_reads_the_register() throws IOException {
        Page page = demo.signedIn(1280, 800, "dark");
        page.navigate(demo.address() + "/layouts");
        page.getByRole(AriaRole.BUTTON, named("New layout")).click();
        // Given as samples they are known for what they are.
        page.getByLabel("Files", new Page.GetByLabelOptions().setExact(true))
                .setInputFiles(new Path[] {Path.of("../demo/farm-register.xsd"), Path.of("../demo/herd.xsd")});
        Locator proposal = page.getByRole(AriaRole.REGION, named("Proposed layout"));
        assertThat(proposal).containsText("farm, herd");
        assertThat(page.getByText("From the schema farm-register.xsd, herd.xsd"))
                .isVisible();
        noViolations(page);
        page.getByLabel("Title").fill("By schema");
        page.getByRole(AriaRole.BUTTON, named("Make the layout")).click();
        page.waitForURL("**/layouts/by-schema*");
        page.getByLabel("Sample", new Page.GetByLabelOptions().setExact(true)).setInputFiles(register());
        assertThat(page.getByText("good", new Page.GetByTextOptions().setExact(false))
                        .first())
                .isVisible();
        Locator findings = page.getByRole(AriaRole.REGION, named("Findings"));
        assertThat(findings).containsText("a breach of the schema: Invalid content was found");
        assertThat(findings).containsText("valley");
        page.getByRole(AriaRole.TAB, named("Elements")).click();
        Locator tree = page.getByRole(AriaRole.REGION, named("Elements of the sample"));
        assertThat(tree).containsText("record type herd");
        assertThat(tree).containsText("farm.village");
        noViolations(page);
    }

    @Test
    void a_layout_of_many_record_types_is_searched_and_cut_down_to_what_its_sample_uses() throws IOException {
        Page page = demo.signedIn(1024, 768, "dark");
        page.navigate(demo.address() + "/layouts");
        page.getByRole(AriaRole.BUTTON, named("New layout")).click();
        page.getByLabel("Files", new Page.GetByLabelOptions().setExact(true)).setInputFiles(pastureSchema());
        assertThat(page.getByRole(AriaRole.REGION, named("Proposed layout"))).containsText("pasture20");
        page.getByLabel("Title").fill("Pastures");
        page.getByRole(AriaRole.BUTTON, named("Make the layout")).click();
        page.waitForURL("**/layouts/pastures*");

        page.getByLabel("Find a field").fill("fence17");
        page.getByRole(AriaRole.LIST, named("Fields found"))
                .getByRole(AriaRole.BUTTON)
                .click();
        assertThat(page.getByText("Records of pasture17")).isVisible();
        assertThat(page.getByLabel("Only what the sample uses")).hasCount(0);

        Path sample = Files.createTempFile("pastures", ".xml");
        Files.writeString(
                sample,
                "<farm no=\"7\"><pasture2 no=\"1\"><fence2>12</fence2></pasture2><pasture5 no=\"2\"/><pasture5 no=\"3\"/></farm>");
        page.getByLabel("Sample", new Page.GetByLabelOptions().setExact(true)).setInputFiles(sample);
        page.getByLabel("Only what the sample uses").check();
        Locator types = page.getByLabel("Record types of the layout");
        // The record type that is open stays in sight.
        assertThat(types.locator("option"))
                .hasText(new String[] {"farm (1)", "pasture2 (2)", "pasture5 (2)", "pasture17 (2)"});
        noViolations(page);
        page.getByRole(AriaRole.BUTTON, named("Remove the other 18 record types and 37 fields"))
                .click();
        kept(page);
        Locator few = page.getByRole(AriaRole.GROUP, named("Record types of the layout"));
        assertThat(few).containsText("farm");
        few.getByRole(AriaRole.BUTTON, inExactly("pasture5")).click();
        assertThat(page.getByRole(AriaRole.TABLE).first()).not().containsText("fence5");
        assertThat(page.getByLabel("Only what the sample uses")).hasCount(0);
        noViolations(page);
    }

    private static Path pastureSchema() throws IOException {
        StringBuilder pastures = new StringBuilder();
        for (int i = 1; i <= 20; i++) {
            pastures.append(
                    "<xs:element name='pasture%d' minOccurs='0' maxOccurs='unbounded'><xs:complexType><xs:sequence>"
                                    .formatted(i)
                            + "<xs:element name='fence%d' type='xs:int' minOccurs='0'/></xs:sequence>".formatted(i)
                            + "<xs:attribute name='no' type='xs:int'/></xs:complexType></xs:element>");
        }
        Path schema = Files.createTempFile("pastures", ".xsd");
        return Files.writeString(
                schema,
                "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema'><xs:element name='farm'><xs:complexType><xs:sequence>"
                        + pastures
                        + "</xs:sequence><xs:attribute name='no' type='xs:int'/></xs:complexType></xs:element></xs:schema>");
    }

    @Test
    void a_change_says_which_jobs_it_touches_and_reaches_their_drafts_only() {
        Page page = demo.signedIn(1280, 800, "light");
        page.navigate(demo.address() + "/layouts/quality-results");
        page.getByRole(AriaRole.BUTTON, named("Remove Remark")).click();
        kept(page);
        page.getByRole(AriaRole.BUTTON, exactly("Save a version")).click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        Locator touched = dialog.getByLabel("Quality results");
        // The job would lose the field that one of its rules takes: it is not handed over unless somebody says so.
        assertThat(dialog).containsText("Remark");
        assertThat(touched).not().isChecked();
        touched.check();
        dialog.getByRole(AriaRole.BUTTON, inExactly("Save the version")).click();
        assertThat(page.getByText("Version 2 of quality-results is saved.")).isVisible();

        page.navigate(demo.address() + "/jobs/quality-results?section=2");
        assertThat(page.getByText("version 2 of the library")).isVisible();
        assertThat(page.getByText("Kept, not live yet")).isVisible();
        page.navigate(demo.address() + "/layouts/quality-results");
        page.getByRole(AriaRole.BUTTON, exactly("Versions")).click();
        dialog.getByRole(AriaRole.ROW)
                .filter(new Locator.FilterOptions().setHasText("demo"))
                .last()
                .getByRole(AriaRole.BUTTON)
                .click();
        kept(page);
        page.getByRole(AriaRole.BUTTON, exactly("Save a version")).click();
        assertThat(touched).isChecked();
        dialog.getByRole(AriaRole.BUTTON, inExactly("Save the version")).click();
        assertThat(page.getByText("Version 3 of quality-results is saved.")).isVisible();
        page.navigate(demo.address() + "/jobs/quality-results?section=2");
        assertThat(page.getByText("version 3 of the library")).isVisible();
        noViolations(page);
    }

    private Path tanker() throws IOException {
        Path file = demo.folder.resolve("new-rounds.dat");
        try (OutputStream out = Files.newOutputStream(file)) {
            new TankerCollections(77, Mistake.TRAILER).write(4, LocalDate.of(2026, 9, 3), 31_001, 4, 12, out);
        }
        return file;
    }

    private Path register() throws IOException {
        Path file = demo.folder.resolve("register.xml");
        try (OutputStream out = Files.newOutputStream(file)) {
            new FarmRegister(5, true).write(YearMonth.of(2026, 9), 100, out);
        }
        return file;
    }
}
