package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ThreadFactory;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.BooleanSupplier;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.TargetException.Kind;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Keeps statements from waiting for ever. A statement may take its time as long as the server answers others; where the
 * server has gone silent, the connection is given up. A person's stop waits for a statement for some seconds only, and then
 * ends it.
 */
final class ConnectionWatch implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(ConnectionWatch.class);

    /** How long a statement may take before the server is asked whether it is still there, in nanoseconds. */
    private static final long QUIET = TimeUnit.SECONDS.toNanos(15);
    /** How long a stop waits for a statement, in nanoseconds. */
    private static final long STOP_WAITS = TimeUnit.SECONDS.toNanos(5);
    /** How long what is asked while a connection opens may take, in milliseconds. */
    private static final int OPENING_MILLIS = 10_000;
    /** How often in a row the server does not answer before it is given up. */
    private static final int SILENCES = 2;

    private static final ScheduledExecutorService TIMER =
            Executors.newSingleThreadScheduledExecutor(daemons("database watch"));
    private static final ExecutorService PROBES = Executors.newCachedThreadPool(daemons("database probe"));

    private static ThreadFactory daemons(String name) {
        return task -> {
            Thread thread = new Thread(task, name);
            thread.setDaemon(true);
            return thread;
        };
    }

    /** A connection and what is known of its statement. */
    private static final class Watched {
        private final long number;
        /** When its statement began, or the server was last heard of; 0 while it has nothing to do. */
        private volatile long since;

        private volatile int silences;

        Watched(long number) {
            this.number = number;
        }
    }

    private final Dialect dialect;
    private final DatabaseAddress address;
    private final BooleanSupplier stop;
    private final Map<Connection, Watched> connections = new ConcurrentHashMap<>();
    private final AtomicBoolean probing = new AtomicBoolean();
    private Future<?> ticking;
    private volatile long stopSince;
    private volatile boolean stopped;

    /**
     * @param stop whether a person has asked to stop
     */
    ConnectionWatch(Dialect dialect, DatabaseAddress address, BooleanSupplier stop) {
        this.dialect = dialect;
        this.address = address;
        this.stop = stop;
    }

    Dialect dialect() {
        return dialect;
    }

    /** Opens a connection that counts as busy until {@link #idle} says otherwise. */
    Connection open(Dialect.Use use) throws TargetException {
        Connection connection = connect(use);
        try {
            // It is not watched yet, so it watches itself.
            dialect.limitSilence(connection, OPENING_MILLIS);
            dialect.limitIdleTransactions(connection);
            Watched watched = new Watched(dialect.number(connection));
            dialect.limitSilence(connection, 0);
            connections.put(connection, watched);
        } catch (SQLException e) {
            DatabaseLoadConnection.closeQuietly(connection);
            throw unlessStopped(dialect.explain(e, "connect to " + address));
        }
        busy(connection);
        start();
        return connection;
    }

    /** A person who has asked to stop need not hear that the server was not there. */
    private Connection connect(Dialect.Use use) throws TargetException {
        try {
            return dialect.connect(address, use);
        } catch (TargetException e) {
            throw unlessStopped(e);
        }
    }

    private TargetException unlessStopped(TargetException e) {
        return e.kind() == Kind.AWAY && stop.getAsBoolean() ? stopped("connect", e) : e;
    }

    private synchronized void start() {
        if (ticking == null) {
            ticking = TIMER.scheduleWithFixedDelay(this::tick, 1, 1, TimeUnit.SECONDS);
        }
    }

    /** A statement begins. */
    void busy(Connection connection) {
        Watched watched = connections.get(connection);
        if (watched != null) {
            watched.silences = 0;
            watched.since = Math.max(1, System.nanoTime());
        }
    }

    /** A statement has ended. */
    void idle(Connection connection) {
        Watched watched = connections.get(connection);
        if (watched != null) {
            watched.since = 0;
        }
    }

    /** A connection is closed. */
    void forget(Connection connection) {
        connections.remove(connection);
    }

    /** What an error of the server means; a statement that was ended for a stop is no fault. */
    TargetException explain(SQLException e, String doing) {
        return stopped ? stopped(doing, e) : dialect.explain(e, doing);
    }

    private static TargetException stopped(String doing, Exception cause) {
        return new TargetException(
                Kind.STOPPED, "DBS-11", "Stopped while the database was working: could not " + doing + ".", cause);
    }

    private void tick() {
        connections.keySet().removeIf(ConnectionWatch::isClosed);
        long now = System.nanoTime();
        boolean asked = stop.getAsBoolean();
        if (asked && stopSince == 0) {
            stopSince = now;
        }
        connections.forEach((connection, watched) -> {
            long since = watched.since;
            boolean quiet = since != 0 && now - since > QUIET;
            boolean waits = since != 0 && asked && now - Math.max(since, stopSince) > STOP_WAITS;
            if ((quiet || waits) && probing.compareAndSet(false, true)) {
                PROBES.execute(() -> probe(connection, watched, since, waits));
            }
        });
    }

    private static boolean isClosed(Connection connection) {
        try {
            return connection.isClosed();
        } catch (SQLException e) {
            return true;
        }
    }

    /** Asks the server over another connection, and ends the statement where it should not go on. */
    private void probe(Connection connection, Watched watched, long since, boolean end) {
        try (Connection other = dialect.connect(address, Dialect.Use.STATEMENTS)) {
            watched.silences = 0;
            if (end && watched.since == since) {
                stopped = true;
                if (dialect.endsStatements()) {
                    dialect.end(other, watched.number);
                } else {
                    connections.keySet().forEach(this::abort);
                }
            } else if (watched.since == since) {
                watched.since = Math.max(1, System.nanoTime());
            }
        } catch (TargetException | SQLException e) {
            if (watched.since == since && (++watched.silences >= SILENCES || end)) {
                LOG.warn("{} has gone silent; its connections are given up.", address);
                stopped = end;
                connections.keySet().forEach(this::abort);
            }
        } finally {
            probing.set(false);
        }
    }

    private void abort(Connection connection) {
        connections.remove(connection);
        try {
            dialect.giveUp(connection);
        } catch (SQLException e) {
            LOG.debug("A connection was gone before it was given up: {}", dialect.reason(e));
        }
    }

    @Override
    public synchronized void close() {
        if (ticking != null) {
            ticking.cancel(false);
        }
    }
}
