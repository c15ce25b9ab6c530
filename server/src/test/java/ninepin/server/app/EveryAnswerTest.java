package ninepin.server.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.Quality;
import ninepin.server.testing.DescribedAnswers;
import ninepin.server.testing.ServerProcess;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/**
 * Every endpoint once on a small world, and once on what is not there: its status and its whole answer, held against
 * {@code answers.txt}, which is read by people like code. Written anew by {@code -Dninepin.answers=write}.
 */
class EveryAnswerTest {

    private static final List<String> PARTS_OF_A_RUN = List.of(
            "",
            "/places",
            "/reasons",
            "/rejects",
            "/findings",
            "/answers",
            "/written",
            "/timeline",
            "/resubmissions",
            "/take-back",
            "/taken-back",
            "/rejects.csv",
            "/report.csv",
            "/start");

    private static final Path ANSWERS = Path.of("src", "test", "resources", "answers.txt");

    /** What differs from run to run, by what stands for it. */
    private static final Map<Pattern, String> CHANGING = new LinkedHashMap<>();

    static {
        CHANGING.put(Pattern.compile("\\d{4}-\\d\\d-\\d\\dT[\\d:.]+Z"), "<time>");
        CHANGING.put(Pattern.compile("\"(micros|millis|busyMillis|perSecond)\":\\d+(?=[,}])"), "\"$1\":<number>");
        CHANGING.put(Pattern.compile("MariaDB [\\w.+~-]+(?=, )"), "MariaDB <version>");
        CHANGING.put(Pattern.compile("(?<=The log tells more under )\\w+"), "<number>");
    }

    @TempDir
    static Path folder;

    private static MariaDbServer database;
    private static ServerProcess server;
    private static JsonNode job;
    private static JsonNode layout;

    private final Map<String, String> answers = new LinkedHashMap<>();
    private final Set<String> asked = new TreeSet<>();
    private JsonNode description;
    private DescribedAnswers described;

    @BeforeAll
    static void start() throws Exception {
        database = MariaDbServer.start();
        database.database("ninepin");
        database.database("warehouse");
        database.execute("warehouse", Quality.TABLE);
        server = new ServerProcess(folder, database);
        Files.createDirectories(folder.resolve("partners").resolve("in"));
        Files.write(folder.resolve("partners").resolve("in").resolve("some.csv"), file(1, 4));
        server.start();
        job = Definitions.mapper().valueToTree(Quality.job(Mode.ADD, null));
        layout = Definitions.mapper().readTree(Definitions.write(Quality.layout()));
    }

    @AfterAll
    static void stop() throws Exception {
        server.close();
        database.close();
    }

    private static byte[] file(int from, int to) {
        StringBuilder file = new StringBuilder(Quality.HEADER);
        for (int i = from; i < to; i++) {
            file.append("S%d;%s;FAT;3,%02d;03.01.2020;ok\r\n".formatted(i, i % 7 == 0 ? "x" : "7", i));
        }
        return file.toString().getBytes(Quality.CHARSET);
    }

    @Test
    void every_endpoint_answers_exactly_as_is_written_down() throws Exception {
        description = server.get("/api/v1/openapi.json");
        described = new DescribedAnswers(description);
        general();
        connections();
        codeLists();
        layouts();
        jobs();
        runs();
        rejects();
        removing();
        everyOperationWasAsked();
        compare();
    }

    private void general() throws Exception {
        get("/api/v1/facts");
        get("/api/v1/session");
        get("/api/v1/cron", "?text=0%206%20*%20*%20MON-FRI");
        get("/api/v1/cron", "?text=every%20day");
        get("/api/v1/formulas/functions");
        get("/api/v1/formulas/wordings");
        get("/api/v1/today");
        get("/api/v1/roots");
        get("/api/v1/roots/{root}/entries", Map.of("root", "partners"), "?folder=in");
        get("/api/v1/roots/{root}/entries", Map.of("root", "elsewhere"), "?folder=in");
        get("/api/v1/roots/{root}/entries", Map.of("root", "partners"), "?folder=..");
        get("/api/v1/roots/{root}/start", Map.of("root", "partners"), "?file=in/some.csv");
        get("/api/v1/roots/{root}/start", Map.of("root", "partners"), "?file=in/none.csv");
        ask("PUT", "/api/v1/account/password", Map.of(), "", "{\"now\":\"wrong\",\"then\":\"a longer one by far\"}");
        ask("PUT", "/api/v1/account/password", Map.of(), "", "{\"now\":\"for the test\",\"then\":\"short\"}");
    }

