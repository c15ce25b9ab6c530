package ninepin.core.deliver;

import java.util.List;

/**
 * A delivery to a table of a database.
 *
 * @param connection the name of the connection
 * @param table the table, with or without its schema: {@code quality_result} or {@code dairy.quality_result}; of
 *     {@link Mode#STATEMENT} a name for what the statement does
 * @param mode what happens to a row that is there already
 * @param key the columns by which a row is known, for modes {@link Mode#byKey}
 * @param statement with {@link Mode#STATEMENT} what is run for each row, whose values are its host variables; else null
 * @param writtenBy who wrote the statement, as the application has noted; or null
 */
public record TableDelivery(
        String connection, String table, Mode mode, List<String> key, String statement, String writtenBy)
        implements Destination {

    private static final String UNNAMED = "statement";

    /** A delivery to a table itself. */
    public TableDelivery(String connection, String table, Mode mode, List<String> key) {
        this(connection, table, mode, key, null, null);
    }

    @Override
    public boolean decided() {
        return !connection.isEmpty() && !table.isEmpty() && (mode != Mode.STATEMENT || statement != null);
    }

    @Override
    public boolean fillsTable() {
        return mode != Mode.STATEMENT;
    }

    @Override
    public String label() {
        return table;
    }

    @Override
    public String place() {
        return connection;
    }

    @Override
    public String kind() {
        return null;
    }

    @Override
    public String sort() {
        return "tables";
    }

    @Override
    public boolean intoDatabase() {
        return true;
    }

    @Override
    public boolean replacesAll() {
        return mode == Mode.REPLACE;
    }

    /** What happens to a row, and to the one that is there already. */
    public enum Mode {
        /** Every row is new; one whose key is there already is refused. */
        ADD("added", false),
        /** A row whose key is there already changes that row. */
        ADD_OR_CHANGE("added or changed", true),
        /** A row changes the one with its key; where there is none it is refused. */
        CHANGE("changed", true),
        /** A row whose key is there already leaves that row as it is. */
        ADD_MISSING("added where they are missing", true),
        /** A row removes the one with its key; where there is none nothing happens. */
        REMOVE("removed", true),
        /** All rows that are there give way to those of the file, in one transaction. */
        REPLACE("put in place of all others", false),
        /** Each row is given to a statement of the job's own. */
        STATEMENT("given to a statement", false);

        private final String words;

        private final boolean byKey;

        Mode(String words, boolean byKey) {
            this.words = words;
            this.byKey = byKey;
        }

        /** Whether rows are known by a key. */
        public boolean byKey() {
            return byKey;
        }

        public String words() {
            return words;
        }

        @Override
        public String toString() {
            return name().toLowerCase().replace('_', '-');
        }
    }

    public TableDelivery {
        connection = connection == null ? "" : connection.strip();
        mode = mode == null ? Mode.ADD : mode;
        table = table == null ? "" : table.strip();
        table = table.isEmpty() && mode == Mode.STATEMENT ? UNNAMED : table;
        statement = mode != Mode.STATEMENT || statement == null || statement.isBlank() ? null : statement;
        writtenBy = statement == null ? null : writtenBy;
        key = key == null ? List.of() : List.copyOf(key);
    }
}
