package ninepin.core.deliver.jdbc;

import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.sql.SQLIntegrityConstraintViolationException;
import java.sql.SQLNonTransientConnectionException;
import java.sql.SQLTransientConnectionException;
import java.sql.SQLTransientException;
import java.util.ArrayList;
import java.util.List;
import java.util.Properties;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.DatabaseKind;
import ninepin.core.deliver.JdbcDriver;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.TargetException.Kind;
import ninepin.core.deliver.database.BulkStatement;
import ninepin.core.deliver.database.Catalog;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.database.NumberedStatement;
import ninepin.core.deliver.database.RowLoader;
import ninepin.core.deliver.database.TableName;

/** A database of which no more is known than its driver tells and the standard wants. */
public final class AnyDatabase extends Dialect {

    private final JdbcDriver driver;

    /** For the registry of dialects, which asks for one of an address. */
    public AnyDatabase() {
        this(null);
    }

    private AnyDatabase(JdbcDriver driver) {
        this.driver = driver;
    }

    @Override
    public DatabaseKind kind() {
        return DatabaseKind.OTHER;
    }

    @Override
    protected Dialect forAddress(DatabaseAddress address) {
        return new AnyDatabase(address.driver());
    }

    @Override
    public Connection connect(DatabaseAddress address, Use use) throws TargetException {
        Properties properties = new Properties();
        if (!address.user().isEmpty()) {
            properties.setProperty("user", address.user());
            properties.setProperty("password", address.password());
        }
        try {
            Connection connection = driver.driver()
                    .connect(driver.addressOf(address.host(), address.port(), address.database()), properties);
            if (connection == null) {
                throw new TargetException(
                        Kind.UNUSABLE,
                        "DBS-12",
                        "The driver " + driver.name() + " does not take its address. The operator mends it in"
                                + " driver.properties.",
                        null);
            }
            return connection;
        } catch (SQLException e) {
            throw explain(e, "connect to " + address);
        }
    }

    @Override
    public void beginQuestions(Connection connection) throws SQLException {
        try {
            connection.setReadOnly(true);
        } catch (SQLException e) {
            // It can only be said when the connection opens; the transaction is rolled back in any case.
        }
        connection.setAutoCommit(false);
        DatabaseMetaData of = connection.getMetaData();
        for (int level : List.of(Connection.TRANSACTION_REPEATABLE_READ, Connection.TRANSACTION_SERIALIZABLE)) {
            if (of.supportsTransactionIsolationLevel(level)) {
                connection.setTransactionIsolation(level);
                return;
            }
        }
    }

    private static String state(SQLException e) {
        return e.getSQLState() == null ? "" : e.getSQLState();
    }

    @Override
    public boolean isAboutRows(SQLException e) {
        String state = state(e);
        return state.startsWith("22")
                || state.startsWith("23")
                || e instanceof SQLIntegrityConstraintViolationException
                || driver.refusals().contains(e.getErrorCode());
    }

    @Override
    public TargetException explain(SQLException e, String doing) {
        String words = "Could not " + doing + ": ";
        String state = state(e);
        String reason = " (" + reason(e) + ")";
        boolean connecting = e instanceof SQLTransientConnectionException
                || e instanceof SQLNonTransientConnectionException
                || state.startsWith("08");
        if (state.startsWith("40")
                || driver.busy().contains(e.getErrorCode())
                || e instanceof SQLTransientException && !connecting) {
            return new TargetException(Kind.BUSY, "DBS-05", words + "another transaction holds the rows." + reason, e);
        }
        TargetException untrusted = untrusted(e, words, reason(e));
        if (untrusted != null) {
            return untrusted;
        }
        if (state.startsWith("28")) {
            return explained(
                    "DBS-02",
                    words + "the server refuses the login. Check user and password of the connection." + reason,
                    e);
        }
        if (connecting) {
            return explained("DBS-01", words + "the server does not answer." + reason, e);
        }
        if (state.startsWith("42S02") || state.startsWith("42P01")) {
            return explained(
                    "DBS-04",
                    words + "the table is not there. Check the delivery, or whether the table was dropped or renamed."
                            + reason,
                    e);
        }
        return explained("DBS-09", words + "the server refused the statement." + reason, e);
    }

    @Override
    public String reason(SQLException e) {
        String said = e.getMessage() == null ? e.getClass().getSimpleName() : e.getMessage();
        // Some drivers repeat the statement, with the values of the row.
        int statement = said.indexOf("; SQL statement:");
        return (statement < 0 ? said : said.substring(0, statement)).strip();
    }

    @Override
    protected void bind(PreparedStatement statement, int parameter, String value) throws SQLException {
        statement.setString(parameter, value);
    }

    @Override
    protected void prepareOnly(Connection connection, String sql) throws SQLException {
        connection.prepareStatement(sql).close();
    }

    @Override
    public Catalog catalog(Connection connection) {
        return new JdbcCatalog(connection);
    }

    @Override
    protected boolean hasColumn(Connection connection, String table, String column) throws SQLException {
        return new JdbcCatalog(connection).hasColumn(table, column);
    }

