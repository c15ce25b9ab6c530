package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import ninepin.core.deliver.DatabaseKind;
import ninepin.core.deliver.OwnStatement;
import ninepin.core.deliver.OwnStatement.When;
import ninepin.core.deliver.TargetException;
import ninepin.core.layout.DefinitionException;

/** The statements of a job's own that run around the rows of a delivery. */
public final class OwnStatements {

    /** None. */
    public static final OwnStatements NONE = new OwnStatements(List.of(), Map.of());

    private final List<OwnStatement> all;
    private final Map<String, String> values;

    /**
     * @param all the statements of the connection, in order
     * @param values the values of host variables
     */
    public OwnStatements(List<OwnStatement> all, Map<String, String> values) {
        this.all = List.copyOf(all);
        this.values = values;
    }

    /** The values of host variables. */
    Map<String, String> values() {
        return values;
    }

    /** Whether there are some for a time. */
    boolean any(When when, boolean alone) {
        return all.stream().anyMatch(s -> s.when() == when && s.alone() == alone);
    }

    /** Runs those for a time in the transaction of a connection. */
    void run(Dialect dialect, Connection connection, When when, boolean alone) throws TargetException {
        for (OwnStatement statement : all) {
            if (statement.when() != when || statement.alone() != alone) {
                continue;
            }
            HostedSql sql = read(dialect, statement);
            try (PreparedStatement s = sql.prepare(dialect, connection, values)) {
                s.execute();
            } catch (SQLException e) {
                TargetException explained = dialect.explain(e, "run a statement of the job's own");
                throw new TargetException(
                        explained.kind(),
                        explained.mayPass() ? explained.code() : "SQL-01",
                        "The statement " + (when == When.BEFORE ? "before the rows" : "after the rows") + " ("
                                + beginning(statement.sql()) + ") failed: " + dialect.reason(e)
                                + ". Mend it and restart to go on.",
                        e);
            }
        }
    }

    /**
     * Reads a statement.
     *
     * @param part what it is part of, for messages
     * @throws DefinitionException where it may not run
     */
    public static HostedSql parse(String part, DatabaseKind kind, OwnStatement statement) {
        return HostedSql.parse(part, kind, statement.sql()).requirePartOfTransaction();
    }

    private static HostedSql read(Dialect dialect, OwnStatement statement) throws TargetException {
        try {
            return parse("the statement", dialect.kind(), statement);
        } catch (DefinitionException e) {
            throw new TargetException(TargetException.Kind.UNUSABLE, "SQL-01", e.getMessage() + ".", e);
        }
    }

    /** Runs those that are transactions of their own, unless the run has run them before. */
    void once(Dialect dialect, Connection connection, MarkTable marks, When when) throws TargetException, SQLException {
        if (!any(when, true)) {
            return;
        }
        MarkTable mark = marks.of("#" + when);
        if (mark.read(connection).isEmpty()) {
            boolean auto = connection.getAutoCommit();
            connection.setAutoCommit(false);
            marks.hold(connection);
            run(dialect, connection, when, true);
            mark.done(connection);
            connection.commit();
            connection.setAutoCommit(auto);
        }
    }

    private static String beginning(String sql) {
        String line = sql.strip().replaceAll("\\s+", " ");
        return line.length() <= 60 ? line : line.substring(0, 57) + "…";
    }

    /**
     * Asks the server whether it understands a statement, without running it.
     *
     * @return what it says against it, or null
     * @throws SQLException where the server is away
     */
    public static String problem(Dialect dialect, Connection connection, HostedSql sql) throws SQLException {
        try {
            dialect.prepareOnly(connection, sql.sql());
            return null;
        } catch (SQLException e) {
            if (dialect.explain(e, "show it to the database").mayPass()) {
                throw e;
            }
            return dialect.reason(e);
        }
    }
}
