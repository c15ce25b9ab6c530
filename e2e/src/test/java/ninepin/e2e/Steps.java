package ninepin.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.deque.html.axecore.playwright.AxeBuilder;
import com.deque.html.axecore.results.Rule;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.ReducedMotion;
import java.util.List;

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

    static void noViolations(Page page) {
        // What fades in or out just now has no contrast of its own.
        page.emulateMedia(new Page.EmulateMediaOptions().setReducedMotion(ReducedMotion.REDUCE));
        List<Rule> violations = new AxeBuilder(page).analyze().getViolations();
        assertThat(violations.stream()
                        .map(r -> r.getId() + ": " + r.getNodes().get(0).getHtml()))
                .isEmpty();
    }
}
