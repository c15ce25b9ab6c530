package ninepin.core.deliver.file;

import java.util.List;
import ninepin.core.deliver.FileDelivery;

/**
 * Rows that become records of files.
 *
 * @param delivery the files, and the record type
 * @param columns the fields that rows have values for, in the order of the rows
 */
public record FileLoad(FileDelivery delivery, List<String> columns) {

    public FileLoad {
        columns = List.copyOf(columns);
    }
}
