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
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.testing.Reading;
import ninepin.core.testing.WorkbookText;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.Test;

/** Workbooks and JSON as a newcomer meets them: a file never seen before, tables with keys, a reject, files written of a query. */
class FormatsJourneyTest extends JobSteps {

    private Path workbook(String name, String text) {
        try {
            return Files.write(demo.folder.resolve(name), WorkbookText.bytes(text));
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    private Locator dialogue() {
        return page.getByRole(AriaRole.DIALOG);
    }

    @Test
    void a_workbook_goes_to_a_table_and_its_reject_is_corrected_as_a_form_and_as_text() {
        Path sample = workbook(
                "butter.xlsx",
                """
                sheet Butter
                merge A1:D1
                1: Butter of the creamery
                2: October, made up
                4: Batch | Churned | Tonnes | Salted
                5: '0001 | {dd.mm.yyyy}46296 | 1.25 | TRUE
                6: '0002 | {dd.mm.yyyy}46297 | 0.75 | FALSE
                7: '0003 | {dd.mm.yyyy}46298 | 1.5 | TRUE
                9: Total | | 3.5
                sheet Notes
                1: Nothing here
                """);
        newJob("Butter batches", sample);
        assertThat(page.getByText("4 records").first()).isVisible();
        Locator sheet = page.getByRole(AriaRole.GRID, named("Sheet Butter"));
        assertThat(sheet.getByRole(AriaRole.ROW).filter(new Locator.FilterOptions().setHasText("0002")))
                .containsText("2026-10-02");
        assertThat(sheet.getByRole(AriaRole.COLUMNHEADER).nth(1)).hasText("A");
        noViolations(page);
        sheet.getByRole(AriaRole.GRIDCELL)
                .filter(new Locator.FilterOptions().setHasText("0.75"))
                .click();
        assertThat(sheet.locator("[aria-selected=true]")).containsText("0002");
        page.getByRole(AriaRole.TAB, exactly("Notes")).click();
        assertThat(page.getByRole(AriaRole.GRID, named("Sheet Notes"))).containsText("Nothing here");
        section("5 Delivery");
        page.getByLabel("Rows are made of").selectOption("each Butter record");
        makeTable("butter_batch");
        putLive();

        Path second = workbook(
                "butter-november.xlsx",
                """
                sheet Butter
                2: Batch | Salted | Churned | Tonnes
                3: '0004 | TRUE | {yyyy-mm-dd}46327 | 2.25
                4: '0005 | MAYBE | {yyyy-mm-dd}46328 | 1.05
                5: '0006 | FALSE | {yyyy-mm-dd}46329 | 1.75
                7: Total | | | 5.05
                """);
        page.getByRole(AriaRole.BUTTON, exactly("Run a file")).click();
        dialogue().getByLabel("File").setInputFiles(second);
        dialogue().getByRole(AriaRole.BUTTON, inExactly("Run")).click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("finished");
        that(rows("SELECT batch, tonnes, salted FROM butter_batch ORDER BY batch"))
                .containsExactly("0004|2.25|1", "0006|1.75|0");

        page.navigate(demo.address() + "/rejects?job=butter-batches");
        page.getByRole(AriaRole.RADIO, exactly("By field")).click();
        Locator salted = page.getByLabel("Salted", new Page.GetByLabelOptions().setExact(true));
        assertThat(page.getByText("sheet Butter, row 4").first()).isVisible();
        assertThat(salted).hasValue("MAYBE");
        noViolations(page);
        salted.fill("TRUE");
        salted.press("Enter");
        assertThat(page.getByText("It fits now.")).isVisible();
        page.getByRole(AriaRole.RADIO, exactly("As text")).click();
        Locator text = page.getByLabel(Pattern.compile("Record \\d+, corrected"));
        assertThat(text).hasValue(Pattern.compile("\"Butter\",4,,\"0005\",\"?TRUE\"?,2026-11-02,1\\.05"));
        text.fill("\"Butter\",4,,\"0005\",FALSE,2026-11-02,1.05");
        assertThat(page.getByText("Kept, not sent yet")).isVisible();
        page.getByRole(AriaRole.BUTTON, exactly("Send this one again")).click();
        page.getByRole(AriaRole.BUTTON, exactly("See it")).click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("finished");
        that(rows("SELECT salted, tonnes, churned FROM butter_batch WHERE batch = '0005'"))
                .containsExactly("0|1.05|2026-11-02");
    }

    @Test
    void nested_json_goes_to_parents_and_children_by_keys_of_the_database() {
        demo.database.execute(
                "larkfell",
                "CREATE TABLE valley_station (id INT AUTO_INCREMENT PRIMARY KEY, code VARCHAR(8) NOT NULL, name VARCHAR(40))",
                "CREATE TABLE valley_reading (id INT AUTO_INCREMENT PRIMARY KEY, station INT NOT NULL, at DATETIME, degrees DECIMAL(4,1),"
                        + " FOREIGN KEY (station) REFERENCES valley_station (id))");
        Path sample = file(
                "valley.json",
                """
                {"stations":[
                 {"code":"V1","name":"Upper Tarn","readings":[{"at":"2026-11-28T03:00","degrees":-0.2},{"at":"2026-11-28T09:00","degrees":1.5}]},
                 {"code":"V2","name":null,"readings":[{"at":"2026-11-28T03:00","degrees":0.4}]}]}
                """);
        newJob("Valley stations", sample);
        page.getByRole(AriaRole.TAB, named("File")).click();
        section("5 Delivery");
        page.getByLabel("Rows are made of").selectOption("each stations record");
        page.getByLabel("Goes to").selectOption("warehouse");
        page.getByLabel("Table").selectOption("valley_station");
        section("4 Shaping");
        proposeRules();
        page.getByRole(AriaRole.BUTTON, exactly("Another delivery")).click();
        page.getByLabel("Rows are made of").selectOption("each readings record");
        section("5 Delivery");
        page.getByLabel("Goes to").selectOption("warehouse");
        page.getByLabel("Table").selectOption("valley_reading");
        section("4 Shaping");
        proposeRules();
        page.getByRole(AriaRole.BUTTON, named("station needed")).click();
        page.getByLabel("Origin of station").selectOption("the key of its row in valley_station");
        kept(page);
        putLive();
        run(sample);
        that(rows(
                        "SELECT s.code, r.degrees FROM valley_reading r JOIN valley_station s ON s.id = r.station ORDER BY s.code, r.at"))
                .containsExactly("V1|-0.2", "V1|1.5", "V2|0.4");
    }

    private void proposeRules() {
        page.getByRole(AriaRole.BUTTON, exactly("Propose rules by name")).click();
        dialogue()
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Take all"))
                .click();
    }

    @Test
    void a_workbook_and_a_json_document_are_written_of_a_query() throws IOException {
        demo.database.execute(
                "larkfell",
                "CREATE TABLE vat (no VARCHAR(5) PRIMARY KEY, litres DECIMAL(7,1), filled DATE)",
                "INSERT INTO vat VALUES ('007', 40.5, '2026-11-01'), ('008', NULL, '2026-11-02')");
        newJob(
                "Vats book",
                workbook(
                        "vats.xlsx",
                        "sheet Vats\n1: no | litres | filled\n2: '001 | 40.5 | {yyyy-mm-dd}46300\n3: '002 | 1.5 | {yyyy-mm-dd}46301\n"));
        newJob(
                "Vats json",
                file(
                        "vats.json",
                        "{\"vats\":[{\"no\":\"001\",\"litres\":40.5,\"filled\":\"2026-11-01\"},{\"no\":\"002\",\"litres\":1.5,\"filled\":\"2026-11-02\"}]}\n"));
        newJob("Vats asked", file("vats.csv", "no;litres;filled\n'001;40.5;2026-11-01\n"));
        section("1 Pick-up");
        page.getByLabel("Records come from").selectOption("query");
        page.getByLabel("Database").selectOption("warehouse");
        page.getByLabel("Query", new Page.GetByLabelOptions().setExact(true))
                .fill("SELECT no, litres, filled FROM vat ORDER BY no");
        page.getByRole(AriaRole.BUTTON, exactly("Take its first rows as the sample"))
                .click();
        assertThat(page.getByText("The first rows are the sample now.")).isVisible();
        writeTo("vats_{number}.xlsx", "vats-book");
        page.getByRole(AriaRole.BUTTON, exactly("Another delivery")).click();
        writeTo("vats_{number}.json", "vats-json");
        putLive();
        page.getByRole(AriaRole.BUTTON, exactly("Run")).click();
        dialogue().getByRole(AriaRole.BUTTON, inExactly("Ask the database now")).click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("finished");
        Path bank = demo.folder.resolve("bank");
        String json = Files.readString(bank.resolve("vats_1.json"));
        that(List.of(json.replaceAll("\\s", "")))
                .containsExactly(
                        "{\"vats\":[{\"no\":\"007\",\"litres\":40.5,\"filled\":\"2026-11-01\"},{\"no\":\"008\",\"litres\":null,\"filled\":\"2026-11-02\"}]}");
        Layout layout = Definitions.layout(
                "{\"name\":\"l\",\"format\":{\"kind\":\"workbook\"},\"recordTypes\":[{\"name\":\"r\",\"when\":{\"by\":\"rows\",\"sheet\":\"Vats\"},"
                        + "\"fields\":[{\"name\":\"no\",\"header\":\"no\"},{\"name\":\"litres\",\"header\":\"litres\",\"type\":{\"is\":\"decimal\",\"precision\":7,\"scale\":1}},{\"name\":\"filled\",\"header\":\"filled\",\"type\":{\"is\":\"date\"}}]}]}");
        Reading reading = Reading.of(layout, Files.readAllBytes(bank.resolve("vats_1.xlsx")));
        Assertions.assertThat(reading.findings).isEmpty();
        Assertions.assertThat(reading.records)
                .containsExactly(
                        List.of("r", "007", "40.5", "2026-11-01"),
                        java.util.Arrays.asList("r", "008", null, "2026-11-02"));
    }

    /** Lets the delivery in focus write files by a layout of the library, with rules of the same names. */
    private void writeTo(String name, String layout) {
        section("5 Delivery");
        page.getByLabel("Goes to").selectOption("files in a folder");
        page.getByLabel("Root").selectOption("bank");
        page.getByLabel("File name").fill(name);
        page.getByLabel("Layout", new Page.GetByLabelOptions().setExact(true)).selectOption(layout);
        section("4 Shaping");
        proposeRules();
        kept(page);
    }
}
