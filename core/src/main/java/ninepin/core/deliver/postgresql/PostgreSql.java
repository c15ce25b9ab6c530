package ninepin.core.deliver.postgresql;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.util.List;
import java.util.Properties;
import java.util.stream.Collectors;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.DatabaseKind;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.Tls;
import ninepin.core.deliver.database.BulkStatement;
import ninepin.core.deliver.database.Catalog;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.database.NumberedStatement;
import ninepin.core.deliver.database.RowLoader;
import org.postgresql.ssl.DefaultJavaSSLFactory;
import org.postgresql.ssl.SingleCertValidatingFactory;
import org.postgresql.util.PSQLException;
import org.postgresql.util.ServerErrorMessage;

/** What is particular to PostgreSQL. */
public final class PostgreSql extends Dialect {

    /** For the registry of dialects. */
    public PostgreSql() {}

    @Override
    public DatabaseKind kind() {
        return DatabaseKind.POSTGRESQL;
    }

    @Override
    public Connection connect(DatabaseAddress address, Use use) throws TargetException {
        Properties properties = new Properties();
        properties.setProperty("user", address.user());
        properties.setProperty("password", address.password());
        properties.setProperty("connectTimeout", "10");
        properties.setProperty("loginTimeout", "10");
        properties.setProperty("tcpKeepAlive", "true");
        properties.setProperty("ApplicationName", "ninepin");
        properties.setProperty(
                "options",
                "-c timezone=UTC -c datestyle=ISO -c lock_timeout=5000 -c standard_conforming_strings=on"
                        + (use == Use.QUESTIONS ? " -c default_transaction_read_only=on" : "")
                        // A frozen process does not keep rows locked for ever.
                        + " -c idle_in_transaction_session_timeout=600000");
        if (address.tls().mode() == Tls.Mode.VERIFIED) {
            properties.setProperty("sslmode", "verify-full");
            boolean own = address.tls().issuer() != null;
            properties.setProperty(
                    "sslfactory", (own ? SingleCertValidatingFactory.class : DefaultJavaSSLFactory.class).getName());
            if (own) {
                properties.setProperty("sslfactoryarg", address.tls().issuer());
            }
        } else {
            properties.setProperty("sslmode", "disable");
        }
        String host = address.host().contains(":") ? "[" + address.host() + "]" : address.host();
        try {
            return DriverManager.getConnection(
                    "jdbc:postgresql://" + host + ":" + address.port() + "/" + address.database(), properties);
        } catch (SQLException e) {
            throw explain(e, "connect to " + address);
        }
    }

    private static String state(SQLException e) {
        return e.getSQLState() == null ? "" : e.getSQLState();
    }

    private static boolean isBusy(SQLException e) {
        return List.of("55P03", "40P01", "40001").contains(state(e));
    }

    @Override
    public boolean isAboutRows(SQLException e) {
        String state = state(e);
        return state.startsWith("22") || state.startsWith("23") || state.startsWith("P0");
    }

    @Override
    public TargetException explain(SQLException e, String doing) {
        String words = "Could not " + doing + ": ";
        if (isBusy(e)) {
            return new TargetException(
                    TargetException.Kind.BUSY,
                    "DBS-05",
                    words + "another transaction holds the rows. (" + reason(e) + ")",
                    e);
        }
        TargetException untrusted = untrusted(e, words, reason(e));
        if (untrusted != null) {
            return untrusted;
        }
        String state = state(e);
        String code;
        String advice;
        if (state.startsWith("28")) {
            code = "DBS-02";
            advice = "the server refuses the login. Check user and password of the connection.";
        } else if (state.equals("3D000")) {
            code = "DBS-03";
            advice = "there is no such database. Check the connection.";
        } else if (state.equals("42P01")) {
            code = "DBS-04";
            advice = "the table is not there. Check the delivery, or whether the table was dropped or renamed.";
        } else if (state.equals("42501")) {
            code = "DBS-06";
            advice =
                    "the user lacks a right. Grant it SELECT, INSERT and UPDATE on the target, and CREATE on its schema.";
        } else if (state.startsWith("53") || isOutOfRoom(e)) {
            code = "DBS-07";
            advice = "the server has no room or no connection left. Make room.";
        } else if (state.startsWith("08") || state.startsWith("57P")) {
            code = "DBS-01";
            advice = "the server does not answer.";
        } else {
            code = "DBS-09";
            advice = "the server refused the statement.";
        }
        return explained(code, words + advice + " (" + reason(e) + ")", e);
    }

