package ninepin.core.deliver.jdbc;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.database.NumberedStatement;
import ninepin.core.deliver.database.RowByRow;
import ninepin.core.shape.RowBuffer;

/** Rows added one at a time, each of which the database is asked the number of. */
final class NumberedInsert extends RowByRow implements NumberedStatement {

    private final AnyDatabase dialect;
    private final Connection connection;
    private final String sql;
    private final List<Column> columns;
    private final String numbered;
    private long[] numbers = {};
    private int loaded;

    NumberedInsert(AnyDatabase dialect, Connection connection, String sql, List<Column> columns, String numbered) {
        super(dialect);
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
            loaded = 0;
            String refusal = each(rows, first, end, row -> insert(s, row));
            return refusal == null ? new Outcome(end - first, 0, 0, 0, null) : Outcome.refused(refusal);
        }
    }

    private String insert(PreparedStatement s, List<String> row) throws SQLException {
        try {
            dialect.fill(s, 1, columns, row);
        } catch (JdbcValues.NotOfType e) {
            return e.getMessage();
        }
        s.executeUpdate();
        try (ResultSet r = s.getGeneratedKeys()) {
            if (!r.next()) {
                throw new SQLException("The database did not tell the number of a row.");
            }
            numbers[loaded++] = r.getLong(1);
        }
        return null;
    }

    @Override
    public long[] numbers() {
        return numbers;
    }
}
