package ninepin.core.deliver.mariadb;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.shape.RowBuffer;

/**
 * A rehearsal's target: rows go into a temporary copy of the table's structure, so the real server judges types,
 * lengths, keys and constraints, and neither the table nor the marks are touched. The copy is empty and has no foreign
 * keys, so rows that are there already and missing parents are not seen.
 */
public final class RehearsalTarget implements Target {

    private static final String COPY = "ninepin_rehearsal";

    private final DatabaseAddress address;
    private final TableDelivery delivery;
    private final List<String> columns;
    private TableDescription table;

    public RehearsalTarget(DatabaseAddress address, TableDelivery delivery, List<String> columns) {
        this.address = address;
        this.delivery = delivery;
        this.columns = List.copyOf(columns);
    }

    @Override
    public Optional<Mark> prepare() throws TargetException {
        table = MariaDbTarget.describe(address, delivery.table());
        return Optional.empty();
    }

    @Override
    public int lanes() {
        return 1;
    }

    @Override
    public Lane lane() throws TargetException {
        Connection connection = MariaDb.connect(address);
        try {
            try (Statement s = connection.createStatement()) {
                s.execute("CREATE TEMPORARY TABLE " + COPY + " LIKE "
                        + TableName.parse(delivery.table()).sql());
            }
            connection.setAutoCommit(false);
            TableDelivery toCopy = new TableDelivery(delivery.connection(), COPY, delivery.mode(), delivery.key());
            BulkStatement bulk = BulkStatement.of(connection, toCopy, columns, table);
            return new Uncommitted(new MariaDbLane(connection, bulk, null, COPY));
        } catch (SQLException e) {
            try {
                connection.close();
            } catch (SQLException suppressed) {
                e.addSuppressed(suppressed);
            }
            throw MariaDb.explain(e, "rehearse the delivery to " + delivery.table());
        }
    }

    @Override
    public void close() {}

    /** A lane that loads and never commits a mark. */
    private record Uncommitted(Target.Lane lane) implements Target.Lane {
        @Override
        public Loaded load(RowBuffer rows) throws TargetException {
            return lane.load(rows);
        }

        @Override
        public void commit(Mark mark) {
            // Nothing of a rehearsal is kept.
        }

        @Override
        public void rollback() throws TargetException {
            lane.rollback();
        }

        @Override
        public void close() {
            lane.close();
        }
    }
}
