package ninepin.server.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.net.CookieManager;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.net.SocketTimeoutException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import javax.xml.parsers.DocumentBuilderFactory;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.Quality;
import ninepin.server.testing.ServerProcess;
import ninepin.server.testing.SmallJobs;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** What was tried against the application and succeeded once: each request, and the answer that must come. */
@Timeout(value = 10, unit = TimeUnit.MINUTES)
class AttacksTest {

    @TempDir
    static Path folder;

    private static MariaDbServer database;
    private static ServerProcess server;
    private static SmallJobs jobs;
    private static String base;

    @BeforeAll
    static void start() throws Exception {
        database = MariaDbServer.start();
        server = new ServerProcess(folder.resolve("one"), database).set("TMPDIR", folder.toString());
        server.start();
        jobs = new SmallJobs(server, database, "warehouse");
        base = server.base();
    }

    @AfterAll
    static void end() throws InterruptedException {
        server.close();
        database.close();
    }

    private static HttpResponse<String> asStranger(String method, String path, String type, String body)
            throws Exception {
        return HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(URI.create(base + path))
                                .timeout(Duration.ofSeconds(30))
                                .header("Content-Type", type)
                                .method(method, HttpRequest.BodyPublishers.ofString(body))
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
    }

    private static String log() throws IOException {
        return Files.readString(server.log());
    }

    // Before signing in

    /** A browser as a stranger has it: it has fetched the page, and so has a token for what it sends. */
    private record Stranger(HttpClient client, CookieManager cookies) {
        static Stranger come() throws Exception {
            CookieManager cookies = new CookieManager();
            HttpClient client = HttpClient.newBuilder().cookieHandler(cookies).build();
            client.send(
                    HttpRequest.newBuilder(URI.create(base + "/api/v1/facts")).build(),
                    HttpResponse.BodyHandlers.ofString());
            return new Stranger(client, cookies);
        }

        String token() {
            return cookies.getCookieStore().getCookies().stream()
                    .filter(c -> c.getName().equals("XSRF-TOKEN"))
                    .map(java.net.HttpCookie::getValue)
                    .findFirst()
                    .orElseThrow();
        }

        HttpResponse<String> send(String method, String path, String body) throws Exception {
            return client.send(
                    HttpRequest.newBuilder(URI.create(base + path))
                            .header("Content-Type", "application/json")
                            .header("X-XSRF-TOKEN", token())
                            .method(
                                    method,
                                    body == null
                                            ? HttpRequest.BodyPublishers.noBody()
                                            : HttpRequest.BodyPublishers.ofString(body))
                            .build(),
                    HttpResponse.BodyHandlers.ofString());
        }

        HttpResponse<String> signIn(String name, String password) throws Exception {
            ObjectNode body = Definitions.mapper().createObjectNode();
            return send(
                    "POST",
                    "/api/v1/session",
                    body.put("name", name).put("password", password).toString());
        }
    }

    @Test
    void bodies_that_never_come_keep_nobody_waiting() throws Exception {
        Stranger stranger = Stranger.come();
        List<Socket> slow = new ArrayList<>();
        for (int i = 0; i < 260; i++) {
            Socket socket = new Socket("127.0.0.1", URI.create(base).getPort());
            String path = List.of("/api/v1/session", "/api/v1/jobs", "/", "/api/v1/jobs/x/runs")
                    .get(i % 4);
            socket.getOutputStream()
                    .write(("POST " + path + " HTTP/1.1\r\nHost: here\r\nContent-Type: "
                                    + (i % 4 == 3 ? "multipart/form-data; boundary=x" : "application/json")
                                    + "\r\nCookie: XSRF-TOKEN=" + stranger.token() + "\r\nX-XSRF-TOKEN: "
                                    + stranger.token() + "\r\nContent-Length: 900\r\n\r\n{")
                            .getBytes(StandardCharsets.US_ASCII));
            slow.add(socket);
        }
        AtomicInteger closed = new AtomicInteger();
        long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(90);
        while (closed.get() < slow.size() && System.nanoTime() < until) {
            // A second person works on, and a third one comes.
            assertThat(server.send("GET", "/api/v1/jobs", null).statusCode()).isEqualTo(200);
            assertThat(Stranger.come().signIn("admin", "for the test").statusCode())
                    .isEqualTo(200);
            closed.set(0);
            for (Socket socket : slow) {
                if (isClosed(socket)) {
                    closed.incrementAndGet();
                }
            }
        }
        assertThat(closed.get()).as("connections that were given up").isEqualTo(slow.size());
    }

