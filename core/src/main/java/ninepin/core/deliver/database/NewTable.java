package ninepin.core.deliver.database;

import java.util.List;
import ninepin.core.layout.DataType;

/**
 * A table to be made.
 *
 * @param name its name, with or without its schema
 * @param columns its columns, at least one
 * @param primaryKey the columns of its primary key, or none
 */
public record NewTable(String name, List<Column> columns, List<String> primaryKey) {

    /**
     * A column.
     *
     * @param type what it holds
     * @param required whether it must have a value
     */
    public record Column(String name, DataType type, boolean required) {}

    public NewTable {
        columns = List.copyOf(columns);
        primaryKey = List.copyOf(primaryKey);
    }
}
