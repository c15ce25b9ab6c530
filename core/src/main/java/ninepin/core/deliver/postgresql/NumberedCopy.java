package ninepin.core.deliver.postgresql;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.database.BulkStatement;
import ninepin.core.deliver.database.NumberedStatement;
import ninepin.core.shape.RowBuffer;

/** Draws the numbers of rows from the sequence of their column beforehand, and copies the rows with them. */
final class NumberedCopy implements NumberedStatement {

    private final Connection connection;
    private final BulkStatement statement;
    private final int width;
    private final String sequence;
    private final String draw;
    private long[] numbers = new long[0];

    NumberedCopy(
            PostgreSql dialect,
            Connection connection,
            String table,
            List<String> columns,
            TableDescription described,
            String numbered)
            throws SQLException {
        this.connection = connection;
        this.width = columns.size();
        List<String> all = new ArrayList<>(columns);
        all.add(numbered);
        this.statement = dialect.copying(connection, table, all, described);
        this.sequence = sequence(table, numbered);
        // A copy of the table for a rehearsal has no sequence of its own, and must not draw from that of the table.
        this.draw = sequence == null
                ? "SELECT g FROM generate_series(1, ?) g"
                : "SELECT nextval(?::regclass) FROM generate_series(1, ?)";
    }

    private String sequence(String table, String numbered) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement(
                "SELECT pg_get_serial_sequence(?, ?), relpersistence FROM pg_class WHERE oid = ?::regclass")) {
            s.setString(1, table);
            s.setString(2, numbered);
            s.setString(3, table);
            try (ResultSet r = s.executeQuery()) {
                r.next();
                if (r.getString(1) == null && !"t".equals(r.getString(2))) {
                    throw new SQLException(
                            "No sequence belongs to the column " + numbered + " of " + table
                                    + ", so its numbers cannot be drawn. Make it the column's own (ALTER SEQUENCE … OWNED BY).");
                }
                return r.getString(1);
            }
        }
    }

    @Override
    public Outcome load(RowBuffer rows, int first, int end) throws SQLException {
        numbers = draw(end - first);
        RowBuffer numbered = new RowBuffer();
        int[] behind = {width};
        long[] number = new long[1];
        for (int row = first; row < end; row++) {
            number[0] = numbers[row - first];
            numbered.addWith(rows, row, behind, number);
        }
        return statement.load(numbered, 0, end - first);
    }

    private long[] draw(int count) throws SQLException {
        long[] drawn = new long[count];
        try (PreparedStatement s = connection.prepareStatement(draw)) {
            int at = 1;
            if (sequence != null) {
                s.setString(at++, sequence);
            }
            s.setInt(at, count);
            try (ResultSet r = s.executeQuery()) {
                for (int i = 0; r.next(); i++) {
                    drawn[i] = r.getLong(1);
                }
            }
        }
        return drawn;
    }

    @Override
    public long[] numbers() {
        return numbers;
    }
}
