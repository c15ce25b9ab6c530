package ninepin.core.deliver.mariadb;

import java.io.IOException;
import java.io.InputStream;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.sql.Types;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Properties;
import java.util.Set;
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
import ninepin.core.deliver.database.TableName;

/** What is particular to MariaDB (and to MySQL as far as it does the same). */
public final class MariaDb extends Dialect {

    private static final String SQL_MODE = "STRICT_ALL_TABLES,NO_ZERO_DATE,NO_ZERO_IN_DATE,"
            + "ERROR_FOR_DIVISION_BY_ZERO,NO_ENGINE_SUBSTITUTION,NO_AUTO_VALUE_ON_ZERO";

    /** For the registry of dialects. */
    public MariaDb() {}

    @Override
    public DatabaseKind kind() {
        return DatabaseKind.MARIADB;
    }

    /** A connection with strict SQL mode, UTC as time zone and READ COMMITTED isolation. */
    @Override
    public Connection connect(DatabaseAddress address, Use use) throws TargetException {
        Properties properties = new Properties();
        properties.setProperty("user", address.user());
        properties.setProperty("password", address.password());
        properties.setProperty("allowLocalInfile", String.valueOf(use == Use.LOADS));
        properties.setProperty("allowMultiQueries", "false");
        if (address.tls().mode() == Tls.Mode.VERIFIED) {
            properties.setProperty("sslMode", "verify-full");
            if (address.tls().issuer() != null) {
                properties.setProperty("serverSslCert", address.tls().issuer());
            }
        }
        // Affected rows, not matched ones: an unchanged row counts 0.
        properties.setProperty("useAffectedRows", "true");
        properties.setProperty("connectTimeout", "10000");
        // What answers the port may be no database, and say nothing at all; a statement may take its time.
        properties.setProperty("socketTimeout", "10000");
        properties.setProperty("tcpKeepAlive", "true");
        properties.setProperty("socketFactory", OpenSockets.class.getName());
        properties.setProperty("useServerPrepStmts", "false");
        properties.setProperty(
                "sessionVariables",
                "sql_mode='" + SQL_MODE + "',time_zone='+00:00',lock_wait_timeout=5,innodb_lock_wait_timeout=5"
                        + ",wait_timeout=31536000");
        properties.setProperty("transactionIsolation", "READ-COMMITTED");
        String url = "jdbc:mariadb://" + host(address.host()) + ":" + address.port() + "/" + address.database();
        try {
            Connection connection = DriverManager.getConnection(url, properties);
            OpenSockets.keep(connection);
            if (use == Use.QUESTIONS) {
                try (Statement s = connection.createStatement()) {
                    s.execute("SET SESSION TRANSACTION READ ONLY");
                }
            }
            connection.setNetworkTimeout(Runnable::run, 0);
            return connection;
        } catch (SQLException e) {
            throw explain(e, "connect to " + address);
        }
    }

    /** A value as the server writes it. The driver's own text loses zeros at the start of a fraction of a second. */
    @Override
    public String text(ResultSet row, int column) throws SQLException {
        if (row.getMetaData().getColumnType(column) != Types.TIMESTAMP) {
            return row.getString(column);
        }
        LocalDateTime at = row.getObject(column, LocalDateTime.class);
        int digits = row.getMetaData().getScale(column);
        return at == null
                ? null
                : at.toLocalDate() + " "
                        + at.toLocalTime()
                                .format(DateTimeFormatter.ofPattern(
                                        "HH:mm:ss" + (digits > 0 ? "." + "S".repeat(Math.min(digits, 9)) : "")));
    }

    /** A statement that would have the driver read a file gets one that cannot be read. */
    @Override
    protected void keepFromFiles(PreparedStatement statement) throws SQLException {
        statement.unwrap(org.mariadb.jdbc.Statement.class).setLocalInfileInputStream(new InputStream() {
            @Override
            public int read() throws IOException {
                throw new IOException("Statements may not read files.");
            }
        });
    }

    private static String host(String host) {
        return host.contains(":") ? "[" + host + "]" : host;
    }

    /** An identifier in backquotes, fit to stand in a statement. */
    @Override
    public String quoted(String identifier) {
        return "`" + identifier.replace("`", "``") + "`";
    }

    private static boolean isBusy(SQLException e) {
        return e.getErrorCode() == 1205 || e.getErrorCode() == 1213 || e.getErrorCode() == 1020;
    }

