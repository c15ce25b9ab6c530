package ninepin.server.testing;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.CookieManager;
import java.net.ServerSocket;
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
import java.util.TreeMap;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import tools.jackson.databind.JsonNode;

/** The application as a process of its own, that a test may kill, and its API. */
public final class ServerProcess implements AutoCloseable {

    private static final String ADMIN = "admin:for the test";

    private final HttpClient http = HttpClient.newHttpClient();
    /** Keeps the session of the administrator, so that the password is not proved with each request. */
    private final HttpClient signedIn =
            HttpClient.newBuilder().cookieHandler(new CookieManager()).build();

    private final Path folder;
    private final MariaDbServer database;
    private final String tables;
    private final int port;
    private final Map<String, String> settings = new TreeMap<>();
    private final AppClasses classes = new AppClasses();
    private Process process;

    public ServerProcess(Path folder, MariaDbServer database) throws IOException {
        this(folder, database, "ninepin");
    }

    /**
     * @param tables the database of its own tables
     */
    public ServerProcess(Path folder, MariaDbServer database, String tables) throws IOException {
        this.folder = folder;
        this.database = database;
        this.tables = tables;
        try (ServerSocket socket = new ServerSocket(0)) {
            this.port = socket.getLocalPort();
        }
        database.execute("mysql", "CREATE DATABASE IF NOT EXISTS " + tables + " CHARACTER SET utf8mb4");
        Files.createDirectories(folder.resolve("partners"));
    }

    /** Gives it a setting, by the name that it has in the environment. */
    public ServerProcess set(String name, String value) {
        settings.put(name, value);
        return this;
    }

    /** Starts it and waits until it answers. */
    public void start() throws Exception {
        launch();
        awaitAnswer(180);
    }

