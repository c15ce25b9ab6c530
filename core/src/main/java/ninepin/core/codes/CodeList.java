package ninepin.core.codes;

import java.time.LocalDate;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Names;

/**
 * A table of translations. The first column holds the values that files have; the others say what they mean elsewhere.
 *
 * @param name the name it is known by; lower case letters, digits and hyphens
 * @param title the name people read
 * @param description what it is for, or null
 * @param columns the names of its columns, the one of the values first
 * @param entries its lines; empty where they are read by a query
 * @param query where the lines come from when they are not kept here, or null
 * @param missing what happens to a value that is not in it
 */
public record CodeList(
        String name,
        String title,
        String description,
        List<String> columns,
        List<Entry> entries,
        Query query,
        Missing missing) {

    /** The most lines of a list. */
    public static final int MOST_ENTRIES = 200_000;

    /**
     * A line.
     *
     * @param values a value for each column; null or left out at the end for none
     * @param from the first day on which it holds, or null
     * @param to the last day on which it holds, or null
     */
    public record Entry(List<String> values, LocalDate from, LocalDate to) {
        public Entry {
            values = values == null ? List.of() : java.util.Collections.unmodifiableList(values);
            if (from != null && to != null && to.isBefore(from)) {
                throw new DefinitionException("entries", "a line holds until " + to + ", before it begins on " + from);
            }
        }

        /** The value of a column, or null. */
        public String value(int column) {
            return column < values.size() ? values.get(column) : null;
        }

        boolean overlaps(Entry other) {
            boolean thisEndsBefore = to != null && other.from != null && to.isBefore(other.from);
            boolean otherEndsBefore = other.to != null && from != null && other.to.isBefore(from);
            return !thisEndsBefore && !otherEndsBefore;
        }
    }

    /**
     * A query whose rows are the lines; its columns are those of the list, in order.
     *
     * @param connection the name of the connection
     * @param statement one SELECT
     */
    public record Query(String connection, String statement) {
        public Query {
            if (connection == null || connection.isBlank()) {
                throw new DefinitionException("query.connection", "a query names its connection");
            }
            if (statement == null || !statement.strip().toLowerCase(Locale.ROOT).matches("(?s)(select|with)\\b.*")) {
                throw new DefinitionException("query.statement", "a query is one SELECT");
            }
            if (statement.toLowerCase(Locale.ROOT).matches("(?s).*\\binto\\s+(outfile|dumpfile)\\b.*")) {
                throw new DefinitionException("query.statement", "a query writes no file");
            }
        }
    }

    /** What happens to a value that is not in the list. */
    public enum Policy {
        /** The record is refused. */
        REJECT,
        /** The value is passed on as it is, and a note says so. */
        PASS,
        /** Another value stands for it. */
        VALUE;

        @Override
        public String toString() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /**
     * What happens to a value that is not in the list.
     *
     * @param policy what happens
     * @param value what stands for it, for {@link Policy#VALUE}; null is NULL
     */
    public record Missing(Policy policy, String value) {
        public static final Missing REJECT = new Missing(Policy.REJECT, null);

        public Missing {
            policy = policy == null ? Policy.REJECT : policy;
        }

        /** What happens, in words. */
        public String sentence() {
            return switch (policy) {
                case REJECT -> "the record is rejected";
                case PASS -> "it is passed on with a note";
                case VALUE -> value == null ? "it becomes NULL" : "it becomes \"" + value + "\"";
            };
        }
    }

    public CodeList {
        Names.requireSlug("code list", name);
        title = title == null || title.isBlank() ? name : title;
        columns = columns == null || columns.isEmpty() ? List.of("value", "meaning") : List.copyOf(columns);
        entries = entries == null ? List.of() : List.copyOf(entries);
        missing = missing == null ? Missing.REJECT : missing;
        Set<String> names = new HashSet<>();
        for (String column : columns) {
            if (column == null || column.isBlank()) {
                throw new DefinitionException("columns", "a column has no name");
            }
            if (!names.add(column.toLowerCase(Locale.ROOT))) {
                throw new DefinitionException("columns", "two columns are named " + column);
            }
        }
        if (entries.size() > MOST_ENTRIES) {
            throw new DefinitionException(
                    "entries", "there are " + entries.size() + " lines; a list has at most " + MOST_ENTRIES);
        }
        requireDistinct(columns.size(), entries);
    }

    private static void requireDistinct(int columns, List<Entry> entries) {
        Map<String, Object> seen = new HashMap<>();
        for (Entry entry : entries) {
            String value = entry.value(0);
            if (value == null || value.isEmpty()) {
                throw new DefinitionException("entries", "a line has no value in the first column");
            }
            if (entry.values().size() > columns) {
                throw new DefinitionException(
                        "entries", "the line of \"" + value + "\" has more than " + columns + " values");
            }
            Object before = seen.put(value, entry);
            if (before instanceof Entry one && one.overlaps(entry)
                    || before instanceof List<?> list && clash(list, entry)) {
                throw new DefinitionException("entries", "\"" + value + "\" stands twice for the same days");
            }
            if (before != null) {
                List<Object> all = new java.util.ArrayList<>(before instanceof List<?> list ? list : List.of(before));
                all.add(entry);
                seen.put(value, all);
            }
        }
    }

    private static boolean clash(List<?> list, Entry entry) {
        return list.stream().anyMatch(e -> ((Entry) e).overlaps(entry));
    }

    /** The same list with other lines. */
    public CodeList withEntries(List<Entry> other) {
        return new CodeList(name, title, description, columns, other, query, missing);
    }
}
