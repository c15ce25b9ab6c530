package ninepin.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import ninepin.core.job.Definitions;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

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
        HttpRequest request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/v1/jobs"))
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

    /** All else of the application by links; the port that it gets. */
    private String prepare() throws IOException {
        for (String name : List.of("core", "standins", "web", "server", "demo", "pom.xml")) {
            Files.createSymbolicLink(folder.resolve(name), REPOSITORY.resolve(name));
        }
        Files.copy(REPOSITORY.resolve("ninepin"), folder.resolve("ninepin"));
        try (ServerSocket free = new ServerSocket(0)) {
            port = free.getLocalPort();
        }
        return String.valueOf(port);
    }

    private static final boolean ROOT = "root".equals(System.getProperty("user.name"));

    /** Another user of the machine may pass through two folders on the way to the database, and look at nothing. */
    private static void nobodyElseReads(Path home) throws IOException {
        List<Path> passed = List.of(home, home.resolve("database"));
        try (Stream<Path> all = Files.walk(home)) {
            for (Path path : all.filter(p -> !Files.isSymbolicLink(p)).toList()) {
                boolean below = !path.startsWith(home.resolve("database/server"))
                        || path.equals(home.resolve("database/server"));
                if (below) {
                    String mode = PosixFilePermissions.toString(Files.getPosixFilePermissions(path));
                    assertThat(mode.substring(3))
                            .as("%s %s", mode, path)
                            .isEqualTo(passed.contains(path) ? "--x--x" : "------");
                }
            }
        }
    }

    private void nobodyElseEntersTheDatabase() throws Exception {
        int database = Integer.parseInt(
                Files.readString(home().resolve("database/port")).strip());
        String url = "jdbc:mariadb://127.0.0.1:" + database + "/";
        assertThatThrownBy(() -> DriverManager.getConnection(url + "?user=root"))
                .hasMessageContaining("Access denied");
        assertThatThrownBy(() -> DriverManager.getConnection(url + "?user=")).isInstanceOf(SQLException.class);
        String warehouse =
                Files.readString(home().resolve("database/warehouse-password")).strip();
        try (Connection c = DriverManager.getConnection(url + "larkfell?user=warehouse&password=" + warehouse);
                Statement s = c.createStatement()) {
            s.execute("CREATE TABLE tried (no INT)");
            s.execute("DROP TABLE tried");
            for (String wrong : List.of(
                    "SELECT * FROM ninepin.account",
                    "SELECT * FROM mysql.global_priv",
                    "SELECT 1 INTO OUTFILE '/tmp/ninepin-tried'",
                    "SET GLOBAL general_log = 1")) {
                assertThatThrownBy(() -> s.execute(wrong)).as(wrong).isInstanceOf(SQLException.class);
            }
        }
        if (ROOT) {
            String owner = Files.getAttribute(Path.of("/proc/" + pid("database/pid")), "unix:owner")
                    .toString();
            assertThat(owner).as("who runs the database").isNotEqualTo("root");
        }
    }

    /** The folder is its owner's alone, so that the user of the database cannot come to anything in it. */
    @Test
    void below_a_folder_that_nobody_enters_the_database_stands_elsewhere() throws Exception {
        Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("rwx------"));
        String wanted = prepare();
        assertThat(ninepin("start", "--port", wanted)).as(said).isZero();
        assertThat(signIn()).isEqualTo(200);
        nobodyElseEntersTheDatabase();
        if (ROOT) {
            assertThat(said).contains("so its files are in /var/lib/ninepin/");
        }
        String where = said;
        ninepin("stop");
        if (ROOT) {
            String files = where.replaceAll("(?s).*so its files are in (/var/lib/ninepin/\\d+).*", "$1");
            new ProcessBuilder("rm", "-rf", files).start().waitFor();
        }
    }

    @Test
    void the_build_names_what_both_halves_are_made_of() throws Exception {
        JsonNode bill =
                Definitions.mapper().readTree(Files.readString(REPOSITORY.resolve("server/target/ninepin.cdx.json")));
        assertThat(bill.path("bomFormat").asString()).isEqualTo("CycloneDX");
        Map<String, String> versions = new TreeMap<>();
        bill.path("components")
                .forEach(c -> versions.put(
                        c.path("name").asString(), c.path("version").asString("")));
        assertThat(versions)
                .containsKeys("spring-core", "mariadb-java-client", "postgresql", "react", "react-dom", "Java runtime");
        assertThat(versions.get("Java runtime")).startsWith(System.getProperty("java.version"));
        assertThat(versions.values()).doesNotContain("");
    }

    @Test
    void whatever_was_killed_the_next_start_has_all_up_again() throws Exception {
        Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("rwx--x--x"));
        String wanted = prepare();
        assertThat(ninepin("start", "--port", wanted)).as(said).isZero();
        assertThat(signIn()).isEqualTo(200);
        nobodyElseReads(home());
        nobodyElseEntersTheDatabase();
        long first = pid("app.pid");
        assertThat(ninepin("start", "--port", wanted)).isZero();
        assertThat(said).contains("Running already.");
        assertThat(pid("app.pid")).isEqualTo(first);

        // As at the reboot of a machine: all are told to end at once, and the next start comes before they have.
        new ProcessBuilder("kill", "-TERM", String.valueOf(first), String.valueOf(pid("database/pid")))
                .start()
                .waitFor();
        assertThat(ninepin("start", "--port", wanted)).as(said).isZero();
        assertThat(signIn()).isEqualTo(200);
        assertThat(pid("app.pid")).isNotEqualTo(first);
        first = pid("app.pid");

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
