package ninepin.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The start command after each of its processes was killed, in a folder of its own that has all else by links. */
class LauncherTest {

    private static final Path REPOSITORY = Path.of("..").toAbsolutePath().normalize();

    @TempDir
    Path folder;

    private int port;
    private String said;

    private int ninepin(String... arguments) throws IOException, InterruptedException {
        List<String> command = new java.util.ArrayList<>(List.of("bash", "./ninepin"));
        command.addAll(List.of(arguments));
        Path out = folder.resolve("said");
        ProcessBuilder builder = new ProcessBuilder(command)
                .directory(folder.toFile())
                .redirectErrorStream(true)
                .redirectOutput(out.toFile());
        builder.environment().put("NINEPIN_DETACH", "1");
        builder.environment().put("NINEPIN_FIRST_PASSWORD", "for the test");
        int exit = builder.start().waitFor();
        said = Files.readString(out);
        return exit;
    }

    private Path home() {
        return folder.resolve(".ninepin");
    }

    private long pid(String file) throws IOException {
        return Long.parseLong(Files.readString(home().resolve(file)).strip());
    }

    private static void kill(long pid) throws IOException, InterruptedException {
        new ProcessBuilder("kill", "-9", String.valueOf(pid)).start().waitFor();
        TimeUnit.MILLISECONDS.sleep(500);
    }

    /** Signs in, which asks the database. */
    private int signIn() throws IOException, InterruptedException {
        HttpRequest request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/jobs"))
                .header(
                        "Authorization",
                        "Basic " + java.util.Base64.getEncoder().encodeToString("admin:for the test".getBytes()))
                .build();
        return HttpClient.newHttpClient()
                .send(request, HttpResponse.BodyHandlers.discarding())
                .statusCode();
    }

    @AfterEach
    void stop() throws Exception {
        ninepin("stop");
    }

    @Test
    void whatever_was_killed_the_next_start_has_all_up_again() throws Exception {
        for (String name : List.of("core", "standins", "web", "server", "demo", "pom.xml")) {
            Files.createSymbolicLink(folder.resolve(name), REPOSITORY.resolve(name));
        }
        Files.copy(REPOSITORY.resolve("ninepin"), folder.resolve("ninepin"));
        try (ServerSocket free = new ServerSocket(0)) {
            port = free.getLocalPort();
        }
        String wanted = String.valueOf(port);
        assertThat(ninepin("start", "--port", wanted)).as(said).isZero();
        assertThat(signIn()).isEqualTo(200);
        long first = pid("app.pid");
        assertThat(ninepin("start", "--port", wanted)).isZero();
        assertThat(said).contains("Running already.");
        assertThat(pid("app.pid")).isEqualTo(first);

        kill(first);
        assertThat(ninepin("start", "--port", wanted)).as(said).isZero();
        assertThat(signIn()).isEqualTo(200);
        assertThat(pid("app.pid")).isNotEqualTo(first);
        assertThat(Files.readString(home().resolve("app.log")).split("== .* started", -1))
                .as("the log of the first start is still there")
                .hasSizeGreaterThan(2);
        try (var temporary = Files.list(home().resolve("data/tmp"))) {
            assertThat(temporary.map(p -> p.getFileName().toString()))
                    .as("what the killed one has left is gone")
                    .singleElement()
                    .satisfies(n -> assertThat(n).endsWith("-" + pid("app.pid")));
        }

        long second = pid("app.pid");
        kill(pid("database/pid"));
        assertThat(ninepin("start", "--port", wanted)).as(said).isZero();
        assertThat(said).contains("Its database had ended and was started again.");
        assertThat(pid("app.pid")).isEqualTo(second);
        int answer = 0;
        for (int i = 0; i < 100 && answer != 200; i++) {
            answer = signIn();
            TimeUnit.MILLISECONDS.sleep(200);
        }
        assertThat(answer).as("it comes back by itself").isEqualTo(200);

        ninepin("stop");
        for (long pid : List.of(first, second)) {
            assertThat(ProcessHandle.of(pid).flatMap(p -> p.info().command())).isEmpty();
        }
        assertThat(home().resolve("database/pid")).doesNotExist();
    }
}