    /** Whether the other side has ended it; sends a further byte where it has not. */
    private static boolean isClosed(Socket socket) {
        try {
            socket.setSoTimeout(1);
            byte[] read = new byte[4096];
            int n;
            do {
                n = socket.getInputStream().read(read);
            } while (n > 0);
            return true;
        } catch (SocketTimeoutException e) {
            try {
                socket.getOutputStream().write(' ');
                return false;
            } catch (IOException gone) {
                return true;
            }
        } catch (IOException e) {
            return true;
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"/api/v1/jobs/x/runs", "/api/v1/session", "/", "/api/v1/facts", "/index.html"})
    void a_large_form_of_a_stranger_is_not_stored(String path) throws Exception {
        long before = temporaryFiles();
        Stranger stranger = Stranger.come();
        try (Socket socket = new Socket("127.0.0.1", URI.create(base).getPort())) {
            socket.setSoTimeout(20_000);
            String head = "--x\r\nContent-Disposition: form-data; name=\"file\"; filename=\"a\"\r\n\r\n";
            socket.getOutputStream()
                    .write(("POST " + path
                                    + " HTTP/1.1\r\nHost: here\r\nContent-Type: multipart/form-data; boundary=x\r\n"
                                    + "Cookie: XSRF-TOKEN=" + stranger.token() + "\r\nX-XSRF-TOKEN: " + stranger.token()
                                    + "\r\nContent-Length: 900000000\r\n\r\n" + head)
                            .getBytes(StandardCharsets.US_ASCII));
            byte[] part = new byte[1 << 16];
            try {
                for (int i = 0; i < 200; i++) {
                    socket.getOutputStream().write(part);
                }
                socket.getInputStream().readAllBytes();
            } catch (IOException e) {
                // Cut off, as it should be.
            }
        }
        assertThat(temporaryFiles()).isEqualTo(before);
    }

    private static long temporaryFiles() throws IOException {
        try (Stream<Path> all = Files.walk(folder)) {
            return all.filter(f -> f.getFileName().toString().startsWith("upload_"))
                    .count();
        }
    }

    @ParameterizedTest
    @CsvSource({
        "GET, /api/v1/jobs",
        "POST, /api/v1/jobs",
        "DELETE, /api/v1/connections/warehouse",
        "POST, /nowhere",
        "PUT, /"
    })
    void what_is_refused_begins_no_session(String method, String path) throws Exception {
        // From an address of its own, since of a flood from one address only the beginning is told.
        try (Socket socket =
                new Socket("127.0.0.1", URI.create(base).getPort(), InetAddress.getByName("127.0.0.9"), 0)) {
            socket.setSoTimeout(20_000);
            String token = Stranger.come().token();
            socket.getOutputStream()
                    .write((method + " " + path + " HTTP/1.1\r\nHost: here\r\nConnection: close\r\nCookie: XSRF-TOKEN="
                                    + token + "\r\nX-XSRF-TOKEN: " + token + "\r\n\r\n")
                            .getBytes(StandardCharsets.US_ASCII));
            String answer = new String(socket.getInputStream().readAllBytes(), StandardCharsets.ISO_8859_1);
            assertThat(answer).startsWith("HTTP/1.1 401").doesNotContain("NINEPIN=");
        }
        assertThat(log()).contains(method + " " + path + " answered 401 by nobody known from 127.0.0.9");
    }

