package ninepin.core.deliver.database;

import java.sql.SQLException;
import ninepin.core.shape.RowBuffer;

/** Adds rows straight to the table. */
final class AddStatement implements BulkStatement {

    private final RowLoader loader;

    AddStatement(RowLoader loader) {
        this.loader = loader;
    }

    @Override
    public Outcome load(RowBuffer rows, int first, int end) throws SQLException {
        String refusal = loader.load(rows, first, end);
        return refusal == null ? new Outcome(end - first, 0, 0, 0, null) : Outcome.refused(refusal);
    }
}
