package ninepin.core.deliver;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A table as the real database describes it.
 *
 * @param schema its schema
 * @param name its name
 * @param engine its storage engine, or empty
 * @param transactional whether rows and marks can be one transaction
 * @param view whether it is a view
 * @param comment what the database's own comment says, or empty
 * @param estimate about how many rows it has, as far as the database knows without counting; -1 where it does not
 * @param columns its columns in order
 * @param uniqueKeys the columns of each unique index, the primary key first
 * @param foreignKeys what its columns refer to
 */
public record TableDescription(
        String schema,
        String name,
        String engine,
        boolean transactional,
        boolean view,
        String comment,
        long estimate,
        List<Column> columns,
        List<List<String>> uniqueKeys,
        List<ForeignKey> foreignKeys) {

    /**
     * What columns refer to.
     *
     * @param columns the columns
     * @param table the table whose rows they name, with its schema where that is another
     * @param references its columns, in the same order
     */
    public record ForeignKey(List<String> columns, String table, List<String> references) {
        public ForeignKey {
            columns = columns == null ? List.of() : List.copyOf(columns);
            references = references == null ? List.of() : List.copyOf(references);
        }

        /** With the columns of another part behind its own. */
        public ForeignKey and(ForeignKey part) {
            return new ForeignKey(joined(columns, part.columns), table, joined(references, part.references));
        }

        private static List<String> joined(List<String> some, List<String> more) {
            return Stream.concat(some.stream(), more.stream()).toList();
        }
    }

    /** A table of a transactional engine of which no more is known. */
    public TableDescription(
            String schema, String name, String engine, List<Column> columns, List<List<String>> uniqueKeys) {
        this(schema, name, engine, true, false, "", -1, columns, uniqueKeys, List.of());
    }

    public TableDescription {
        foreignKeys = foreignKeys == null ? List.of() : List.copyOf(foreignKeys);
        columns = columns == null ? List.of() : List.copyOf(columns);
        uniqueKeys = uniqueKeys == null
                ? List.of()
                : uniqueKeys.stream().map(List::copyOf).toList();
    }

    /** A column by its name, compared without regard to case as the database does. */
    public Optional<Column> column(String columnName) {
        return columns.stream()
                .filter(c -> c.name().equalsIgnoreCase(columnName))
                .findFirst();
    }

    /** What a column holds, as far as it matters for delivering to it. */
    public enum Family {
        TEXT,
        WHOLE,
        EXACT,
        FLOATING,
        BOOLEAN_BIT,
        DATE,
        TIME,
        TIMESTAMP,
        YEAR,
        CHOICE,
        BINARY,
        OTHER
    }

    /**
     * A column.
     *
     * @param name its name
     * @param label its type as the database writes it, such as {@code varchar(20)}
     * @param family what it holds
     * @param length the most characters of a text, or 0
     * @param precision digits in all of a number, or 0
     * @param scale digits after the point, or of a fraction of a second
     * @param nullable whether it takes NULL
     * @param hasDefault whether the database gives it a value when a row has none
     * @param generated whether the database always computes it
     * @param numbered whether the database numbers it where a row has no value
     * @param comment what the database's own comment says, or empty
     */
    public record Column(
            String name,
            String label,
            Family family,
            long length,
            int precision,
            int scale,
            boolean nullable,
            boolean hasDefault,
            boolean generated,
            boolean numbered,
            String comment) {

        /** Whether a rule must give it a value. */
        public boolean needsRule() {
            return !nullable && !hasDefault && !generated;
        }
    }
}