    @Test
    void a_sign_in_is_small_and_says_its_length() throws Exception {
        String large = "{\"name\":\"" + "x".repeat(5_000) + "\"}";
        assertThat(Stranger.come().send("POST", "/api/v1/session", large).statusCode())
                .isEqualTo(413);
        assertThat(asStranger("POST", "/api/v1/session", "application/json", large)
                        .statusCode())
                .isIn(403, 413);
    }

    // Guessing

    @Test
    void guesses_are_slowed_down_and_said() throws Exception {
        Stranger stranger = Stranger.come();
        int wrong = 0;
        HttpResponse<String> answer = stranger.signIn("somebody", "guess 0");
        while (answer.statusCode() == 401 && wrong < 50) {
            answer = stranger.signIn("somebody", "guess " + ++wrong);
        }
        assertThat(answer.statusCode()).isEqualTo(429);
        assertThat(wrong).isBetween(4, 6);
        assertThat(answer.headers().firstValueAsLong("Retry-After")).isPresent();
        assertThat(answer.body()).contains("Too many sign-ins have failed. Try again in");
        assertThat(log())
                .contains("sign-in failed by somebody from 127.0.0.1")
                .contains("sign-in slowed down by somebody from 127.0.0.1")
                .doesNotContain("guess ");
        assertThat(server.send("GET", "/api/v1/jobs", null, "somebody:guess").statusCode())
                .as("by the other way in, too")
                .isEqualTo(429);
        assertThat(Stranger.come().signIn("admin", "for the test").statusCode())
                .as("another account from the same address")
                .isEqualTo(200);
    }

    @ParameterizedTest
    @ValueSource(strings = {"Admin", "ADMIN", "admin ", " admin", "àdmin", "admin\u200b", "admın", "admin\u0000", ""})
    void no_other_spelling_signs_in(String name) throws Exception {
        assertThat(Stranger.come().signIn(name, "for the test").statusCode()).isIn(401, 429);
    }

    @Test
    void a_name_with_line_breaks_writes_no_line_of_the_log() throws Exception {
        Stranger.come().signIn("x\n2026-11-30 INFO ninepin.trail : signed in by admin\u2028y\u001b[31m", "y");
        assertThat(log().lines().filter(l -> l.startsWith("2026-11-30 INFO"))).isEmpty();
        assertThat(log()).contains("sign-in failed by x\uFFFD2026-11-30 INFO").doesNotContain("\u001b");
    }

    @Test
    void a_password_is_changed_by_who_knows_it_and_other_sessions_end() throws Exception {
        database.execute(
                "ninepin",
                "INSERT INTO account (name, full_name, password_hash, created_at)"
                        + " SELECT 'clerk', 'Clerk', password_hash, created_at FROM account WHERE name = 'admin'");
        Stranger one = Stranger.come();
        Stranger two = Stranger.come();
        assertThat(one.signIn("clerk", "for the test").statusCode()).isEqualTo(200);
        assertThat(two.signIn("clerk", "for the test").statusCode()).isEqualTo(200);
        for (String refused : List.of(
                "{\"now\":\"another one\",\"then\":\"slate rain under ladders\"}",
                "{\"now\":\"for the test\",\"then\":\"short one\"}",
                "{\"now\":\"for the test\",\"then\":\"Passw0rd2026!\"}",
                "{\"now\":\"for the test\",\"then\":\"abcdefghijklmnop\"}",
                "{\"now\":\"for the test\",\"then\":\"clerk of the dairy\"}",
                "{\"now\":\"for the test\"}",
                "{}")) {
            assertThat(one.send("PUT", "/api/v1/account/password", refused).statusCode())
                    .as(refused)
                    .isEqualTo(422);
        }
        String change = "{\"now\":\"for the test\",\"then\":\"slate rain under ladders\"}";
        assertThat(one.send("PUT", "/api/v1/account/password", change).statusCode())
                .isEqualTo(204);
        assertThat(one.send("GET", "/api/v1/jobs", null).statusCode()).isEqualTo(200);
        for (int i = 0; two.send("GET", "/api/v1/jobs", null).statusCode() == 200; i++) {
            assertThat(i).as("seconds until the other session ends").isLessThan(30);
            TimeUnit.SECONDS.sleep(1);
        }
        assertThat(server.send("GET", "/api/v1/jobs", null, "clerk:for the test")
                        .statusCode())
                .isEqualTo(401);
        assertThat(server.send("GET", "/api/v1/jobs", null, "clerk:slate rain under ladders")
                        .statusCode())
                .isEqualTo(200);
        assertThat(log()).contains("password changed by clerk from 127.0.0.1").doesNotContain("slate rain");
    }

