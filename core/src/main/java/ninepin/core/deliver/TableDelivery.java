package ninepin.core.deliver;

import java.util.List;
import ninepin.core.layout.DefinitionException;

/**
 * A delivery to a table of a database.
 *
 * @param connection the name of the connection
 * @param table the table, with or without its schema: {@code quality_result} or {@code dairy.quality_result}
 * @param mode what happens to a row that is there already
 * @param key the columns by which a row is known, for {@link Mode#ADD_OR_CHANGE}
 */
public record TableDelivery(String connection, String table, Mode mode, List<String> key) {

    /** What happens to a row whose key is in the table already. */
    public enum Mode {
        /** Every row is new; one whose key is there already is refused. */
        ADD("added"),
        /** A row whose key is there already changes that row. */
        ADD_OR_CHANGE("added or changed");

        private final String words;

        Mode(String words) {
            this.words = words;
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
        if (connection == null || connection.isBlank()) {
            throw new DefinitionException("delivery.connection", "a delivery names its connection");
        }
        if (table == null || table.isBlank()) {
            throw new DefinitionException("delivery.table", "a delivery names its table");
        }
        mode = mode == null ? Mode.ADD : mode;
        key = key == null ? List.of() : List.copyOf(key);
        if (mode == Mode.ADD_OR_CHANGE && key.isEmpty()) {
            throw new DefinitionException("delivery.key", "to change by key, a delivery names the columns of the key");
        }
    }
}
