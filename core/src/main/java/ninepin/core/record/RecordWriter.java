package ninepin.core.record;

import java.io.Closeable;
import java.io.IOException;
import java.util.List;
import ninepin.core.value.UnwritableException;

/** Writes records as a layout describes them. */
public interface RecordWriter extends Closeable {

    /**
     * What has to be known to go on behind the record written last. All that was written has then been handed to the
     * stream.
     *
     * @return a short text; empty where there is nothing to know
     */
    default String state() throws IOException {
        return "";
    }

    /**
     * Writes a record.
     *
     * @param type the index of its record type
     * @param values for each field its value as {@link ninepin.core.value.Value#text} gives it, null for NULL
     * @throws UnwritableException when a value cannot stand in its field
     */
    void write(int type, List<String> values) throws IOException;
}
