package ninepin.core.testing;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.deliver.DatabaseAddress;

/** A real database server of the tests' own: a folder, a free port on loopback, gone at the end. */
public abstract class TestDatabase implements AutoCloseable {

    /** Makes a database, dropping one of that name, and says how it is reached. */
    public abstract DatabaseAddress database(String name);

    /** A connection to a database of the server. */
    public abstract Connection connect(String database) throws SQLException;

    /** Kills the server process (SIGKILL). */
    public abstract void kill();

    /** The server process. */
    public abstract long pid();

    /** Stops the server process where it is (SIGSTOP): it takes connections and says nothing. */
    public final void freeze() {
        signal("STOP");
    }

    /** Lets a frozen server process go on. */
    public final void thaw() {
        signal("CONT");
    }

    private void signal(String signal) {
        try {
            SmallDisk.shell("kill -" + signal + " " + pid());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Starts the server process again after it was killed. */
    public abstract void launch();

    /** The port on loopback that it listens on. */
    public abstract int port();

    @Override
    public abstract void close();

    public void execute(String database, String... statements) {
        try (Connection c = connect(database);
                Statement s = c.createStatement()) {
            for (String statement : statements) {
                s.execute(statement);
            }
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    /** The rows of a query, each with its values joined by bars. */
    public List<String> rows(String database, String query) {
        List<String> rows = new ArrayList<>();
        try (Connection c = connect(database);
                Statement s = c.createStatement();
                ResultSet r = s.executeQuery(query)) {
            while (r.next()) {
                List<String> row = new ArrayList<>();
                for (int i = 1; i <= r.getMetaData().getColumnCount(); i++) {
                    row.add(r.getString(i));
                }
                rows.add(String.join("|", row.stream().map(String::valueOf).toList()));
            }
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
        return rows;
    }

    static boolean isRoot() {
        return "root".equals(System.getProperty("user.name"));
    }

    static int freePort() throws IOException {
        try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            return socket.getLocalPort();
        }
    }

    /** Waits until the server takes connections. */
    void awaitAnswer(String database) {
        SQLException last = null;
        for (int i = 0; i < 600; i++) {
            try (Connection c = connect(database)) {
                return;
            } catch (SQLException e) {
                last = e;
                pause();
            }
        }
        throw new IllegalStateException("The database server did not start", last);
    }

    private static void pause() {
        try {
            Thread.sleep(50);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(e);
        }
    }
}
