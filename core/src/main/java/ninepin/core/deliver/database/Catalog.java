package ninepin.core.deliver.database;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.TableDescription;

/** What tables a database has, as it describes them itself. */
public interface Catalog {

    /** What Ninepin's own tables begin with. */
    String OWN = "ninepin_";

    /**
     * A table or view that can be seen.
     *
     * @param name its name, with its schema where that is not the usual one
     * @param view whether it is a view
     * @param readable whether its rows may be read
     * @param writable whether rows may be added to it
     */
    record Listed(String name, boolean view, boolean readable, boolean writable) {}

    /** The tables and views of the database, Ninepin's own left out. */
    List<Listed> tables() throws SQLException;

    /** A table or view by its name, with or without schema; empty when there is none. */
    Optional<TableDescription> describe(String table) throws SQLException;
}
