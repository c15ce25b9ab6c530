package ninepin.core.shape;

import java.util.HashMap;
import java.util.Map;

/**
 * The rows that the document under way has in each table, for rules that refer to one of them. Belongs to one thread.
 */
public final class RowsMade {

    private static final int NONE = -1;

    /** For each table the row that a record made at last, counted from 0 in its document, and how many there are. */
    private static final class Table {
        int latest = NONE;
        int rows;
    }

    private final Map<String, Table> tables = new HashMap<>();

    private Table table(String name) {
        return tables.computeIfAbsent(name, n -> new Table());
    }

    /** A document begins. */
    public void begin() {
        for (Table table : tables.values()) {
            table.latest = NONE;
            table.rows = 0;
        }
    }

    /** A record of the kind that makes rows of a table begins; it may make none. */
    public void stand(String table) {
        table(table).latest = NONE;
    }

    /** The record has made a row of the table. */
    public void made(String table) {
        Table of = table(table);
        of.latest = of.rows++;
    }

    /** The row of a table that the record, or the one it belongs to, has made: its number in the document; -1 for none. */
    int latest(String table) {
        return table(table).latest;
    }
}