    private void connections() throws Exception {
        String there = connection("warehouse", "root");
        ask("POST", "/api/v1/connections/{connection}/test", one("connection", "warehouse"), "", there);
        ask(
                "POST",
                "/api/v1/connections/{connection}/test",
                one("connection", "warehouse"),
                "",
                connection("nothing", "root"));
        ask("PUT", "/api/v1/connections/{connection}", one("connection", "warehouse"), "", there);
        ask("PUT", "/api/v1/connections/{connection}", one("connection", "spare"), "", there);
        ask("PUT", "/api/v1/connections/{connection}", one("connection", "No Name"), "", there);
        get("/api/v1/connections");
        get("/api/v1/connections/kinds");
        get("/api/v1/connections/{connection}/uses", one("connection", "warehouse"), "");
        get("/api/v1/connections/{connection}/tables", one("connection", "warehouse"), "");
        get("/api/v1/connections/{connection}/tables", one("connection", "none"), "");
        Map<String, String> table = Map.of("connection", "warehouse", "table", "quality_result");
        get("/api/v1/connections/{connection}/tables/{table}", table, "");
        get("/api/v1/connections/{connection}/tables/{table}", Map.of("connection", "warehouse", "table", "none"), "");
        get("/api/v1/connections/{connection}/tables/{table}/rows", table, "?most=5");
        get("/api/v1/connections/{connection}/operations", one("connection", "warehouse"), "");
        get("/api/v1/connections/{connection}/operation", one("connection", "warehouse"), "?method=POST&path=/x");
        ask(
                "POST",
                "/api/v1/target",
                Map.of(),
                "",
                "{\"connection\":\"warehouse\",\"table\":\"quality_result\",\"mode\":\"add\"}");
        ask("DELETE", "/api/v1/connections/{connection}", one("connection", "spare"), "", null);
        ask("DELETE", "/api/v1/connections/{connection}", one("connection", "spare"), "", null);
    }

    private static String connection(String to, String user) {
        return "{\"title\":\"Warehouse\",\"host\":\"127.0.0.1\",\"port\":" + database.port() + ",\"database\":\"" + to
                + "\",\"user\":\"" + user + "\",\"password\":\"\"}";
    }

    private void codeLists() throws Exception {
        String list =
                "{\"name\":\"tests\",\"columns\":[\"code\",\"text\"],\"entries\":[{\"values\":[\"FAT\",\"fat\"]}]}";
        String more =
                "{\"name\":\"tests\",\"columns\":[\"code\",\"text\"],\"entries\":[{\"values\":[\"FAT\",\"fat in per cent\"]}]}";
        ask("POST", "/api/v1/code-lists", Map.of(), "", "{\"basedOn\":0,\"note\":\"\",\"list\":" + list + "}");
        ask("POST", "/api/v1/code-lists", Map.of(), "", "{\"basedOn\":0,\"note\":\"\",\"list\":" + list + "}");
        get("/api/v1/code-lists");
        get("/api/v1/code-lists/{list}", one("list", "tests"), "");
        get("/api/v1/code-lists/{list}", one("list", "none"), "");
        ask(
                "POST",
                "/api/v1/code-lists/{list}/difference",
                one("list", "tests"),
                "",
                "{\"basedOn\":1,\"note\":\"\",\"list\":" + more + "}");
        ask(
                "PUT",
                "/api/v1/code-lists/{list}",
                one("list", "tests"),
                "",
                "{\"basedOn\":1,\"note\":\"said in full\",\"list\":" + more + "}");
        ask(
                "PUT",
                "/api/v1/code-lists/{list}",
                one("list", "tests"),
                "",
                "{\"basedOn\":1,\"note\":\"\",\"list\":" + list + "}");
        ask(
                "POST",
                "/api/v1/code-lists/{list}/entries",
                one("list", "tests"),
                "",
                "{\"entries\":[[\"PRO\",\"protein\"]],\"note\":\"one more\"}");
        get("/api/v1/code-lists/{list}/changes", one("list", "tests"), "?version=3");
        get("/api/v1/code-lists/{list}/versions", one("list", "tests"), "");
        get("/api/v1/code-lists/{list}/export", one("list", "tests"), "");
        form(
                "POST",
                "/api/v1/code-lists/read",
                Map.of(),
                "",
                "code;text\r\nFAT;fat\r\n".getBytes(StandardCharsets.UTF_8));
        ask(
                "POST",
                "/api/v1/code-lists/query",
                Map.of(),
                "",
                "{\"connection\":\"warehouse\",\"statement\":\"SELECT 'FAT' AS code, 'fat' AS text\"}");
        ask(
                "POST",
                "/api/v1/code-lists/query",
                Map.of(),
                "",
                "{\"connection\":\"warehouse\",\"statement\":\"DELETE FROM quality_result\"}");
    }

