package ninepin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ninepin.e2e.Steps.exactly;
import static ninepin.e2e.Steps.inExactly;
import static ninepin.e2e.Steps.named;
import static ninepin.e2e.Steps.noViolations;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.regex.Pattern;
import ninepin.standins.SupplyVouchers;
import ninepin.standins.accounts.Switches;
import ninepin.standins.accounts.Voucher;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** The morning after: vouchers that were booked once in spite of all, rejects corrected, rows followed and taken back. */
class DeskJourneyTest {

    private final Demo demo = Demo.shared();

    @AfterEach
    void behave() {
        demo.accounts.set(Switches.NONE);
    }

    @Test
    void vouchers_reach_an_application_that_fails_half_the_time_once_each() throws IOException {
        Path file = demo.folder.resolve("supplies_journey.txt");
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file))) {
            new SupplyVouchers(77, false).write(LocalDate.of(2026, 11, 24), 660_001, 12, out);
        }
        demo.accounts.set(new Switches(0, 50, 0, 0));
        Page page = demo.signedIn(1280, 800, "light");
        page.navigate(demo.address() + "/jobs/supplies-on-account?section=5&delivery=2");
        assertThat(page.getByLabel("Operation")).hasValue("POST /vouchers");
        assertThat(page.getByRole(AriaRole.REGION, named("Several places"))).containsText("2 places");
        noViolations(page);
        page.getByRole(AriaRole.BUTTON, exactly("Run a file")).click();
        page.getByRole(AriaRole.DIALOG).getByLabel("File").setInputFiles(file);
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Run"))
                .click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run")))
                .containsText(
                        "finished",
                        new com.microsoft.playwright.assertions.LocatorAssertions.ContainsTextOptions()
                                .setTimeout(90_000));
        Locator deliveries = page.getByRole(AriaRole.REGION, named("Deliveries"));
        assertThat(deliveries).containsText("farm-accounts /vouchers");
        deliveries.getByText("What was answered to 12 documents").click();
        assertThat(deliveries).containsText("FA-");
        noViolations(page);
        List<String> booked = demo.accounts.booked().stream()
                .map(Voucher.Booked::voucher)
                .map(Voucher::number)
                .filter(n -> n.startsWith("V6600"))
                .toList();
        org.assertj.core.api.Assertions.assertThat(booked).hasSize(12).doesNotHaveDuplicates();

        // Undone, but for what the application has.
        page.getByRole(AriaRole.BUTTON, exactly("More")).click();
        page.getByRole(AriaRole.MENUITEM, named("Take back")).click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("is not taken back from here");
        dialog.getByRole(AriaRole.BUTTON, inExactly("Take back")).click();
        Locator taken = page.getByRole(AriaRole.REGION, named("What was taken back"));
        assertThat(taken).containsText(Pattern.compile("voucher: 12 rows removed"));
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("finished");
        noViolations(page);
        page.getByText("take back of").getByRole(AriaRole.LINK).last().click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("taken back");
        assertThat(page.getByText("Taken back by run")).isVisible();
        noViolations(page);
    }

    /** Nobody presses a button to keep what was typed; what is sent again is what the screen shows. */
    @Test
    void corrections_keep_themselves_and_are_what_is_sent_again() {
        Page page = demo.signedIn(1280, 800, "light");
        page.navigate(demo.address() + "/rejects?job=quality-results&code=NUM-01");
        Locator items = page.getByRole(AriaRole.LIST, exactly("Rejects")).getByRole(AriaRole.LISTITEM);
        Locator editor = page.getByLabel(Pattern.compile("Record \\d+, corrected"));
        items.nth(0).getByRole(AriaRole.BUTTON).first().click();
        String first = editor.inputValue();
        String mended =
                first.replaceFirst(";([0-9]*)O([0-9O]*)(,?)", ";$19$2$3").replace("12O0", "12,5");
        editor.fill(mended);
        // Another one at once, edited too, and back.
        items.nth(1).getByRole(AriaRole.BUTTON).first().click();
        assertThat(editor).not().hasValue(mended);
        String second = editor.inputValue();
        editor.fill(second + " ");
        items.nth(0).getByRole(AriaRole.BUTTON).first().click();
        assertThat(editor).hasValue(mended);
        items.nth(1).getByRole(AriaRole.BUTTON).first().click();
        assertThat(editor).hasValue(second + " ");
        // Ninepin does not hear of it, and the window is loaded anew: it is there all the same.
        page.route(Pattern.compile("/api/v1/rejects/\\d+/\\d+/\\d+$"), route -> {
            if (route.request().method().equals("PUT")) {
                route.abort();
            } else {
                route.resume();
            }
        });
        editor.fill(second + "!");
        assertThat(page.getByText("Not kept")).isVisible();
        page.reload();
        assertThat(editor).hasValue(second + "!");
        page.unrouteAll();
        page.reload();
        assertThat(editor).hasValue(second + "!");
        assertThat(page.getByText("Kept, not sent yet")).isVisible();
        page.getByRole(AriaRole.BUTTON, exactly("As it came")).click();
        assertThat(editor).hasValue(second);
        page.reload();
        assertThat(editor).hasValue(second);

        // Typed and sent in one breath.
        items.nth(0).getByRole(AriaRole.BUTTON).first().click();
        assertThat(editor).hasValue(mended);
        editor.fill(first);
        editor.fill(mended);
        page.getByRole(AriaRole.BUTTON, exactly("Send this one again")).click();
        page.getByRole(AriaRole.BUTTON, exactly("See it")).click();
        page.waitForURL("**/runs/*");
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("finished");
        assertThat(page.getByText("It balances")).isVisible();
        assertThat(page.getByRole(AriaRole.REGION, exactly("Tally"))).containsText(Pattern.compile("Delivered\\s*1"));
    }

    @Test
    void rejects_are_changed_at_once_and_sent_again_and_a_row_is_followed() {
        Page page = demo.signedIn(1280, 800, "dark");
        page.navigate(demo.address() + "/rejects?job=quality-results");
        page.getByLabel("Reason")
                .selectOption(new com.microsoft.playwright.options.SelectOption()
                        .setValue("NUM-01 Value: expected a number with decimal comma"));
        Locator list = page.getByRole(AriaRole.LIST, exactly("Rejects"));
        assertThat(list).containsText("Character 3 is the letter O");
        noViolations(page);

        // One by hand: wrong at first, then right.
        Locator editor = page.getByLabel(Pattern.compile("Record \\d+, corrected"));
        String text = editor.inputValue();
        editor.fill(text.replace("12O0", "12OO"));
        assertThat(page.getByText("still:")).isVisible();
        editor.fill(text.replace("12O0", "12,5"));
        assertThat(page.getByText("It fits now.")).isVisible();
        assertThat(page.getByText("Kept, not sent yet")).isVisible();
        assertThat(list).containsText("corrected:");
        assertThat(page.getByRole(AriaRole.HEADING, named("Who did what"))).isVisible();

        // All others at once, with the effect shown first.
        page.getByLabel(Pattern.compile("Choose all")).check();
        page.getByRole(AriaRole.BUTTON, named("Change in all")).click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        dialog.getByRole(AriaRole.BUTTON, inExactly("Value")).click();
        dialog.getByLabel("Replace").fill("O");
        dialog.getByLabel("With").fill("0");
        assertThat(dialog.getByRole(AriaRole.STATUS)).containsText("would be delivered");
        noViolations(page);
        dialog.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(Pattern.compile("Change \\d+ record")))
                .click();
        assertThat(dialog).isHidden();
        page.getByRole(AriaRole.BUTTON, exactly("Send again")).click();
        page.getByRole(AriaRole.BUTTON, exactly("See it")).click();
        page.waitForURL("**/runs/*");
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("finished");
        assertThat(page.getByText("It balances")).isVisible();
        Page.GetByRoleOptions aRun = new Page.GetByRoleOptions().setName(Pattern.compile("^run \\d+$"));
        page.getByRole(AriaRole.LINK, aRun).first().click();
        assertThat(page.getByText("sent again with")).isVisible();
        page.getByRole(AriaRole.BUTTON, exactly("More")).click();
        page.getByRole(AriaRole.MENUITEM, named("Compare with another run")).click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Two runs"))).containsText("Quality results");
        assertThat(page.getByText("At work")).isVisible();
        noViolations(page);
        page.navigate(demo.address() + "/rejects/reasons?job=quality-results");
        assertThat(page.getByRole(AriaRole.ROW, named("Farm: expected from 1 to 214")))
                .containsText("Quality results");
        noViolations(page);

        // From a litre figure in the table back to its bytes.
        page.navigate(demo.address() + "/connections?connection=warehouse&table=collection");
        page.getByRole(AriaRole.BUTTON, named("Follow the row")).first().click();
        page.waitForURL("**/follow?record=*");
        assertThat(page.getByText("is there as it was delivered")).isVisible();
        Locator rows = page.getByRole(AriaRole.REGION, named("What was made of it"));
        assertThat(rows).containsText("litres is the field litres");
        noViolations(page);
        page.getByRole(AriaRole.LINK, exactly("see it in the file")).click();
        page.waitForURL("**/file?line=*");
        assertThat(page.getByRole(AriaRole.LINK, aRun)).isVisible();
    }
}
