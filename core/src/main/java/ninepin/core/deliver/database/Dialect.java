package ninepin.core.deliver.database;

import java.security.cert.CertificateException;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.ServiceLoader;
import java.util.stream.Collectors;
import javax.net.ssl.SSLHandshakeException;
import javax.net.ssl.SSLPeerUnverifiedException;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.DatabaseKind;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TargetException;
import ninepin.core.layout.DataType;
import ninepin.core.layout.TemporalPattern;

/** What one database does otherwise than another. A further database is one more of these. */
public abstract class Dialect {

    /** Those that there are, which this class need not know by name. */
    private static final Map<DatabaseKind, Dialect> ALL =
            ServiceLoader.load(Dialect.class, Dialect.class.getClassLoader()).stream()
                    .map(ServiceLoader.Provider::get)
                    .collect(Collectors.toUnmodifiableMap(Dialect::kind, d -> d));

    /** The dialect of a database. */
    public static Dialect of(DatabaseAddress address) {
        return ALL.get(address.kind()).forAddress(address);
    }

    /** The same for one database of the kind, where they differ. */
    protected Dialect forAddress(DatabaseAddress address) {
        return this;
    }

    /** The kind of database. */
    public abstract DatabaseKind kind();

    /** What a connection is for; it can do no more than that needs. */
    public enum Use {
        /** Asking: the server refuses to write. */
        QUESTIONS,
        /** Statements that may write. */
        STATEMENTS,
        /** Statements and bulk loads, which the driver streams. */
        LOADS
    }

    /** A connection on which the server refuses what it would have to change, with UTC as its time zone. */
    public abstract Connection connect(DatabaseAddress address, Use use) throws TargetException;

    /** Keeps the driver from reading a file of this machine for a statement that a person wrote. */
    protected void keepFromFiles(PreparedStatement statement) throws SQLException {
        // Most drivers read none.
    }

    /** A connection for what takes a moment only: a server that says nothing for a minute is given up. */
    final Connection connectBriefly(DatabaseAddress address, Use use) throws TargetException {
        Connection connection = connect(address, use);
        try {
            limitSilence(connection, MOMENT_MILLIS);
            return connection;
        } catch (SQLException e) {
            DatabaseLoadConnection.closeQuietly(connection);
            throw explain(e, "connect to " + address);
        }
    }

    private static final int MOMENT_MILLIS = 60_000;

    /** How long the server may say nothing before the connection is given up; 0 for any time. */
    protected void limitSilence(Connection connection, int millis) throws SQLException {
        connection.setNetworkTimeout(Runnable::run, millis);
    }

    /** Begins a transaction that cannot write and sees one state of the database. */
    public void beginQuestions(Connection connection) throws SQLException {
        connection.setReadOnly(true);
        connection.setAutoCommit(false);
        connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
    }

