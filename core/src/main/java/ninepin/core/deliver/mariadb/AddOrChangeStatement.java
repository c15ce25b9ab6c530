package ninepin.core.deliver.mariadb;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.SQLWarning;
import java.sql.Statement;
import java.util.List;
import java.util.stream.Collectors;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.shape.RowBuffer;

/**
 * Adds rows, and changes those whose key is there: the chunk goes into a temporary table and from there into the
 * target in one statement, in the order of the file, so that of two rows with one key the later one counts.
 */
final class AddOrChangeStatement implements BulkStatement {

    private static final String SEQUENCE = "`ninepin_seq`";

    private final Connection connection;
    private final String staging;
    private final LocalInfile infile;
    private final String insert;
    private final String countNew;

    AddOrChangeStatement(
            Connection connection, TableDelivery delivery, List<String> columns, TableDescription table, int number)
            throws SQLException {
        this.connection = connection;
        this.staging = "`ninepin_staging_" + number + "`";
        String target = TableName.parse(delivery.table()).sql();
        stage(columns, table, target);
        this.infile = new LocalInfile(connection, staging, columns, table);
        String names = columns.stream().map(MariaDb::quoted).collect(Collectors.joining(", "));
        List<String> changed = columns.stream()
                .filter(c -> delivery.key().stream().noneMatch(c::equalsIgnoreCase))
                .toList();
        String sets = (changed.isEmpty() ? columns.subList(0, 1) : changed)
                .stream()
                        .map(MariaDb::quoted)
                        .map(c -> c + " = VALUES(" + c + ")")
                        .collect(Collectors.joining(", "));
        this.insert = "INSERT INTO " + target + " (" + names + ") SELECT " + names + " FROM " + staging + " ORDER BY "
                + SEQUENCE + " ON DUPLICATE KEY UPDATE " + sets;
        String keys = delivery.key().stream().map(k -> "s." + MariaDb.quoted(k)).collect(Collectors.joining(", "));
        String join = delivery.key().stream()
                .map(MariaDb::quoted)
                .map(k -> "t." + k + " = s." + k)
                .collect(Collectors.joining(" AND "));
        this.countNew = "SELECT COUNT(DISTINCT " + keys + ") FROM " + staging + " s WHERE NOT EXISTS (SELECT 1 FROM "
                + target + " t WHERE " + join + ")";
    }

    /** Makes the temporary table with the target's own types. In memory where its types allow it. */
    private void stage(List<String> columns, TableDescription table, String target) throws SQLException {
        String names = columns.stream().map(MariaDb::quoted).collect(Collectors.joining(", "));
        boolean unbounded = columns.stream()
                .flatMap(c -> table.column(c).stream())
                .map(Column::label)
                .anyMatch(l -> l.contains("text") || l.contains("blob"));
        try (Statement s = connection.createStatement()) {
            s.execute("SET SESSION max_heap_table_size = 268435456");
            s.execute("CREATE TEMPORARY TABLE " + staging + " (" + SEQUENCE
                    + " BIGINT AUTO_INCREMENT PRIMARY KEY) ENGINE=" + (unbounded ? "Aria" : "MEMORY") + " AS SELECT "
                    + names + " FROM " + target + " LIMIT 0");
        }
    }

    @Override
    public Outcome load(RowBuffer rows, int first, int end) throws SQLException {
        try (Statement s = connection.createStatement()) {
            s.executeUpdate("DELETE FROM " + staging);
            String refusal = infile.load(rows, first, end);
            if (refusal != null) {
                return Outcome.refused(refusal);
            }
            long added = 0;
            try (ResultSet count = s.executeQuery(countNew)) {
                if (count.next()) {
                    added = count.getLong(1);
                }
            }
            // One for each row added, two for each changed, none for each left as it is.
            long affected = s.executeLargeUpdate(insert);
            SQLWarning warning = s.getWarnings();
            if (warning != null) {
                return Outcome.refused(warning.getMessage());
            }
            long changed = (affected - added) / 2;
            return new Outcome(added, changed, end - first - added - changed, null);
        }
    }
}
