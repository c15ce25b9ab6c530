package ninepin.core.deliver.mariadb;

import java.io.ByteArrayInputStream;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.SQLWarning;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.database.RowLoader;
import ninepin.core.shape.RowBuffer;
import org.mariadb.jdbc.Statement;

/**
 * {@code LOAD DATA LOCAL INFILE} fed from memory. With LOCAL the server turns errors into warnings and goes on, so any
 * warning, and any row that is missing from the count, means that the rows are refused.
 */
final class LocalInfile implements RowLoader {

    private final Connection connection;
    private final String sql;

    /** A statement that loads the columns into a table, given as it stands in SQL. */
    LocalInfile(Dialect dialect, Connection connection, String tableSql, List<String> columns, TableDescription table) {
        this.connection = connection;
        List<String> names = new ArrayList<>();
        List<String> sets = new ArrayList<>();
        for (String column : columns) {
            boolean bit = table.column(column)
                    .map(c -> c.family() == TableDescription.Family.BOOLEAN_BIT)
                    .orElse(false);
            if (bit) {
                String variable = "@bit" + names.size();
                names.add(variable);
                sets.add(dialect.quoted(column) + " = CAST(" + variable + " AS UNSIGNED)");
            } else {
                names.add(dialect.quoted(column));
            }
        }
        this.sql = "LOAD DATA LOCAL INFILE 'ninepin' INTO TABLE " + tableSql
                + " CHARACTER SET utf8mb4 FIELDS TERMINATED BY '\\t' ESCAPED BY '\\\\' LINES TERMINATED BY '\\n' ("
                + String.join(", ", names) + ")" + (sets.isEmpty() ? "" : " SET " + String.join(", ", sets));
    }

    @Override
    public String load(RowBuffer rows, int first, int end) throws SQLException {
        int start = rows.start(first);
        int length = rows.end(end - 1) - start;
        try (java.sql.Statement plain = connection.createStatement()) {
            Statement statement = plain.unwrap(Statement.class);
            statement.setLocalInfileInputStream(new ByteArrayInputStream(rows.bytes(), start, length));
            int loaded = statement.executeUpdate(sql);
            SQLWarning warning = statement.getWarnings();
            if (warning != null) {
                return warning.getMessage();
            }
            return loaded == end - first ? null : "The server took " + loaded + " of " + (end - first) + " rows.";
        }
    }
}
