package ninepin.core.deliver.mariadb;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.shape.RowBuffer;

/** Loads a range of rows in one go. It either loads all of them without changing any value, or says why not. */
interface BulkStatement {

    /**
     * What became of the rows.
     *
     * @param added rows that are new
     * @param changed rows of the table that were changed
     * @param unchanged rows that were there as they are
     * @param refusal why the rows were refused, in the server's words; null when they are loaded
     */
    record Outcome(long added, long changed, long unchanged, String refusal) {

        static Outcome refused(String reason) {
            return new Outcome(0, 0, 0, reason);
        }
    }

    /** The statement for what a delivery does with rows that are there already. */
    static BulkStatement of(Connection connection, TableDelivery delivery, List<String> columns, TableDescription table)
            throws SQLException {
        return delivery.mode() == TableDelivery.Mode.ADD
                ? new AddStatement(connection, delivery, columns, table)
                : new AddOrChangeStatement(connection, delivery, columns, table);
    }

    /** Loads the rows from {@code first} up to but not including {@code end}. */
    Outcome load(RowBuffer rows, int first, int end) throws SQLException;
}
