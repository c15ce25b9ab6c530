package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.TakenBack;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.TargetException;
import ninepin.core.record.Position;
import ninepin.core.shape.RowBuffer;

/**
 * Takes rows out of tables again that a run has added: those that are known by a unique key and are as they were delivered.
 * All of it is one transaction, at whose end the mark of the run is gone too. Used by one thread.
 */
public final class TakingBack implements AutoCloseable {

    private static final int MOST_LISTED = 200;

    /** A table with the statements that take rows out of it. */
    private final class Table {
        final String name;
        final List<String> key;
        final RowLoader loader;
        final String staging;
        final String remove;
        final String count;
        final String list;
        long removed;
        long changed;
        long gone;
        final List<String> left = new ArrayList<>();

        Table(TableLoad load, TableDescription described, int number) throws SQLException {
            List<String> columns = load.columns().stream()
                    .map(c -> described.column(c).orElseThrow().name())
                    .toList();
            this.name = load.delivery().table();
            this.key = keyOf(load, described);
            this.staging = dialect.quoted("ninepin_staging_" + number);
            String table = TableName.parse(name).sql(dialect);
            try (Statement s = connection.createStatement()) {
                for (String make : dialect.staging(staging, table, columns, described, true)) {
                    s.execute(make);
                }
            }
            this.loader = dialect.loader(connection, staging, columns, described);
            String differs = columns.stream()
                    .map(dialect::quoted)
                    .map(c -> dialect.differ("a." + c, "u." + c))
                    .collect(Collectors.joining(" OR "));
            String same = "(SELECT DISTINCT " + dialect.listed("a", key) + " FROM " + staging + " a JOIN " + table
                    + " u ON " + dialect.sameKey("u", "a", key) + " WHERE NOT (" + differs + "))";
            String there = "u." + dialect.quoted(key.get(0)) + " IS NOT NULL";
            String besides = " FROM " + staging + " a LEFT JOIN " + table + " u ON " + dialect.sameKey("u", "a", key);
            this.remove = dialect.remove(table, same, key);
            this.count = "SELECT SUM(CASE WHEN " + there + " AND (" + differs + ") THEN 1 ELSE 0 END), SUM(CASE WHEN "
                    + there + " THEN 0 ELSE 1 END)" + besides;
            this.list = "SELECT CASE WHEN " + there + " THEN 1 ELSE 0 END, " + dialect.listed("a", key) + besides
                    + " WHERE NOT (" + there + ") OR " + differs + " LIMIT " + MOST_LISTED;
        }

        void take(RowBuffer rows) throws SQLException {
            try (Statement s = connection.createStatement()) {
                s.executeUpdate("DELETE FROM " + staging);
                String refusal = loader.load(rows, 0, rows.rows());
                if (refusal != null) {
                    throw new SQLException("A row does not fit the table any more: " + refusal);
                }
                try (ResultSet r = s.executeQuery(count)) {
                    r.next();
                    changed += r.getLong(1);
                    gone += r.getLong(2);
                }
                if (left.size() < MOST_LISTED) {
                    try (ResultSet r = s.executeQuery(list)) {
                        while (r.next() && left.size() < MOST_LISTED) {
                            List<String> values = new ArrayList<>();
                            for (int k = 0; k < key.size(); k++) {
                                values.add(key.get(k) + " " + dialect.text(r, k + 2));
                            }
                            left.add(String.join(", ", values)
                                    + (r.getInt(1) == 1 ? ": changed since" : ": not there any more"));
                        }
                    }
                }
                removed += s.executeLargeUpdate(remove);
            }
        }
    }

    private final Dialect dialect;
    private final Connection connection;
    private final MarkTable marks;
    /** Says that it is done, in the transaction that does it. */
    private final MarkTable done;

    private final List<Table> tables = new ArrayList<>();

