package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Refusal;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.TargetException;
import ninepin.core.shape.RowBuffer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** One connection to the tables. Documents that the server refuses are found by halving the batch. */
final class DatabaseLoadConnection implements LoadConnection {

    private static final Logger LOG = LoggerFactory.getLogger(DatabaseLoadConnection.class);
    private static final Pattern COLUMN = Pattern.compile("[Cc]olumn '([^']+)'");
    private static final Pattern ROW_NUMBER = Pattern.compile(" at row (\\d{1,9})$");
    private static final Pattern ROW = Pattern.compile(" at row \\d+$| for .{0,100} at row \\d+$");

    private final ConnectionWatch watch;
    private final Dialect dialect;
    private final Connection connection;
    private final List<TableLoad> loads;
    private final List<BulkStatement> bulks;
    private final MarkTable marks;
    private final String tables;
    /** The tables that are still to be emptied, by the numbers of their loads. */
    private Map<Integer, String> replaced;

    DatabaseLoadConnection(
            ConnectionWatch watch,
            Connection connection,
            List<TableLoad> loads,
            List<BulkStatement> bulks,
            MarkTable marks,
            String tables,
            Map<Integer, String> replaced) {
        this.watch = watch;
        this.dialect = watch.dialect();
        this.connection = connection;
        this.loads = loads;
        this.bulks = bulks;
        this.marks = marks;
        this.tables = tables;
        this.replaced = Map.copyOf(replaced);
    }

    /** Prepares a connection for loading. */
    @FunctionalInterface
    interface Opening {
        LoadConnection on(Connection connection) throws SQLException, TargetException;
    }

    /**
     * Opens a connection for loading, and closes it again where preparing it fails.
     *
     * @param doing what is to be done, for the message
     */
    static LoadConnection open(ConnectionWatch watch, String doing, Opening opening) throws TargetException {
        Connection connection = watch.open(Dialect.Use.LOADS);
        LoadConnection opened = null;
        try {
            opened = opening.on(connection);
            watch.idle(connection);
            return opened;
        } catch (SQLException e) {
            throw watch.explain(e, doing);
        } finally {
            if (opened == null) {
                closeQuietly(connection);
            }
        }
    }

    static void closeQuietly(Connection connection) {
        try {
            connection.close();
        } catch (SQLException e) {
            LOG.warn("A connection could not be closed: {}", e.getMessage());
        }
    }

    @Override
    public Loaded load(Batch batch) throws TargetException {
        Halving halving = new Halving(batch);
        watch.busy(connection);
        try {
            if (batch.documents() > 0) {
                List<Long> emptied = empty();
                halving.load(0, batch.documents());
                return new Loaded(List.of(halving.taken), emptied, halving.refused);
            }
            return Loaded.NONE;
        } catch (SQLException e) {
            throw watch.explain(e, "load rows into " + tables);
        } finally {
            watch.idle(connection);
        }
    }

    /** Removes what the rows take the place of, before the first of them, children before their parents. */
    private List<Long> empty() throws SQLException {
        Long[] removed = new Long[loads.size()];
        Arrays.fill(removed, 0L);
        try (Statement s = connection.createStatement()) {
            for (int t = removed.length - 1; t >= 0; t--) {
                if (replaced.containsKey(t)) {
                    removed[t] = s.executeLargeUpdate("DELETE FROM " + replaced.get(t));
                }
            }
        }
        replaced = Map.of();
        return List.of(removed);
    }

    @Override
    public void commit(Mark mark) throws TargetException {
        watch.busy(connection);
        try {
            marks.write(connection, mark);
            connection.commit();
            marks.committed(mark);
        } catch (SQLException e) {
            throw watch.explain(e, "commit rows to " + tables);
        } finally {
            watch.idle(connection);
        }
    }

    @Override
    public void rollback() throws TargetException {
        watch.busy(connection);
        try {
            connection.rollback();
        } catch (SQLException e) {
            throw watch.explain(e, "roll back rows of " + tables);
        } finally {
            watch.idle(connection);
        }
    }

    @Override
    public void close() {
        watch.busy(connection);
        try {
            if (!connection.isClosed()) {
                connection.rollback();
                connection.close();
            }
        } catch (SQLException e) {
            LOG.debug("A connection to the target was gone before it was closed: {}", dialect.reason(e));
        } finally {
            watch.forget(connection);
        }
    }

    /** Loads a range of documents whole or, where it is refused, in halves, down to those that are to blame. */
    private final class Halving {
        private final Batch batch;
        private final ParentKeys keys;
        private final List<Refusal> refused = new ArrayList<>();
        private final RowCounts[] taken = Loaded.counts(loads.size());
        private int refusedTable;

        Halving(Batch batch) {
            this.batch = batch;
            this.keys = new ParentKeys(loads, bulks, batch);
        }

        void load(int first, int end) throws SQLException {
            Savepoint before = connection.setSavepoint("ninepin_part");
            RowCounts[] attempted = Loaded.counts(loads.size());
            String refusal = attempt(first, end, attempted);
            if (refusal == null) {
                // PostgreSQL would keep a subtransaction for each until the end of a whole file.
                connection.releaseSavepoint(before);
                Arrays.setAll(taken, t -> taken[t].plus(attempted[t]));
                return;
            }
            connection.rollback(before);
            if (end - first == 1) {
                refused.add(refusal(batch, first, refusedTable, refusal));
                return;
            }
            int middle = (first + end) >>> 1;
            load(first, middle);
            load(middle, end);
        }

        /** Why the rows are refused, or null. */
        private String attempt(int first, int end, RowCounts[] counts) throws SQLException {
            for (int table = 0; table < bulks.size(); table++) {
                int from = batch.start(table, first);
                int to = batch.end(table, end - 1);
                if (from == to) {
                    continue;
                }
                BulkStatement.Outcome outcome = keys.changes(table)
                        ? attempt(table, keys.rows(table, first, end), 0, to - from)
                        : attempt(table, batch.rows(table), from, to);
                if (outcome.refusal() != null) {
                    refusedTable = table;
                    return outcome.refusal();
                }
                keys.loaded(table, from);
                counts[table] = outcome.counts();
            }
            return null;
        }

        private BulkStatement.Outcome attempt(int table, RowBuffer rows, int from, int to) throws SQLException {
            try {
                return bulks.get(table).load(rows, from, to);
            } catch (SQLException e) {
                if (dialect.isAboutRows(e)) {
                    return BulkStatement.Outcome.refused(dialect.reason(e));
                }
                throw e;
            }
        }
    }

    private static Refusal refusal(Batch batch, int document, int table, String reason) {
        Matcher at = ROW_NUMBER.matcher(reason);
        int first = batch.start(table, document);
        int last = batch.end(table, document) - 1;
        // The server counts the rows of the statement, from 1.
        int row = at.find() ? Math.min(last, first + Math.max(1, Integer.parseInt(at.group(1))) - 1) : first;
        Matcher column = COLUMN.matcher(reason);
        String words = ROW.matcher(reason).replaceFirst("");
        String code = reason.matches("(?s)Duplicate entry.*|duplicate key.*") ? "TGT-02" : "TGT-01";
        return new Refusal(
                document, table, row, column.find() ? column.group(1) : null, code, "The database says: " + words);
    }
}