    /** A limit on the size of files has no state of its own. */
    private static boolean isOutOfRoom(SQLException e) {
        return e.getMessage() != null && e.getMessage().contains("could not extend file");
    }

    /** The server's message, with its detail, the column and the row of a COPY where it tells them. */
    @Override
    public String reason(SQLException e) {
        ServerErrorMessage server = e instanceof PSQLException p ? p.getServerErrorMessage() : null;
        if (server == null) {
            return e.getMessage() == null ? e.getClass().getSimpleName() : e.getMessage();
        }
        StringBuilder words = new StringBuilder(server.getMessage());
        if (server.getDetail() != null) {
            words.append(". ").append(server.getDetail());
        }
        CopyPlace place = CopyPlace.of(server.getWhere());
        String column = server.getColumn() != null ? server.getColumn() : place.column();
        if (column != null) {
            words.append(" for column '").append(column).append('\'');
        }
        return words.append(place.row() > 0 ? " at row " + place.row() : "").toString();
    }

    @Override
    public Catalog catalog(Connection connection) {
        return new PostgreSqlCatalog(connection);
    }

    @Override
    public String quoted(String identifier) {
        return '"' + identifier.replace("\"", "\"\"") + '"';
    }

    /** The server's text; of a truth value, which is t or f, as 1 or 0. */
    @Override
    public String text(ResultSet row, int column) throws SQLException {
        String text = row.getString(column);
        if (text == null || !row.getMetaData().getColumnTypeName(column).equals("bool")) {
            return text;
        }
        return row.getBoolean(column) ? "1" : "0";
    }

    @Override
    protected String like(String name, String table, boolean temporary) {
        return "CREATE " + (temporary ? "TEMPORARY " : "") + "TABLE " + name + " (LIKE " + table + " INCLUDING ALL)";
    }

    @Override
    protected List<String> staging(
            String staging, String table, List<String> columns, TableDescription described, boolean temporary) {
        return List.of(
                "CREATE " + (temporary ? "TEMPORARY " : "") + "TABLE " + staging + " AS SELECT " + listed(columns)
                        + " FROM " + table + " WITH NO DATA",
                "ALTER TABLE " + staging + " ADD COLUMN " + quoted(SEQUENCE) + " BIGSERIAL PRIMARY KEY");
    }

    /** The statement that only adds rows, for those of this package. */
    BulkStatement copying(Connection connection, String table, List<String> columns, TableDescription described) {
        return add(connection, table, columns, described);
    }

    @Override
    protected NumberedStatement numberedAdd(
            Connection connection, String table, List<String> columns, TableDescription described, String numbered)
            throws SQLException {
        return new NumberedCopy(this, connection, table, columns, described, numbered);
    }

    @Override
    protected void bind(PreparedStatement statement, int parameter, String value) throws SQLException {
        statement.setObject(parameter, value, Types.OTHER);
    }