    /**
     * Begins to take back.
     *
     * @param loads the tables, as they were delivered to
     * @param runKey what the run is known by in the table of marks
     * @param ownKey what taking it back is known by there
     */
    public TakingBack(DatabaseAddress address, List<TableLoad> loads, String runKey, String ownKey)
            throws TargetException {
        this.dialect = Dialect.of(address);
        this.marks = new MarkTable(dialect, runKey, loads.get(0).delivery().table());
        this.done = new MarkTable(dialect, ownKey, loads.get(0).delivery().table());
        List<TableDescription> described = DatabaseTarget.describeAll(address, loads);
        this.connection = dialect.connect(address, Dialect.Use.LOADS);
        try {
            for (int i = 0; i < loads.size(); i++) {
                tables.add(new Table(loads.get(i), described.get(i), i));
            }
            connection.setAutoCommit(false);
        } catch (SQLException e) {
            close();
            throw dialect.explain(e, "prepare to take back");
        }
    }

    /**
     * What was taken back of a run before, in the transaction that this process may not have heard the end of.
     *
     * @return empty where it was not; in each outcome what was left is counted, but not listed
     */
    public static Optional<List<TakenBack>> before(DatabaseAddress address, List<TableLoad> loads, String ownKey)
            throws TargetException {
        Dialect dialect = Dialect.of(address);
        String name = loads.get(0).delivery().table();
        try (Connection connection = dialect.connectBriefly(address, Dialect.Use.STATEMENTS)) {
            return new MarkTable(dialect, ownKey, name)
                    .look(connection)
                    .map(mark -> List.of(new TakenBack(
                            DatabaseTarget.names(loads),
                            mark.tally().removed(),
                            mark.tally().unchanged(),
                            mark.tally().withoutRows(),
                            List.of())));
        } catch (SQLException e) {
            throw dialect.explain(e, "see what was taken back of " + name);
        }
    }

    /** The unique key by which rows of a delivery are known; empty where there is none whose columns all have values. */
    public static List<String> keyOf(TableLoad load, TableDescription described) {
        List<List<String>> keys = new ArrayList<>();
        if (!load.delivery().key().isEmpty()) {
            keys.add(load.delivery().key());
        }
        keys.addAll(described.uniqueKeys());
        return keys.stream()
                .filter(k -> k.stream().allMatch(c -> load.columns().stream().anyMatch(c::equalsIgnoreCase)))
                .findFirst()
                .map(k -> k.stream()
                        .map(c -> described.column(c).orElseThrow().name())
                        .toList())
                .orElse(List.of());
    }

    /** Takes rows of a table back; those of children come before those of their parents. */
    public void take(int table, RowBuffer rows) throws TargetException {
        if (rows.rows() == 0) {
            return;
        }
        try {
            tables.get(table).take(rows);
        } catch (SQLException e) {
            throw dialect.explain(e, "take rows back");
        }
    }

    /** Makes it final, and forgets the mark of the run. */
    public List<TakenBack> commit() throws TargetException {
        try {
            marks.forget(connection);
            done.insert(connection, account());
            connection.commit();
            return tables.stream()
                    .map(t -> new TakenBack(t.name, t.removed, t.changed, t.gone, List.copyOf(t.left)))
                    .toList();
        } catch (SQLException e) {
            throw dialect.explain(e, "take rows back");
        }
    }

    /** The sums of all tables, as the tally of a mark. */
    private Mark account() {
        Tally tally = new Tally(
                0,
                0,
                0,
                0,
                tables.stream().mapToLong(t -> t.changed).sum(),
                0,
                0,
                0,
                0,
                tables.stream().mapToLong(t -> t.gone).sum(),
                tables.stream().mapToLong(t -> t.removed).sum());
        return new Mark(Position.START, tally, Shares.NONE, 1, 0, "", true);
    }

    @Override
    public void close() {
        try {
            if (!connection.isClosed()) {
                if (!connection.getAutoCommit()) {
                    connection.rollback();
                }
                connection.close();
            }
        } catch (SQLException e) {
            // What was not committed is rolled back by the server.
        }
    }
}
