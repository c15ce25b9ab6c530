package ninepin.server.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.Quality;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** Kills the real process and the real database while a file is loaded; what stands in the end must not show it. */
class CrashTest {

    private static final int LINES = 200_000;
    private static final int KILLS = 25;
    private static final int DATABASE_KILLS = 5;

    @TempDir
    Path folder;

    private final Random random = new Random(2026);

    @Test
    @Timeout(value = 5, unit = TimeUnit.MINUTES)
    void killed_at_any_instant_and_restarted_it_ends_as_if_nothing_had_happened() throws Exception {
        Path input = writeInput();
        try (MariaDbServer server = MariaDbServer.start()) {
            Load calm = new Load(server, "calm", input);
            assertThat(calm.start().waitFor())
                    .as("exit code of the undisturbed run")
                    .isEqualTo(1);

            Load stormy = new Load(server, "stormy", input);
            int kills = 0;
            int databaseKills = 0;
            while (kills < KILLS) {
                boolean database = kills % (KILLS / DATABASE_KILLS) == 2;
                Process process = stormy.start();
                stormy.awaitFirstCommit(process);
                Thread.sleep(random.nextInt(60));
                assertThat(process.isAlive())
                        .as("there is something left to kill after %d kills", kills)
                        .isTrue();
                if (database) {
                    server.kill();
                    databaseKills++;
                    assertThat(process.waitFor())
                            .as("a run whose database died has failed")
                            .isEqualTo(2);
                    server.launch();
                } else {
                    process.destroyForcibly().waitFor();
                }
                kills++;
            }
            assertThat(stormy.start().waitFor()).isEqualTo(1);

            assertThat(stormy.report().get("tally")).isEqualTo(calm.report().get("tally"));
            assertThat(stormy.report().get("findingsInAll"))
                    .isEqualTo(calm.report().get("findingsInAll"));
            assertThat(stormy.journal()).isEqualTo(calm.journal());
            assertThat(stormy.checksum()).isEqualTo(calm.checksum());
            System.out.printf(
                    "crash test: %d kills, %d of them of the database; %s rows, tally %s%n",
                    kills,
                    databaseKills,
                    stormy.checksum().split("\\|")[0],
                    stormy.report().get("tally"));
        }
    }

    /** Good lines, lines that a check refuses, keys that stand twice and are refused by the database. */
    private Path writeInput() throws IOException {
        StringBuilder lines = new StringBuilder(Quality.HEADER);
        for (int i = 0; i < LINES; i++) {
            if (i % 97 == 0) {
                lines.append("bad;12O0;FAT;1;03.11.2026;\r\n");
            } else {
                lines.append(Quality.line(i % 1009 == 0 ? i - 2 : i));
            }
        }
        Path input = folder.resolve("quality.csv");
        Files.write(input, lines.toString().getBytes(Quality.CHARSET));
        return input;
    }

    private final class Load {
        private final MariaDbServer server;
        private final DatabaseAddress database;
        private final Path home;
        private final Path input;

        Load(MariaDbServer server, String name, Path input) throws IOException {
            this.server = server;
            this.database = server.database(name);
            this.input = input;
            this.home = Files.createDirectories(folder.resolve(name));
            server.execute(name, Quality.TABLE);
            Files.writeString(home.resolve("quality.job.json"), Definitions.write(Quality.job(Mode.ADD, null)));
            Files.writeString(home.resolve("test.layout.json"), Definitions.write(Quality.layout()));
            Files.writeString(
                    home.resolve("settings"),
                    """
                    ninepin.connections.warehouse.host=127.0.0.1
                    ninepin.connections.warehouse.port=%d
                    ninepin.connections.warehouse.database=%s
                    ninepin.connections.warehouse.user=root
                    """
                            .formatted(server.port(), name));
        }

        Process start() throws IOException {
            Files.deleteIfExists(home.resolve("progress"));
            List<String> command = new ArrayList<>(List.of(
                    Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                    "-Xmx128m",
                    "-cp",
                    System.getProperty("java.class.path"),
                    "ninepin.server.Ninepin",
                    "run"));
            command.addAll(List.of("--job", home.resolve("quality.job.json").toString()));
            command.addAll(List.of("--input", input.toString()));
            command.addAll(List.of("--settings", home.resolve("settings").toString()));
            command.addAll(List.of("--state", home.resolve("state").toString()));
            command.addAll(List.of("--commit-rows", "1000"));
            return new ProcessBuilder(command)
                    .redirectOutput(home.resolve("report").toFile())
                    .redirectError(home.resolve("progress").toFile())
                    .start();
        }

        /** Waits for the progress line that the first commit of a start prints. */
        void awaitFirstCommit(Process process) throws IOException, InterruptedException {
            while (process.isAlive()
                    && !Files.readString(home.resolve("progress")).contains("% ")) {
                Thread.sleep(3);
            }
        }

        JsonNode report() throws IOException {
            try (InputStream in = Files.newInputStream(home.resolve("report"))) {
                return Definitions.mapper().readTree(in);
            }
        }

        String journal() throws IOException {
            try (Stream<Path> files = Files.list(home.resolve("state"))) {
                return Files.readString(files.findFirst().orElseThrow());
            }
        }

        String checksum() {
            return server.rows(
                            database.database(),
                            "SELECT COUNT(*), SUM(CRC32(CONCAT_WS('|', sample, farm, test, value, taken_on, remark, line)))"
                                    + " FROM quality_result")
                    .get(0);
        }
    }
}