    @Override
    public String quoted(String identifier) {
        String q = driver.quote();
        return q + identifier.replace(q, q + q) + q;
    }

    @Override
    public String text(ResultSet row, int column) throws SQLException {
        return JdbcValues.text(row, column);
    }

    @Override
    public String limited(String query, long rows) {
        // The statement itself is told how many.
        return query;
    }

    /** As the catalogue writes it: whether case counts differs. */
    @Override
    protected String sql(TableName name, TableDescription described) {
        return qualified(described);
    }

    void fill(PreparedStatement s, int from, List<Column> columns, List<String> row)
            throws SQLException, JdbcValues.NotOfType {
        for (int i = 0; i < columns.size(); i++) {
            JdbcValues.set(s, from + i, columns.get(i), row.get(i));
        }
    }

    String insert(String table, List<String> columns) {
        return "INSERT INTO " + table + " (" + listed(columns) + ") VALUES (?" + ", ?".repeat(columns.size() - 1) + ")";
    }

    private static List<Column> described(List<String> columns, TableDescription table) {
        return columns.stream().map(c -> table.column(c).orElseThrow()).toList();
    }

    @Override
    protected RowLoader loader(Connection connection, String table, List<String> columns, TableDescription described) {
        return new BatchInsert(this, connection, insert(table, columns), described(columns, described));
    }

    @Override
    protected NumberedStatement numberedAdd(
            Connection connection, String table, List<String> columns, TableDescription described, String numbered) {
        return new NumberedInsert(this, connection, insert(table, columns), described(columns, described), numbered);
    }

    @Override
    protected BulkStatement byKey(
            Connection connection,
            Mode mode,
            TableName table,
            List<String> columns,
            List<String> key,
            TableDescription described,
            int number) {
        return new ByKey(this, connection, mode, sql(table, described), columns, key, described);
    }

    @Override
    public boolean stages() {
        return false;
    }

    private static UnsupportedOperationException stagesNothing() {
        return new UnsupportedOperationException("This database has no staging tables of ours.");
    }

    @Override
    protected String like(String name, String table, boolean temporary) {
        throw stagesNothing();
    }

    @Override
    protected List<String> staging(
            String staging, String table, List<String> columns, TableDescription described, boolean temporary) {
        throw stagesNothing();
    }

    @Override
    protected String change(String table, String source, List<String> key, List<String> sets) {
        throw stagesNothing();
    }

    @Override
    protected String remove(String table, String source, List<String> key) {
        throw stagesNothing();
    }

    @Override
    protected String differ(String a, String b) {
        throw stagesNothing();
    }

    @Override
    protected String currentSchema() {
        throw new UnsupportedOperationException("The driver tells the columns.");
    }

    @Override
    protected List<String> marks() {
        String whole = driver.type("whole", "BIGINT");
        List<String> parts = new ArrayList<>();
        parts.add("run_key VARCHAR(64) NOT NULL");
        parts.add("delivery VARCHAR(128) NOT NULL");
        for (String number : COUNTS) {
            parts.add(number + " " + whole + " NOT NULL");
        }
        parts.add("fingerprint VARCHAR(64) NOT NULL");
        parts.add("complete " + driver.type("truth", "SMALLINT") + " NOT NULL");
        parts.add("shares " + driver.type("text", "CLOB"));
        parts.add("elsewhere " + whole + " DEFAULT 0 NOT NULL");
        parts.add("epoch " + whole + " DEFAULT 0 NOT NULL");
        parts.add("marked_at " + driver.type("timestamp", "TIMESTAMP"));
        parts.add("PRIMARY KEY (run_key, delivery)");
        return List.of("CREATE TABLE ninepin_mark (" + String.join(", ", parts) + ")");
    }

    @Override
    protected String sequences() {
        return "CREATE TABLE ninepin_sequence (name VARCHAR(64) NOT NULL PRIMARY KEY, next_number "
                + driver.type("whole", "BIGINT") + " NOT NULL)";
    }

    @Override
    protected boolean selectsForUpdate() {
        return false;
    }

    /** There are no locks that end with their connection; the epoch of the mark keeps two from both delivering. */
    @Override
    protected boolean tryLock(Connection connection, String name, int number, int seconds) {
        return true;
    }

    @Override
    protected void endHolders(Connection connection, String name) {
        // Nobody can be told from others.
    }

    /** Whether two may write at once is not known. */
    @Override
    protected int maxConnections() {
        return 1;
    }

    @Override
    protected boolean endsStatements() {
        return false;
    }

    @Override
    protected void end(Connection by, long number) throws SQLException {
        throw new SQLFeatureNotSupportedException("A statement cannot be ended from another connection.");
    }

    @Override
    protected void limitSilence(Connection connection, int millis) {
        try {
            connection.setNetworkTimeout(Runnable::run, millis);
        } catch (SQLException | AbstractMethodError | UnsupportedOperationException e) {
            // The driver waits as long as it likes.
        }
    }

    @Override
    protected long number(Connection connection) {
        return 0;
    }

    @Override
    protected TextAndTime textAndTime() {
        return new TextAndTime(4_000, driver.type("text", "CLOB"), driver.type("timestamp", "TIMESTAMP"));
    }
}
