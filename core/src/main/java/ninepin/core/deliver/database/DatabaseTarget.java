package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.stream.Collectors;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.ForwardingConnection;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.OwnStatement.When;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;

/** Tables of a database as the target of one run: rows of all of them and the mark are one transaction. */
public final class DatabaseTarget implements Target {

    private final DatabaseAddress address;
    private final List<TableLoad> loads;
    private final String names;
    private final MarkTable marks;
    private final Dialect dialect;

    private final OwnStatements own;
    private final ConnectionWatch watch;
    private Holder holder;
    private List<TableDescription> tables;
    /** Whether the run has committed nothing yet. */
    private boolean anew;

    /** A target around whose rows nothing is run. */
    public DatabaseTarget(DatabaseAddress address, List<TableLoad> loads, String runKey) {
        this(address, loads, runKey, OwnStatements.NONE, () -> false);
    }

    /**
     * @param address where the database is
     * @param loads the tables, at least one; rows go to them in this order
     * @param runKey what the run is known by in the table of marks, at most 64 ASCII characters
     * @param own what is run before the first row and after the last
     * @param stop whether a person has asked to stop
     */
    public DatabaseTarget(
            DatabaseAddress address, List<TableLoad> loads, String runKey, OwnStatements own, BooleanSupplier stop) {
        this.own = own;
        this.address = address;
        this.loads = List.copyOf(loads);
        this.names = names(loads);
        this.dialect = Dialect.of(address);
        this.marks = new MarkTable(dialect, runKey, loads.get(0).delivery().table());
        this.watch = new ConnectionWatch(dialect, address, stop);
    }

    @Override
    public Optional<Mark> look() throws TargetException {
        return look(dialect, address, marks, names);
    }

    static Optional<Mark> look(Dialect dialect, DatabaseAddress address, MarkTable marks, String names)
            throws TargetException {
        try (Connection connection = dialect.connectBriefly(address, Dialect.Use.QUESTIONS)) {
            return marks.look(connection);
        } catch (SQLException e) {
            throw dialect.explain(e, "read the mark of the delivery to " + names);
        }
    }

    @Override
    public Optional<Mark> takeUp(TakeUp as) throws TargetException {
        tables = describeAll(address, loads);
        holder = Holder.take(dialect, address, marks.name(), as, names);
        try (Connection connection = watch.open(Dialect.Use.STATEMENTS)) {
            marks.create(connection);
            Optional<Mark> mark = marks.takeUp(connection, as);
            anew = mark.isEmpty();
            if (mark.isPresent() && mark.get().complete()) {
                own.once(dialect, connection, marks, When.AFTER);
            }
            return mark;
        } catch (SQLException e) {
            throw watch.explain(e, "prepare the delivery to " + names);
        }
    }

    static String names(List<TableLoad> loads) {
        return loads.stream().map(l -> l.delivery().table()).collect(Collectors.joining(", "));
    }

    static List<TableDescription> describeAll(DatabaseAddress address, List<TableLoad> loads) throws TargetException {
        List<TableDescription> all = new ArrayList<>();
        for (TableLoad load : loads) {
            all.add(
                    load.delivery().fillsTable()
                            ? describe(address, load.delivery().table())
                            : RowStatement.describe(address.kind(), load.delivery()));
        }
        return all;
    }

    private static TableDescription describe(DatabaseAddress address, String name) throws TargetException {
        Dialect dialect = Dialect.of(address);
        try (Connection connection = dialect.connectBriefly(address, Dialect.Use.QUESTIONS)) {
            return dialect.catalog(connection)
                    .describe(name)
                    .orElseThrow(() -> new TargetException(
                            TargetException.Kind.UNUSABLE,
                            "DBS-04",
                            "There is no table " + name + " in " + address.database() + ".",
                            null));
        } catch (SQLException e) {
            throw dialect.explain(e, "describe " + name);
        }
    }

