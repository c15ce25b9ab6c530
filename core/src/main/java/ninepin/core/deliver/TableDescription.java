package ninepin.core.deliver;

import java.util.List;
import java.util.Optional;

/**
 * A table as the real database describes it.
 *
 * @param schema its schema
 * @param name its name
 * @param engine its storage engine; rows and marks are one transaction only with a transactional one
 * @param columns its columns in order
 * @param uniqueKeys the columns of each unique index, the primary key first
 */
public record TableDescription(
        String schema, String name, String engine, List<Column> columns, List<List<String>> uniqueKeys) {

    public TableDescription {
        columns = List.copyOf(columns);
        uniqueKeys = uniqueKeys.stream().map(List::copyOf).toList();
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
            String comment) {

        /** Whether a rule must give it a value. */
        public boolean needsRule() {
            return !nullable && !hasDefault && !generated;
        }
    }
}
