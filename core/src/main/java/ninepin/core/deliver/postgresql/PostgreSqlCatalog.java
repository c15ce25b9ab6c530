package ninepin.core.deliver.postgresql;

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
import ninepin.core.deliver.TableDescription.ForeignKey;
import ninepin.core.deliver.database.Catalog;
import ninepin.core.deliver.database.TableName;

/** Reads the tables of a PostgreSQL database from its system catalogs. */
final class PostgreSqlCatalog implements Catalog {

    /** Tables, partitioned ones among them, and views; kinds as {@code pg_class.relkind} has them. */
    private static final String KINDS = "c.relkind IN ('r', 'p', 'v', 'm')";

    private final Connection connection;

    PostgreSqlCatalog(Connection connection) {
        this.connection = connection;
    }

    @Override
    public List<Listed> tables() throws SQLException {
        List<Listed> all = new ArrayList<>();
        try (PreparedStatement s = connection.prepareStatement(
                        "SELECT n.nspname, c.relname, c.relkind IN ('v', 'm'), has_table_privilege(c.oid, 'SELECT'),"
                                + " has_table_privilege(c.oid, 'INSERT'), n.nspname = current_schema()"
                                + " FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace WHERE " + KINDS
                                + " AND NOT c.relispartition AND has_schema_privilege(n.oid, 'USAGE')"
                                + " AND n.nspname <> 'information_schema' AND left(n.nspname, 3) <> 'pg_'"
                                + " ORDER BY n.nspname <> current_schema(), 1, 2");
                ResultSet r = s.executeQuery()) {
            while (r.next()) {
                if (!r.getString(2).startsWith(OWN)) {
                    String name = r.getBoolean(6) ? r.getString(2) : r.getString(1) + "." + r.getString(2);
                    all.add(new Listed(name, r.getBoolean(3), r.getBoolean(4), r.getBoolean(5)));
                }
            }
        }
        return all;
    }

    @Override
    public Optional<TableDescription> describe(String table) throws SQLException {
        TableName name = TableName.parse(table);
        try (PreparedStatement s = connection.prepareStatement(
                "SELECT c.oid, n.nspname, c.relname, c.relkind IN ('v', 'm'), obj_description(c.oid, 'pg_class'),"
                        + " c.reltuples::bigint FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE n.nspname = COALESCE(?, current_schema()) AND c.relname = ? AND " + KINDS)) {
            s.setString(1, name.schema());
            s.setString(2, name.table());
            try (ResultSet r = s.executeQuery()) {
                if (!r.next()) {
                    return Optional.empty();
                }
                long oid = r.getLong(1);
                return Optional.of(new TableDescription(
                        r.getString(2),
                        r.getString(3),
                        "",
                        true,
                        r.getBoolean(4),
                        r.getString(5) == null ? "" : r.getString(5),
                        r.getLong(6),
                        columns(oid),
                        uniqueKeys(oid),
                        foreignKeys(oid)));
            }
        }
    }

    private List<Column> columns(long table) throws SQLException {
        List<Column> columns = new ArrayList<>();
        try (PreparedStatement s = connection.prepareStatement(
                "SELECT a.attname, format_type(a.atttypid, a.atttypmod), t.typname, a.atttypmod, NOT a.attnotnull,"
                        + " a.atthasdef OR a.attidentity <> '', a.attgenerated <> '', col_description(a.attrelid, a.attnum),"
                        + " a.attidentity <> '' OR COALESCE(pg_get_expr(d.adbin, d.adrelid), '') LIKE 'nextval(%', t.typtype"
                        + " FROM pg_attribute a JOIN pg_type t ON t.oid = a.atttypid"
                        + " LEFT JOIN pg_attrdef d ON d.adrelid = a.attrelid AND d.adnum = a.attnum"
                        + " WHERE a.attrelid = ? AND a.attnum > 0 AND NOT a.attisdropped ORDER BY a.attnum")) {
            s.setLong(1, table);
            try (ResultSet r = s.executeQuery()) {
                while (r.next()) {
                    columns.add(column(r));
                }
            }
        }
        return columns;
    }

