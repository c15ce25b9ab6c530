package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import ninepin.core.deliver.DatabaseKind;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;
import ninepin.core.deliver.TargetException;
import ninepin.core.layout.DefinitionException;
import ninepin.core.shape.RowBuffer;

/** A statement of the job's own, or a procedure that it calls, for each row, whose values are its host variables. */
public final class RowStatement extends RowByRow {

    private final Dialect dialect;
    private final Connection connection;
    private final HostedSql sql;
    private final List<String> columns;
    private final Map<String, String> hosts;

    private RowStatement(
            Dialect dialect, Connection connection, HostedSql sql, List<String> columns, Map<String, String> hosts) {
        super(dialect);
        this.dialect = dialect;
        this.connection = connection;
        this.sql = sql;
        this.columns = columns;
        this.hosts = hosts;
    }

    /**
     * Reads the statement of a delivery.
     *
     * @throws DefinitionException where it may not run
     */
    public static HostedSql parse(DatabaseKind kind, TableDelivery delivery) {
        return HostedSql.parse("the statement for each row", kind, delivery.statement())
                .requirePartOfTransaction();
    }

    /** What rules fill: a field for each variable of the statement. */
    public static TableDescription describe(DatabaseKind kind, TableDelivery delivery) {
        List<Column> columns = parse(kind, delivery).variables().stream()
                .distinct()
                .map(v -> new Column(
                        v, "a variable of the statement", Family.TEXT, 0, 0, 0, true, false, false, false, ""))
                .toList();
        return new TableDescription("", delivery.table(), "", columns, List.of());
    }

    /**
     * The statement for the rows of a delivery.
     *
     * @param columns the fields of the rows
     * @param hosts the values of variables that are no fields
     */
    static BulkStatement of(
            Dialect dialect,
            Connection connection,
            TableDelivery delivery,
            List<String> columns,
            Map<String, String> hosts)
            throws TargetException {
        try {
            return new RowStatement(dialect, connection, parse(dialect.kind(), delivery), columns, hosts);
        } catch (DefinitionException e) {
            throw new TargetException(TargetException.Kind.UNUSABLE, "SQL-01", e.getMessage() + ".", e);
        }
    }

    /** In a rehearsal it is not run: what it would do is not known, and might not be taken back. */
    static BulkStatement rehearsed() {
        return (rows, first, end) -> new Outcome(0, end - first, 0, 0, null);
    }

    @Override
    public Outcome load(RowBuffer rows, int first, int end) throws SQLException {
        Map<String, String> values = new HashMap<>(hosts);
        try (PreparedStatement s = sql.prepare(dialect, connection, values)) {
            String refusal = each(rows, first, end, fields -> {
                for (int i = 0; i < columns.size(); i++) {
                    values.put(columns.get(i), fields.get(i));
                }
                sql.bind(dialect, s, values);
                run(s);
                return null;
            });
            return refusal == null ? new Outcome(0, end - first, 0, 0, null) : Outcome.refused(refusal);
        }
    }

    /** A procedure may give results, which nobody wants. */
    private static void run(PreparedStatement s) throws SQLException {
        boolean result = s.execute();
        while (result || s.getUpdateCount() != -1) {
            result = s.getMoreResults();
        }
    }
}