    /** Whether a table has a column, in the schema in which tables without one are looked for. */
    protected boolean hasColumn(Connection connection, String table, String column) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement("SELECT COUNT(*) FROM information_schema.columns"
                + " WHERE table_schema = " + currentSchema() + " AND table_name = ? AND column_name = ?")) {
            s.setString(1, table);
            s.setString(2, column);
            try (ResultSet row = s.executeQuery()) {
                return row.next() && row.getLong(1) > 0;
            }
        }
    }

    /** A query that gives so many rows at most; who asks also sets that of the statement. */
    public String limited(String query, long rows) {
        return query + " LIMIT " + rows;
    }

    /** Whether {@code SELECT … FOR UPDATE} locks a row; else an update of it does. */
    protected boolean selectsForUpdate() {
        return true;
    }

    /** How many connections of a run may add rows side by side. */
    protected int maxConnections() {
        return 2;
    }

    /** Whether a statement can be ended from another connection. */
    protected boolean endsStatements() {
        return true;
    }

    /**
     * Whether rows can go through tables on their way: to be delivered all at once, changed by key in bulk, rehearsed in a copy,
     * and taken back.
     */
    public boolean stages() {
        return true;
    }

    /** What an error of the server means to the person who has to mend it. */
    public abstract TargetException explain(SQLException e, String doing);

    /** A server that is away or full may be there again later; everything else wants somebody to change something. */
    protected static TargetException explained(String code, String message, SQLException e) {
        boolean passes = code.equals("DBS-01") || code.equals("DBS-07");
        return new TargetException(
                passes ? TargetException.Kind.AWAY : TargetException.Kind.UNUSABLE, code, message, e);
    }

    /**
     * What keeps a connection from being encrypted to a server that is trusted, or null where it is something else. Nothing
     * of it passes by itself.
     */
    protected static TargetException untrusted(SQLException e, String words, String reason) {
        String trouble = null;
        for (Throwable cause = e; cause != null && trouble == null; cause = cause.getCause()) {
            String said = String.valueOf(cause.getMessage()).toLowerCase(Locale.ROOT);
            if (cause instanceof CertificateException
                    || cause instanceof SSLHandshakeException
                    || cause instanceof SSLPeerUnverifiedException
                    || said.contains("self signed certificate")
                    || said.contains("hostname") && said.contains("verif")) {
                trouble = "the server's certificate is not trusted, or bears another name than the connection's host.";
            } else if (said.contains("does not support ssl") || said.contains("ssl not enabled in the server")) {
                trouble = "the server offers no encrypted connection.";
            }
        }
        return trouble == null
                ? null
                : new TargetException(
                        TargetException.Kind.UNUSABLE,
                        "DBS-11",
                        words + trouble + " Give the connection the certificate of who signed the server's. (" + reason
                                + ")",
                        e);
    }

    /** The server's own words, without the driver's decoration. */
    public abstract String reason(SQLException e);

    /** Whether the statement failed for what stands in the rows, so that other rows may still load. */
    public abstract boolean isAboutRows(SQLException e);

    /** The parameter of a statement that stands for a value of a column, which is given as text. */
    public String parameter(TableDescription.Column column) {
        return "?";
    }

    /** Gives a parameter a value whose type the server finds out. */
    protected abstract void bind(PreparedStatement statement, int parameter, String value) throws SQLException;

    /** Has the server look at a statement with question marks for its parameters, without running it. */
    protected abstract void prepareOnly(Connection connection, String sql) throws SQLException;

    /** The tables there are. */
    public abstract Catalog catalog(Connection connection);

    /** An identifier, fit to stand in a statement. */
    public abstract String quoted(String identifier);

    /** A value as the server writes it. */
    public abstract String text(ResultSet row, int column) throws SQLException;

    /** The words that make an empty table like another, with its indexes and checks. */
    protected abstract String like(String name, String table, boolean temporary);

    /**
     * The statements that make a table for rows on their way, with the types of a table's columns, nothing that
     * refuses a row, and {@link #SEQUENCE} as a column that numbers them.
     */
    protected abstract List<String> staging(
            String staging, String table, List<String> columns, TableDescription described, boolean temporary);

    /** The statement that only adds rows. */
    protected final BulkStatement add(
            Connection connection, String table, List<String> columns, TableDescription described) {
        return new AddStatement(loader(connection, table, columns, described));
    }

    /** The bulk statement. */
    protected abstract RowLoader loader(
            Connection connection, String table, List<String> columns, TableDescription described);

    /**
     * The words that add rows, and change those whose key is there already; see {@link #change}.
     *
     * @param columns all columns of the rows
     */
    protected String addOrChange(
            String table, String source, List<String> columns, List<String> key, List<String> sets) {
        throw new UnsupportedOperationException("This database has a bulk statement of its own for it.");
    }

    /** Whether {@link #addOrChange} could change a row of another key than the one that is meant. */
    protected boolean othersMayCollide(TableDescription described, List<String> columns, List<String> key) {
        return false;
    }

    /** What adding or changing does with rows by their key: usually what any mode does, by a staging table that is counted first. */
    protected BulkStatement addOrChange(
            Connection connection,
            TableName table,
            List<String> columns,
            List<String> key,
            TableDescription described,
            int number)
            throws SQLException {
        return byKey(connection, TableDelivery.Mode.ADD_OR_CHANGE, table, columns, key, described, number);
    }

    /** What a mode does with rows by their key. */
    protected BulkStatement byKey(
            Connection connection,
            TableDelivery.Mode mode,
            TableName table,
            List<String> columns,
            List<String> key,
            TableDescription described,
            int number)
            throws SQLException {
        return new KeyedStatement(this, connection, mode, table, columns, key, described, number);
    }

    /**
     * The statement that changes rows of a table to those of another with the same key.
     *
     * @param source a table or query in parentheses, with each key once; stands under the name {@code s}
     * @param sets the columns that are changed
     */
    protected abstract String change(String table, String source, List<String> key, List<String> sets);

    /** The statement that removes the rows of a table whose key another has; see {@link #change}. */
    protected abstract String remove(String table, String source, List<String> key);

    /** Whether two values differ, NULL being like NULL. */
    protected abstract String differ(String a, String b);

    /** The columns of the table of marks that count something, and are in it from its beginning. */
    protected static final List<String> COUNTS = List.of(
            "next_offset",
            "next_line",
            "records",
            "rows_read",
            "rows_added",
            "rows_changed",
            "rows_unchanged",
            "rows_removed",
            "rows_rejected",
            "rows_set_aside",
            "blank",
            "notes",
            "delivered",
            "without_rows",
            "commits",
            "journal_length");

    /** The statements that make the table of marks, or bring an older one up to date. */
    protected abstract List<String> marks();

    /** The schema in which tables without one are looked for, as a statement asks for it. */
    protected abstract String currentSchema();

    /** The most connections of one process that load side by side. */
    protected static final int MOST_LANES = 8;

    /**
     * Takes a lock that the server lets go when the connection ends.
     *
     * @param name 32 hexadecimal digits
     * @param number tells the locks of one name apart, up to {@link #MOST_LANES}
     * @param seconds how long to wait for it at most
     * @return whether it was had
     */
    protected abstract boolean tryLock(Connection connection, String name, int number, int seconds) throws SQLException;

    /** Ends the connections that hold locks of a name, as far as the user may. */
    protected abstract void endHolders(Connection connection, String name) throws SQLException;

    /** Ends what a connection is doing, from another connection; see {@link #number}. */
    protected abstract void end(Connection by, long number) throws SQLException;

    /** Has the server end the connection of a process that is frozen in a transaction, which would keep rows locked for ever. */
    protected void limitIdleTransactions(Connection connection) throws SQLException {
        // Most connections say so when they are opened.
    }

    /** Ends a connection from this side, whatever its thread waits for; the server need not answer. */
    protected void giveUp(Connection connection) throws SQLException {
        connection.abort(Runnable::run);
    }

    /** The number by which the server knows a connection. */
    protected abstract long number(Connection connection) throws SQLException;

    /** The statement that makes the table of sequences. */
    protected abstract String sequences();

    /**
     * Adds rows to a table and tells the numbers that it gives them.
     *
     * @param table the table as it stands in SQL
     * @param numbered the column that the database numbers
     */
    protected abstract NumberedStatement numberedAdd(
            Connection connection, String table, List<String> columns, TableDescription described, String numbered)
            throws SQLException;

    /** What the name of a staging table begins with. */
    public static final String STAGING = "ninepin_staging_";

    /** The column that numbers the rows of a staging table. */
    public static final String SEQUENCE = "ninepin_seq";

    /**
     * The types of columns in which databases differ.
     *
     * @param mostCharacters the most characters of a VARCHAR
     * @param longText the type of longer texts
     * @param timestamp the type of a date with a time of day
     */
    public record TextAndTime(int mostCharacters, String longText, String timestamp) {}

    /** The types of columns in which databases differ. */
    protected abstract TextAndTime textAndTime();

    /** The type of a column that holds values of a field without loss. */
    private String columnType(DataType type) {
        TextAndTime own = textAndTime();
        if (type instanceof DataType.CharacterVarying t) {
            return t.length() <= own.mostCharacters() ? "VARCHAR(" + t.length() + ")" : own.longText();
        }
        if (type instanceof DataType.IntegerNumber) {
            return "BIGINT";
        }
        if (type instanceof DataType.Decimal d) {
            return "DECIMAL(" + d.precision() + "," + d.scale() + ")";
        }
        if (type instanceof DataType.Bool) {
            return "BOOLEAN";
        }
        if (type instanceof DataType.Date) {
            return "DATE";
        }
        return type instanceof DataType.Time t
                ? "TIME(" + fraction(t.pattern()) + ")"
                : own.timestamp() + "(" + fraction(((DataType.Timestamp) type).pattern()) + ")";
    }

    /** What stands behind a new table's columns. */
    protected String tableOptions() {
        return "";
    }

    /** The statement that makes a table. */
    public String create(NewTable table) {
        List<String> parts = new ArrayList<>();
        for (NewTable.Column column : table.columns()) {
            parts.add(quoted(column.name()) + " " + columnType(column.type()) + (column.required() ? " NOT NULL" : ""));
        }
        if (!table.primaryKey().isEmpty()) {
            parts.add("PRIMARY KEY (" + listed(table.primaryKey()) + ")");
        }
        return "CREATE TABLE " + TableName.parse(table.name()).sql(this) + " (\n  " + String.join(",\n  ", parts)
                + "\n)" + tableOptions();
    }

    /** The digits of the second that a type of times has, as databases know them. */
    private static int fraction(String pattern) {
        return Math.min(TemporalPattern.parse(pattern).fractionDigits(), 6);
    }

    /** A table that a delivery names, as it stands in a statement. */
    protected String sql(TableName name, TableDescription described) {
        return name.sql(this);
    }

    /** A table as it stands in a statement, with its schema where it has one. */
    public String qualified(TableDescription table) {
        return (table.schema().isEmpty() ? "" : quoted(table.schema()) + ".") + quoted(table.name());
    }

    /** Columns, quoted and apart by commas. */
    public String listed(List<String> columns) {
        return columns.stream().map(this::quoted).collect(Collectors.joining(", "));
    }

    /** The columns under the name of their table, quoted and apart by commas. */
    protected String listed(String of, List<String> columns) {
        return columns.stream().map(c -> of + "." + quoted(c)).collect(Collectors.joining(", "));
    }

    /** That two tables have the same key. */
    protected String sameKey(String a, String b, List<String> key) {
        return key.stream()
                .map(this::quoted)
                .map(k -> a + "." + k + " = " + b + "." + k)
                .collect(Collectors.joining(" AND "));
    }
}
