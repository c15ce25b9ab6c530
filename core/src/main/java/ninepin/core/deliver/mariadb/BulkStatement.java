package ninepin.core.deliver.mariadb;

import java.sql.Connection;
import java.sql.SQLException;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableLoad;
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

    /**
     * The statement for what a delivery does with rows that are there already.
     *
     * @param number tells the statements of one connection apart
     */
    static BulkStatement of(Connection connection, TableLoad load, TableDescription table, int number)
            throws SQLException {
        TableDelivery delivery = load.delivery();
        return delivery.mode() == TableDelivery.Mode.ADD
                ? new AddStatement(connection, delivery, load.columns(), table)
                : new AddOrChangeStatement(connection, delivery, load.columns(), table, number);
    }

    /** Loads the rows from {@code first} up to but not including {@code end}. */
    Outcome load(RowBuffer rows, int first, int end) throws SQLException;
}
