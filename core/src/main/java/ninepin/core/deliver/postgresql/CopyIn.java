package ninepin.core.deliver.postgresql;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.database.RowLoader;
import ninepin.core.deliver.database.SilentLoss;
import ninepin.core.shape.RowBuffer;
import org.postgresql.PGConnection;

/**
 * {@code COPY … FROM STDIN} fed from memory. The server rounds numbers and times that have more digits than their column,
 * and cuts the time off a date, without a word; so such values are looked for before it is asked.
 */
final class CopyIn implements RowLoader {

    private final Connection connection;
    private final String sql;
    private final SilentLoss loss;

    CopyIn(Connection connection, String sql, List<Column> columns) {
        this.connection = connection;
        this.sql = sql;
        this.loss = new SilentLoss(columns);
    }

    @Override
    public String load(RowBuffer rows, int first, int end) throws SQLException {
        String lost = loss.of(rows, first, end);
        if (lost != null) {
            return lost;
        }
        org.postgresql.copy.CopyIn in =
                connection.unwrap(PGConnection.class).getCopyAPI().copyIn(sql);
        long loaded;
        try {
            int start = rows.start(first);
            in.writeToCopy(rows.bytes(), start, rows.end(end - 1) - start);
            loaded = in.endCopy();
        } finally {
            if (in.isActive()) {
                in.cancelCopy();
            }
        }
        return loaded == end - first ? null : "The server took " + loaded + " of " + (end - first) + " rows.";
    }
}
