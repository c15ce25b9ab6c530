package ninepin.core.deliver.mariadb;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;

/** Reads the tables of a MariaDB database from its information schema (ISO/IEC 9075-11). */
public final class TableCatalog {

    private final Connection connection;

    public TableCatalog(Connection connection) {
        this.connection = connection;
    }

    /** The names of the base tables of the current database, Ninepin's own left out. */
    public List<String> tables() throws SQLException {
        List<String> names = new ArrayList<>();
        try (PreparedStatement s = connection.prepareStatement(
                        "SELECT table_name FROM information_schema.tables WHERE table_schema = DATABASE()"
                                + " AND table_type = 'BASE TABLE' ORDER BY table_name");
                ResultSet rows = s.executeQuery()) {
            while (rows.next()) {
                if (!rows.getString(1).startsWith(MarkTable.PREFIX)) {
                    names.add(rows.getString(1));
                }
            }
        }
        return names;
    }

    /** A table by its name, with or without schema; empty when there is none. */
    public Optional<TableDescription> describe(String table) throws SQLException {
        TableName name = TableName.parse(table);
        String engine = null;
        String schema = null;
        try (PreparedStatement s = connection.prepareStatement(
                "SELECT table_schema, table_name, engine FROM information_schema.tables"
                        + " WHERE table_schema = COALESCE(?, DATABASE()) AND table_name = ? AND table_type = 'BASE TABLE'")) {
            s.setString(1, name.schema());
            s.setString(2, name.table());
            try (ResultSet rows = s.executeQuery()) {
                if (!rows.next()) {
                    return Optional.empty();
                }
                schema = rows.getString(1);
                engine = rows.getString(3);
            }
        }
        List<Column> columns = columns(schema, name.table());
        return Optional.of(
                new TableDescription(schema, name.table(), engine, columns, uniqueKeys(schema, name.table())));
    }

    private List<Column> columns(String schema, String table) throws SQLException {
        List<Column> columns = new ArrayList<>();
        try (PreparedStatement s = connection.prepareStatement(
                "SELECT column_name, column_type, data_type, character_maximum_length, numeric_precision, numeric_scale,"
                        + " datetime_precision, is_nullable, column_default, extra, column_comment, is_generated"
                        + " FROM information_schema.columns WHERE table_schema = ? AND table_name = ?"
                        + " ORDER BY ordinal_position")) {
            s.setString(1, schema);
            s.setString(2, table);
            try (ResultSet r = s.executeQuery()) {
                while (r.next()) {
                    columns.add(column(r));
                }
            }
        }
        return columns;
    }

    private static Column column(ResultSet r) throws SQLException {
        String label = r.getString(2);
        Family family = family(r.getString(3), label);
        boolean nullable = "YES".equals(r.getString(8));
        String extra = r.getString(10) == null ? "" : r.getString(10);
        // A nullable column's implicit default is the text NULL in MariaDB's information schema.
        boolean hasDefault = r.getString(9) != null || extra.contains("auto_increment");
        boolean generated = "ALWAYS".equals(r.getString(12));
        int scale = family == Family.TIMESTAMP || family == Family.TIME ? r.getInt(7) : r.getInt(6);
        return new Column(
                r.getString(1),
                label,
                family,
                r.getLong(4),
                precision(r.getString(3), label, r.getInt(5)),
                scale,
                nullable,
                hasDefault,
                generated,
                r.getString(11));
    }

    private static int precision(String type, String label, int reported) {
        switch (type) {
            case "tinyint":
                return 2;
            case "smallint":
                return 4;
            case "mediumint":
                return 6;
            case "int":
                return 9;
            case "bigint":
                return 18;
            default:
                return reported;
        }
    }

    private static Family family(String type, String label) {
        switch (type) {
            case "char", "varchar", "text", "tinytext", "mediumtext", "longtext", "inet4", "inet6", "uuid":
                return Family.TEXT;
            case "tinyint", "smallint", "mediumint", "int", "bigint":
                return Family.WHOLE;
            case "decimal":
                return Family.EXACT;
            case "float", "double":
                return Family.FLOATING;
            case "bit":
                return label.equals("bit(1)") ? Family.BOOLEAN_BIT : Family.OTHER;
            case "date":
                return Family.DATE;
            case "time":
                return Family.TIME;
            case "datetime", "timestamp":
                return Family.TIMESTAMP;
            case "year":
                return Family.YEAR;
            case "enum":
                return Family.CHOICE;
            case "binary", "varbinary", "blob", "tinyblob", "mediumblob", "longblob":
                return Family.BINARY;
            default:
                return Family.OTHER;
        }
    }

    private List<List<String>> uniqueKeys(String schema, String table) throws SQLException {
        Map<String, List<String>> keys = new LinkedHashMap<>();
        try (PreparedStatement s = connection.prepareStatement(
                "SELECT index_name, column_name FROM information_schema.statistics WHERE table_schema = ?"
                        + " AND table_name = ? AND non_unique = 0"
                        + " ORDER BY index_name <> 'PRIMARY', index_name, seq_in_index")) {
            s.setString(1, schema);
            s.setString(2, table);
            try (ResultSet rows = s.executeQuery()) {
                while (rows.next()) {
                    keys.computeIfAbsent(rows.getString(1), k -> new ArrayList<>())
                            .add(rows.getString(2));
                }
            }
        }
        return new ArrayList<>(keys.values());
    }
}