    // Secrets

    /** What a stranger's database or application would be told. */
    private static final class Listener implements AutoCloseable {
        private final ServerSocket socket;
        private final StringBuffer heard = new StringBuffer();

        Listener() throws IOException {
            socket = new ServerSocket(0);
            Thread thread = new Thread(this::listen, "listener");
            thread.setDaemon(true);
            thread.start();
        }

        private void listen() {
            while (!socket.isClosed()) {
                try (Socket one = socket.accept()) {
                    one.setSoTimeout(2_000);
                    InputStream in = one.getInputStream();
                    byte[] read = new byte[8192];
                    int n = in.read(read);
                    heard.append(n < 0 ? "" : new String(read, 0, n, StandardCharsets.ISO_8859_1));
                    one.getOutputStream()
                            .write("HTTP/1.1 404 no\r\nContent-Length: 0\r\n\r\n".getBytes(StandardCharsets.US_ASCII));
                } catch (IOException e) {
                    // The next one.
                }
            }
        }

        @Override
        public void close() throws IOException {
            socket.close();
        }
    }

    @Test
    void a_kept_secret_goes_to_no_other_address_and_in_no_other_way() throws Exception {
        server.ask(
                "PUT",
                "/api/v1/connections/kept",
                "{\"host\":\"127.0.0.1\",\"port\":" + database.port()
                        + ",\"database\":\"warehouse\",\"user\":\"root\",\"password\":\"the secret\",\"tls\":\"off\"}");
        String description =
                "{\\\"openapi\\\":\\\"3.1.0\\\",\\\"info\\\":{\\\"title\\\":\\\"Books\\\"},\\\"paths\\\":{}}";
        server.ask(
                "PUT",
                "/api/v1/connections/books",
                "{\"kind\":\"application\",\"base\":\"http://127.0.0.1:1/api\",\"authentication\":\"bearer\",\"port\":0,\"password\":\"the secret\",\"description\":\""
                        + description + "\"}");
        try (Listener listener = new Listener()) {
            int port = listener.socket.getLocalPort();
            Map<String, List<String>> elsewhere = Map.of(
                    "kept",
                    List.of(
                            "{\"host\":\"localhost\",\"port\":" + database.port()
                                    + ",\"database\":\"warehouse\",\"user\":\"root\",\"tls\":\"off\"}",
                            "{\"host\":\"127.0.0.1\",\"port\":" + port
                                    + ",\"database\":\"warehouse\",\"user\":\"root\",\"tls\":\"off\"}",
                            "{\"host\":\"127.0.0.1\",\"port\":" + database.port()
                                    + ",\"database\":\"warehouse\",\"user\":\"other\",\"tls\":\"off\"}",
                            "{\"kind\":\"postgresql\",\"host\":\"127.0.0.1\",\"port\":" + database.port()
                                    + ",\"database\":\"warehouse\",\"user\":\"root\",\"tls\":\"off\"}",
                            "{\"host\":\"127.0.0.1\",\"port\":" + database.port()
                                    + ",\"database\":\"warehouse\",\"user\":\"root\",\"tls\":\"verified\"}",
                            "{\"kind\":\"application\",\"base\":\"http://127.0.0.1:" + port
                                    + "\",\"authentication\":\"bearer\",\"port\":0,\"descriptionPath\":\"/x\"}"),
                    "books",
                    List.of(
                            "{\"kind\":\"application\",\"base\":\"http://127.0.0.1:" + port
                                    + "/api\",\"authentication\":\"bearer\",\"port\":0,\"descriptionPath\":\"/x\"}",
                            "{\"kind\":\"application\",\"base\":\"http://127.0.0.1:1/api\",\"authentication\":\"basic\",\"user\":\"x\",\"port\":0,\"descriptionPath\":\"/x\"}",
                            "{\"kind\":\"application\",\"base\":\"http://127.0.0.1:1/api\",\"authentication\":\"api-key\",\"user\":\"X-Key\",\"port\":0,\"descriptionPath\":\"/x\"}",
                            "{\"host\":\"127.0.0.1\",\"port\":" + port
                                    + ",\"database\":\"x\",\"user\":\"root\",\"tls\":\"off\"}"));
            for (Map.Entry<String, List<String>> of : elsewhere.entrySet()) {
                for (String body : of.getValue()) {
                    for (String way : List.of("POST /test", "PUT ")) {
                        String path = "/api/v1/connections/" + of.getKey() + way.substring(way.indexOf(' ') + 1);
                        HttpResponse<String> answer = server.send(way.substring(0, way.indexOf(' ')), path, body);
                        assertThat(answer.body()).as("%s %s", path, body).contains("Type it again");
                    }
                }
            }
            assertThat(listener.heard.toString()).isEmpty();
        }
        assertThat(server.send("GET", "/api/v1/connections", null).body()).doesNotContain("the secret");
        String same = "{\"host\":\"127.0.0.1\",\"port\":" + database.port()
                + ",\"database\":\"other\",\"user\":\"root\",\"title\":\"Kept\",\"tls\":\"off\"}";
        assertThat(server.send("PUT", "/api/v1/connections/kept", same).statusCode())
                .isEqualTo(200);
        assertThat(log()).doesNotContain("the secret");
    }

