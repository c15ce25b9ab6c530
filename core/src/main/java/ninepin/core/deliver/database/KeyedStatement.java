package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.TableDescription;
import ninepin.core.shape.RowBuffer;

/**
 * Changes, adds what is missing, or removes by key: the rows go into a temporary table and from there into the target in
 * one statement. What becomes of each row is counted as if they came one by one, so the counts are the same however the
 * file is cut into parts.
 */
public final class KeyedStatement implements BulkStatement {

    private final Dialect dialect;
    private final Connection connection;
    private final Mode mode;
    private final String staging;
    private final RowLoader loader;
    private final String count;
    /** The statements that do it, in order. */
    private final List<String> merge;

    private final String withoutKey;
    private final List<String> key;

    /**
     * @param columns the columns of the rows, as the table writes them
     * @param key the columns of the key, as the table writes them
     * @param number tells the statements of one connection apart
     */
    KeyedStatement(
            Dialect dialect,
            Connection connection,
            Mode mode,
            TableName name,
            List<String> columns,
            List<String> key,
            TableDescription described,
            int number)
            throws SQLException {
        this(dialect, connection, mode, name, dialect.quoted(Dialect.STAGING + number), columns, key, described);
        String table = name.sql(dialect);
        try (Statement s = connection.createStatement()) {
            for (String make : dialect.staging(staging, table, columns, described, true)) {
                s.execute(make);
            }
        }
    }

    /** Of a table for rows on their way that is there. */
    private KeyedStatement(
            Dialect dialect,
            Connection connection,
            Mode mode,
            TableName name,
            String staging,
            List<String> columns,
            List<String> key,
            TableDescription described) {
        this.dialect = dialect;
        this.connection = connection;
        this.mode = mode;
        this.key = key;
        this.staging = staging;
        String table = name.sql(dialect);
        this.loader = dialect.loader(connection, staging, columns, described);
        List<String> others = columns.stream().filter(c -> !key.contains(c)).toList();
        this.withoutKey = "SELECT COUNT(*) FROM " + staging + " WHERE "
                + key.stream().map(k -> dialect.quoted(k) + " IS NULL").collect(Collectors.joining(" OR "));
        this.count = count(table, others);
        boolean apart = mode == Mode.ADD_OR_CHANGE && dialect.othersMayCollide(described, columns, key);
        this.merge = apart
                ? Stream.of(merge(Mode.CHANGE, table, columns, others), merge(Mode.ADD_MISSING, table, columns, others))
                        .filter(Objects::nonNull)
                        .toList()
                : Stream.ofNullable(merge(mode, table, columns, others)).toList();
    }

    /**
     * Does what a mode does with rows that stand in a table already, all at once.
     *
     * @param staging the table as it stands in SQL
     */
    static Outcome merge(
            Dialect dialect,
            Connection connection,
            Mode mode,
            TableName name,
            String staging,
            List<String> columns,
            List<String> key,
            TableDescription described)
            throws SQLException {
        KeyedStatement statement =
                new KeyedStatement(dialect, connection, mode, name, staging, columns, key, described);
        try (Statement s = connection.createStatement()) {
            if (number(s, statement.withoutKey) > 0) {
                return Outcome.refused(statement.noKey());
            }
            return statement.merge(s, number(s, "SELECT COUNT(*) FROM " + staging));
        }
    }

    private String noKey() {
        return "A row has no value in its key (" + String.join(", ", key) + ")";
    }

