package ninepin.core.deliver.mariadb;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;

/**
 * A rehearsal's target: rows go into a temporary copy of the table's structure, so the real server judges types,
 * lengths, keys and constraints, and neither the table nor the marks are touched. The copy is empty and has no foreign
 * keys, so rows that are there already and missing parents are not seen.
 */
public final class RehearsalTarget implements Target {

    private static final String COPY = "ninepin_rehearsal_";

    private final DatabaseAddress address;
    private final List<TableLoad> loads;
    private List<TableDescription> tables;

    public RehearsalTarget(DatabaseAddress address, List<TableLoad> loads) {
        this.address = address;
        this.loads = List.copyOf(loads);
    }

    @Override
    public Optional<Mark> prepare() throws TargetException {
        tables = MariaDbTarget.describeAll(address, loads);
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
            List<TableLoad> copies = new ArrayList<>();
            for (TableLoad load : loads) {
                TableDelivery delivery = load.delivery();
                String copy = COPY + copies.size();
                try (Statement s = connection.createStatement()) {
                    s.execute("CREATE TEMPORARY TABLE " + copy + " LIKE "
                            + TableName.parse(delivery.table()).sql());
                }
                TableDelivery toCopy = new TableDelivery(delivery.connection(), copy, delivery.mode(), delivery.key());
                copies.add(new TableLoad(toCopy, load.columns()));
            }
            connection.setAutoCommit(false);
            List<BulkStatement> bulks = MariaDbTarget.statements(connection, copies, tables);
            return new Uncommitted(new MariaDbLane(connection, bulks, null, MariaDbTarget.names(loads)));
        } catch (SQLException e) {
            try {
                connection.close();
            } catch (SQLException suppressed) {
                e.addSuppressed(suppressed);
            }
            throw MariaDb.explain(e, "rehearse the delivery to " + MariaDbTarget.names(loads));
        }
    }

    @Override
    public void close() {}

    /** A lane that loads and never commits a mark. */
    private record Uncommitted(Target.Lane lane) implements Target.Lane {
        @Override
        public Loaded load(Batch batch) throws TargetException {
            return lane.load(batch);
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
