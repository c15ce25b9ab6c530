package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.ForwardingConnection;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.TrialTarget;

/**
 * A rehearsal's target: rows go into a temporary copy of the table's structure, so the real server judges types,
 * lengths, keys and constraints, and neither the table nor the marks are touched. The copy is empty and has no foreign
 * keys, so rows that are there already and missing parents are not seen.
 */
public final class RehearsalTarget implements TrialTarget {

    private static final String COPY = "ninepin_rehearsal_";

    private final DatabaseAddress address;
    private final List<TableLoad> loads;
    private final Dialect dialect;
    private final ConnectionWatch watch;
    private List<TableDescription> tables;

    public RehearsalTarget(DatabaseAddress address, List<TableLoad> loads) {
        this.address = address;
        this.loads = List.copyOf(loads);
        this.dialect = Dialect.of(address);
        this.watch = new ConnectionWatch(dialect, address, () -> false);
    }

    @Override
    public Optional<Mark> takeUp(TakeUp as) throws TargetException {
        tables = DatabaseTarget.describeAll(address, loads);
        return Optional.empty();
    }

    @Override
    public int maxConnections() {
        return 1;
    }

    @Override
    public LoadConnection connect() throws TargetException {
        String doing = "rehearse the delivery to " + DatabaseTarget.names(loads);
        return DatabaseLoadConnection.open(watch, doing, connection -> {
            if (!dialect.stages()) {
                return inPlace(connection);
            }
            List<TableLoad> copies = new ArrayList<>();
            for (TableLoad load : loads) {
                TableDelivery delivery = load.delivery();
                if (!delivery.fillsTable()) {
                    copies.add(load);
                    continue;
                }
                String copy = COPY + copies.size();
                try (Statement s = connection.createStatement()) {
                    String table = TableName.parse(delivery.table()).sql(dialect);
                    s.execute(dialect.like(dialect.quoted(copy), table, true));
                }
                TableDelivery toCopy =
                        new TableDelivery(delivery.connection(), copy, judged(delivery.mode()), delivery.key());
                copies.add(load.to(toCopy));
            }
            connection.setAutoCommit(false);
            List<BulkStatement> bulks =
                    DatabaseTarget.statements(dialect, connection, copies, tables, load -> RowStatement.rehearsed());
            return new Uncommitted(new DatabaseLoadConnection(
                    watch, connection, copies, bulks, null, DatabaseTarget.names(loads), Map.of()));
        });
    }

    /** Where there are no copies rows go into the tables themselves, in a transaction that is rolled back. */
    private LoadConnection inPlace(Connection connection) throws SQLException, TargetException {
        connection.setAutoCommit(false);
        List<BulkStatement> bulks =
                DatabaseTarget.statements(dialect, connection, loads, tables, load -> RowStatement.rehearsed());
        return new Uncommitted(new DatabaseLoadConnection(
                watch, connection, loads, bulks, null, DatabaseTarget.names(loads), Map.of()));
    }

    /** The copy is empty: rows that need others to be there are judged as if they were added. */
    private static Mode judged(Mode mode) {
        return mode.byKey() ? Mode.ADD_OR_CHANGE : Mode.ADD;
    }

    @Override
    public void close() {
        watch.close();
    }

    /** Loads, and never commits a mark. */
    private static final class Uncommitted extends ForwardingConnection {

        Uncommitted(LoadConnection inner) {
            super(inner);
        }

        @Override
        public void commit(Mark mark) {
            // Nothing of a rehearsal is kept.
        }
    }
}