    private void layouts() throws Exception {
        String of = "{\"revision\":0,\"layout\":" + layout + "}";
        String name = layout.path("name").asString();
        ask("POST", "/api/v1/layouts", Map.of(), "", of);
        ask("POST", "/api/v1/layouts", Map.of(), "", of);
        get("/api/v1/layouts");
        get("/api/v1/layouts/{layout}", one("layout", name), "");
        get("/api/v1/layouts/{layout}", one("layout", "none"), "");
        form("PUT", "/api/v1/layouts/{layout}/sample", one("layout", name), "", file(1, 3));
        ask("POST", "/api/v1/layouts/{layout}/bench", one("layout", name), "", layout.toString());
        String titled = layout.toString().replace("\"title\":\"Test\"", "\"title\":\"Results\"");
        ask(
                "POST",
                "/api/v1/layouts/{layout}/difference",
                one("layout", name),
                "",
                "{\"revision\":1,\"layout\":" + titled + "}");
        ask(
                "PUT",
                "/api/v1/layouts/{layout}/draft",
                one("layout", name),
                "",
                "{\"revision\":1,\"layout\":" + titled + "}");
        ask(
                "PUT",
                "/api/v1/layouts/{layout}/draft",
                one("layout", name),
                "",
                "{\"revision\":1,\"layout\":" + layout + "}");
        ask("POST", "/api/v1/layouts/{layout}/impact", one("layout", name), "", titled);
        ask(
                "POST",
                "/api/v1/layouts/{layout}/versions",
                one("layout", name),
                "",
                "{\"basedOn\":1,\"jobs\":[],\"note\":\"the second\",\"layout\":" + titled + "}");
        ask(
                "POST",
                "/api/v1/layouts/{layout}/versions",
                one("layout", name),
                "",
                "{\"basedOn\":1,\"jobs\":[],\"note\":\"\",\"layout\":" + layout + "}");
        get("/api/v1/layouts/{layout}/versions", one("layout", name), "");
        get("/api/v1/layouts/{layout}/changes", one("layout", name), "?from=1&to=2");
        get("/api/v1/layouts/{layout}/definition", one("layout", name), "");
        get("/api/v1/layouts/{layout}/elements", one("layout", name), "");
        get("/api/v1/layouts/{layout}/made-up", one("layout", name), "");
        get("/api/v1/layouts/{layout}/xsd", one("layout", name), "");
        get("/api/v1/layouts/{layout}/json-schema", one("layout", name), "");
        form("POST", "/api/v1/layouts/proposal", Map.of(), "?name=proposed", file(1, 9));
        form(
                "POST",
                "/api/v1/layouts/import",
                Map.of(),
                "?name=titles&from=header",
                "Slip;Farm\r\n".getBytes(StandardCharsets.UTF_8));
        form(
                "POST",
                "/api/v1/layouts/import",
                Map.of(),
                "?name=titles&from=nothing",
                "Slip;Farm\r\n".getBytes(StandardCharsets.UTF_8));
        ask(
                "POST",
                "/api/v1/roots/{root}/sample",
                Map.of("root", "partners"),
                "?file=in/some.csv&layout=" + name,
                null);
    }

