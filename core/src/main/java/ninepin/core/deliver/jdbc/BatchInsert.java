package ninepin.core.deliver.jdbc;

import java.sql.BatchUpdateException;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.database.RowLoader;
import ninepin.core.deliver.database.SilentLoss;
import ninepin.core.shape.RowBuffer;

/** Rows added by batches of one statement. */
final class BatchInsert implements RowLoader {

    private static final int BATCH = 1_000;

    private final AnyDatabase dialect;
    private final Connection connection;
    private final String sql;
    private final List<Column> columns;
    private final SilentLoss loss;

    BatchInsert(AnyDatabase dialect, Connection connection, String sql, List<Column> columns) {
        this.dialect = dialect;
        this.connection = connection;
        this.sql = sql;
        this.columns = columns;
        this.loss = new SilentLoss(columns);
    }

    @Override
    public String load(RowBuffer rows, int first, int end) throws SQLException {
        String lost = loss.of(rows, first, end);
        if (lost != null) {
            return lost;
        }
        try (PreparedStatement s = connection.prepareStatement(sql)) {
            for (int from = first; from < end; from += BATCH) {
                int to = Math.min(end, from + BATCH);
                String refusal = load(s, rows, from, to, first);
                if (refusal != null) {
                    return refusal;
                }
            }
            return null;
        }
    }

    private String load(PreparedStatement s, RowBuffer rows, int from, int to, int first) throws SQLException {
        for (int row = from; row < to; row++) {
            try {
                dialect.fill(s, 1, columns, rows.row(row));
            } catch (JdbcValues.NotOfType e) {
                return e.getMessage() + " at row " + (row - first + 1);
            }
            s.addBatch();
        }
        try {
            s.executeBatch();
            return null;
        } catch (BatchUpdateException e) {
            SQLException cause = e.getNextException() != null ? e.getNextException() : e;
            if (!dialect.isAboutRows(e) && !dialect.isAboutRows(cause)) {
                throw e;
            }
            return dialect.reason(cause) + " at row " + (from - first + failed(e.getUpdateCounts()) + 1);
        } finally {
            s.clearBatch();
        }
    }

    /** The row that failed; where the driver goes on behind it, the first that it marks. */
    private static int failed(int[] counts) {
        for (int i = 0; i < counts.length; i++) {
            if (counts[i] == Statement.EXECUTE_FAILED) {
                return i;
            }
        }
        return counts.length;
    }
}
