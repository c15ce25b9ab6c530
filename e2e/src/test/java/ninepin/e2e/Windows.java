package ninepin.e2e;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.PlaywrightException;
import org.junit.jupiter.api.extension.AfterEachCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.TestExecutionExceptionHandler;

/** Closes the windows of each test, and adds to what made it fail what stood in them. Registered for all tests. */
public final class Windows implements TestExecutionExceptionHandler, AfterEachCallback {

    @Override
    public void handleTestExecutionException(ExtensionContext context, Throwable failure) throws Throwable {
        for (Page page : Demo.windows()) {
            failure.addSuppressed(new AssertionError(shown(page)));
        }
        throw failure;
    }

    @Override
    public void afterEach(ExtensionContext context) {
        Demo.closeWindows();
    }

    private static String shown(Page page) {
        try {
            // What lies over the page comes last in the document.
            return page.url() + " shows:\n" + page.locator("body").innerText();
        } catch (PlaywrightException e) {
            return page.url() + " does not tell what it shows: " + e.getMessage();
        }
    }
}
