package ninepin.core.deliver.jdbc;

import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;
import ninepin.core.deliver.TableDescription.ForeignKey;
import ninepin.core.deliver.database.Catalog;
import ninepin.core.deliver.database.TableName;

/** Reads the tables of a database from what its driver tells of them. */
final class JdbcCatalog implements Catalog {

    private static final String[] KINDS = {"TABLE", "BASE TABLE", "PARTITIONED TABLE", "VIEW"};

    /** A size from which on a driver means that there is none. */
    private static final int UNBOUNDED = 100_000_000;
    /** The most digits of a second that columns are taken to have. */
    private static final int MICROS = 6;

    private final Connection connection;

    JdbcCatalog(Connection connection) {
        this.connection = connection;
    }

    private String currentSchema() throws SQLException {
        try {
            return connection.getSchema();
        } catch (SQLException | AbstractMethodError e) {
            return null;
        }
    }

    @Override
    public List<Listed> tables() throws SQLException {
        String usual = currentSchema();
        List<Listed> all = new ArrayList<>();
        try (ResultSet r = connection.getMetaData().getTables(connection.getCatalog(), null, "%", KINDS)) {
            while (r.next()) {
                String schema = r.getString("TABLE_SCHEM");
                String name = r.getString("TABLE_NAME");
                if (isOfTheSystem(schema) || name.toLowerCase(Locale.ROOT).startsWith(OWN)) {
                    continue;
                }
                boolean view = "VIEW".equals(r.getString("TABLE_TYPE"));
                boolean here = schema == null || schema.isEmpty() || schema.equals(usual);
                all.add(new Listed(here ? name : schema + "." + name, view, true, !view));
            }
        }
        return all;
    }

    private static boolean isOfTheSystem(String schema) {
        return schema != null
                && (schema.equalsIgnoreCase("information_schema")
                        || schema.toLowerCase(Locale.ROOT).startsWith("sys"));
    }

    /** What a table is called in the catalogue. */
    private record Found(String schema, String name, boolean view, String comment) {}

    private Optional<Found> find(String table) throws SQLException {
        TableName wanted = TableName.parse(table);
        String schema = wanted.schema() == null ? currentSchema() : wanted.schema();
        Found other = null;
        try (ResultSet r = connection.getMetaData().getTables(connection.getCatalog(), null, "%", KINDS)) {
            while (r.next()) {
                String in = r.getString("TABLE_SCHEM");
                String name = r.getString("TABLE_NAME");
                boolean there = in == null || in.isEmpty() || schema == null || in.equalsIgnoreCase(schema);
                if (!there || !name.equalsIgnoreCase(wanted.table())) {
                    continue;
                }
                String remarks = r.getString("REMARKS");
                Found found =
                        new Found(in, name, "VIEW".equals(r.getString("TABLE_TYPE")), remarks == null ? "" : remarks);
                if (name.equals(wanted.table())) {
                    return Optional.of(found);
                }
                other = found;
            }
        }
        return Optional.ofNullable(other);
    }

    @Override
    public Optional<TableDescription> describe(String table) throws SQLException {
        Optional<Found> found = find(table);
        return found.isEmpty() ? Optional.empty() : Optional.of(describe(found.get()));
    }

    private TableDescription describe(Found table) throws SQLException {
        DatabaseMetaData of = connection.getMetaData();
        return new TableDescription(
                table.schema() == null ? "" : table.schema(),
                table.name(),
                of.getDatabaseProductName(),
                of.supportsTransactions(),
                table.view(),
                table.comment(),
                -1,
                columns(of, table),
                uniqueKeys(of, table),
                foreignKeys(of, table));
    }

    private List<Column> columns(DatabaseMetaData of, Found table) throws SQLException {
        List<Column> columns = new ArrayList<>();
        try (ResultSet r = of.getColumns(connection.getCatalog(), table.schema(), pattern(of, table.name()), "%")) {
            while (r.next()) {
                if (r.getString("TABLE_NAME").equals(table.name())) {
                    columns.add(column(r));
                }
            }
        }
        return columns;
    }

    /** A name as a pattern that fits nothing else. */
    private static String pattern(DatabaseMetaData of, String name) throws SQLException {
        String escape = of.getSearchStringEscape();
        return escape == null || escape.isEmpty()
                ? name
                : name.replace("_", escape + "_").replace("%", escape + "%");
    }

    private static Column column(ResultSet r) throws SQLException {
        String type = r.getString("TYPE_NAME").toLowerCase(Locale.ROOT);
        int size = r.getInt("COLUMN_SIZE");
        size = size < 0 || size >= UNBOUNDED ? 0 : size;
        int digits = Math.max(0, r.getInt("DECIMAL_DIGITS"));
        Family family = family(r.getInt("DATA_TYPE"), type);
        boolean numbered = "YES".equals(text(r, "IS_AUTOINCREMENT"));
        boolean generated = "YES".equals(text(r, "IS_GENERATEDCOLUMN")) && !numbered;
        boolean exact = family == Family.EXACT && size > 0;
        // Kept as text it has as many digits as it was given.
        int ofSecond = r.getInt("DATA_TYPE") == Types.VARCHAR ? MICROS : Math.min(digits, MICROS);
        return new Column(
                r.getString("COLUMN_NAME"),
                label(type, family, size, digits),
                family,
                family == Family.TEXT ? size : 0,
                exact ? size : family == Family.WHOLE ? digitsOf(type, size) : 0,
                exact ? digits : family == Family.TIME || family == Family.TIMESTAMP ? ofSecond : 0,
                r.getInt("NULLABLE") != DatabaseMetaData.columnNoNulls,
                numbered || r.getString("COLUMN_DEF") != null,
                generated,
                numbered,
                text(r, "REMARKS") == null ? "" : text(r, "REMARKS"));
    }

