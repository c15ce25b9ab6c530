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
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import ninepin.core.deliver.DatabaseAddress;

/** A real MariaDB server of the tests' own: a folder, a free port on loopback, an empty password, gone at the end. */
public final class MariaDbServer extends TestDatabase {

    private static MariaDbServer shared;

    private final Path folder;
    private final int port;
    private final List<String> options;
    private Process process;

    private MariaDbServer(Path folder, int port, List<String> options) {
        this.folder = folder;
        this.port = port;
        this.options = options;
    }

    /** The server that all tests of this JVM share, started at the first call. */
    public static synchronized MariaDbServer shared() {
        if (shared == null) {
            shared = start();
            Runtime.getRuntime().addShutdownHook(new Thread(shared::close));
        }
        return shared;
    }

    /** A server that the caller may kill. */
    public static MariaDbServer start() {
        return start(List.of());
    }

    /**
     * A server that the caller may kill.
     *
     * @param options more options of the server
     */
    public static MariaDbServer start(List<String> options) {
        try {
            Path folder = Files.createTempDirectory("ninepin-mariadb");
            List<String> install = new ArrayList<>(List.of(
                    "mariadb-install-db",
                    "--no-defaults",
                    "--datadir=" + folder.resolve("data"),
                    "--auth-root-authentication-method=normal",
                    "--skip-test-db"));
            asRoot(install);
            run(install, folder);
            MariaDbServer server = new MariaDbServer(folder, freePort(), options);
            server.launch();
            return server;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static void asRoot(List<String> command) {
        if ("root".equals(System.getProperty("user.name"))) {
            command.add("--user=root");
        }
    }

    @Override
    public void launch() {
        try {
            List<String> command = new ArrayList<>(List.of(
                    "mariadbd",
                    "--no-defaults",
                    "--datadir=" + folder.resolve("data"),
                    "--socket=" + folder.resolve("s"),
                    "--pid-file=" + folder.resolve("pid"),
                    "--bind-address=127.0.0.1",
                    "--port=" + port,
                    "--local-infile=ON",
                    "--innodb-buffer-pool-size=256M"));
            command.addAll(options);
            asRoot(command);
            process = inItsOwnFolder(command, folder)
                    .redirectErrorStream(true)
                    .redirectOutput(folder.resolve("log").toFile())
                    .start();
            awaitAnswer("mysql");
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Override
    public void kill() {
        process.destroyForcibly();
        process.onExit().join();
    }

    @Override
    public DatabaseAddress database(String name) {
        execute("mysql", "DROP DATABASE IF EXISTS " + name, "CREATE DATABASE " + name + " CHARACTER SET utf8mb4");
        return new DatabaseAddress("127.0.0.1", port, name, "root", "");
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
        return DriverManager.getConnection(
                "jdbc:mariadb://127.0.0.1:" + port + "/" + database + "?user=root&allowLocalInfile=true");
    }

    @Override
    public void close() {
        process.destroy();
        try {
            if (!process.waitFor(20, TimeUnit.SECONDS)) {
                process.destroyForcibly();
            }
            try (Stream<Path> all = Files.walk(folder)) {
                all.sorted(Comparator.reverseOrder()).forEach(p -> p.toFile().delete());
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private static void run(List<String> command, Path folder) throws IOException {
        Path log = folder.resolve("install.log");
        try {
            int exit = inItsOwnFolder(command, folder)
                    .redirectErrorStream(true)
                    .redirectOutput(log.toFile())
                    .start()
                    .waitFor();
            if (exit != 0) {
                throw new IOException(command.get(0) + " ended with " + exit + ": " + Files.readString(log));
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException(e);
        }
    }

    /** Servers that start at the same time name their temporary tables alike. */
    private static ProcessBuilder inItsOwnFolder(List<String> command, Path folder) {
        ProcessBuilder builder = new ProcessBuilder(command);
        builder.environment().put("TMPDIR", folder.toString());
        return builder;
    }
}