    private void jobs() throws Exception {
        String name = job.path("name").asString();
        String sheet = "\"job\":" + job + ",\"layout\":" + layout;
        ask("POST", "/api/v1/jobs", Map.of(), "", "{\"revision\":0," + sheet + "}");
        ask("POST", "/api/v1/jobs", Map.of(), "", "{\"revision\":0," + sheet + "}");
        get("/api/v1/jobs");
        get("/api/v1/jobs/{job}", one("job", name), "");
        get("/api/v1/jobs/{job}", one("job", "none"), "");
        ask("POST", "/api/v1/jobs/{job}/rehearsal", one("job", name), "", null);
        form("PUT", "/api/v1/jobs/{job}/sample", one("job", name), "", file(1, 9));
        ask("POST", "/api/v1/jobs/{job}/bench", one("job", name), "?count=2", "{" + sheet + "}");
        get("/api/v1/jobs/{job}/check", one("job", name), "");
        ask("POST", "/api/v1/jobs/{job}/rehearsal", one("job", name), "", null);
        ask(
                "POST",
                "/api/v1/jobs/{job}/difference",
                one("job", name),
                "",
                "{\"revision\":1," + sheet.replace("\"mode\":\"add\"", "\"mode\":\"replace\"") + "}");
        ask("PUT", "/api/v1/jobs/{job}/draft", one("job", name), "", "{\"revision\":1," + sheet + "}");
        ask("PUT", "/api/v1/jobs/{job}/draft", one("job", name), "", "{\"revision\":1," + sheet + "}");
        ask("POST", "/api/v1/jobs/{job}/files", one("job", name), "", "{" + sheet + ",\"delivery\":0}");
        ask(
                "POST",
                "/api/v1/jobs/{job}/proposal",
                one("job", name),
                "",
                "{" + sheet + ",\"delivery\":0,\"record\":1,\"conditions\":[]}");
        ask(
                "POST",
                "/api/v1/jobs/{job}/rules",
                one("job", name),
                "",
                "{" + sheet + ",\"delivery\":0,\"record\":1,\"conditions\":[]}");
        ask(
                "POST",
                "/api/v1/jobs/{job}/wording",
                one("job", name),
                "",
                "{" + sheet + ",\"delivery\":0,\"record\":1,\"text\":\"Sample\"}");
        ask("POST", "/api/v1/jobs/{job}/table", one("job", name), "", "{" + sheet + ",\"delivery\":0,\"make\":false}");
        ask("POST", "/api/v1/jobs/{job}/query", one("job", name), "", "{" + sheet + ",\"keepLayout\":true}");
        ask("POST", "/api/v1/jobs/{job}/proofs", Map.of("job", name), "?name=eight", null);
        get("/api/v1/jobs/{job}/proofs", Map.of("job", name), "");
        ask("POST", "/api/v1/jobs/{job}/proofs/{proof}/accept", Map.of("job", name, "proof", "eight"), "", null);
        download("/api/v1/jobs/{job}/proofs/archive", Map.of("job", name));
        get("/api/v1/jobs/{job}/changes", one("job", name), "");
        ask("POST", "/api/v1/jobs/{job}/live", one("job", name), "", null);
        ask("POST", "/api/v1/jobs/{job}/live", one("job", "none"), "", null);
        get("/api/v1/jobs/{job}/versions", one("job", name), "");
        get("/api/v1/jobs/{job}/dependents", one("job", name), "");
        ask("PUT", "/api/v1/jobs/{job}/schedule", one("job", name), "?on=true", null);
        ask("POST", "/api/v1/jobs/{job}/ask", one("job", name), "", "{}");
    }

    private void runs() throws Exception {
        String name = job.path("name").asString();
        form("POST", "/api/v1/jobs/{job}/runs", one("job", "none"), "", file(1, 3));
        assertThat(server.upload("/api/v1/jobs/" + name + "/runs", "q.csv", file(1, 21))
                        .path("id")
                        .asLong())
                .isEqualTo(1);
        asked.add("POST /api/v1/jobs/{job}/runs");
        server.await("/api/v1/runs/1", r -> r.path("state").asString().equals("FINISHED"));
        get("/api/v1/runs", "?most=5");
        get("/api/v1/runs", "?state=NONE");
        for (String part : PARTS_OF_A_RUN) {
            get("/api/v1/runs/{run}" + part, Map.of("run", "1"), "");
            get("/api/v1/runs/{run}" + part, Map.of("run", "99"), "");
        }
        asked.add("GET /api/v1/runs/{run}/report.html");
        assertThat(new String(server.bytes("/api/v1/runs/1/report.html"), StandardCharsets.UTF_8))
                .contains("It balances", "<td class=\"n\">18<td class=\"n\">2");
        // A stream: of a run that is over it says so, and ends.
        asked.add("GET /api/v1/runs/{run}/events");
        assertThat(new String(server.bytes("/api/v1/runs/1/events"), StandardCharsets.UTF_8))
                .contains("\"state\":\"FINISHED\"");
        get("/api/v1/runs/{run}/written/{leg}/{number}", Map.of("run", "1", "leg", "0", "number", "1"), "");
        ask("POST", "/api/v1/runs/{run}/written/send", Map.of("run", "1"), "", null);
        ask("POST", "/api/v1/runs/{run}/written/send", Map.of("run", "99"), "", null);
        get("/api/v1/runs/{run}/follow", Map.of("run", "1"), "?line=2");
        ask(
                "POST",
                "/api/v1/follow",
                Map.of(),
                "",
                "{\"connection\":\"warehouse\",\"table\":\"quality_result\",\"key\":{\"sample\":\"S2\",\"test\":\"FAT\"}}");
        ask("POST", "/api/v1/runs/{run}/sample", Map.of("run", "1"), "", null);
        ask("POST", "/api/v1/runs/{run}/stop", Map.of("run", "1"), "", null);
        ask("POST", "/api/v1/runs/{run}/restart", Map.of("run", "1"), "", null);
        get("/api/v1/raw/{owner}/{id}", Map.of("owner", "run", "id", "1"), "?line=2&count=1");
        get("/api/v1/raw/{owner}/{id}/find", Map.of("owner", "run", "id", "1"), "?text=S20");
        get("/api/v1/reasons", "?days=1");
    }

