package ninepin.server.testing;

import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.job.Definitions;
import tools.jackson.databind.JsonNode;

/** Farm Accounts as a process of its own that can be killed; what it has booked outlives it. */
public final class AccountsProcess implements AutoCloseable {

    public static final String TOKEN = "crash-token";

    private final Path folder;
    private final int port;
    private final HttpClient client = HttpClient.newHttpClient();
    private Process process;

    public AccountsProcess(Path folder) throws IOException, InterruptedException {
        this.folder = Files.createDirectories(folder);
        try (ServerSocket free = new ServerSocket(0)) {
            this.port = free.getLocalPort();
        }
        launch();
    }

    public String address() {
        return "http://127.0.0.1:" + port;
    }

    public void launch() throws IOException, InterruptedException {
        Path log = folder.resolve("log");
        Files.deleteIfExists(log);
        ProcessBuilder builder = new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx256m",
                "-XX:TieredStopAtLevel=1",
                "-cp",
                System.getProperty("java.class.path"),
                "ninepin.standins.accounts.FarmAccounts",
                String.valueOf(port),
                folder.resolve("ledger.ndjson").toString());
        builder.environment().put("FARM_ACCOUNTS_TOKEN", TOKEN);
        process = builder.redirectErrorStream(true).redirectOutput(log.toFile()).start();
        while (!Files.exists(log) || !Files.readString(log).contains("answers at")) {
            if (!process.isAlive()) {
                throw new IllegalStateException("Farm Accounts did not start: " + Files.readString(log));
            }
            Thread.sleep(5);
        }
    }

    public void kill() throws InterruptedException {
        process.destroyForcibly().waitFor();
    }

    /** Sets how it misbehaves, in the words of its page. */
    public void misbehave(String form) throws IOException, InterruptedException {
        HttpRequest request = HttpRequest.newBuilder(URI.create(address() + "/switches"))
                .POST(HttpRequest.BodyPublishers.ofString(form))
                .build();
        client.send(request, HttpResponse.BodyHandlers.discarding());
    }

    /** What is booked, the oldest first, without the numbers it was given and when. */
    public List<String> booked() throws IOException, InterruptedException {
        HttpRequest request = HttpRequest.newBuilder(URI.create(address() + "/api/vouchers"))
                .header("Authorization", "Bearer " + TOKEN)
                .build();
        JsonNode all = Definitions.mapper()
                .readTree(client.send(request, HttpResponse.BodyHandlers.ofString())
                        .body());
        List<String> vouchers = new ArrayList<>();
        all.forEach(b -> vouchers.add(b.get("voucher").toString()));
        return vouchers;
    }

    @Override
    public void close() throws InterruptedException {
        kill();
    }
}
