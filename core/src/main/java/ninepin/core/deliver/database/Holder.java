package ninepin.core.deliver.database;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicInteger;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.TargetException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Shows others that a process has a run: a named lock of the database, held by a connection of its own for as long as the
 * process lives, and one more by each connection that loads. Safety does not hang on it (that is the epoch of the mark), but
 * a second command need not end a healthy first one, and a successor can end the connections of a process that is frozen,
 * which would keep the rows locked.
 */
final class Holder implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(Holder.class);
    /** How long a process that was just killed may still be seen by the server, in seconds. */
    private static final int GRACE = 10;

    private final Dialect dialect;
    private final String name;
    private final Connection connection;
    private final AtomicInteger shown = new AtomicInteger();

    private Holder(Dialect dialect, String name, Connection connection) {
        this.dialect = dialect;
        this.name = name;
        this.connection = connection;
    }

    /**
     * Takes the lock.
     *
     * @param what the run and the delivery
     * @param target the tables, for the message
     * @throws TargetException of the kind HELD where another process has it and is not to be ended
     */
    static Holder take(Dialect dialect, DatabaseAddress address, String what, TakeUp as, String target)
            throws TargetException {
        String name = UUID.nameUUIDFromBytes(what.getBytes(StandardCharsets.UTF_8))
                .toString()
                .replace("-", "");
        Connection connection = dialect.connectBriefly(address, Dialect.Use.STATEMENTS);
        boolean taken = false;
        try {
            if (as.preempts()) {
                taken = dialect.tryLock(connection, name, 0, 0);
                if (!taken) {
                    LOG.info("The run is still held by another process, whose connections are ended.");
                    dialect.endHolders(connection, name);
                    // Without it the epoch still keeps the run; only others do not see that it is held.
                    dialect.tryLock(connection, name, 0, GRACE);
                    taken = true;
                }
            } else {
                taken = dialect.tryLock(connection, name, 0, GRACE);
                if (!taken) {
                    throw TargetException.held(target);
                }
            }
            return new Holder(dialect, name, connection);
        } catch (SQLException e) {
            throw dialect.explain(e, "take up the delivery to " + target);
        } finally {
            if (!taken) {
                DatabaseLoadConnection.closeQuietly(connection);
            }
        }
    }

    /** A connection that loads shows itself too. */
    void show(Connection connection) throws SQLException {
        dialect.tryLock(connection, name, shown.incrementAndGet(), 0);
    }

    @Override
    public void close() {
        DatabaseLoadConnection.closeQuietly(connection);
    }
}