    private void rejects() throws Exception {
        Map<String, String> one = Map.of("run", "1", "leg", "0", "record", "7");
        get("/api/v1/rejects", "?run=1");
        get("/api/v1/rejects", "?run=1&most=1");
        get("/api/v1/rejects", "?after=elsewhere");
        get("/api/v1/rejects/reasons", "?run=1");
        get("/api/v1/rejects/{run}/file", Map.of("run", "1"), "");
        get("/api/v1/rejects/{run}/{leg}/{record}", one, "");
        get("/api/v1/rejects/{run}/{leg}/{record}", Map.of("run", "1", "leg", "0", "record", "1"), "");
        String texts = "{\"texts\":{\"7\":\"S7;7;FAT;3,07;03.01.2020;ok\"}}";
        ask("POST", "/api/v1/rejects/{run}/{leg}/{record}/check", one, "", texts);
        ask("PUT", "/api/v1/rejects/{run}/{leg}/{record}", one, "", texts);
        String field = "{\"record\":" + one.get("record") + ",\"field\":\"%s\",\"value\":\"x\"}";
        ask("POST", "/api/v1/rejects/{run}/{leg}/{record}/field", one, "", field.formatted("Sample"));
        ask("POST", "/api/v1/rejects/{run}/{leg}/{record}/field", one, "", field.formatted("nowhere"));
        ask(
                "POST",
                "/api/v1/rejects/change",
                Map.of(),
                "",
                "{\"apply\":false,\"keys\":[{\"run\":1,\"leg\":0,\"record\":14}],"
                        + "\"wanted\":{\"field\":\"Farm\",\"find\":\"x\",\"replace\":\"7\"}}");
        ask(
                "POST",
                "/api/v1/rejects/aside",
                Map.of(),
                "",
                "{\"keys\":[{\"run\":1,\"leg\":0,\"record\":14}],\"reason\":\"sent by mistake\"}");
        assertThat(server.ask("POST", "/api/v1/rejects/resubmit", "{\"keys\":[{\"run\":1,\"leg\":0,\"record\":7}]}")
                        .path("runs")
                        .get(0)
                        .asLong())
                .isEqualTo(2);
        asked.add("POST /api/v1/rejects/resubmit");
        server.await("/api/v1/runs/2", r -> r.path("state").asString().equals("FINISHED"));
        get("/api/v1/runs/{run}", Map.of("run", "2"), "");
        form(
                "POST",
                "/api/v1/rejects/{run}/file",
                Map.of("run", "1"),
                "",
                "S14;7;FAT;3,14;03.01.2020;ok\r\n".getBytes(StandardCharsets.UTF_8));
        assertThat(server.ask("POST", "/api/v1/runs/2/take-back", null)
                        .path("id")
                        .asLong())
                .isEqualTo(3);
        asked.add("POST /api/v1/runs/{run}/take-back");
        server.await("/api/v1/runs/3", r -> r.path("state").asString().equals("FINISHED"));
        for (String part : PARTS_OF_A_RUN) {
            get("/api/v1/runs/{run}" + part, Map.of("run", "3"), "");
        }
        get("/api/v1/runs/{run}/follow", Map.of("run", "3"), "?line=2");
        get("/api/v1/raw/{owner}/{id}", Map.of("owner", "run", "id", "3"), "?line=2&count=1");
        ask("POST", "/api/v1/runs/{run}/sample", Map.of("run", "3"), "", null);
        assertThat(new String(server.bytes("/api/v1/runs/3/report.html"), StandardCharsets.UTF_8))
                .contains("take back of run 2");
        assertThat(database.rows("warehouse", "SELECT COUNT(*) FROM quality_result"))
                .containsExactly("18");
    }

