package ninepin.core.deliver.database;

import java.sql.SQLException;
import java.util.List;
import ninepin.core.shape.RowBuffer;

/** Loads one row after another. What is refused is told with the number of its row, as servers do for rows of one statement. */
public abstract class RowByRow implements BulkStatement {

    private final Dialect dialect;

    protected RowByRow(Dialect dialect) {
        this.dialect = dialect;
    }

    /** Loads one row. */
    @FunctionalInterface
    protected interface Loading {
        /** Why the row is refused, or null. */
        String load(List<String> row) throws SQLException;
    }

    /** Loads rows until one is refused; why it is, or null. */
    protected final String each(RowBuffer rows, int first, int end, Loading loading) throws SQLException {
        for (int row = first; row < end; row++) {
            String refusal = refusal(loading, rows.row(row));
            if (refusal != null) {
                return refusal + " at row " + (row - first + 1);
            }
        }
        return null;
    }

    private String refusal(Loading loading, List<String> row) throws SQLException {
        try {
            return loading.load(row);
        } catch (SQLException e) {
            if (dialect.isAboutRows(e)) {
                return dialect.reason(e);
            }
            throw e;
        }
    }
}
