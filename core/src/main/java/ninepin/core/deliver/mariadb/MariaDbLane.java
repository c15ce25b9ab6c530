package ninepin.core.deliver.mariadb;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Refusal;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.shape.RowBuffer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** One connection to a MariaDB table. Rows that the server refuses are found by halving the chunk. */
final class MariaDbLane implements Target.Lane {

    private static final Logger LOG = LoggerFactory.getLogger(MariaDbLane.class);
    private static final Pattern COLUMN = Pattern.compile("[Cc]olumn '([^']+)'");
    private static final Pattern ROW = Pattern.compile(" at row \\d+$| for .{0,100} at row \\d+$");

    private final Connection connection;
    private final BulkStatement bulk;
    private final MarkTable marks;
    private final String table;

    MariaDbLane(Connection connection, BulkStatement bulk, MarkTable marks, String table) {
        this.connection = connection;
        this.bulk = bulk;
        this.marks = marks;
        this.table = table;
    }

    @Override
    public Loaded load(RowBuffer rows) throws TargetException {
        Halving halving = new Halving(rows);
        try {
            if (rows.rows() > 0) {
                halving.load(0, rows.rows());
            }
            return new Loaded(halving.added, halving.changed, halving.unchanged, halving.refused);
        } catch (SQLException e) {
            throw MariaDb.explain(e, "load rows into " + table);
        }
    }

    @Override
    public void commit(Mark mark) throws TargetException {
        try {
            marks.write(connection, mark);
            connection.commit();
        } catch (SQLException e) {
            throw MariaDb.explain(e, "commit rows to " + table);
        }
    }

    @Override
    public void rollback() throws TargetException {
        try {
            connection.rollback();
        } catch (SQLException e) {
            throw MariaDb.explain(e, "roll back rows of " + table);
        }
    }

    @Override
    public void close() {
        try {
            if (!connection.isClosed()) {
                connection.rollback();
                connection.close();
            }
        } catch (SQLException e) {
            LOG.debug("A connection to the target was gone before it was closed: {}", MariaDb.reason(e));
        }
    }

    /** Loads a range whole or, where it is refused, in halves, down to the rows that are to blame. */
    private final class Halving {
        private final RowBuffer rows;
        private final List<Refusal> refused = new ArrayList<>();
        private long added;
        private long changed;
        private long unchanged;

        Halving(RowBuffer rows) {
            this.rows = rows;
        }

        void load(int first, int end) throws SQLException {
            Savepoint before = connection.setSavepoint("ninepin_part");
            BulkStatement.Outcome outcome = attempt(first, end);
            if (outcome.refusal() == null) {
                added += outcome.added();
                changed += outcome.changed();
                unchanged += outcome.unchanged();
                return;
            }
            connection.rollback(before);
            if (end - first == 1) {
                refused.add(refusal(first, outcome.refusal()));
                return;
            }
            int middle = (first + end) >>> 1;
            load(first, middle);
            load(middle, end);
        }

        private BulkStatement.Outcome attempt(int first, int end) throws SQLException {
            try {
                return bulk.load(rows, first, end);
            } catch (SQLException e) {
                if (MariaDb.isAboutRows(e)) {
                    return BulkStatement.Outcome.refused(MariaDb.reason(e));
                }
                throw e;
            }
        }
    }

    private static Refusal refusal(int row, String reason) {
        Matcher column = COLUMN.matcher(reason);
        String words = ROW.matcher(reason).replaceFirst("");
        String code = reason.startsWith("Duplicate entry") ? "TGT-02" : "TGT-01";
        return new Refusal(row, column.find() ? column.group(1) : null, code, words);
    }
}