    private static Column column(ResultSet r) throws SQLException {
        String type = r.getString(3);
        int modifier = r.getInt(4);
        Family family = r.getString(10).equals("e") ? Family.CHOICE : family(type, r.getString(2));
        long length = family == Family.TEXT && modifier > 4 && !type.equals("text") ? modifier - 4L : 0;
        int precision = 0;
        int scale = 0;
        if (family == Family.EXACT && modifier >= 4) {
            precision = modifier - 4 >> 16 & 0xFFFF;
            scale = modifier - 4 & 0x7FF;
        } else if (family == Family.TIME || family == Family.TIMESTAMP) {
            scale = modifier < 0 ? 6 : modifier;
        } else if (family == Family.WHOLE) {
            precision = type.equals("int2") ? 4 : type.equals("int4") ? 9 : 18;
        }
        return new Column(
                r.getString(1),
                r.getString(2),
                family,
                length,
                precision,
                scale,
                r.getBoolean(5),
                r.getBoolean(6),
                r.getBoolean(7),
                r.getBoolean(9),
                r.getString(8) == null ? "" : r.getString(8));
    }

    private static Family family(String type, String label) {
        return switch (type) {
            case "varchar", "bpchar", "text", "citext", "name", "uuid" -> Family.TEXT;
            case "int2", "int4", "int8" -> Family.WHOLE;
            case "numeric" -> Family.EXACT;
            case "float4", "float8" -> Family.FLOATING;
            case "bool" -> Family.BOOLEAN_BIT;
            case "bit" -> label.equals("bit(1)") ? Family.BOOLEAN_BIT : Family.OTHER;
            case "date" -> Family.DATE;
            case "time", "timetz" -> Family.TIME;
            case "timestamp", "timestamptz" -> Family.TIMESTAMP;
            case "bytea" -> Family.BINARY;
            default -> Family.OTHER;
        };
    }

    /** Unique indexes over columns alone, of all rows. */
    private List<List<String>> uniqueKeys(long table) throws SQLException {
        return listed(
                        "SELECT i.indexrelid::text, a.attname, '', '' FROM pg_index i"
                                + " CROSS JOIN LATERAL unnest(i.indkey) WITH ORDINALITY AS k(attnum, place)"
                                + " JOIN pg_attribute a ON a.attrelid = i.indrelid AND a.attnum = k.attnum"
                                + " WHERE i.indrelid = ? AND i.indisunique AND i.indisvalid AND i.indpred IS NULL"
                                + " AND i.indexprs IS NULL AND k.place <= i.indnkeyatts"
                                + " ORDER BY NOT i.indisprimary, i.indexrelid, k.place",
                        table)
                .stream()
                .map(ForeignKey::columns)
                .toList();
    }

    private List<ForeignKey> foreignKeys(long table) throws SQLException {
        return listed(
                "SELECT f.conname, a.attname, CASE WHEN n.nspname = current_schema() THEN c.relname"
                        + " ELSE n.nspname || '.' || c.relname END, b.attname FROM pg_constraint f"
                        + " CROSS JOIN LATERAL unnest(f.conkey, f.confkey) WITH ORDINALITY AS k(own, other, place)"
                        + " JOIN pg_attribute a ON a.attrelid = f.conrelid AND a.attnum = k.own"
                        + " JOIN pg_attribute b ON b.attrelid = f.confrelid AND b.attnum = k.other"
                        + " JOIN pg_class c ON c.oid = f.confrelid JOIN pg_namespace n ON n.oid = c.relnamespace"
                        + " WHERE f.conrelid = ? AND f.contype = 'f' ORDER BY f.conname, k.place",
                table);
    }

    /** Keys of several columns, a row for each: the name of the key, a column, the table it refers to, its column there. */
    private List<ForeignKey> listed(String query, long table) throws SQLException {
        Map<String, ForeignKey> keys = new LinkedHashMap<>();
        try (PreparedStatement s = connection.prepareStatement(query)) {
            s.setLong(1, table);
            try (ResultSet r = s.executeQuery()) {
                while (r.next()) {
                    ForeignKey part = new ForeignKey(List.of(r.getString(2)), r.getString(3), List.of(r.getString(4)));
                    keys.merge(r.getString(1), part, ForeignKey::and);
                }
            }
        }
        return new ArrayList<>(keys.values());
    }
}