    /** Starts it and does not wait. */
    public void launch() throws IOException {
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx256m",
                "-XX:TieredStopAtLevel=1"));
        command.addAll(classes.options());
        command.add("ninepin.server.Ninepin");
        ProcessBuilder builder = new ProcessBuilder(command);
        Map<String, String> environment = builder.environment();
        environment.put("NINEPIN_PORT", String.valueOf(port));
        environment.put("NINEPIN_DATA", folder.resolve("data").toString());
        environment.put("NINEPIN_ROOTS_PARTNERS", folder.resolve("partners").toString());
        environment.put("NINEPIN_DATABASE_PORT", String.valueOf(database.port()));
        environment.put("NINEPIN_DATABASE_NAME", tables);
        environment.put("NINEPIN_DATABASE_USER", "root");
        environment.put("NINEPIN_FIRST_PASSWORD", "for the test");
        environment.putAll(settings);
        process = builder.redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.appendTo(log().toFile()))
                .start();
    }

    /** Waits until it answers. */
    public void awaitAnswer(int seconds) throws Exception {
        long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(seconds);
        while (System.nanoTime() < until) {
            if (!process.isAlive()) {
                throw new IllegalStateException("The application ended: " + Files.readString(log()));
            }
            try {
                String account = "{\"name\":\"admin\",\"password\":\"for the test\"}";
                if (send("POST", "/api/v1/session", account).statusCode() < 300) {
                    return;
                }
            } catch (IOException e) {
                // Not there yet.
            }
            Thread.sleep(100);
        }
        throw new IllegalStateException("The application does not answer: " + Files.readString(log()));
    }

    /** Where it answers. */
    public String base() {
        return "http://127.0.0.1:" + port;
    }

    public boolean isAlive() {
        return process != null && process.isAlive();
    }

    public long pid() {
        return process.pid();
    }

    /** Ends it in order, as the launcher does. */
    public void stop() throws InterruptedException {
        process.destroy();
        if (!process.waitFor(60, TimeUnit.SECONDS)) {
            throw new IllegalStateException("It does not end in order within a minute.");
        }
        classes.ended(process.exitValue());
    }

    public Path log() {
        return folder.resolve("log");
    }

    public void kill() throws InterruptedException {
        classes.ended(process.destroyForcibly().waitFor());
    }

    public HttpResponse<String> send(String method, String path, String json, String account)
            throws IOException, InterruptedException {
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
                .timeout(Duration.ofMinutes(1))
                .method(
                        method,
                        json == null ? HttpRequest.BodyPublishers.noBody() : HttpRequest.BodyPublishers.ofString(json));
        if (json != null) {
            request.header("Content-Type", "application/json");
        }
        if (account != null) {
            request.header("Authorization", authorization(account));
        }
        HttpClient client = ADMIN.equals(account) ? signedIn : http;
        return client.send(request.build(), HttpResponse.BodyHandlers.ofString());
    }

    public HttpResponse<String> send(String method, String path, String json) throws IOException, InterruptedException {
        return send(method, path, json, ADMIN);
    }

    public JsonNode ask(String method, String path, String json) throws IOException, InterruptedException {
        HttpResponse<String> answer = send(method, path, json);
        if (answer.statusCode() / 100 != 2) {
            throw new IllegalStateException(method + " " + path + ": " + answer.statusCode() + " " + answer.body());
        }
        return answer.body().isEmpty() ? null : Definitions.mapper().readTree(answer.body());
    }

    public JsonNode get(String path) throws IOException, InterruptedException {
        return ask("GET", path, null);
    }

    public JsonNode upload(String path, String name, byte[] bytes) throws IOException, InterruptedException {
        return Definitions.mapper().readTree(form("POST", path, name, bytes).body());
    }

    /** Sends a file as a form. */
    public HttpResponse<String> form(String method, String path, String name, byte[] bytes)
            throws IOException, InterruptedException {
        String boundary = "ninepin-boundary";
        byte[] head = ("--" + boundary + "\r\nContent-Disposition: form-data; name=\"file\"; filename=\"" + name
                        + "\"\r\nContent-Type: text/csv\r\n\r\n")
                .getBytes(StandardCharsets.UTF_8);
        byte[] foot = ("\r\n--" + boundary + "--\r\n").getBytes(StandardCharsets.UTF_8);
        HttpRequest request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
                .timeout(Duration.ofMinutes(1))
                .header("Content-Type", "multipart/form-data; boundary=" + boundary)
                .header("Authorization", authorization(ADMIN))
                .method(method, HttpRequest.BodyPublishers.ofByteArray(joined(head, bytes, foot)))
                .build();
        return signedIn.send(request, HttpResponse.BodyHandlers.ofString());
    }

    private static byte[] joined(byte[]... parts) {
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        for (byte[] part : parts) {
            all.writeBytes(part);
        }
        return all.toByteArray();
    }

    /** What is downloaded, byte for byte. */
    public byte[] bytes(String path) throws IOException, InterruptedException {
        HttpRequest request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
                .header("Authorization", authorization(ADMIN))
                .build();
        return signedIn.send(request, HttpResponse.BodyHandlers.ofByteArray()).body();
    }

    private static String authorization(String account) {
        return "Basic " + Base64.getEncoder().encodeToString(account.getBytes(StandardCharsets.UTF_8));
    }

    /** Asks until the answer is as wanted. */
    public JsonNode await(String path, Predicate<JsonNode> wanted) throws Exception {
        JsonNode answer = null;
        for (int i = 0; i < 6000; i++) {
            answer = get(path);
            if (wanted.test(answer)) {
                return answer;
            }
            Thread.sleep(50);
        }
        throw new IllegalStateException("Never as wanted, last: " + answer);
    }

    /** Waits for a file to be moved where it is to end; the end of its run is on record before. */
    public static void awaitFile(Path file) throws InterruptedException {
        for (int i = 0; i < 1200; i++) {
            if (Files.exists(file)) {
                return;
            }
            Thread.sleep(50);
        }
        throw new IllegalStateException("It never came: " + file);
    }

    @Override
    public void close() throws InterruptedException {
        if (process != null) {
            process.destroy();
            if (!process.waitFor(30, TimeUnit.SECONDS)) {
                process.destroyForcibly();
            }
            classes.ended(process.waitFor());
        }
    }
}
