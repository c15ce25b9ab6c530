package ninepin.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static ninepin.e2e.Steps.exactly;
import static ninepin.e2e.Steps.inExactly;
import static ninepin.e2e.Steps.named;
import static ninepin.e2e.Steps.noViolations;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import java.util.List;
import java.util.regex.Pattern;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.Test;

/** A job to a file and two tables: the run, the list, the rehearsal and the report say the same, and the tables agree. */
class PlacesJourneyTest {

    private static final String LAYOUT =
            """
            {"name":"dock","title":"Dock","format":{"kind":"delimited","delimiter":";","quote":"\\"","header":false},"recordTypes":[
             TYPE("opening","N"),TYPE("delivered","D"),TYPE("returned","R")]}
            """
                    .replaceAll(
                            "TYPE\\((\"\\w+\"),(\"\\w\")\\)",
                            """
                            {"name":$1,"when":{"by":"tag","column":1,"values":[$2]},"fields":[
                             {"name":"Slip","column":2,"type":{"is":"text","length":10}},
                             {"name":"Litres","column":3,"type":{"is":"decimal","precision":9,"scale":2}}]}""");

    private static final String FILE =
            """
            {"kind":"file","file":{"root":"bank","folder":"dock","name":"returns_{run}.csv","layout":{"name":"returns",
             "format":{"kind":"delimited","delimiter":";","header":true},"recordTypes":[{"name":"slip","fields":[
              {"name":"slip","header":"Slip","type":{"is":"text","length":10}},
              {"name":"litres","header":"Litres","type":{"is":"decimal","precision":9,"scale":2}}]}]}}}
            """;

    private final Demo demo = Demo.shared();

    private void ask(String method, String path, String json) throws IOException, InterruptedException {
        String login = Base64.getEncoder().encodeToString("demo:demo".getBytes(StandardCharsets.UTF_8));
        HttpResponse<String> answer = HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(URI.create(demo.address() + path))
                                .header("Authorization", "Basic " + login)
                                .header("Content-Type", "application/json")
                                .method(
                                        method,
                                        json == null
                                                ? HttpRequest.BodyPublishers.noBody()
                                                : HttpRequest.BodyPublishers.ofString(json))
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
        Assertions.assertThat(answer.statusCode()).as(answer.body()).isBetween(200, 299);
    }

    private static String to(String type, String to) {
        return """
               {"of":"%s","to":%s,"shaping":[
                {"target":"slip","take":{"from":"field","field":"Slip"}},
                {"target":"litres","take":{"from":"field","field":"Litres"}}]}
               """
                .formatted(type, to);
    }

    private static String table(String name) {
        return "{\"connection\":\"warehouse\",\"table\":\"" + name + "\",\"mode\":\"add\"}";
    }

    /** Sixty deliveries, one of them twice; thirty returns, three of them spoilt and one twice; one line of neither. */
    private Path file() throws IOException {
        StringBuilder lines = new StringBuilder("N;N1;0\n");
        for (int n = 1; n <= 60; n++) {
            lines.append("D;D").append(n).append(';').append(100 + n).append(".5\n");
        }
        for (int n = 1; n <= 30; n++) {
            lines.append("R;R")
                    .append(n)
                    .append(';')
                    .append(n % 10 == 0 ? "x" : 10 + n + ".25")
                    .append('\n');
        }
        lines.append("D;D7;9.00\nR;R7;9.00\n");
        return Files.writeString(demo.folder.resolve("dock.csv"), lines);
    }

    private static Locator line(Page page, String word, int n) {
        return page.getByRole(AriaRole.REGION, exactly("Tally"))
                .locator("div")
                .filter(new Locator.FilterOptions().setHasText(Pattern.compile("^" + word + "\\s*" + n + "$")))
                .first();
    }

    @Test
    void run_list_rehearsal_and_report_say_the_same_and_the_tables_agree() throws Exception {
        for (String table : List.of("dock_delivered", "dock_returned")) {
            demo.database.execute(
                    "larkfell", "CREATE TABLE " + table + " (slip VARCHAR(10) PRIMARY KEY, litres DECIMAL(9,2))");
        }
        ask(
                "POST",
                "/api/v1/jobs",
                "{\"revision\":0,\"layout\":" + LAYOUT
                        + ",\"job\":{\"name\":\"dock\",\"title\":\"Dock\",\"layout\":\"dock\","
                        + "\"together\":{\"whenOneFails\":\"go-on\"},\"deliveries\":["
                        + to("delivered", table("dock_delivered")) + "," + to("returned", table("dock_returned")) + ","
                        + to("returned", FILE) + "]}}");
        Page page = demo.signedIn(1280, 800, "light");
        page.navigate(demo.address() + "/jobs/dock");
        page.locator("input[type=file]").first().setInputFiles(file());
        assertThat(page.getByText("93 records")).isVisible();

        page.getByRole(AriaRole.BUTTON, exactly("Rehearse")).click();
        Locator rehearsal = page.getByRole(AriaRole.DIALOG);
        assertThat(rehearsal)
                .containsText(
                        "93 read = 87 would be delivered + 5 would be rejected + 1 without rows. Nothing was delivered.");
        assertThat(rehearsal.getByRole(AriaRole.TABLE)).containsText("dock_returned");
        assertThat(rehearsal.getByRole(AriaRole.TABLE)).containsText("returns_{run}.csv");
        noViolations(page);
        page.keyboard().press("Escape");

        page.getByRole(AriaRole.BUTTON, exactly("Put live")).click();
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Put live"))
                .click();
        assertThat(page.getByText("Version 1 is live.")).isVisible();
        page.getByRole(AriaRole.BUTTON, exactly("Run a file")).click();
        page.getByRole(AriaRole.DIALOG).getByLabel("File").setInputFiles(demo.folder.resolve("dock.csv"));
        page.getByRole(AriaRole.DIALOG)
                .getByRole(AriaRole.BUTTON, inExactly("Run"))
                .click();
        assertThat(page.getByRole(AriaRole.HEADING, named("Run"))).containsText("finished");
        assertThat(line(page, "Read", 93)).isVisible();
        assertThat(line(page, "Delivered", 87)).isVisible();
        assertThat(line(page, "rows added", 115)).isVisible();
        assertThat(line(page, "Rejected", 5)).isVisible();
        assertThat(line(page, "Without rows of their own", 1)).isVisible();
        assertThat(page.getByText("It balances: every record read is accounted for, once."))
                .isVisible();
        Locator places = page.getByRole(AriaRole.REGION, exactly("Deliveries to 2 places"));
        Locator written =
                places.getByRole(AriaRole.ROW).filter(new Locator.FilterOptions().setHasText("returns_{run}.csv"));
        assertThat(written).containsText(Pattern.compile("93\\s*28\\s*61\\s*1\\s*3\\s*28"));
        noViolations(page);

        Assertions.assertThat(demo.database.rows(
                        "larkfell", "SELECT COUNT(*) FROM dock_delivered UNION ALL SELECT COUNT(*) FROM dock_returned"))
                .containsExactly("60", "27");
        try (var files = Files.list(demo.folder.resolve("bank").resolve("dock"))) {
            Assertions.assertThat(Files.readAllLines(files.findFirst().orElseThrow()))
                    .hasSize(29);
        }

        page.navigate(demo.address() + "/runs?job=dock");
        assertThat(page.getByRole(AriaRole.ROW).filter(new Locator.FilterOptions().setHasText("dock.csv")))
                .containsText(Pattern.compile("93\\s*87\\s*5"));
        noViolations(page);
    }
}
