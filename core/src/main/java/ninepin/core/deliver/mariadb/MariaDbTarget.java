package ninepin.core.deliver.mariadb;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;

/** A table of a MariaDB database as the target of one run. */
public final class MariaDbTarget implements Target {

    private final DatabaseAddress address;
    private final TableDelivery delivery;
    private final List<String> columns;
    private final MarkTable marks;

    private TableDescription table;

    /**
     * @param address where the database is
     * @param delivery the table, and what happens to rows that are there
     * @param columns the columns that rows have values for, in the order of the rows' fields
     * @param runKey what the run is known by in the table of marks, at most 64 ASCII characters
     */
    public MariaDbTarget(DatabaseAddress address, TableDelivery delivery, List<String> columns, String runKey) {
        this.address = address;
        this.delivery = delivery;
        this.columns = List.copyOf(columns);
        this.marks = new MarkTable(runKey, delivery.table());
    }

    @Override
    public Optional<Mark> prepare() throws TargetException {
        table = describe(address, delivery.table());
        try (Connection connection = MariaDb.connect(address)) {
            marks.create(connection);
            return marks.read(connection);
        } catch (SQLException e) {
            throw MariaDb.explain(e, "prepare the delivery to " + delivery.table());
        }
    }

    static TableDescription describe(DatabaseAddress address, String name) throws TargetException {
        try (Connection connection = MariaDb.connect(address)) {
            return new TableCatalog(connection)
                    .describe(name)
                    .orElseThrow(() -> new TargetException(
                            TargetException.Kind.UNUSABLE,
                            "DBS-04",
                            "There is no table " + name + " in " + address.database() + ".",
                            null));
        } catch (SQLException e) {
            throw MariaDb.explain(e, "describe " + name);
        }
    }

    /** Two lanes for rows that are only added; changing by key is done in the order of the file, in one. */
    @Override
    public int lanes() {
        return delivery.mode() == TableDelivery.Mode.ADD ? 2 : 1;
    }

    @Override
    public Lane lane() throws TargetException {
        Connection connection = MariaDb.connect(address);
        try {
            connection.setAutoCommit(false);
            BulkStatement bulk = BulkStatement.of(connection, delivery, columns, table);
            return new MariaDbLane(connection, bulk, marks, delivery.table());
        } catch (SQLException e) {
            try {
                connection.close();
            } catch (SQLException suppressed) {
                e.addSuppressed(suppressed);
            }
            throw MariaDb.explain(e, "prepare the delivery to " + delivery.table());
        }
    }

    @Override
    public void close() {}
}
