package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableLoad;
import ninepin.core.shape.RowBuffer;

/** Loads a range of rows in one go. It either loads all of them without changing any value, or says why not. */
public interface BulkStatement {

    /**
     * What became of the rows.
     *
     * @param added rows that are new
     * @param changed rows of the table that were changed
     * @param unchanged rows that were there as they are, or that had nothing to do
     * @param removed rows of the table that were removed
     * @param refusal why the rows were refused, in the server's words; null when they are loaded
     */
    record Outcome(long added, long changed, long unchanged, long removed, String refusal) {

        public static Outcome refused(String reason) {
            return new Outcome(0, 0, 0, 0, reason);
        }

        RowCounts counts() {
            return new RowCounts(added, changed, unchanged, removed);
        }
    }

    /**
     * The statement for what a delivery does with rows that are there already.
     *
     * @param number tells the statements of one connection apart
     */
    static BulkStatement of(Dialect dialect, Connection connection, TableLoad load, TableDescription table, int number)
            throws SQLException {
        TableDelivery delivery = load.delivery();
        TableName name = TableName.parse(delivery.table());
        List<String> columns = asWritten(table, load.columns());
        List<String> key = asWritten(table, delivery.key());
        return switch (delivery.mode()) {
            case ADD, REPLACE -> dialect.add(connection, dialect.sql(name, table), columns, table);
            case ADD_OR_CHANGE -> dialect.addOrChange(connection, name, columns, key, table, number);
            default -> dialect.byKey(connection, delivery.mode(), name, columns, key, table, number);
        };
    }

    /** The same for a table whose rows others belong to: it tells the number that the database gives to each. */
    static NumberedStatement numbered(
            Dialect dialect, Connection connection, TableLoad load, TableDescription table, int number)
            throws SQLException {
        TableDelivery delivery = load.delivery();
        TableName name = TableName.parse(delivery.table());
        String numbered = table.columns().stream()
                .filter(TableDescription.Column::numbered)
                .map(TableDescription.Column::name)
                .findFirst()
                .orElseThrow(() -> new SQLException("No column of " + name.table() + " is numbered by the database."));
        if (!delivery.mode().byKey()) {
            List<String> columns = asWritten(table, load.columns());
            return dialect.numberedAdd(connection, dialect.sql(name, table), columns, table, numbered);
        }
        if (!dialect.stages()) {
            throw new SQLException("This database tells the numbers of rows only where they are added.");
        }
        BulkStatement keyed = of(dialect, connection, load, table, number);
        List<String> key = asWritten(table, delivery.key());
        return NumberedStatement.staged(dialect, connection, keyed, name, key, numbered, number);
    }

    /** The names of columns as the table writes them. */
    static List<String> asWritten(TableDescription table, List<String> columns) {
        return columns.stream()
                .map(c -> table.column(c).map(TableDescription.Column::name).orElse(c))
                .toList();
    }

    /** Loads the rows from {@code first} up to but not including {@code end}. */
    Outcome load(RowBuffer rows, int first, int end) throws SQLException;
}