    /** The digits of a whole number: drivers tell them, or bits, or nothing. */
    private static int digitsOf(String type, int size) {
        return switch (type) {
            case "tinyint" -> 3;
            case "smallint", "int2" -> 5;
            case "int", "integer", "int4", "mediumint" -> size == 0 ? 19 : 10;
            default -> 19;
        };
    }

    private static String text(ResultSet r, String column) {
        try {
            return r.getString(column);
        } catch (SQLException e) {
            // Not every driver tells all that the standard wants.
            return null;
        }
    }

    private static String label(String type, Family family, int size, int digits) {
        boolean bare = !type.contains("(") && size > 0;
        return switch (family) {
            case TEXT -> bare ? type + "(" + size + ")" : type;
            case EXACT -> bare ? type + "(" + size + "," + digits + ")" : type;
            default -> type;
        };
    }

    /** By the name of the type, where a driver has few types for many names. */
    private static Family family(int type, String name) {
        if (name.startsWith("bool") || type == Types.BOOLEAN) {
            return Family.BOOLEAN_BIT;
        }
        if (name.startsWith("timestamp") || name.startsWith("datetime")) {
            return Family.TIMESTAMP;
        }
        if (name.startsWith("dec") || name.startsWith("num")) {
            return Family.EXACT;
        }
        if (name.equals("date") && type != Types.TIMESTAMP) {
            return Family.DATE;
        }
        if (name.equals("time") || name.startsWith("time(") || name.equals("time without time zone")) {
            return Family.TIME;
        }
        return switch (type) {
            case Types.CHAR,
                    Types.VARCHAR,
                    Types.LONGVARCHAR,
                    Types.NCHAR,
                    Types.NVARCHAR,
                    Types.LONGNVARCHAR,
                    Types.CLOB -> Family.TEXT;
            case Types.TINYINT, Types.SMALLINT, Types.INTEGER, Types.BIGINT -> Family.WHOLE;
            case Types.DECIMAL, Types.NUMERIC -> Family.EXACT;
            case Types.REAL, Types.FLOAT, Types.DOUBLE -> Family.FLOATING;
            case Types.BIT -> Family.BOOLEAN_BIT;
            case Types.DATE -> Family.DATE;
            case Types.TIME -> Family.TIME;
            case Types.TIMESTAMP -> Family.TIMESTAMP;
            case Types.BINARY, Types.VARBINARY, Types.LONGVARBINARY, Types.BLOB -> Family.BINARY;
            default -> Family.OTHER;
        };
    }

    private List<List<String>> uniqueKeys(DatabaseMetaData of, Found table) throws SQLException {
        List<List<String>> keys = new ArrayList<>();
        TreeMap<Integer, String> primary = new TreeMap<>();
        try (ResultSet r = of.getPrimaryKeys(connection.getCatalog(), table.schema(), table.name())) {
            while (r.next()) {
                primary.put(r.getInt("KEY_SEQ"), r.getString("COLUMN_NAME"));
            }
        }
        if (!primary.isEmpty()) {
            keys.add(List.copyOf(primary.values()));
        }
        if (table.view()) {
            return keys;
        }
        Map<String, TreeMap<Integer, String>> indexes = new LinkedHashMap<>();
        try (ResultSet r = of.getIndexInfo(connection.getCatalog(), table.schema(), table.name(), true, true)) {
            while (r.next()) {
                if (r.getString("INDEX_NAME") != null
                        && r.getString("COLUMN_NAME") != null
                        && !r.getBoolean("NON_UNIQUE")) {
                    indexes.computeIfAbsent(r.getString("INDEX_NAME"), i -> new TreeMap<>())
                            .put(r.getInt("ORDINAL_POSITION"), r.getString("COLUMN_NAME"));
                }
            }
        }
        indexes.values().stream()
                .map(i -> List.copyOf(i.values()))
                .filter(k -> !keys.contains(k))
                .forEach(keys::add);
        return keys;
    }

    private List<ForeignKey> foreignKeys(DatabaseMetaData of, Found table) throws SQLException {
        Map<String, ForeignKey> keys = new LinkedHashMap<>();
        int unnamed = 0;
        try (ResultSet r = of.getImportedKeys(connection.getCatalog(), table.schema(), table.name())) {
            while (r.next()) {
                String name = r.getString("FK_NAME");
                if (r.getInt("KEY_SEQ") <= 1) {
                    unnamed++;
                }
                ForeignKey part = new ForeignKey(
                        List.of(r.getString("FKCOLUMN_NAME")),
                        r.getString("PKTABLE_NAME"),
                        Optional.ofNullable(r.getString("PKCOLUMN_NAME"))
                                .map(List::of)
                                .orElse(List.of()));
                keys.merge(name == null || name.isEmpty() ? "#" + unnamed : name, part, ForeignKey::and);
            }
        }
        return List.copyOf(keys.values());
    }

    /** Whether a table has a column, by their names without regard to case. */
    boolean hasColumn(String table, String column) throws SQLException {
        Optional<Found> found = find(table);
        return found.isPresent()
                && columns(connection.getMetaData(), found.get()).stream()
                        .anyMatch(c -> c.name().equalsIgnoreCase(column));
    }
}