    private void removing() throws Exception {
        String name = job.path("name").asString();
        ask("DELETE", "/api/v1/connections/{connection}", one("connection", "warehouse"), "", null);
        ask("DELETE", "/api/v1/jobs/{job}/proofs/{proof}", Map.of("job", name, "proof", "eight"), "", null);
        ask("DELETE", "/api/v1/jobs/{job}", one("job", name), "", null);
        ask("DELETE", "/api/v1/jobs/{job}", one("job", name), "", null);
        ask(
                "DELETE",
                "/api/v1/layouts/{layout}",
                one("layout", layout.path("name").asString()),
                "",
                null);
        ask("DELETE", "/api/v1/code-lists/{list}", one("list", "tests"), "", null);
        ask("POST", "/api/v1/session", Map.of(), "", "{\"name\":\"admin\",\"password\":\"wrong\"}");
        ask("POST", "/api/v1/session", Map.of(), "", "{\"name\":\"admin\",\"password\":\"for the test\"}");
        ask("DELETE", "/api/v1/session", Map.of(), "", null);
    }

    private static Map<String, String> one(String part, String value) {
        return Map.of(part, value);
    }

    private void get(String path) throws Exception {
        get(path, Map.of(), "");
    }

    private void get(String path, String query) throws Exception {
        get(path, Map.of(), query);
    }

    private void get(String path, Map<String, String> parts, String query) throws Exception {
        ask("GET", path, parts, query, null);
    }

    private void ask(String method, String path, Map<String, String> parts, String query, String body)
            throws Exception {
        keep(method, path, parts, query, server.send(method, filled(path, parts) + query, body));
    }

    private void form(String method, String path, Map<String, String> parts, String query, byte[] file)
            throws Exception {
        keep(method, path, parts, query, server.form(method, filled(path, parts) + query, "some.csv", file));
    }

    /** Something packed, of which only the length is told. */
    private void download(String path, Map<String, String> parts) throws Exception {
        asked.add("GET " + path);
        assertThat(server.bytes(filled(path, parts)).length).as(path).isPositive();
    }

    private static String filled(String path, Map<String, String> parts) {
        String filled = path;
        for (Map.Entry<String, String> part : parts.entrySet()) {
            filled = filled.replace("{" + part.getKey() + "}", part.getValue().replace(" ", "%20"));
        }
        return filled;
    }

    private void keep(
            String method, String path, Map<String, String> parts, String query, HttpResponse<String> answer) {
        String request = method + " " + filled(path, parts) + query;
        String departure =
                described.departure(description.path("paths").path(path).path(method.toLowerCase()), answer);
        assertThat(departure).as(request).isNull();
        asked.add(method + " " + path);
        for (int n = 1; answers.containsKey(request); n++) {
            request = method + " " + filled(path, parts) + query + " (" + (n + 1) + ")";
        }
        answers.put(request, answer.statusCode() + " " + steady(answer.body()));
    }

    /** An answer without what differs from run to run. */
    private static String steady(String body) {
        String steady = body.replace("\r", "").replace("\n", "⏎").replace(folder.toString(), "<folder>");
        for (Map.Entry<Pattern, String> changing : CHANGING.entrySet()) {
            steady = changing.getKey().matcher(steady).replaceAll(changing.getValue());
        }
        for (int ago = 0; ago < 30; ago++) {
            LocalDate day = LocalDate.now().minusDays(ago);
            steady = steady.replace(day.toString(), "<" + ago + " days ago>")
                    .replace(DateTimeFormatter.ofPattern("dd.MM.yyyy").format(day), "<" + ago + " days ago>");
        }
        return steady.replace(String.valueOf(database.port()), "<port>");
    }

    private void everyOperationWasAsked() {
        Set<String> all = new TreeSet<>();
        for (Map.Entry<String, JsonNode> path : description.path("paths").properties()) {
            path.getValue().propertyNames().forEach(method -> all.add(method.toUpperCase() + " " + path.getKey()));
        }
        all.removeAll(asked);
        assertThat(all).as("endpoints that have no case here").isEmpty();
    }

    private void compare() throws IOException {
        StringBuilder text = new StringBuilder();
        answers.forEach((request, answer) ->
                text.append(request).append("\n  ").append(answer).append("\n\n"));
        if ("write".equals(System.getProperty("ninepin.answers"))) {
            Files.writeString(ANSWERS, text);
        }
        assertThat(text.toString().split("\n\n"))
                .containsExactly(Files.readString(ANSWERS).split("\n\n"));
    }
}