    @Override
    protected void prepareOnly(Connection connection, String sql) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement(sql)) {
            // The driver asks the server for them.
            s.getParameterMetaData().getParameterCount();
        }
    }

    @Override
    protected RowLoader loader(Connection connection, String table, List<String> columns, TableDescription described) {
        List<Column> loaded =
                columns.stream().map(c -> described.column(c).orElseThrow()).toList();
        return new CopyIn(connection, "COPY " + table + " (" + listed(columns) + ") FROM STDIN", loaded);
    }

    @Override
    protected String addOrChange(
            String table, String source, List<String> columns, List<String> key, List<String> sets) {
        String conflict = sets.isEmpty()
                ? "NOTHING"
                : "UPDATE SET " + each(sets, c -> c + " = EXCLUDED." + c, ", ") + " WHERE "
                        + each(sets, c -> differ("t." + c, "EXCLUDED." + c), " OR ");
        return "INSERT INTO " + table + " AS t (" + listed(columns) + ") SELECT " + listed("s", columns) + " FROM "
                + source + " s ON CONFLICT (" + listed(key) + ") DO " + conflict;
    }

    @Override
    protected String change(String table, String source, List<String> key, List<String> sets) {
        return "UPDATE " + table + " t SET " + each(sets, c -> c + " = s." + c, ", ") + " FROM " + source + " s WHERE "
                + sameKey("t", "s", key) + " AND (" + each(sets, c -> differ("t." + c, "s." + c), " OR ") + ")";
    }

    @Override
    protected String remove(String table, String source, List<String> key) {
        return "DELETE FROM " + table + " t USING " + source + " s WHERE " + sameKey("t", "s", key);
    }

    private String each(List<String> columns, java.util.function.UnaryOperator<String> words, String between) {
        return columns.stream().map(this::quoted).map(words).collect(Collectors.joining(between));
    }

    @Override
    public String parameter(TableDescription.Column column) {
        return "CAST(? AS " + column.label() + ")";
    }

    @Override
    protected String differ(String a, String b) {
        return a + " IS DISTINCT FROM " + b;
    }

    @Override
    protected String currentSchema() {
        return "current_schema()";
    }

    @Override
    protected List<String> marks() {
        return List.of(
                """
                CREATE TABLE IF NOT EXISTS ninepin_mark (
                  run_key VARCHAR(64) NOT NULL,
                  delivery VARCHAR(128) NOT NULL,
                  next_offset BIGINT NOT NULL, next_line BIGINT NOT NULL, records BIGINT NOT NULL,
                  rows_read BIGINT NOT NULL, rows_added BIGINT NOT NULL, rows_changed BIGINT NOT NULL,
                  rows_unchanged BIGINT NOT NULL, rows_removed BIGINT NOT NULL, rows_rejected BIGINT NOT NULL,
                  rows_set_aside BIGINT NOT NULL, blank BIGINT NOT NULL, notes BIGINT NOT NULL,
                  delivered BIGINT NOT NULL, without_rows BIGINT NOT NULL, commits BIGINT NOT NULL,
                  journal_length BIGINT NOT NULL, fingerprint CHAR(64) NOT NULL, complete BOOLEAN NOT NULL,
                  shares TEXT, elsewhere BIGINT NOT NULL DEFAULT 0,
                  epoch BIGINT NOT NULL DEFAULT 0,
                  marked_at TIMESTAMP NOT NULL DEFAULT CURRENT_TIMESTAMP,
                  PRIMARY KEY (run_key, delivery)
                )""",
                "ALTER TABLE ninepin_mark ADD COLUMN IF NOT EXISTS epoch BIGINT NOT NULL DEFAULT 0,"
                        + " ADD COLUMN IF NOT EXISTS elsewhere BIGINT NOT NULL DEFAULT 0",
                "COMMENT ON TABLE ninepin_mark IS 'How far runs of Ninepin have come; written with the rows they deliver'");
    }

    @Override
    protected boolean tryLock(Connection connection, String name, int number, int seconds) throws SQLException {
        long until = System.nanoTime() + seconds * 1_000_000_000L;
        while (true) {
            try (PreparedStatement s = connection.prepareStatement("SELECT pg_try_advisory_lock(?, ?)")) {
                s.setInt(1, lock(name));
                s.setInt(2, number);
                try (ResultSet r = s.executeQuery()) {
                    if (r.next() && r.getBoolean(1)) {
                        return true;
                    }
                }
            }
            if (System.nanoTime() >= until) {
                return false;
            }
            pause();
        }
    }

    private static void pause() throws SQLException {
        try {
            Thread.sleep(100);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new SQLException("Interrupted while waiting for a lock", e);
        }
    }

    /** The server's locks have numbers for names. */
    private static int lock(String name) {
        return Integer.parseUnsignedInt(name.substring(0, 8), 16);
    }

    @Override
    protected void endHolders(Connection connection, String name) throws SQLException {
        try (PreparedStatement s =
                connection.prepareStatement("SELECT pg_terminate_backend(pid) FROM pg_locks WHERE locktype = 'advisory'"
                        + " AND database = (SELECT oid FROM pg_database WHERE datname = current_database())"
                        + " AND classid::bigint = ? AND objsubid = 2 AND granted AND pid <> pg_backend_pid()")) {
            s.setLong(1, Integer.toUnsignedLong(lock(name)));
            s.execute();
        }
    }

    @Override
    protected void end(Connection by, long number) throws SQLException {
        try (PreparedStatement s = by.prepareStatement("SELECT pg_terminate_backend(?)")) {
            s.setInt(1, (int) number);
            s.execute();
        }
    }

    @Override
    protected long number(Connection connection) throws SQLException {
        try (java.sql.Statement s = connection.createStatement();
                ResultSet r = s.executeQuery("SELECT pg_backend_pid()")) {
            r.next();
            return r.getLong(1);
        }
    }

    @Override
    protected String sequences() {
        return "CREATE TABLE IF NOT EXISTS ninepin_sequence"
                + " (name VARCHAR(64) NOT NULL PRIMARY KEY, next_number BIGINT NOT NULL)";
    }

    @Override
    protected TextAndTime textAndTime() {
        return new TextAndTime(10_485_760, "TEXT", "TIMESTAMP");
    }
}
