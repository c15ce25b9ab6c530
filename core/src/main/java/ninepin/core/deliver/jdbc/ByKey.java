package ninepin.core.deliver.jdbc;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.database.RowByRow;
import ninepin.core.deliver.database.SilentLoss;
import ninepin.core.shape.RowBuffer;

/**
 * Changes, adds what is missing, or removes by key, a row at a time: no staging tables, whose statements every database writes in
 * its own way, and no statement beyond the standard's.
 */
final class ByKey extends RowByRow {

    private final AnyDatabase dialect;
    private final Connection connection;
    private final Mode mode;
    private final String table;
    private final List<Column> columns;
    private final List<Integer> keyFields;
    private final List<Integer> otherFields;
    private final SilentLoss loss;
    private final String insert;

    ByKey(
            AnyDatabase dialect,
            Connection connection,
            Mode mode,
            String table,
            List<String> names,
            List<String> key,
            TableDescription described) {
        super(dialect);
        this.dialect = dialect;
        this.connection = connection;
        this.mode = mode;
        this.table = table;
        this.columns =
                names.stream().map(c -> described.column(c).orElseThrow()).toList();
        this.keyFields = key.stream().map(names::indexOf).toList();
        this.otherFields = new ArrayList<>();
        for (int i = 0; i < names.size(); i++) {
            if (!keyFields.contains(i)) {
                otherFields.add(i);
            }
        }
        this.loss = new SilentLoss(columns);
        this.insert = dialect.insert(table, names);
    }

    @Override
    public Outcome load(RowBuffer rows, int first, int end) throws SQLException {
        String lost = loss.of(rows, first, end);
        if (lost != null) {
            return Outcome.refused(lost);
        }
        long[] counts = new long[4];
        String refusal = each(rows, first, end, row -> {
            try {
                return take(row, counts);
            } catch (JdbcValues.NotOfType e) {
                return e.getMessage();
            }
        });
        return refusal == null
                ? new Outcome(counts[0], counts[1], counts[2], counts[3], null)
                : Outcome.refused(refusal);
    }

    private String take(List<String> row, long[] counts) throws SQLException, JdbcValues.NotOfType {
        if (keyFields.stream().anyMatch(k -> row.get(k) == null)) {
            return "A row has no value in its key (" + names(keyFields) + ")";
        }
        boolean there = count(row, keyFields) > 0;
        switch (mode) {
            case REMOVE -> counts[there ? 3 : 2] += there ? change("DELETE FROM " + table, List.of(), row) : 1;
            case ADD_MISSING -> {
                if (there) {
                    counts[2]++;
                } else {
                    counts[0] += add(row);
                }
            }
            case CHANGE, ADD_OR_CHANGE -> {
                if (!there && mode == Mode.CHANGE) {
                    return "No row of the table has this key (" + names(keyFields) + ")";
                }
                if (!there) {
                    counts[0] += add(row);
                } else if (otherFields.isEmpty() || count(row, all()) > 0) {
                    counts[2]++;
                } else {
                    change(
                            "UPDATE " + table + " SET "
                                    + otherFields.stream()
                                            .map(f -> dialect.quoted(
                                                            columns.get(f).name()) + " = ?")
                                            .collect(Collectors.joining(", ")),
                            otherFields,
                            row);
                    counts[1]++;
                }
            }
            default -> throw new IllegalStateException(mode + " knows no key");
        }
        return null;
    }

    private List<Integer> all() {
        List<Integer> all = new ArrayList<>(keyFields);
        all.addAll(otherFields);
        return all;
    }

    private String names(List<Integer> fields) {
        return fields.stream().map(f -> columns.get(f).name()).collect(Collectors.joining(", "));
    }

    private long add(List<String> row) throws SQLException, JdbcValues.NotOfType {
        try (PreparedStatement s = connection.prepareStatement(insert)) {
            dialect.fill(s, 1, columns, row);
            return s.executeUpdate();
        }
    }

    /** How many rows of the table have the values of some fields. */
    private long count(List<String> row, List<Integer> fields) throws SQLException, JdbcValues.NotOfType {
        String sql = "SELECT COUNT(*) FROM " + table + where(row, fields);
        try (PreparedStatement s = connection.prepareStatement(sql)) {
            fillWhere(s, 1, row, fields);
            try (ResultSet r = s.executeQuery()) {
                r.next();
                return r.getLong(1);
            }
        }
    }

    private long change(String what, List<Integer> sets, List<String> row) throws SQLException, JdbcValues.NotOfType {
        try (PreparedStatement s = connection.prepareStatement(what + where(row, keyFields))) {
            int at = 1;
            for (int field : sets) {
                JdbcValues.set(s, at++, columns.get(field), row.get(field));
            }
            fillWhere(s, at, row, keyFields);
            return s.executeUpdate();
        }
    }

    private String where(List<String> row, List<Integer> fields) {
        return " WHERE "
                + fields.stream()
                        .map(f -> dialect.quoted(columns.get(f).name()) + (row.get(f) == null ? " IS NULL" : " = ?"))
                        .collect(Collectors.joining(" AND "));
    }

    private void fillWhere(PreparedStatement s, int from, List<String> row, List<Integer> fields)
            throws SQLException, JdbcValues.NotOfType {
        int at = from;
        for (int field : fields) {
            if (row.get(field) != null) {
                JdbcValues.set(s, at++, columns.get(field), row.get(field));
            }
        }
    }
}
