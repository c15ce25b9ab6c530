package ninepin.server.cli;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;
import java.util.stream.Stream;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.job.Definitions;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.testing.TestDatabase;
import tools.jackson.databind.JsonNode;

/** A load by the command, as a process of its own that can be killed. */
final class CommandLoad {

    /**
     * What is loaded and how it is looked at afterwards.
     *
     * @param server starts the database
     * @param statements make the tables
     * @param checksum one row over all that was delivered
     */
    record Subject(Supplier<TestDatabase> server, Job job, Layout layout, List<String> statements, String checksum) {}

    private final TestDatabase server;
    private final DatabaseAddress database;
    final Path home;
    private final Path input;
    private final Subject subject;
    String heap = "-Xmx128m";
    int commitRows = 1000;

    CommandLoad(Path folder, TestDatabase server, String name, Subject subject, Path input) throws IOException {
        this.server = server;
        this.database = server.database(name);
        this.input = input;
        this.home = Files.createDirectories(folder.resolve(name));
        this.subject = subject;
        subject.statements().forEach(statement -> server.execute(name, statement));
        Files.writeString(home.resolve("the.job.json"), Definitions.write(subject.job()));
        Files.writeString(home.resolve(subject.job().layout() + ".layout.json"), Definitions.write(subject.layout()));
        for (String list : subject.job().codeLists()) {
            String file = list + ".codes.json";
            Files.copy(Path.of("..", "demo", file), home.resolve(file));
        }
        Files.writeString(
                home.resolve("settings"),
                """
                ninepin.connections.warehouse.kind=%s
                ninepin.connections.warehouse.host=127.0.0.1
                ninepin.connections.warehouse.port=%d
                ninepin.connections.warehouse.database=%s
                ninepin.connections.warehouse.user=%s
                """
                        .formatted(database.kind(), server.port(), name, database.user()));
    }

    /** The job with its deliveries to tables alone. */
    static Job tablesOf(Job job) {
        List<Delivery> tables = job.deliveries().stream()
                .filter(d -> d.to() instanceof TableDelivery)
                .toList();
        return job.withDeliveries(tables);
    }

    /** Adds a setting of the command. */
    void set(String name, String value) throws IOException {
        Files.writeString(home.resolve("settings"), name + "=" + value + "\n", StandardOpenOption.APPEND);
    }

    Process start() throws IOException {
        Files.deleteIfExists(home.resolve("progress"));
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                heap,
                "-XX:TieredStopAtLevel=1",
                "-cp",
                System.getProperty("java.class.path"),
                "ninepin.server.Ninepin",
                "run"));
        command.addAll(List.of("--job", home.resolve("the.job.json").toString()));
        command.addAll(List.of("--input", input.toString()));
        command.addAll(List.of("--settings", home.resolve("settings").toString()));
        command.addAll(List.of("--state", home.resolve("state").toString()));
        command.addAll(List.of("--commit-rows", String.valueOf(commitRows)));
        return new ProcessBuilder(command)
                .redirectOutput(home.resolve("report").toFile())
                .redirectError(home.resolve("progress").toFile())
                .start();
    }

    /** Waits for the progress line that the first commit of a start prints. */
    void awaitFirstCommit(Process process) throws IOException, InterruptedException {
        while (process.isAlive() && !Files.readString(home.resolve("progress")).contains("% ")) {
            Thread.sleep(3);
        }
    }

    String lastProgress() {
        try {
            String all = Files.readString(home.resolve("progress"));
            return all.substring(Math.max(0, all.length() - 600));
        } catch (IOException e) {
            return e.toString();
        }
    }

    JsonNode report() throws IOException {
        try (InputStream in = Files.newInputStream(home.resolve("report"))) {
            return Definitions.mapper().readTree(in);
        }
    }

    /** The journals of all legs, one behind the other. */
    String journal() throws IOException {
        StringBuilder all = new StringBuilder();
        try (Stream<Path> files = Files.list(home.resolve("state"))) {
            for (Path file :
                    files.filter(f -> f.toString().endsWith(".ndjson")).sorted().toList()) {
                all.append(Files.readString(file));
            }
        }
        return all.toString();
    }

    String checksum() {
        return String.join(", ", server.rows(database.database(), subject.checksum()));
    }
}
