package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.ForwardingConnection;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.OwnStatement.When;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.TargetException.Kind;

/**
 * Tables of a database as the target of a run whose rows become visible together, when the file is complete: they are
 * delivered in parts, with marks, to staging tables beside the real ones, and moved over in one transaction with the last
 * mark. So a file of any size restarts where it stopped, and nobody sees half of it.
 */
public final class StagedTarget implements Target {

    private final DatabaseAddress address;
    private final List<TableLoad> loads;
    private final Dialect dialect;
    private final MarkTable marks;
    private final String names;
    private final String prefix;
    private final OwnStatements own;
    private final ConnectionWatch watch;
    private Holder holder;
    private List<TableDescription> tables;

    /**
     * @param loads the tables; none takes a key of another
     * @param runKey what the run is known by in the table of marks, at most 64 ASCII characters
     * @param own what is run before the first row and after the last; with rows is when they are moved over
     * @param stop whether a person has asked to stop
     */
    public StagedTarget(
            DatabaseAddress address, List<TableLoad> loads, String runKey, OwnStatements own, BooleanSupplier stop) {
        this.own = own;
        this.address = address;
        this.loads = List.copyOf(loads);
        this.dialect = Dialect.of(address);
        this.names = DatabaseTarget.names(loads);
        this.marks = new MarkTable(dialect, runKey, loads.get(0).delivery().table());
        this.watch = new ConnectionWatch(dialect, address, stop);
        this.prefix = Catalog.OWN + "whole_" + HexFormat.of().toHexDigits(runKey.hashCode()) + "_";
    }

    private TableName real(int load) {
        return TableName.parse(loads.get(load).delivery().table());
    }

    /** The staging table of a load, in the schema of the real one. */
    private TableName staging(int load) {
        return new TableName(real(load).schema(), prefix + load);
    }

    @Override
    public Optional<Mark> look() throws TargetException {
        return DatabaseTarget.look(dialect, address, marks, names);
    }

    @Override
    public Optional<Mark> takeUp(TakeUp as) throws TargetException {
        tables = DatabaseTarget.describeAll(address, loads);
        holder = Holder.take(dialect, address, marks.name(), as, names);
        try (Connection connection = watch.open(Dialect.Use.STATEMENTS);
                Statement s = connection.createStatement()) {
            marks.create(connection);
            Optional<Mark> mark = marks.takeUp(connection, as);
            if (mark.isEmpty() || mark.get().complete()) {
                drop(s);
            }
            if (mark.isPresent() && mark.get().complete()) {
                own.once(dialect, connection, marks, When.AFTER);
            }
            if (mark.isEmpty()) {
                own.once(dialect, connection, marks, When.BEFORE);
                for (int load = 0; load < loads.size(); load++) {
                    make(s, load);
                }
            }
            return mark;
        } catch (SQLException e) {
            throw watch.explain(e, "prepare the staging tables of " + names);
        }
    }

    private void drop(Statement s) throws SQLException {
        for (int load = 0; load < loads.size(); load++) {
            s.execute("DROP TABLE IF EXISTS " + staging(load).sql(dialect));
        }
    }

    /** Rows that are only added are judged as they will be; those that go by a key keep their order. */
    private void make(Statement s, int load) throws SQLException {
        String staging = staging(load).sql(dialect);
        String table = real(load).sql(dialect);
        if (!loads.get(load).delivery().mode().byKey()) {
            s.execute(dialect.like(staging, table, false));
            return;
        }
        List<String> columns =
                BulkStatement.asWritten(tables.get(load), loads.get(load).columns());
        for (String make : dialect.staging(staging, table, columns, tables.get(load), false)) {
            s.execute(make);
        }
    }

    @Override
    public int maxConnections() {
        return loads.stream().noneMatch(l -> l.delivery().mode().byKey()) ? 2 : 1;
    }