    /**
     * Several connections for rows that are only added; changing by key is done in the order of the file, in one, and so is what comes
     * behind a statement in the first transaction.
     */
    @Override
    public int maxConnections() {
        return !own.any(When.BEFORE, false)
                        && loads.stream().allMatch(l -> l.delivery().mode() == TableDelivery.Mode.ADD)
                ? dialect.maxConnections()
                : 1;
    }

    @Override
    public synchronized LoadConnection connect() throws TargetException {
        return DatabaseLoadConnection.open(watch, "prepare the delivery to " + names, connection -> {
            holder.show(connection);
            connection.setAutoCommit(false);
            if (anew) {
                own.once(dialect, connection, marks, When.BEFORE);
            }
            List<BulkStatement> bulks = statements(
                    dialect,
                    connection,
                    loads,
                    tables,
                    load -> RowStatement.of(dialect, connection, load.delivery(), load.columns(), own.values()));
            return new WithOwnStatements(
                    new DatabaseLoadConnection(watch, connection, loads, bulks, marks, names, replaced()),
                    connection,
                    anew);
        });
    }

    private Map<Integer, String> replaced() {
        Map<Integer, String> replaced = new HashMap<>();
        for (int load = 0; load < loads.size(); load++) {
            TableDelivery delivery = loads.get(load).delivery();
            if (delivery.mode() == TableDelivery.Mode.REPLACE) {
                replaced.put(load, dialect.sql(TableName.parse(delivery.table()), tables.get(load)));
            }
        }
        return replaced;
    }

    /** What a statement of the job's own becomes. */
    interface Own {
        BulkStatement of(TableLoad load) throws TargetException;
    }

    static List<BulkStatement> statements(
            Dialect dialect, Connection connection, List<TableLoad> loads, List<TableDescription> tables, Own own)
            throws SQLException, TargetException {
        List<BulkStatement> all = new ArrayList<>();
        for (int i = 0; i < loads.size(); i++) {
            int load = i;
            if (!loads.get(i).delivery().fillsTable()) {
                all.add(own.of(loads.get(i)));
                continue;
            }
            boolean referredTo =
                    loads.stream().flatMap(l -> l.parents().stream()).anyMatch(p -> p.load() == load);
            all.add(
                    referredTo
                            ? BulkStatement.numbered(dialect, connection, loads.get(i), tables.get(i), i)
                            : BulkStatement.of(dialect, connection, loads.get(i), tables.get(i), i));
        }
        return all;
    }

    /** Runs the job's own statements around its rows. */
    private final class WithOwnStatements extends ForwardingConnection {
        private final Connection connection;
        /** Whether those before the first row are still to be run. */
        private boolean before;

        WithOwnStatements(LoadConnection inner, Connection connection, boolean anew) {
            super(inner);
            this.connection = connection;
            this.before = anew;
        }

        @Override
        public Loaded load(Batch batch) throws TargetException {
            before();
            return inner.load(batch);
        }

        private void before() throws TargetException {
            if (before) {
                run(When.BEFORE);
                before = false;
            }
        }

        private void run(When when) throws TargetException {
            watch.busy(connection);
            try {
                own.run(dialect, connection, when, false);
            } finally {
                watch.idle(connection);
            }
        }

        @Override
        public Loaded finish() throws TargetException {
            before();
            run(When.AFTER);
            return Loaded.NONE;
        }

        @Override
        public void commit(Mark mark) throws TargetException {
            inner.commit(mark);
            anew = false;
            if (mark.complete()) {
                watch.busy(connection);
                try {
                    own.once(dialect, connection, marks, When.AFTER);
                } catch (SQLException e) {
                    throw watch.explain(e, "commit what is run after the rows");
                } finally {
                    watch.idle(connection);
                }
            }
        }

        @Override
        public void rollback() throws TargetException {
            inner.rollback();
            before = anew;
        }
    }

    @Override
    public void close() {
        watch.close();
        if (holder != null) {
            holder.close();
        }
    }
}