    // Own statements

    @ParameterizedTest
    @ValueSource(
            strings = {
                "SELECT 1; DELETE FROM stolen",
                "SELECT * FROM stolen INTO /* x */ OUTFILE '/tmp/stolen'",
                "SELECT 'a' /*! INTO OUTFILE '/tmp/stolen' */",
                "SELECT LOAD_FILE('%s') INTO @x",
                "LOAD DATA LOCAL INFILE '%s' INTO TABLE stolen",
                "DELETE FROM stolen",
                "WITH a AS (SELECT 1) DELETE FROM stolen"
            })
    void a_query_only_asks(String sql) throws Exception {
        database.execute(
                "warehouse",
                "CREATE TABLE IF NOT EXISTS stolen (line VARCHAR(200))",
                "DELETE FROM stolen",
                "INSERT INTO stolen VALUES ('one')");
        String key = folder.resolve("one/data/seal.key").toString();
        ObjectNode query = Definitions.mapper().createObjectNode();
        query.put("connection", "warehouse").put("statement", sql.replace("%s", key));
        HttpResponse<String> answer = server.send("POST", "/api/v1/code-lists/query", query.toString());
        assertThat(answer.statusCode()).as(answer.body()).isIn(422, 502);
        assertThat(database.rows("warehouse", "SELECT line FROM stolen")).containsExactly("one");
        assertThat(Path.of("/tmp/stolen")).doesNotExist();
    }

