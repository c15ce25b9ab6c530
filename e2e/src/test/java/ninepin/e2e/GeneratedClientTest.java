package ninepin.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import ninepin.client.ApiClient;
import ninepin.client.ApiException;
import ninepin.client.api.OverviewControllerApi;
import ninepin.client.api.RunControllerApi;
import ninepin.client.model.PageRunView;
import ninepin.client.model.RunView;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A client that a common generator has made of the description of the API, as somebody else would use it. */
class GeneratedClientTest {

    @TempDir
    Path folder;

    private static ApiClient client(String account) {
        ApiClient client = new ApiClient();
        client.updateBaseUri(Demo.shared().address());
        String shown = Base64.getEncoder().encodeToString(account.getBytes(StandardCharsets.UTF_8));
        client.setRequestInterceptor(request -> request.header("Authorization", "Basic " + shown));
        return client;
    }

    @Test
    void it_lists_all_runs_a_page_at_a_time() throws ApiException {
        RunControllerApi runs = new RunControllerApi(client("demo:demo"));
        List<Long> all = new ArrayList<>();
        String after = null;
        int pages = 0;
        do {
            PageRunView page = runs.getRuns("quality-results", null, after, 7);
            assertThat(page.getItems().size()).isLessThanOrEqualTo(7);
            page.getItems().stream().map(RunView::getId).forEach(all::add);
            after = page.getNext();
            pages++;
        } while (after != null);
        assertThat(pages).isGreaterThan(2);
        assertThat(all).doesNotHaveDuplicates().isSortedAccordingTo((a, b) -> Long.compare(b, a));
        RunView first = runs.getRunsByRun(all.get(0));
        assertThat(first.getJob()).isEqualTo("quality-results");
        assertThat(new OverviewControllerApi(client("demo:demo")).getJobs()).isNotEmpty();
    }

    @Test
    void it_sends_a_file() throws Exception {
        RunControllerApi runs = new RunControllerApi(client("demo:demo"));
        Path file = Files.writeString(folder.resolve("sent by a client.csv"), "Sample;Farm\n");
        RunView run = runs.postJobsByJobRuns("quality-results", java.util.Map.of(), file.toFile());
        assertThat(run.getFileName()).isEqualTo("sent by a client.csv");
        assertThat(run.getStartedBy()).isEqualTo("demo");
    }

    @Test
    void it_hears_why_it_is_not_answered() {
        assertThatThrownBy(() -> new RunControllerApi(client("demo:wrong")).getRuns(null, null, null, null))
                .isInstanceOfSatisfying(
                        ApiException.class, e -> assertThat(e.getCode()).isEqualTo(401));
        assertThatThrownBy(() -> new RunControllerApi(client("demo:demo")).getRuns(null, null, "elsewhere", null))
                .isInstanceOfSatisfying(ApiException.class, e -> {
                    assertThat(e.getCode()).isEqualTo(422);
                    assertThat(e.getResponseBody()).contains("\"code\":\"").contains("is no place in this list");
                });
    }
}
