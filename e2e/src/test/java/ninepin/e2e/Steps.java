package ninepin.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.deque.html.axecore.playwright.AxeBuilder;
import com.deque.html.axecore.results.Rule;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ReducedMotion;
import java.util.List;
import java.util.regex.Pattern;

/** What all journeys say and look for. */
final class Steps {

    private Steps() {}

    static Page.GetByRoleOptions named(String name) {
        return new Page.GetByRoleOptions().setName(name);
    }

    static Page.GetByRoleOptions exactly(String name) {
        return new Page.GetByRoleOptions().setName(name).setExact(true);
    }

    static Locator.GetByRoleOptions inExactly(String name) {
        return new Locator.GetByRoleOptions().setName(name).setExact(true);
    }

    /** Waits until what was typed into an editor is kept. */
    static void kept(Page page) {
        PlaywrightAssertions.assertThat(page.getByRole(AriaRole.STATUS)
                        .filter(new Locator.FilterOptions().setHasText(Pattern.compile("^Kept"))))
                .isVisible();
    }

    static void noViolations(Page page) {
        // What fades in or out just now has no contrast of its own.
        page.emulateMedia(new Page.EmulateMediaOptions().setReducedMotion(ReducedMotion.REDUCE));
        List<Rule> violations = new AxeBuilder(page).analyze().getViolations();
        assertThat(violations.stream()
                        .map(r -> r.getId() + ": " + r.getNodes().get(0).getHtml()))
                .isEmpty();
    }
}
