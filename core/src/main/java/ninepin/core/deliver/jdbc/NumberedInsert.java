package ninepin.core.deliver.jdbc;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.database.NumberedStatement;
import ninepin.core.shape.RowBuffer;

/** Rows added one at a time, each of which the database is asked the number of. */
final class NumberedInsert implements NumberedStatement {

    private final AnyDatabase dialect;
    private final Connection connection;
    private final String sql;
    private final List<Column> columns;
    private final String numbered;
    private long[] numbers = {};

    NumberedInsert(AnyDatabase dialect, Connection connection, String sql, List<Column> columns, String numbered) {
        this.dialect = dialect;
        this.connection = connection;
        this.sql = sql;
        this.columns = columns;
        this.numbered = numbered;
    }

    @Override
    public Outcome load(RowBuffer rows, int first, int end) throws SQLException {
        numbers = new long[end - first];
        try (PreparedStatement s = connection.prepareStatement(sql, new String[] {numbered})) {
            for (int row = first; row < end; row++) {
                try {
                    dialect.fill(s, 1, columns, rows.row(row));
                    s.executeUpdate();
                } catch (JdbcValues.NotOfType e) {
                    return Outcome.refused(e.getMessage() + " at row " + (row - first + 1));
                } catch (SQLException e) {
                    if (dialect.isAboutRows(e)) {
                        return Outcome.refused(dialect.reason(e) + " at row " + (row - first + 1));
                    }
                    throw e;
                }
                try (ResultSet r = s.getGeneratedKeys()) {
                    if (!r.next()) {
                        throw new SQLException("The database did not tell the number of a row.");
                    }
                    numbers[row - first] = r.getLong(1);
                }
            }
        }
        return new Outcome(end - first, 0, 0, 0, null);
    }

    @Override
    public long[] numbers() {
        return numbers;
    }
}