    /** Counts first rows of a key that is there and that is not, and rows that differ from what is there before them. */
    private String count(String table, List<String> others) {
        String seq = dialect.quoted(Dialect.SEQUENCE);
        String window = "(PARTITION BY " + dialect.listed("s", key) + " ORDER BY s." + seq + ")";
        String fromTable = others.stream()
                .map(dialect::quoted)
                .map(c -> dialect.differ("s." + c, "t." + c))
                .collect(Collectors.joining(" OR "));
        String fromBefore = others.stream()
                .map(dialect::quoted)
                .map(c -> dialect.differ("s." + c, "LAG(s." + c + ") OVER " + window))
                .collect(Collectors.joining(" OR "));
        String there = "t." + dialect.quoted(key.get(0)) + " IS NOT NULL";
        return "SELECT SUM(CASE WHEN n = 1 AND there = 0 THEN 1 ELSE 0 END), SUM(CASE WHEN n = 1 AND there = 1 THEN 1 ELSE 0 END),"
                + " SUM(CASE WHEN n = 1 AND there = 1 AND other = 1 OR n > 1 AND again = 1 THEN 1 ELSE 0 END),"
                + " SUM(CASE WHEN there = 0 THEN 1 ELSE 0 END) FROM (SELECT ROW_NUMBER() OVER "
                + window + " AS n, CASE WHEN " + there + " THEN 1 ELSE 0 END AS there, CASE WHEN "
                + (others.isEmpty() ? "1 = 0" : fromTable) + " THEN 1 ELSE 0 END AS other, CASE WHEN "
                + (others.isEmpty() ? "1 = 0" : fromBefore) + " THEN 1 ELSE 0 END AS again FROM " + staging
                + " s LEFT JOIN "
                + table + " t ON " + dialect.sameKey("t", "s", key) + ") counted";
    }

    private String merge(Mode what, String table, List<String> columns, List<String> others) {
        String seq = dialect.quoted(Dialect.SEQUENCE);
        // Of two rows with one key the first one is added, and the last one counts where rows are changed.
        String order = mode == Mode.ADD_MISSING ? "<" : ">";
        String once = "(SELECT * FROM " + staging + " a WHERE NOT EXISTS (SELECT 1 FROM " + staging + " b WHERE "
                + dialect.sameKey("b", "a", key) + " AND b." + seq + " " + order + " a." + seq + "))";
        return switch (what) {
            case ADD_OR_CHANGE -> dialect.addOrChange(table, once, columns, key, others);
            case CHANGE -> others.isEmpty() ? null : dialect.change(table, once, key, others);
            case REMOVE -> dialect.remove(table, once, key);
            default ->
                "INSERT INTO " + table + " (" + dialect.listed(columns) + ") SELECT " + dialect.listed("s", columns)
                        + " FROM " + once + " s WHERE NOT EXISTS (SELECT 1 FROM " + table + " t WHERE "
                        + dialect.sameKey("t", "s", key) + ")";
        };
    }

    @Override
    public Outcome load(RowBuffer rows, int first, int end) throws SQLException {
        try (Statement s = connection.createStatement()) {
            s.executeUpdate("DELETE FROM " + staging);
            String refusal = loader.load(rows, first, end);
            if (refusal != null) {
                return Outcome.refused(refusal);
            }
            if (number(s, withoutKey) > 0) {
                return Outcome.refused(noKey());
            }
            return merge(s, end - first);
        }
    }

    private Outcome merge(Statement s, long rows) throws SQLException {
        long missing;
        long there;
        long changed;
        long without;
        try (ResultSet r = s.executeQuery(count)) {
            r.next();
            missing = r.getLong(1);
            there = r.getLong(2);
            changed = r.getLong(3);
            without = r.getLong(4);
        }
        if (mode == Mode.CHANGE && without > 0) {
            return Outcome.refused("No row of the table has this key (" + String.join(", ", key) + ")");
        }
        for (String statement : merge) {
            s.executeLargeUpdate(statement);
        }
        return switch (mode) {
            case ADD_OR_CHANGE -> new Outcome(missing, changed, rows - missing - changed, 0, null);
            case CHANGE -> new Outcome(0, changed, rows - changed, 0, null);
            case REMOVE -> new Outcome(0, 0, rows - there, there, null);
            default -> new Outcome(missing, 0, rows - missing, 0, null);
        };
    }

    private static long number(Statement s, String query) throws SQLException {
        try (ResultSet r = s.executeQuery(query)) {
            r.next();
            return r.getLong(1);
        }
    }
}
