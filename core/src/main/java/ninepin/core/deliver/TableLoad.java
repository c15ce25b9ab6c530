package ninepin.core.deliver;

import java.util.List;

/**
 * A table that rows are delivered to.
 *
 * @param delivery the table, and what happens to rows that are there
 * @param columns the columns that rows have values for, in the order of the rows' fields
 * @param parents which of them take the number that the database gives to a row of another table
 */
public record TableLoad(TableDelivery delivery, List<String> columns, List<ParentKey> parents) {

    /**
     * A field that takes the number of a row of another table; the rows have there which row of the document it is.
     *
     * @param field the index of the field
     * @param load the index of the other table among those of the delivery, which comes before
     */
    public record ParentKey(int field, int load) {}

    public TableLoad {
        columns = List.copyOf(columns);
        parents = List.copyOf(parents);
    }

    /** A table whose rows need to know of no other. */
    public TableLoad(TableDelivery delivery, List<String> columns) {
        this(delivery, columns, List.of());
    }

    /** The same rows for a table that stands for it. */
    public TableLoad to(TableDelivery other) {
        return new TableLoad(other, columns, parents);
    }
}
