package ninepin.core.deliver.mariadb;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.shape.RowBuffer;

/** Adds rows straight to the table. */
final class AddStatement implements BulkStatement {

    private final LocalInfile infile;

    AddStatement(Connection connection, TableDelivery delivery, List<String> columns, TableDescription table) {
        this.infile =
                new LocalInfile(connection, TableName.parse(delivery.table()).sql(), columns, table);
    }

    @Override
    public Outcome load(RowBuffer rows, int first, int end) throws SQLException {
        String refusal = infile.load(rows, first, end);
        return refusal == null ? new Outcome(end - first, 0, 0, null) : Outcome.refused(refusal);
    }
}