    private static JsonNode jobWith(String name, String sql) throws Exception {
        jobs.adds(name, "");
        JsonNode job = server.get("/api/v1/jobs/" + name);
        ObjectNode draft = job.path("job").deepCopy().asObject();
        draft.set("statements", Definitions.mapper().readTree("[{\"connection\":\"warehouse\",\"when\":\"before\"}]"));
        draft.path("statements").path(0).asObject().put("sql", sql).put("writtenBy", "somebody else");
        ObjectNode body = Definitions.mapper().createObjectNode();
        body.put("revision", job.path("revision").asInt()).set("job", draft);
        body.set("layout", job.path("layout"));
        server.ask("PUT", "/api/v1/jobs/" + name + "/draft", body.toString());
        return server.get("/api/v1/jobs/" + name);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            value = {
                "loads|LOAD DATA LOCAL INFILE '/etc/passwd' INTO TABLE loads|file of a machine",
                "hides|/* x */ load/**/data local infile '/etc/passwd' into table hides|file of a machine",
                "two|SELECT 1; DELETE FROM two|is another",
                "commits|COMMIT|a transaction"
            })
    void a_statement_that_may_not_run_does_not_go_live(String name, String sql, String says) throws Exception {
        JsonNode job = jobWith(name, sql);
        assertThat(job.path("job").path("statements").path(0).path("writtenBy").asString())
                .as("who wrote it, whatever the definition says")
                .isEqualTo("admin");
        HttpResponse<String> live = server.send("POST", "/api/v1/jobs/" + name + "/live", null);
        assertThat(live.body()).contains(says);
        assertThat(server.get("/api/v1/jobs/" + name).path("liveVersion").asInt())
                .isEqualTo(1);
    }

    /** A seat of its own, because the setting is read at the start. */
    @Test
    void own_sql_can_be_switched_off() throws Exception {
        try (ServerProcess strict = new ServerProcess(folder.resolve("strict"), database, "ninepin_strict")
                .set("NINEPIN_OWNSQL", "false")) {
            strict.start();
            SmallJobs there = new SmallJobs(strict, database, "strict");
            HttpResponse<String> asked = strict.send(
                    "POST", "/api/v1/code-lists/query", "{\"connection\":\"strict\",\"statement\":\"SELECT 1\"}");
            assertThat(asked.body()).contains("switched off");
            there.adds("plain", "");
            assertThat(strict.send(
                                    "POST",
                                    "/api/v1/jobs/plain/query",
                                    "{\"connection\":\"strict\",\"statement\":\"SELECT 1\"}")
                            .statusCode())
                    .isGreaterThanOrEqualTo(400);
            long run = there.give("plain", "a.csv", SmallJobs.lines(0, 3));
            there.await(run, "FINISHED");
        }
    }

    // Budgets

    @Test
    @Timeout(value = 5, unit = TimeUnit.MINUTES)
    void bombs_of_descriptions_are_refused() throws Exception {
        String many = IntStream.range(0, 12)
                .mapToObj(i -> "\"p" + i + "\":{\"$ref\":\"#/components/schemas/S\"}")
                .collect(Collectors.joining(","));
        String bomb =
                "{\"openapi\":\"3.1.0\",\"info\":{\"title\":\"x\"},\"paths\":{\"/a\":{\"post\":{\"requestBody\":{\"content\":"
                        + "{\"application/json\":{\"schema\":{\"$ref\":\"#/components/schemas/S\"}}}}}}},\"components\":{\"schemas\":"
                        + "{\"S\":{\"type\":\"object\",\"properties\":{" + many + "}}}}}";
        ObjectNode body = Definitions.mapper().createObjectNode();
        body.put("kind", "application")
                .put("base", "http://127.0.0.1:1")
                .put("authentication", "none")
                .put("port", 0)
                .put("description", bomb);
        assertThat(server.send("POST", "/api/v1/connections/bomb/test", body.toString())
                        .body())
                .contains("more than 500000 places");
    }

