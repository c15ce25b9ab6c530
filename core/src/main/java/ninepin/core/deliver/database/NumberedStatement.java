package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.function.IntToLongFunction;
import java.util.stream.IntStream;
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
        return of(statement, rows -> {
            long[] numbers = new long[rows];
            try (Statement s = connection.createStatement();
                    ResultSet r = s.executeQuery(sql)) {
                int at = 0;
                while (r.next()) {
                    numbers[at++] = r.getLong(1);
                }
                if (at != rows) {
                    throw new SQLException("Of " + rows + " rows of " + table.table() + " only " + at + " are known by "
                            + String.join(", ", key));
                }
            }
            return numbers;
        });
    }

    /**
     * Of rows that are only added and that the database numbers itself.
     *
     * @param numberOf asked after the rows are in: the number of each, counted from 0
     */
    static NumberedStatement added(BulkStatement statement, SqlSupplier<IntToLongFunction> numberOf) {
        return of(statement, rows -> {
            IntToLongFunction number = numberOf.get();
            return IntStream.range(0, rows).mapToLong(number::applyAsLong).toArray();
        });
    }

    private static NumberedStatement of(BulkStatement statement, Numbers ofRows) {
        return new NumberedStatement() {
            private int rows;

            @Override
            public Outcome load(RowBuffer buffer, int first, int end) throws SQLException {
                rows = end - first;
                return statement.load(buffer, first, end);
            }

            @Override
            public long[] numbers() throws SQLException {
                return ofRows.of(rows);
            }
        };
    }

    /** Gives the numbers of so many rows. */
    @FunctionalInterface
    interface Numbers {
        long[] of(int rows) throws SQLException;
    }

    /** Asks the database for something. */
    @FunctionalInterface
    interface SqlSupplier<T> {
        T get() throws SQLException;
    }
}
