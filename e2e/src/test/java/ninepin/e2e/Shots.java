package ninepin.e2e;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.nio.file.Path;
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
        shot(page, "sheet-layout-records", "/jobs/quality-results?section=2&view=records", () -> lightUp(page));
        shot(page, "sheet-checks-rows", "/jobs/quality-results?section=3&view=rows");
        shot(page, "rehearsal", "/jobs/quality-results?section=5", () -> {
            page.getByRole(
                            AriaRole.BUTTON,
                            new Page.GetByRoleOptions().setName("Rehearse").setExact(true))
                    .click();
            page.getByText("The target is untouched").waitFor();
        });
        shot(page, "runs", "/runs");
        shot(page, "run", "/runs/21", () -> page.getByText("Value: expected a number")
                .click());
        shot(page, "connections", "/connections?connection=warehouse&table=quality_result");
        Page dark = demo.signedIn(1280, 800, "dark");
        shot(dark, "sheet-dark", "/jobs/quality-results?section=4&view=file", () -> lightUp(dark));
        shot(dark, "run-dark", "/runs/21");
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
