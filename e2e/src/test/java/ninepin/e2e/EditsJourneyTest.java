package ninepin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ninepin.e2e.Steps.exactly;
import static ninepin.e2e.Steps.inExactly;
import static ninepin.e2e.Steps.kept;
import static ninepin.e2e.Steps.noViolations;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** Nothing that a person has typed is lost: not to another window, not to the end of a session, not to a slip of the finger. */
class EditsJourneyTest {

    private final Demo demo = Demo.shared();

    private Page layout(Page page) {
        page.navigate(demo.address() + "/layouts/tanker-collections");
        assertThat(page.getByLabel("Title")).not().hasValue("");
        return page;
    }

    @Test
    void two_windows_on_one_draft_show_both_versions() {
        Page one = demo.signedIn(1280, 800, "light");
        Page two = one.context().newPage();
        layout(one);
        layout(two);
        String title = one.getByLabel("Title").inputValue();
        one.getByLabel("Title").fill("Collections of the first window");
        kept(one);

        two.getByLabel("Title").fill("Collections of the second window");
        Locator dialog = two.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("was changed meanwhile");
        assertThat(dialog).containsText("Collections of the first window");
        assertThat(dialog).containsText("Collections of the second window");
        noViolations(two);
        dialog.getByRole(AriaRole.BUTTON, inExactly("Take mine")).click();
        kept(two);
        assertThat(two.getByLabel("Title")).hasValue("Collections of the second window");

        one.getByLabel("Title").fill("Collections of the first window again");
        Locator again = one.getByRole(AriaRole.DIALOG);
        assertThat(again).containsText("Collections of the second window");
        again.getByRole(AriaRole.BUTTON, inExactly("Take theirs")).click();
        assertThat(one.getByLabel("Title")).hasValue("Collections of the second window");
        kept(one);

        // A reload, and Back, show what is saved.
        one.reload();
        assertThat(one.getByLabel("Title")).hasValue("Collections of the second window");
        one.getByLabel("Title").fill(title);
        one.getByRole(AriaRole.LINK, exactly("Layouts")).click();
        assertThat(one.getByRole(AriaRole.HEADING, exactly("Layouts"))).isVisible();
        one.goBack();
        assertThat(one.getByLabel("Title")).hasValue(title);
    }

    @Test
    void a_session_that_ends_in_the_middle_of_an_edit_is_begun_again_on_the_page() {
        Page page = layout(demo.signedIn(1280, 800, "dark"));
        String title = page.getByLabel("Title").inputValue();
        page.context().clearCookies(new BrowserContext.ClearCookiesOptions().setName("NINEPIN"));
        page.getByLabel("Title").fill("Typed without a session");
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("Your session has ended");
        noViolations(page);
        dialog.getByLabel("Password").fill("a wrong one");
        dialog.getByRole(AriaRole.BUTTON, inExactly("Sign in and go on")).click();
        assertThat(dialog).containsText("Name or password is wrong.");
        dialog.getByLabel("Password").fill("demo");
        dialog.getByLabel("Password").press("Enter");
        assertThat(dialog).isHidden();
        kept(page);
        assertThat(page.getByLabel("Title")).hasValue("Typed without a session");
        page.reload();
        assertThat(page.getByLabel("Title")).hasValue("Typed without a session");
        page.getByLabel("Title").fill(title);
        kept(page);
    }

    @Test
    void a_limit_that_is_no_number_changes_nothing_and_says_so() {
        Page page = demo.signedIn(1280, 800, "light");
        page.navigate(demo.address() + "/jobs/quality-results");
        assertThat(page.getByRole(AriaRole.BUTTON, exactly("Rehearse"))).isVisible();
        page.keyboard().press("3");
        Locator limit = page.getByLabel("Halt after more rejects than");
        limit.fill("500");
        limit.fill("5OO");
        assertThat(page.getByText("No whole number: 500 stays.")).isVisible();
        kept(page);
        page.reload();
        assertThat(page.getByRole(AriaRole.BUTTON, exactly("Rehearse"))).isVisible();
        page.keyboard().press("3");
        assertThat(limit).hasValue("500");
        limit.fill("");
        kept(page);
    }