    /** Each value costs as much as a pattern may cost; there are two thousand. */
    @Test
    @Timeout(value = 5, unit = TimeUnit.MINUTES)
    void a_costly_sample_is_looked_at_for_some_seconds_only() throws Exception {
        JsonNode layout = Definitions.mapper()
                .readTree(
                        """
                        {"name":"costly","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[
                         {"name":"line","fields":[{"name":"v","column":1,"type":{"is":"text","length":100},
                          "checks":[{"rule":"pattern","pattern":"(.*?a){20}z"}]}]}]}
                        """);
        server.ask("POST", "/api/v1/layouts", "{\"revision\":0,\"layout\":" + layout + "}");
        byte[] sample = ("a".repeat(60) + "\n").repeat(3_000).getBytes(StandardCharsets.US_ASCII);
        assertThat(server.form("PUT", "/api/v1/layouts/costly/sample", "costly.csv", sample)
                        .statusCode())
                .isLessThan(300);
        long begun = System.nanoTime();
        HttpResponse<String> bench = server.send("POST", "/api/v1/layouts/costly/bench", layout.toString());
        assertThat(bench.statusCode()).as(bench.body()).isEqualTo(200);
        JsonNode summary =
                Definitions.mapper().readTree(bench.body()).path("preview").path("summary");
        assertThat(summary.path("cut").asBoolean()).as(summary.toString()).isTrue();
        assertThat(TimeUnit.NANOSECONDS.toSeconds(System.nanoTime() - begun)).isLessThan(60);
    }

    // What goes out

    @Test
    void data_in_a_file_of_rejects_stays_in_its_comment() throws Exception {
        JsonNode layout = Definitions.mapper()
                .readTree(
                        """
                        {"name":"herds","format":{"kind":"xml"},"recordTypes":[
                         {"name":"cow","when":{"by":"path","path":"/herd/cow"},"fields":[
                          {"name":"no","path":"@no","type":{"is":"integer"}}]}]}
                        """);
        database.execute("warehouse", "CREATE TABLE herds (no INT)");
        JsonNode job = Definitions.mapper()
                .readTree(
                        """
                        {"name":"herds","layout":"herds","deliveries":[{"to":{"connection":"warehouse","table":"herds"},
                         "shaping":[{"target":"no","take":{"from":"field","field":"no"}}]}]}
                        """);
        jobs.live("herds", job, layout);
        String file = Stream.of("--->", "-->", "a--", "-", "--->&lt;evil/>&lt;!--", "---", "x&#10;--&#9;>")
                .map(v -> "<cow no=\"" + v + "\"/>")
                .collect(Collectors.joining("\n", "<herd>\n", "\n</herd>\n"));
        long run = jobs.give("herds", "herds.xml", file.getBytes(StandardCharsets.UTF_8));
        jobs.await(run, "FINISHED");
        byte[] rejects = server.bytes("/api/v1/runs/" + run + "/rejects.csv");
        assertThat(DocumentBuilderFactory.newInstance()
                        .newDocumentBuilder()
                        .parse(new java.io.ByteArrayInputStream(rejects))
                        .getElementsByTagName("*")
                        .getLength())
                .as(new String(rejects, StandardCharsets.UTF_8))
                .isEqualTo(1 + 7);
    }

    @Test
    void a_code_list_is_exported_without_formulas_and_read_back_as_it_was() throws Exception {
        List<String> values =
                List.of("=1+1", "@SUM(A1)", "+cmd|' /C calc'!A0", "-2+3", "'=x", "''-y", "-5", "+31.5", "plain");
        String entries = values.stream()
                .map(v -> "{\"values\":[" + Definitions.mapper().writeValueAsString(v) + ",\"x\"]}")
                .collect(Collectors.joining(","));
        server.ask(
                "POST",
                "/api/v1/code-lists",
                "{\"basedOn\":0,\"list\":{\"name\":\"formulas\",\"columns\":[\"code\",\"name\"],\"entries\":[" + entries
                        + "]}}");
        byte[] exported = server.bytes("/api/v1/code-lists/formulas/export");
        String text = new String(exported, StandardCharsets.UTF_8);
        assertThat(text.lines().map(l -> l.replaceAll("^\"|\"$", "")))
                .noneMatch(l -> l.matches("[=@].*") || l.matches("[+-].*") && !l.matches("[+-][0-9.]+;x"));
        HttpResponse<String> answer = server.form("POST", "/api/v1/code-lists/read", "formulas.csv", exported);
        assertThat(answer.statusCode()).as("%s: %s", text, answer.body()).isEqualTo(200);
        JsonNode read = Definitions.mapper().readTree(answer.body());
        assertThat(read.path("entries")
                        .valueStream()
                        .map(e -> e.path("values").path(0).asString()))
                .containsExactlyElementsOf(values);
    }

