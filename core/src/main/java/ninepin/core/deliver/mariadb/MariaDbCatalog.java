package ninepin.core.deliver.mariadb;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;
import ninepin.core.deliver.TableDescription.ForeignKey;
import ninepin.core.deliver.database.Catalog;
import ninepin.core.deliver.database.TableName;

/** Reads the tables of a MariaDB database from its information schema (ISO/IEC 9075-11). */
final class MariaDbCatalog implements Catalog {

    /** The user as grants name it, with the quotes that the information schema has around both parts. */
    private static final String GRANTEE =
            "CONCAT(CHAR(39), REPLACE(CURRENT_USER(), '@', CONCAT(CHAR(39), '@', CHAR(39))), CHAR(39))";

    private final Connection connection;

    MariaDbCatalog(Connection connection) {
        this.connection = connection;
    }

    @Override
    public List<Listed> tables() throws SQLException {
        Set<String> everywhere = rights("user_privileges", "1 = 1");
        everywhere.addAll(rights("schema_privileges", "DATABASE() LIKE table_schema"));
        List<Listed> all = new ArrayList<>();
        try (PreparedStatement s = connection.prepareStatement(
                        "SELECT table_name, table_type FROM information_schema.tables WHERE table_schema = DATABASE()"
                                + " AND table_type IN ('BASE TABLE', 'VIEW') ORDER BY table_name");
                ResultSet rows = s.executeQuery()) {
            while (rows.next()) {
                String name = rows.getString(1);
                if (!name.startsWith(OWN)) {
                    all.add(new Listed(name, rows.getString(2).equals("VIEW"), true, true));
                }
            }
        }
        if (everywhere.contains("SELECT") && everywhere.contains("INSERT")) {
            return all;
        }
        List<Listed> judged = new ArrayList<>();
        for (Listed one : all) {
            Set<String> own = rights("table_privileges", "table_schema = DATABASE() AND table_name = ?", one.name());
            own.addAll(everywhere);
            judged.add(new Listed(one.name(), one.view(), own.contains("SELECT"), own.contains("INSERT")));
        }
        return judged;
    }

    /** The rights that the user has by a kind of grant; those of roles are not told by the server. */
    private Set<String> rights(String of, String where, String... values) throws SQLException {
        Set<String> rights = new HashSet<>();
        try (PreparedStatement s = connection.prepareStatement("SELECT privilege_type FROM information_schema." + of
                + " WHERE grantee = " + GRANTEE + " AND " + where)) {
            for (int i = 0; i < values.length; i++) {
                s.setString(i + 1, values[i]);
            }
            try (ResultSet rows = s.executeQuery()) {
                while (rows.next()) {
                    rights.add(rows.getString(1));
                }
            }
        }
        return rights;
    }

    @Override
    public Optional<TableDescription> describe(String table) throws SQLException {
        TableName name = TableName.parse(table);
        try (PreparedStatement s = connection.prepareStatement(
                "SELECT table_schema, table_name, engine, table_type, table_comment, table_rows"
                        + " FROM information_schema.tables WHERE table_schema = COALESCE(?, DATABASE())"
                        + " AND table_name = ? AND table_type IN ('BASE TABLE', 'VIEW')")) {
            s.setString(1, name.schema());
            s.setString(2, name.table());
            try (ResultSet r = s.executeQuery()) {
                if (!r.next()) {
                    return Optional.empty();
                }
                String schema = r.getString(1);
                String engine = r.getString(3) == null ? "" : r.getString(3);
                boolean view = r.getString(4).equals("VIEW");
                long rows = r.getLong(6);
                return Optional.of(new TableDescription(
                        schema,
                        name.table(),
                        engine,
                        "InnoDB".equalsIgnoreCase(engine),
                        view,
                        view ? "" : r.getString(5),
                        r.wasNull() ? -1 : rows,
                        columns(schema, name.table()),
                        uniqueKeys(schema, name.table()),
                        foreignKeys(schema, name.table())));
            }
        }
    }

    private List<ForeignKey> foreignKeys(String schema, String table) throws SQLException {
        Map<String, ForeignKey> keys = new LinkedHashMap<>();
        try (PreparedStatement s = connection.prepareStatement(
                "SELECT constraint_name, column_name, referenced_table_schema, referenced_table_name, referenced_column_name"
                        + " FROM information_schema.key_column_usage WHERE table_schema = ? AND table_name = ?"
                        + " AND referenced_table_name IS NOT NULL ORDER BY constraint_name, ordinal_position")) {
            s.setString(1, schema);
            s.setString(2, table);
            try (ResultSet r = s.executeQuery()) {
                while (r.next()) {
                    String to = r.getString(3).equals(schema) ? r.getString(4) : r.getString(3) + "." + r.getString(4);
                    ForeignKey part = new ForeignKey(List.of(r.getString(2)), to, List.of(r.getString(5)));
                    keys.merge(r.getString(1), part, ForeignKey::and);
                }
            }
        }
        return new ArrayList<>(keys.values());
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
                extra.contains("auto_increment"),
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
