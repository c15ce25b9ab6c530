package ninepin.core.deliver.mariadb;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.SQLWarning;
import java.sql.Statement;
import java.util.List;
import java.util.stream.Collectors;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.database.BulkStatement;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.database.RowLoader;
import ninepin.core.shape.RowBuffer;

/**
 * Adds rows, and changes those whose key is there: the chunk goes into a temporary table and from there into the
 * target in one statement, in the order of the file, so that of two rows with one key the later one counts.
 */
final class AddOrChangeStatement implements BulkStatement {

    private final Connection connection;
    private final String staging;
    private final RowLoader infile;
    private final String insert;
    private final String countNew;

    AddOrChangeStatement(
            MariaDb dialect,
            Connection connection,
            String target,
            List<String> columns,
            List<String> key,
            TableDescription described,
            int number)
            throws SQLException {
        this.connection = connection;
        this.staging = dialect.quoted(Dialect.STAGING + number);
        try (Statement s = connection.createStatement()) {
            for (String make : dialect.staging(staging, target, columns, described, true)) {
                s.execute(make);
            }
        }
        this.infile = dialect.loader(connection, staging, columns, described);
        String names = dialect.listed(columns);
        List<String> changed = columns.stream().filter(c -> !key.contains(c)).toList();
        String sets = (changed.isEmpty() ? columns.subList(0, 1) : changed)
                .stream()
                        .map(dialect::quoted)
                        .map(c -> c + " = VALUES(" + c + ")")
                        .collect(Collectors.joining(", "));
        this.insert = "INSERT INTO " + target + " (" + names + ") SELECT " + names + " FROM " + staging + " ORDER BY "
                + dialect.quoted(Dialect.SEQUENCE) + " ON DUPLICATE KEY UPDATE " + sets;
        String keys = key.stream().map(k -> "s." + dialect.quoted(k)).collect(Collectors.joining(", "));
        String join = key.stream()
                .map(dialect::quoted)
                .map(k -> "t." + k + " = s." + k)
                .collect(Collectors.joining(" AND "));
        this.countNew = "SELECT COUNT(DISTINCT " + keys + ") FROM " + staging + " s WHERE NOT EXISTS (SELECT 1 FROM "
                + target + " t WHERE " + join + ")";
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
            return new Outcome(added, changed, end - first - added - changed, 0, null);
        }
    }
}