    /** Whether the statement failed for what stands in the rows, so that other rows may still load. */
    @Override
    public boolean isAboutRows(SQLException e) {
        String state = e.getSQLState() == null ? "" : e.getSQLState();
        return !isBusy(e)
                && (state.startsWith("22")
                        || state.startsWith("23")
                        || state.startsWith("45")
                        || e.getErrorCode() == 1366
                        || e.getErrorCode() == 1364
                        || e.getErrorCode() == 4025);
    }

    /** What an error of the server means to the person who has to mend it. */
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
        String code;
        String advice;
        switch (e.getErrorCode()) {
            case 1045, 1044, 1698, 1130 -> {
                code = "DBS-02";
                advice =
                        "the server refuses the login or the right. Check user, password and grants of the connection.";
            }
            case 1049 -> {
                code = "DBS-03";
                advice = "there is no such database. Check the connection.";
            }
            case 1146, 1051 -> {
                code = "DBS-04";
                advice = "the table is not there. Check the delivery, or whether the table was dropped or renamed.";
            }
            case 1142, 1143, 1370, 1227 -> {
                code = "DBS-06";
                advice = "the user lacks a right. Grant it SELECT, INSERT, UPDATE and CREATE on the target.";
            }
            case 1021, 1114, 3, 1026, 1030 -> {
                code = "DBS-07";
                advice = "the server has no room left. Make room.";
            }
            default -> {
                boolean away = isAway(e);
                code = away ? "DBS-01" : "DBS-09";
                advice = away ? "the server does not answer." : "the server refused the statement.";
            }
        }
        return explained(code, words + advice + " (" + reason(e) + ")", e);
    }

    /** Whether the server is gone, is going, has ended the connection, or is read-only while another takes its place. */
    private static boolean isAway(SQLException e) {
        return e.getSQLState() != null && e.getSQLState().startsWith("08")
                || List.of(1053, 1317, 1927, 1290, 4031).contains(e.getErrorCode());
    }

    /** The server's own words, without the driver's decoration. */
    @Override
    public String reason(SQLException e) {
        String message = e.getMessage() == null ? e.getClass().getSimpleName() : e.getMessage();
        return message.replaceFirst("^\\(conn[^)]*\\) ?", "").strip();
    }

    @Override
    public Catalog catalog(Connection connection) {
        return new MariaDbCatalog(connection);
    }

    @Override
    protected String like(String name, String table, boolean temporary) {
        return "CREATE " + (temporary ? "TEMPORARY " : "") + "TABLE " + name + " LIKE " + table;
    }

    /** A temporary one in memory where its types allow it. */
    @Override
    protected List<String> staging(
            String staging, String table, List<String> columns, TableDescription described, boolean temporary) {
        boolean unbounded = columns.stream()
                .flatMap(c -> described.column(c).stream())
                .map(Column::label)
                .anyMatch(l -> l.contains("text") || l.contains("blob"));
        return List.of(
                "SET SESSION max_heap_table_size = 268435456",
                "CREATE " + (temporary ? "TEMPORARY " : "") + "TABLE " + staging + " (" + quoted(SEQUENCE)
                        + " BIGINT AUTO_INCREMENT PRIMARY KEY) ENGINE="
                        + (!temporary ? "InnoDB" : unbounded ? "Aria" : "MEMORY")
                        + " AS SELECT " + listed(columns) + " FROM " + table + " LIMIT 0");
    }

    /** Rows of one statement are numbered one after another, unless the server lets others come between. */
    @Override
    protected NumberedStatement numberedAdd(
            Connection connection, String table, List<String> columns, TableDescription described, String numbered)
            throws SQLException {
        long step;
        try (Statement s = connection.createStatement();
                ResultSet r = s.executeQuery("SELECT @@innodb_autoinc_lock_mode, @@auto_increment_increment")) {
            r.next();
            if (r.getInt(1) > 1) {
                throw new SQLException("The server numbers rows of one statement with gaps (innodb_autoinc_lock_mode"
                        + " is 2), so it cannot be told which number a row got. Set it to 1, or deliver by a key.");
            }
            step = r.getLong(2);
        }
        return NumberedStatement.added(add(connection, table, columns, described), () -> {
            try (Statement s = connection.createStatement();
                    ResultSet r = s.executeQuery("SELECT LAST_INSERT_ID()")) {
                r.next();
                long first = r.getLong(1);
                return i -> first + i * step;
            }
        });
    }

    @Override
    protected void bind(PreparedStatement statement, int parameter, String value) throws SQLException {
        statement.setString(parameter, value);
    }

    @Override
    protected void prepareOnly(Connection connection, String sql) throws SQLException {
        String literal = "'" + sql.replace("\\", "\\\\").replace("'", "''") + "'";
        try (Statement s = connection.createStatement()) {
            s.execute("PREPARE ninepin_look FROM " + literal);
            s.execute("DEALLOCATE PREPARE ninepin_look");
        }
    }

    @Override
    protected String addOrChange(
            String table, String source, List<String> columns, List<String> key, List<String> sets) {
        List<String> changed = sets.isEmpty() ? key.subList(0, 1) : sets;
        return "INSERT INTO " + table + " (" + listed(columns) + ") SELECT " + listed("s", columns) + " FROM " + source
                + " s ON DUPLICATE KEY UPDATE "
                + changed.stream()
                        .map(this::quoted)
                        .map(c -> c + " = VALUES(" + c + ")")
                        .collect(Collectors.joining(", "));
    }

    @Override
    protected RowLoader loader(Connection connection, String table, List<String> columns, TableDescription described) {
        return new LocalInfile(this, connection, table, columns, described);
    }

    @Override
    protected BulkStatement addOrChange(
            Connection connection,
            TableName table,
            List<String> columns,
            List<String> key,
            TableDescription described,
            int number)
            throws SQLException {
        if (othersMayCollide(described, columns, key)) {
            return super.addOrChange(connection, table, columns, key, described, number);
        }
        return new AddOrChangeStatement(this, connection, table.sql(this), columns, key, described, number);
    }

    /**
     * A row that has the value of a further unique index would change whichever row has it, in place of being refused; so
     * what is there is changed first, by the key alone, and the rest is added.
     */
    @Override
    protected boolean othersMayCollide(TableDescription described, List<String> columns, List<String> key) {
        Set<String> own = Set.copyOf(key);
        return described.uniqueKeys().stream()
                .filter(k -> !Set.copyOf(k).equals(own))
                .anyMatch(k -> k.stream()
                        .anyMatch(c -> columns.contains(c)
                                || !described.column(c).map(Column::numbered).orElse(false)));
    }

    @Override
    protected String change(String table, String source, List<String> key, List<String> sets) {
        String changes =
                sets.stream().map(this::quoted).map(c -> "t." + c + " = s." + c).collect(Collectors.joining(", "));
        return "UPDATE " + table + " t JOIN " + source + " s ON " + sameKey("t", "s", key) + " SET " + changes;
    }

    @Override
    protected String remove(String table, String source, List<String> key) {
        return "DELETE t FROM " + table + " t JOIN " + source + " s ON " + sameKey("t", "s", key);
    }

    @Override
    protected String differ(String a, String b) {
        return "NOT (" + a + " <=> " + b + ")";
    }

    @Override
    protected String currentSchema() {
        return "DATABASE()";
    }

    @Override
    protected List<String> marks() {
        return List.of(
                """
                CREATE TABLE IF NOT EXISTS ninepin_mark (
                  run_key VARCHAR(64) CHARACTER SET ascii NOT NULL COMMENT 'the run',
                  delivery VARCHAR(128) NOT NULL COMMENT 'the target of the delivery',
                  next_offset BIGINT NOT NULL COMMENT 'byte of the file where the next record starts',
                  next_line BIGINT NOT NULL,
                  records BIGINT NOT NULL COMMENT 'records before it',
                  rows_read BIGINT NOT NULL, rows_added BIGINT NOT NULL, rows_changed BIGINT NOT NULL,
                  rows_unchanged BIGINT NOT NULL, rows_rejected BIGINT NOT NULL, rows_set_aside BIGINT NOT NULL,
                  blank BIGINT NOT NULL, notes BIGINT NOT NULL,
                  delivered BIGINT NOT NULL COMMENT 'records whose rows are in the target',
                  without_rows BIGINT NOT NULL COMMENT 'records that make no rows',
                  commits BIGINT NOT NULL,
                  journal_length BIGINT NOT NULL,
                  fingerprint CHAR(64) CHARACTER SET ascii NOT NULL COMMENT 'SHA-256 of the file',
                  complete BOOLEAN NOT NULL,
                  elsewhere BIGINT NOT NULL DEFAULT 0 COMMENT 'records whose rows all go to other places',
                  shares TEXT COMMENT 'what lanes, reasons and deliveries have of it',
                  rows_removed BIGINT NOT NULL DEFAULT 0,
                  epoch BIGINT NOT NULL DEFAULT 0 COMMENT 'the take-up that may commit',
                  marked_at TIMESTAMP NOT NULL DEFAULT CURRENT_TIMESTAMP ON UPDATE CURRENT_TIMESTAMP,
                  PRIMARY KEY (run_key, delivery)
                ) ENGINE=InnoDB COMMENT='How far runs of Ninepin have come; written with the rows they deliver'
                """,
                "ALTER TABLE ninepin_mark ADD COLUMN IF NOT EXISTS delivered BIGINT NOT NULL"
                        + " DEFAULT (rows_added + rows_changed + rows_unchanged),"
                        + " ADD COLUMN IF NOT EXISTS without_rows BIGINT NOT NULL DEFAULT 0,"
                        + " ADD COLUMN IF NOT EXISTS shares TEXT,"
                        + " ADD COLUMN IF NOT EXISTS rows_removed BIGINT NOT NULL DEFAULT 0,"
                        + " ADD COLUMN IF NOT EXISTS epoch BIGINT NOT NULL DEFAULT 0,"
                        + " ADD COLUMN IF NOT EXISTS elsewhere BIGINT NOT NULL DEFAULT 0");
    }

    @Override
    protected boolean tryLock(Connection connection, String name, int number, int seconds) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement("SELECT GET_LOCK(?, ?)")) {
            s.setString(1, lock(name, number));
            s.setInt(2, seconds);
            try (ResultSet r = s.executeQuery()) {
                return r.next() && r.getInt(1) == 1;
            }
        }
    }

    private static String lock(String name, int number) {
        return "ninepin-" + name + "-" + number;
    }

    @Override
    protected void endHolders(Connection connection, String name) throws SQLException {
        for (int number = 0; number <= MOST_LANES; number++) {
            try (PreparedStatement s = connection.prepareStatement("SELECT IS_USED_LOCK(?)")) {
                s.setString(1, lock(name, number));
                try (ResultSet r = s.executeQuery()) {
                    if (r.next() && r.getLong(1) != 0) {
                        end(connection, r.getLong(1));
                    }
                }
            }
        }
    }

    @Override
    protected void end(Connection by, long number) throws SQLException {
        try (Statement s = by.createStatement()) {
            s.execute("KILL " + number);
        } catch (SQLException e) {
            // It has ended by itself meanwhile.
            if (e.getErrorCode() != 1094) {
                throw e;
            }
        }
    }

    @Override
    protected void limitIdleTransactions(Connection connection) throws SQLException {
        try (Statement s = connection.createStatement()) {
            s.execute("SET SESSION idle_transaction_timeout = 600");
        } catch (SQLException e) {
            // Some servers do not have it.
            if (e.getErrorCode() != 1193) {
                throw e;
            }
        }
    }

    @Override
    protected void giveUp(Connection connection) throws SQLException {
        try {
            OpenSockets.close(connection);
        } catch (IOException e) {
            throw new SQLException("The socket of a connection could not be closed", e);
        }
    }

    @Override
    protected long number(Connection connection) throws SQLException {
        try (Statement s = connection.createStatement();
                ResultSet r = s.executeQuery("SELECT CONNECTION_ID()")) {
            r.next();
            return r.getLong(1);
        }
    }

    @Override
    protected String sequences() {
        return """
            CREATE TABLE IF NOT EXISTS ninepin_sequence (
              name VARCHAR(64) NOT NULL PRIMARY KEY,
              next_number BIGINT NOT NULL
            ) ENGINE=InnoDB COMMENT='The next numbers of the sequences of Ninepin'
            """;
    }

    @Override
    protected TextAndTime textAndTime() {
        return new TextAndTime(4_000, "LONGTEXT", "DATETIME");
    }

    @Override
    protected String tableOptions() {
        return " ENGINE=InnoDB DEFAULT CHARACTER SET utf8mb4";
    }
}
