package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.function.IntToLongFunction;
import ninepin.core.shape.RowBuffer;

/** A bulk statement that tells which number the database gave to each row. */
public interface NumberedStatement extends BulkStatement {

    /** The numbers of the rows loaded last, in their order. */
    long[] numbers() throws SQLException;

    /** Of a statement whose rows stay in a staging table: the numbers that the rows of their keys have. */
    static NumberedStatement staged(
            Dialect dialect,
            Connection connection,
            BulkStatement statement,
            TableName table,
            List<String> key,
            String numbered,
            int number) {
        String staging = dialect.quoted(Dialect.STAGING + number);
        String sql = "SELECT t." + dialect.quoted(numbered) + " FROM " + staging + " s JOIN " + table.sql(dialect)
                + " t ON " + dialect.sameKey("t", "s", key) + " ORDER BY s." + dialect.quoted(Dialect.SEQUENCE);
        return new NumberedStatement() {
            private int rows;

            @Override
            public Outcome load(RowBuffer buffer, int first, int end) throws SQLException {
                rows = end - first;
                return statement.load(buffer, first, end);
            }

            @Override
            public long[] numbers() throws SQLException {
                long[] numbers = new long[rows];
                try (Statement s = connection.createStatement();
                        ResultSet r = s.executeQuery(sql)) {
                    int at = 0;
                    while (r.next()) {
                        numbers[at++] = r.getLong(1);
                    }
                    if (at != rows) {
                        throw new SQLException("Of " + rows + " rows of " + table.table() + " only " + at
                                + " are known by " + String.join(", ", key));
                    }
                }
                return numbers;
            }
        };
    }

    /**
     * Of rows that are only added and that the database numbers itself.
     *
     * @param numberOf asked after the rows are in: the number of each, counted from 0
     */
    static NumberedStatement added(BulkStatement statement, SqlSupplier<IntToLongFunction> numberOf) {
        return new NumberedStatement() {
            private int rows;

            @Override
            public Outcome load(RowBuffer buffer, int first, int end) throws SQLException {
                rows = end - first;
                return statement.load(buffer, first, end);
            }

            @Override
            public long[] numbers() throws SQLException {
                IntToLongFunction number = numberOf.get();
                long[] numbers = new long[rows];
                for (int i = 0; i < rows; i++) {
                    numbers[i] = number.applyAsLong(i);
                }
                return numbers;
            }
        };
    }

    /** Asks the database for something. */
    @FunctionalInterface
    interface SqlSupplier<T> {
        T get() throws SQLException;
    }
}
