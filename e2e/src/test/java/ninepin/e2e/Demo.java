package ninepin.e2e;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.testing.MariaDbServer;
import ninepin.server.Ninepin;
import ninepin.standins.accounts.FarmAccounts;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.web.server.servlet.context.ServletWebServerApplicationContext;
import org.springframework.context.ConfigurableApplicationContext;

/** The real application with the demo's world on a database of its own, and a browser to drive it. Shared by all. */
final class Demo {

    private static Demo shared;

    final Path folder;
    final MariaDbServer database;
    final FarmAccounts accounts;
    private ConfigurableApplicationContext application;
    private int port;
    private final Browser browser;
    private final List<BrowserContext> signedIn = new ArrayList<>();

    private Demo() {
        try {
            folder = Files.createTempDirectory("ninepin-e2e");
            accounts = FarmAccounts.start(0, folder.resolve("ledger.ndjson"), "e2e-token");
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        database = MariaDbServer.shared();
        database.execute("mysql", "CREATE DATABASE IF NOT EXISTS larkfell CHARACTER SET utf8mb4");
        start();
        browser = Playwright.create()
                .chromium()
                .launch(new BrowserType.LaunchOptions()
                        .setExecutablePath(chromium())
                        .setArgs(List.of(
                                "--no-sandbox",
                                "--disable-gpu",
                                "--disable-background-networking",
                                "--disable-component-update",
                                "--disable-sync",
                                "--force-color-profile=srgb")));
    }

    static synchronized Demo shared() {
        if (shared == null) {
            shared = new Demo();
        }
        return shared;
    }

    private static Path chromium() {
        return Stream.of(System.getenv("PATH").split(":"))
                .map(p -> Path.of(p, "chromium-headless-shell"))
                .filter(Files::isExecutable)
                .findFirst()
                .orElseThrow(() -> new IllegalStateException(
                        "chromium-headless-shell is not installed: ./ninepin test does that"));
    }

    /** Starts the application; its second start finds everything as the first left it. */
    void start() {
        DatabaseAddress address = new DatabaseAddress("127.0.0.1", database.port(), "ninepin", "root", "");
        database.execute("mysql", "CREATE DATABASE IF NOT EXISTS ninepin CHARACTER SET utf8mb4");
        application = SpringApplication.run(
                Ninepin.class,
                "--server.port=0",
                "--ninepin.data=" + folder.resolve("data"),
                "--ninepin.environment=demo",
                "--ninepin.demo=true",
                "--ninepin.demo-feed-seconds=3600",
                "--ninepin.demo-accounts-address=" + accounts.address(),
                "--ninepin.demo-accounts-token=e2e-token",
                "--ninepin.roots.laboratory=" + mkdir("laboratory"),
                "--ninepin.roots.bank=" + mkdir("bank"),
                "--ninepin.roots.tankers=" + mkdir("tankers"),
                "--ninepin.roots.registry=" + mkdir("registry"),
                "--ninepin.roots.exchange=" + mkdir("exchange"),
                "--ninepin.roots.weather=" + mkdir("weather"),
                "--ninepin.roots.store=" + mkdir("store"),
                "--ninepin.database.port=" + address.port(),
                "--ninepin.database.user=root",
                "--logging.level.root=WARN");
        port = ((ServletWebServerApplicationContext) application).getWebServer().getPort();
    }

    private Path mkdir(String name) {
        try {
            return Files.createDirectories(folder.resolve(name));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    Path outbox() {
        return folder.resolve("laboratory").resolve("outbox");
    }

    String address() {
        return "http://127.0.0.1:" + port;
    }

    /** A page of the given size, signed in. */
    Page signedIn(int width, int height, String theme) {
        BrowserContext context = browser.newContext(
                new Browser.NewContextOptions().setViewportSize(width, height).setTimezoneId("UTC"));
        signedIn.add(context);
        context.setDefaultTimeout(15_000);
        Page page = context.newPage();
        page.addInitScript("localStorage.setItem('theme', '" + theme + "')");
        page.navigate(address());
        page.getByRole(com.microsoft.playwright.options.AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Sign in"))
                .click();
        page.getByRole(com.microsoft.playwright.options.AriaRole.HEADING, new Page.GetByRoleOptions().setName("Today"))
                .waitFor();
        return page;
    }

    /** The windows of everybody who has signed in since the last call of {@link #closeWindows}. */
    static List<Page> windows() {
        return shared == null
                ? List.of()
                : shared.signedIn.stream()
                        .flatMap(context -> context.pages().stream())
                        .toList();
    }

    /** An open window goes on asking for news. */
    static void closeWindows() {
        if (shared != null) {
            shared.signedIn.forEach(BrowserContext::close);
            shared.signedIn.clear();
        }
    }
}
