package ninepin.e2e;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import ninepin.standins.TankerCollections;
import org.junit.jupiter.api.Test;

/** Takes the current picture of each main view from the demo data. Run by {@code ./ninepin shots}. */
class Shots {

    private final Path into = Path.of("..", "docs", "screenshots");

    @Test
    void take() {
        Demo demo = Demo.shared();
        Page page = demo.signedIn(1280, 800, "light");
        page.waitForTimeout(15_000);
        shot(page, "today", "/today");
        shot(page, "jobs", "/jobs");
        shot(page, "sheet-shaping", "/jobs/quality-results?section=4&view=file", () -> lightUp(page));
        shot(page, "sheet-fixed-length", "/jobs/tanker-collections?section=2&type=2&view=file", () -> page.getByText(
                        "002O19")
                .first()
                .click());
        shot(page, "sheet-files", "/jobs/producer-statement?section=5&delivery=1&view=file", () -> {
            page.getByRole(AriaRole.BUTTON, Steps.named("See what it writes")).click();
            page.getByText("3 files").waitFor();
        });
        shot(page, "sheet-formula", "/jobs/quality-results?section=4&delivery=1&view=rows", () -> {
            page.getByRole(
                            AriaRole.BUTTON,
                            new Page.GetByRoleOptions().setName("Rule of told").setExact(true))
                    .click();
            page.getByLabel("Formula of told").click();
        });
        shot(page, "code-list", "/code-lists/routes");
        shot(page, "new-job", "/jobs", () -> propose(page));
        shot(page, "layout", "/layouts/tanker-collections?view=file", () -> page.getByText("002O19")
                .first()
                .click());
        shot(page, "layout-elements", "/layouts/farm-register?view=elements");
        shot(page, "rehearsal", "/jobs/quality-results?section=5", () -> {
            page.getByRole(
                            AriaRole.BUTTON,
                            new Page.GetByRoleOptions().setName("Rehearse").setExact(true))
                    .click();
            page.getByText("Nothing was delivered").waitFor();
        });
        shot(page, "runs", "/runs");
        shot(page, "run", "/runs?job=quality-results", () -> {
            openRun(page);
            page.getByText("Value: expected a number").click();
            page.evaluate("document.querySelector('main')?.scrollTo(0, 0)");
        });
        shot(page, "run-documents", "/runs?job=supplies-on-account", () -> {
            openRun(page);
            page.getByText("What was answered to").click();
        });
        shot(page, "rejects", "/rejects?job=supplies-on-account");
        shot(page, "follow", "/connections?connection=warehouse&table=collection", () -> {
            page.getByRole(AriaRole.BUTTON, Steps.named("Follow the row"))
                    .first()
                    .click();
            page.getByText("What was made of it").waitFor();
        });
        shot(page, "connections", "/connections?connection=warehouse&table=quality_result");
        Page dark = demo.signedIn(1280, 800, "dark");
        shot(dark, "sheet-workbook", "/jobs/milk-prices?section=2&view=file");
        shot(page, "proofs", "/jobs/quality-results?section=4&view=file", () -> proofs(page));
    }

    /** Keeps a proof and changes a rule, so that it is red. */
    private static void proofs(Page page) {
        page.getByRole(AriaRole.BUTTON, Steps.named("Proofs")).click();
        page.getByLabel("Keep the sample as a proof named").fill("an evening");
        page.getByRole(AriaRole.BUTTON, Steps.exactly("Keep it")).click();
        page.getByText("an-evening").first().waitFor();
        page.keyboard().press("Escape");
        page.getByRole(AriaRole.BUTTON, Steps.exactly("Rule of remark")).click();
        page.getByLabel("When blank, for remark").fill("none");
        page.getByText("1 red").waitFor();
        page.getByRole(AriaRole.BUTTON, Steps.named("Proofs")).click();
        page.getByText("Made now").waitFor();
    }

    /** Opens the oldest run on the screen that has rejects. */
    private static void openRun(Page page) {
        page.getByRole(AriaRole.ROW)
                .filter(new Locator.FilterOptions().setHasText("with rejects"))
                .last()
                .click();
        page.getByText("It balances").waitFor();
        page.waitForTimeout(700);
    }

    private static void propose(Page page) {
        try {
            Path sample = Demo.shared().folder.resolve("collections_R11_20261005.dat");
            try (OutputStream out = Files.newOutputStream(sample)) {
                new TankerCollections(21, TankerCollections.Mistake.NONE)
                        .write(11, LocalDate.of(2026, 10, 5), 77_001, 5, 14, out);
            }
            page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("New job"))
                    .click();
            page.getByLabel("A sample: a file like the ones that will come").setInputFiles(sample);
            page.getByText("type C belongs to type R").waitFor();
            page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("type C"))
                    .click();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static void lightUp(Page page) {
        page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Findings"))
                .getByText("12O0")
                .click();
    }

    private void shot(Page page, String name, String path) {
        shot(page, name, path, () -> {});
    }

    private void shot(Page page, String name, String path, Runnable before) {
        page.navigate(Demo.shared().address() + path);
        page.waitForTimeout(1_200);
        before.run();
        page.waitForTimeout(700);
        page.screenshot(new Page.ScreenshotOptions().setPath(into.resolve(name + ".png")));
    }
}