    /** A secret serves one address; the form says so before the server has to. */
    @Test
    void a_connection_that_moves_wants_its_password_again() {
        Page page = demo.signedIn(1280, 800, "light");
        page.navigate(demo.address() + "/connections");
        page.getByText("Farm Accounts").first().click();
        Locator form = page.getByRole(AriaRole.FORM, exactly("Connection"));
        assertThat(form).containsText("One is kept, sealed.");
        String address = form.getByLabel("Address").inputValue();
        form.getByLabel("Address").fill("https://accounts.larkfell.example/api");
        assertThat(form).containsText("Type it again");
        noViolations(page);
        form.getByRole(AriaRole.BUTTON, inExactly("Test")).click();
        assertThat(page.getByText(Pattern.compile("was given for .*Type it again")))
                .isVisible();
        form.getByLabel("Address").fill(address);
        form.getByRole(AriaRole.BUTTON, inExactly("Test")).click();
        assertThat(form.getByRole(AriaRole.STATUS)).containsText("Described:");
    }

    /** To another machine the way is encrypted unless somebody says otherwise. */
    @Test
    void a_database_on_another_machine_is_spoken_to_encrypted() {
        Page page = demo.signedIn(1280, 800, "dark");
        page.navigate(demo.address() + "/connections");
        page.getByText("Dairy warehouse").first().click();
        Locator form = page.getByRole(AriaRole.FORM, exactly("Connection"));
        assertThat(form.getByLabel("The way there")).hasValue("off");
        form.getByLabel("Host").fill("db.larkfell.example");
        assertThat(form.getByLabel("The way there")).hasValue("verified");
        assertThat(form).containsText("Certificate of the server");
        noViolations(page);
        form.getByLabel("Host").fill("127.0.0.1");
        assertThat(form.getByLabel("The way there")).hasValue("off");
        form.getByRole(AriaRole.BUTTON, inExactly("Test")).click();
        assertThat(form.getByRole(AriaRole.STATUS)).containsText("Answers:");
    }

    @Test
    void a_password_is_changed_where_one_is_signed_in() {
        Page page = demo.signedIn(1280, 800, "dark");
        page.getByTitle("Signed in as demo; change the password").click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        dialog.getByLabel("Password now").fill("demo");
        dialog.getByLabel("New password", new Locator.GetByLabelOptions().setExact(true))
                .fill("short");
        dialog.getByLabel("New password again").fill("shore");
        assertThat(dialog).containsText("The two differ.");
        dialog.getByLabel("New password again").fill("short");
        dialog.getByRole(AriaRole.BUTTON, inExactly("Change")).click();
        assertThat(dialog).containsText("A password has at least 12 characters.");
        noViolations(page);
        dialog.getByRole(AriaRole.BUTTON, inExactly("Cancel")).click();
        assertThat(dialog).isHidden();
    }

    /** A code list keeps its edits in the window until they are saved as a version, which another window may have done. */
    @Test
    void edits_of_a_code_list_outlive_a_reload_and_a_version_of_another_window() {
        Page one = demo.signedIn(1280, 800, "light");
        Page two = one.context().newPage();
        String address = demo.address() + "/code-lists/routes";
        one.navigate(address);
        String title = one.getByLabel("Title").inputValue();
        one.getByLabel("Title").fill("Routes of the first window");
        assertThat(one.getByText("Kept, not saved as a version yet")).isVisible();
        one.reload();
        assertThat(one.getByLabel("Title")).hasValue("Routes of the first window");
        one.getByRole(AriaRole.LINK, exactly("Jobs")).click();
        one.goBack();
        assertThat(one.getByLabel("Title")).hasValue("Routes of the first window");

        two.navigate(address);
        two.getByLabel("What it is for").fill("Which tanker drives where");
        two.getByRole(AriaRole.BUTTON, exactly("Save a version")).click();
        assertThat(two.getByRole(AriaRole.BUTTON, exactly("Save a version"))).isDisabled();

        one.getByRole(AriaRole.BUTTON, exactly("Save a version")).click();
        Locator dialog = one.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("Routes of the first window");
        noViolations(one);
        dialog.getByRole(AriaRole.BUTTON, inExactly("Take mine")).click();
        one.getByRole(AriaRole.BUTTON, exactly("Save a version")).click();
        assertThat(one.getByText("Kept, not saved as a version yet")).not().isVisible();
        assertThat(one.getByLabel("Title")).hasValue("Routes of the first window");

        one.getByLabel("Title").fill(title);
        one.getByRole(AriaRole.BUTTON, exactly("Save a version")).click();
        assertThat(one.getByRole(AriaRole.BUTTON, exactly("Save a version"))).isDisabled();
    }