    @Override
    public LoadConnection connect() throws TargetException {
        return DatabaseLoadConnection.open(watch, "prepare the delivery to " + names, connection -> {
            holder.show(connection);
            connection.setAutoCommit(false);
            List<BulkStatement> bulks = new ArrayList<>();
            for (int load = 0; load < loads.size(); load++) {
                List<String> columns = BulkStatement.asWritten(
                        tables.get(load), loads.get(load).columns());
                bulks.add(dialect.add(connection, staging(load).sql(dialect), columns, tables.get(load)));
            }
            return new StagedConnection(
                    new DatabaseLoadConnection(watch, connection, loads, bulks, marks, names, Map.of()), connection);
        });
    }

    @Override
    public void close() {
        watch.close();
        if (holder != null) {
            holder.close();
        }
    }

    private final class StagedConnection extends ForwardingConnection {
        private final Connection connection;

        StagedConnection(LoadConnection inner, Connection connection) {
            super(inner);
            this.connection = connection;
        }

        /** Moves the rows over; what was counted as added is counted as what becomes of it. */
        @Override
        public Loaded finish() throws TargetException {
            watch.busy(connection);
            try (Statement s = connection.createStatement()) {
                own.run(dialect, connection, When.BEFORE, false);
                Long[] emptied = new Long[loads.size()];
                Arrays.fill(emptied, 0L);
                for (int load = loads.size() - 1; load >= 0; load--) {
                    if (loads.get(load).delivery().mode() == Mode.REPLACE) {
                        emptied[load] =
                                s.executeLargeUpdate("DELETE FROM " + real(load).sql(dialect));
                    }
                }
                RowCounts[] moved = Loaded.counts(loads.size());
                for (int load = 0; load < loads.size(); load++) {
                    moved[load] = move(s, load);
                }
                own.run(dialect, connection, When.AFTER, false);
                return new Loaded(List.of(moved), List.of(emptied), List.of());
            } catch (SQLException e) {
                if (!dialect.isAboutRows(e)) {
                    throw watch.explain(e, "move the rows to " + names);
                }
                throw refused(dialect.reason(e), e);
            } finally {
                watch.idle(connection);
            }
        }

        /** What the rows come to, beyond being added to their staging table. */
        private RowCounts move(Statement s, int load) throws SQLException, TargetException {
            TableLoad of = loads.get(load);
            List<String> columns = BulkStatement.asWritten(tables.get(load), of.columns());
            if (!of.delivery().mode().byKey()) {
                String listed = dialect.listed(columns);
                s.executeLargeUpdate("INSERT INTO " + real(load).sql(dialect) + " (" + listed + ") SELECT " + listed
                        + " FROM " + staging(load).sql(dialect));
                return RowCounts.NONE;
            }
            List<String> key =
                    BulkStatement.asWritten(tables.get(load), of.delivery().key());
            BulkStatement.Outcome outcome = KeyedStatement.merge(
                    dialect,
                    connection,
                    of.delivery().mode(),
                    real(load),
                    staging(load).sql(dialect),
                    columns,
                    key,
                    tables.get(load));
            if (outcome.refusal() != null) {
                throw refused(outcome.refusal(), null);
            }
            RowCounts counts = outcome.counts();
            return counts.plus(RowCounts.added(-counts.rows()));
        }

        private TargetException refused(String reason, SQLException e) {
            return new TargetException(
                    Kind.UNUSABLE,
                    "STG-01",
                    "All rows were read, and nothing of them is visible: " + names + " does not take them. " + reason
                            + ". Mend the table or the file, and start the run from its beginning.",
                    e);
        }

        @Override
        public void commit(Mark mark) throws TargetException {
            inner.commit(mark);
            if (mark.complete()) {
                try (Statement s = connection.createStatement()) {
                    own.once(dialect, connection, marks, When.AFTER);
                    drop(s);
                    connection.commit();
                } catch (SQLException e) {
                    throw watch.explain(e, "drop the staging tables of " + names + ", whose rows are all delivered,");
                }
            }
        }
    }
}