    @ParameterizedTest
    @ValueSource(ints = {100, 63, 300})
    void a_file_name_of_many_bytes_is_shortened(int faces) throws Exception {
        String job = "faces-" + faces;
        jobs.adds(job, "");
        HttpResponse<String> answer = server.form(
                "POST", "/api/v1/jobs/" + job + "/runs", "😀".repeat(faces) + ".csv", SmallJobs.lines(0, 2));
        assertThat(answer.statusCode()).as(answer.body()).isLessThan(300);
        JsonNode run = Definitions.mapper().readTree(answer.body());
        assertThat(jobs.await(run.path("id").asLong(), "FINISHED")
                        .path("fileName")
                        .asString())
                .endsWith("😀.csv");
    }

    /** Names of classes tell an attacker what runs here, and a person nothing. */
    @Test
    void no_answer_names_a_class() throws Exception {
        String job = Definitions.write(Quality.job(Mode.ADD, null));
        String layout = Definitions.write(Quality.layout());
        List<String> spoilt = new ArrayList<>();
        for (String value : List.of("\"x\"", "17", "[]", "{}", "null", "[[[]]]", "true")) {
            for (String part : List.of("deliveries", "pickUp", "checks", "documents", "name", "commit", "asked")) {
                ObjectNode other = Definitions.mapper().readTree(job).asObject();
                other.set(part, Definitions.mapper().readTree(value));
                spoilt.add("{\"revision\":0,\"job\":" + other + ",\"layout\":" + layout + "}");
            }
            for (String part : List.of("format", "recordTypes", "name")) {
                ObjectNode other = Definitions.mapper().readTree(layout).asObject();
                other.set(part, Definitions.mapper().readTree(value));
                spoilt.add("{\"revision\":0,\"job\":" + job + ",\"layout\":" + other + "}");
            }
            spoilt.add("{\"revision\":" + value + "}");
            spoilt.add("{\"unknown\":" + value + "}");
        }
        spoilt.addAll(List.of("{", "[", "\"", "{\"revision\":9999999999999999999}", "nul", "{\"job\":{\"a\":\u0000}}"));
        for (String body : spoilt) {
            HttpResponse<String> answer = server.send("POST", "/api/v1/jobs", body);
            assertThat(answer.statusCode()).as(body).isLessThan(500);
            assertThat(answer.body())
                    .as(body)
                    .doesNotContainPattern("(ninepin|java|tools|com|org)\\.[a-z]+\\.")
                    .doesNotContain("jackson")
                    .doesNotContain("Exception");
        }
    }

    /** Many requests of one account leave room for those of others. */
    @Test
    void one_account_cannot_take_all_threads() throws Exception {
        List<Socket> slow = new ArrayList<>();
        String admin = Base64.getEncoder().encodeToString("admin:for the test".getBytes(StandardCharsets.UTF_8));
        for (int i = 0; i < 230; i++) {
            Socket socket = new Socket("127.0.0.1", URI.create(base).getPort());
            socket.getOutputStream()
                    .write(
                            ("POST /api/v1/jobs HTTP/1.1\r\nHost: here\r\nContent-Type: application/json\r\nAuthorization: Basic "
                                            + admin + "\r\nContent-Length: 900\r\n\r\n{")
                                    .getBytes(StandardCharsets.US_ASCII));
            slow.add(socket);
        }
        TimeUnit.SECONDS.sleep(2);
        assertThat(Stranger.come().signIn("admin", "for the test").statusCode()).isEqualTo(200);
        for (Socket socket : slow) {
            socket.close();
        }
    }
}
