package ninepin.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.APIResponse;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.TimeoutError;
import com.microsoft.playwright.options.LoadState;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import ninepin.core.job.Definitions;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** All that there is in the demo can be looked at, from all sides: each job, layout, code list, and runs of each job. */
class EveryViewTest {

    /** What a run may be asked for; where it has nothing of the kind it says so in words. */
    private static final List<String> OF_RUN = List.of(
            "",
            "/reasons",
            "/rejects",
            "/rejects.csv",
            "/places",
            "/answers",
            "/written",
            "/timeline",
            "/take-back",
            "/report.html",
            "/report.csv",
            "/resubmissions",
            "/follow?record=1",
            "/follow?record=3",
            "/follow?line=2");

    private static final Set<Integer> ANSWERED = Set.of(200, 404, 409, 422);

    private final Demo demo = Demo.shared();
    private Page page;

    @BeforeEach
    void signIn() {
        page = demo.signedIn(1280, 800, "light");
        // The three weeks behind really run, for a while after the first start.
        page.waitForCondition(
                () -> {
                    JsonNode runs = get("/api/v1/runs?most=200").path("items");
                    return runs.size() > 40
                            && !runs.toString().contains("\"state\":\"WAITING\"")
                            && !runs.toString().contains("\"state\":\"RUNNING\"");
                },
                new Page.WaitForConditionOptions().setTimeout(120_000));
    }

    private JsonNode get(String path) {
        APIResponse answer = page.request().get(demo.address() + path);
        assertThat(answer.status()).as(path).isEqualTo(200);
        return Definitions.mapper().readTree(answer.text());
    }

    /** The latest runs of each job, and among them one of each state. */
    private List<Long> runs() {
        Map<String, Long> chosen = new LinkedHashMap<>();
        for (JsonNode run : get("/api/v1/runs?most=200").path("items")) {
            String job = run.path("job").asString();
            chosen.putIfAbsent(
                    job
                            + run.path("state").asString()
                            + (run.path("tally").path("rejected").asLong() > 0),
                    run.path("id").asLong());
        }
        assertThat(chosen.size()).isGreaterThan(5);
        return List.copyOf(chosen.values());
    }

    @Test
    void every_kind_of_run_tells_all_of_itself() {
        List<String> wrong = new ArrayList<>();
        for (long run : runs()) {
            for (String part : OF_RUN) {
                APIResponse answer = page.request().get(demo.address() + "/api/v1/runs/" + run + part);
                boolean words = answer.status() == 200 || answer.text().contains("\"detail\"");
                if (!ANSWERED.contains(answer.status()) || !words) {
                    wrong.add("run " + run + part + ": " + answer.status() + " " + answer.text());
                }
            }
            JsonNode rejects = get("/api/v1/runs/" + run + "/rejects").path("items");
            if (!rejects.isEmpty()) {
                long record = rejects.get(0).path("record").asLong();
                JsonNode followed = get("/api/v1/runs/" + run + "/follow?record=" + record);
                assertThat(followed.path("fate").asString()).as("run " + run).startsWith("rejected");
                assertThat(followed.path("records").toString()).contains("\"text\":\"");
            }
        }
        assertThat(wrong).isEmpty();
    }

    @Test
    void every_layout_is_given_away_with_a_made_up_sample() {
        for (JsonNode layout : get("/api/v1/layouts")) {
            String path = "/api/v1/layouts/" + layout.path("name").asString();
            assertThat(page.request().get(demo.address() + path + "/definition").status())
                    .isEqualTo(200);
            APIResponse sample = page.request().get(demo.address() + path + "/made-up");
            assertThat(sample.status()).as(path).isEqualTo(200);
            assertThat(sample.body()).isNotEmpty();
        }
    }

    /** Nothing fails, nothing is wider than the window; in turn in a narrow dark one and a wide light one. */
    @Test
    void every_view_opens_without_trouble() {
        List<String> wrong = new ArrayList<>();
        String[] view = {""};
        List<Page> windows = List.of(demo.signedIn(1024, 800, "dark"), demo.signedIn(1440, 800, "light"));
        for (Page window : windows) {
            window.onPageError(e -> wrong.add(view[0] + ": " + e));
            window.onConsoleMessage(m -> {
                if (m.type().equals("error")) {
                    wrong.add(view[0] + ": " + m.text());
                }
            });
        }
        List<String> views = views();
        for (int i = 0; i < views.size(); i++) {
            view[0] = views.get(i);
            wrong.addAll(troubles(windows.get(i % windows.size()), views.get(i)));
        }
        assertThat(wrong).isEmpty();
    }

    private List<String> troubles(Page window, String path) {
        List<String> wrong = new ArrayList<>();
        window.navigate(demo.address() + path);
        window.waitForLoadState(LoadState.NETWORKIDLE);
        if (window.getByText("Something went wrong").count() > 0) {
            wrong.add(path + ": "
                    + window.getByText("Something went wrong").first().innerText());
        }
        Object wider = window.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth");
        if (((Number) wider).intValue() > 0) {
            wrong.add(path + " is wider than the window by " + wider);
        }
        try {
            window.waitForCondition(
                    () -> window.locator("main").innerText().strip().length() >= 20);
        } catch (TimeoutError e) {
            wrong.add(path + " is empty");
        }
        return wrong;
    }

    private List<String> views() {
        List<String> views = new ArrayList<>(List.of(
                "/today",
                "/jobs",
                "/layouts",
                "/runs",
                "/rejects",
                "/rejects?state=all",
                "/rejects/reasons",
                "/code-lists",
                "/connections"));
        for (JsonNode job : get("/api/v1/jobs")) {
            String path = "/jobs/" + job.path("name").asString() + "?section=";
            for (int section = 1; section <= 6; section++) {
                views.add(path + section);
            }
        }
        get("/api/v1/layouts")
                .forEach(l -> views.add("/layouts/" + l.path("name").asString()));
        get("/api/v1/code-lists")
                .forEach(l -> views.add("/code-lists/" + l.path("name").asString()));
        for (long run : runs()) {
            views.add("/runs/" + run);
            // One that takes another back has no file.
            if (!get("/api/v1/runs/" + run).path("undoes").isNumber()) {
                views.addAll(List.of("/runs/" + run + "/follow?record=1", "/runs/" + run + "/file"));
            }
        }
        return views;
    }
}
