package ninepin.core.testing;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.DatabaseKind;

/**
 * A real PostgreSQL server of the tests' own: a folder, a free port on loopback, trust for local users, gone at the end.
 * It refuses to run as root, so tests of root run it as the user that its package makes.
 */
public final class PostgreSqlServer extends TestDatabase {

    private static final String USER = "ninepin";
    private static PostgreSqlServer shared;

    private final Path folder;
    private final int port;
    private final List<String> options;
    private Process process;

    private PostgreSqlServer(Path folder, int port, List<String> options) {
        this.folder = folder;
        this.port = port;
        this.options = options;
    }

    /** The server that all tests of this JVM share, started at the first call. */
    public static synchronized PostgreSqlServer shared() {
        if (shared == null) {
            shared = start();
            Runtime.getRuntime().addShutdownHook(new Thread(shared::close));
        }
        return shared;
    }

    /** A server that the caller may kill. */
    public static PostgreSqlServer start() {
        return start(List.of());
    }

    /**
     * A server that the caller may kill.
     *
     * @param options more options of the server
     */
    public static PostgreSqlServer start(List<String> options) {
        try {
            Path folder = Files.createTempDirectory("ninepin-postgresql");
            if (isRoot()) {
                run(List.of("chown", "postgres", folder.toString()), folder);
            }
            run(
                    command(
                            "initdb",
                            "-D",
                            folder.resolve("data").toString(),
                            "-U",
                            USER,
                            "-A",
                            "trust",
                            "-E",
                            "UTF8",
                            "--locale=C.UTF-8",
                            "--no-sync"),
                    folder);
            PostgreSqlServer server = new PostgreSqlServer(folder, freePort(), options);
            server.launch();
            return server;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A program of the newest server that is installed. */
    private static List<String> command(String program, String... arguments) throws IOException {
        Path home = Path.of("/usr/lib/postgresql");
        Path newest;
        try (Stream<Path> versions = Files.list(home)) {
            newest = versions.max(Comparator.comparingInt(
                            v -> Integer.parseInt(v.getFileName().toString())))
                    .orElseThrow();
        }
        List<String> command = new ArrayList<>();
        if (isRoot()) {
            command.addAll(List.of("setpriv", "--reuid=postgres", "--regid=postgres", "--clear-groups", "--"));
        }
        command.add(newest.resolve("bin").resolve(program).toString());
        command.addAll(List.of(arguments));
        return command;
    }

    private static void run(List<String> command, Path folder) throws IOException {
        Path log = folder.resolveSibling(folder.getFileName() + ".log");
        Process process = new ProcessBuilder(command)
                .directory(Path.of("/tmp").toFile())
                .redirectErrorStream(true)
                .redirectOutput(log.toFile())
                .start();
        try {
            if (process.waitFor() != 0) {
                throw new IllegalStateException(command + ": " + Files.readString(log));
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
    }

    @Override
    public void launch() {
        try {
            Files.deleteIfExists(folder.resolve("data/postmaster.pid"));
            List<String> command = command(
                    "postgres",
                    "-D",
                    folder.resolve("data").toString(),
                    "-p",
                    String.valueOf(port),
                    "-c",
                    "listen_addresses=127.0.0.1",
                    "-c",
                    "unix_socket_directories=",
                    "-c",
                    "max_wal_size=1GB");
            command.addAll(options);
            process = new ProcessBuilder(command)
                    .directory(Path.of("/tmp").toFile())
                    .redirectErrorStream(true)
                    .redirectOutput(folder.resolveSibling(folder.getFileName() + ".server.log")
                            .toFile())
                    .start();
            awaitAnswer("postgres");
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Kills the server and the processes of its connections, which would go on for a moment without it. */
    @Override
    public void kill() {
        List<ProcessHandle> all = Stream.concat(process.descendants(), Stream.of(process.toHandle()))
                .toList();
        all.forEach(ProcessHandle::destroyForcibly);
        all.forEach(p -> p.onExit().join());
    }

    @Override
    public DatabaseAddress database(String name) {
        execute("postgres", "DROP DATABASE IF EXISTS " + name + " WITH (FORCE)", "CREATE DATABASE " + name);
        return new DatabaseAddress(DatabaseKind.POSTGRESQL, "127.0.0.1", port, name, USER, "");
    }

    @Override
    public long pid() {
        return process.pid();
    }

    @Override
    public int port() {
        return port;
    }

    @Override
    public Connection connect(String database) throws SQLException {
        return DriverManager.getConnection("jdbc:postgresql://127.0.0.1:" + port + "/" + database + "?user=" + USER);
    }

    @Override
    public void close() {
        kill();
        try (Stream<Path> all = Files.walk(folder)) {
            all.sorted(Comparator.reverseOrder()).forEach(f -> f.toFile().delete());
            Files.deleteIfExists(folder.resolveSibling(folder.getFileName() + ".log"));
            Files.deleteIfExists(folder.resolveSibling(folder.getFileName() + ".server.log"));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
