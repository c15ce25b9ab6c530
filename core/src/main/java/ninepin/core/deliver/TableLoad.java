package ninepin.core.deliver;

import java.util.List;

/**
 * A table that rows are delivered to.
 *
 * @param delivery the table, and what happens to rows that are there
 * @param columns the columns that rows have values for, in the order of the rows' fields
 */
public record TableLoad(TableDelivery delivery, List<String> columns) {

    public TableLoad {
        columns = List.copyOf(columns);
    }
}
