package ninepin.core.deliver.database;

import java.sql.SQLException;
import ninepin.core.shape.RowBuffer;

/** The bulk statement of a database, which takes rows into one table. */
public interface RowLoader {

    /**
     * Loads the rows from {@code first} up to but not including {@code end}.
     *
     * @return why the server refuses a row, or would change a value or leave a row out; null when all are in as they are.
     *     Where it can be told the reason ends with {@code at row N}, counted from 1, and has {@code column 'name'}.
     */
    String load(RowBuffer rows, int first, int end) throws SQLException;
}