    /** The answer to saving takes its time; whoever types meanwhile loses nothing. */
    @Test
    void what_is_typed_while_a_version_is_being_saved_is_kept() {
        Page page = demo.signedIn(1280, 800, "light");
        List<Route> held = new ArrayList<>();
        page.route("**/api/v1/code-lists/routes", route -> {
            if (route.request().method().equals("PUT")) {
                held.add(route);
            } else {
                route.resume();
            }
        });
        page.navigate(demo.address() + "/code-lists/routes");
        String title = page.getByLabel("Title").inputValue();
        Locator save = page.getByRole(AriaRole.BUTTON, exactly("Save a version"));
        page.getByLabel("Title").fill("Routes, first");
        save.click();
        page.waitForCondition(() -> !held.isEmpty());
        page.getByLabel("Title").fill("Routes, second");
        held.get(0).resume();
        assertThat(page.getByText("is saved. Runs that start")).isVisible();
        assertThat(page.getByLabel("Title")).hasValue("Routes, second");
        assertThat(page.getByText("Kept, not saved as a version yet")).isVisible();
        page.unroute("**/api/v1/code-lists/routes");
        save.click();
        assertThat(page.getByText("Kept, not saved as a version yet")).not().isVisible();
        page.reload();
        assertThat(page.getByLabel("Title")).hasValue("Routes, second");

        page.getByLabel("Title").fill(title);
        save.click();
        assertThat(page.getByText("Kept, not saved as a version yet")).not().isVisible();
    }

    /** What holds a secret keeps nothing by itself, so whoever leaves is asked. */
    @Test
    void a_connection_that_is_not_saved_asks_before_it_is_left() {
        Page page = demo.signedIn(1280, 800, "light");
        page.navigate(demo.address() + "/connections");
        page.getByText("Dairy warehouse").first().click();
        Locator form = page.getByRole(AriaRole.FORM, exactly("Connection"));
        String title = form.getByLabel("Title").inputValue();
        form.getByLabel("Title").fill("Dairy warehouse, renamed");
        assertThat(form).containsText("Not saved yet");
        page.getByRole(AriaRole.LINK, exactly("Runs")).click();
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("would be lost");
        noViolations(page);
        dialog.getByRole(AriaRole.BUTTON, inExactly("Stay")).click();
        assertThat(form.getByLabel("Title")).hasValue("Dairy warehouse, renamed");

        page.getByText("Farm Accounts").first().click();
        dialog.getByRole(AriaRole.BUTTON, inExactly("Stay")).click();
        form.getByLabel("Title").fill(title);
        page.getByText("Farm Accounts").first().click();
        assertThat(dialog).isHidden();
        assertThat(form.getByLabel("Title")).hasValue("Farm Accounts");

        form.getByLabel("Title").fill("Not to be saved");
        page.getByRole(AriaRole.LINK, exactly("Runs")).click();
        dialog.getByRole(AriaRole.BUTTON, inExactly("Leave without saving")).click();
        assertThat(page.getByRole(AriaRole.HEADING, exactly("Runs"))).isVisible();
        assertThat(page.locator("body")).not().containsText("Not to be saved");
    }

    /** A screen that fails takes nothing else with it. */
    @Test
    void a_screen_that_fails_leaves_the_others_usable() {
        Page page = demo.signedIn(1280, 800, "dark");
        Pattern runs = Pattern.compile("/api/v1/runs(\\?.*)?$");
        page.route(
                runs,
                route -> route.fulfill(new Route.FulfillOptions()
                        .setContentType("application/json")
                        .setBody("{\"items\":[{\"id\":1}]}")));
        page.navigate(demo.address() + "/runs");
        assertThat(page.getByText("This screen failed")).isVisible();
        noViolations(page);
        page.getByRole(AriaRole.LINK, exactly("Layouts")).click();
        assertThat(page.getByRole(AriaRole.HEADING, exactly("Layouts"))).isVisible();
        page.unroute(runs);
        page.getByRole(AriaRole.LINK, exactly("Runs")).click();
        assertThat(page.getByRole(AriaRole.HEADING, exactly("Runs"))).isVisible();
    }
}
