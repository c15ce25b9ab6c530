package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Map;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;
import ninepin.core.deliver.TargetException;

/** One transaction that asks a database, sees one state of it and cannot write. */
public final class QuestionSession implements AutoCloseable {

    private final Dialect dialect;
    private final ConnectionWatch watch;
    private final Connection connection;

    private QuestionSession(Dialect dialect, ConnectionWatch watch, Connection connection) {
        this.dialect = dialect;
        this.watch = watch;
        this.connection = connection;
    }

    /** Connects and begins. */
    public static QuestionSession open(DatabaseAddress address) throws TargetException {
        Dialect dialect = Dialect.of(address);
        ConnectionWatch watch = new ConnectionWatch(dialect, address, () -> false);
        Connection opened = null;
        boolean begun = false;
        try {
            opened = watch.open(Dialect.Use.QUESTIONS);
            dialect.beginQuestions(opened);
            begun = true;
            return new QuestionSession(dialect, watch, opened);
        } catch (SQLException e) {
            throw dialect.explain(e, "begin to read");
        } finally {
            if (!begun) {
                closeQuietly(opened, watch);
            }
        }
    }

    private static void closeQuietly(Connection connection, ConnectionWatch watch) {
        try (watch;
                connection) {
            // Closed on the way out.
        } catch (SQLException e) {
            // What went wrong before is said.
        }
    }

    /** Prepares a statement that a statement stands in, with the values of its host variables. */
    public PreparedStatement prepare(HostedSql statement, String around, Map<String, String> hosts)
            throws SQLException {
        return statement.prepare(dialect, connection, around, hosts);
    }

    /** A name as it stands in a statement. */
    public String quoted(String name) {
        return dialect.quoted(name);
    }

    /** The place of a value that is compared with a column. */
    public String parameter(Column column) {
        return dialect.parameter(column);
    }

    /** What stands in a column of a row, as the database writes it; null for NULL. */
    public String text(ResultSet row, int column) throws SQLException {
        return dialect.text(row, column);
    }

    /** The same as {@link ninepin.core.value.Value#text} gives it. */
    public String value(ResultSet row, int column, Family family) throws SQLException {
        return TableCopy.value(dialect, row, column, family);
    }

    @Override
    public void close() {
        closeQuietly(connection, watch);
    }
}
