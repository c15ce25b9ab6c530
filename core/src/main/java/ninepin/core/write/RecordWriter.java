package ninepin.core.write;

import java.io.Closeable;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Layout;

/** Writes records as a layout describes them. */
public interface RecordWriter extends Closeable {

    /**
     * Begins a file.
     *
     * @param out where the bytes go; closed with the writer
     */
    static RecordWriter to(OutputStream out, Layout layout) throws IOException {
        if (layout.format() instanceof Delimited) {
            return new DelimitedWriter(out, layout);
        }
        if (layout.format() instanceof FixedLength) {
            return new FixedLengthWriter(out, layout);
        }
        return new XmlWriter(out, layout);
    }

    /**
     * Writes a record.
     *
     * @param type the index of its record type
     * @param values for each field its value as {@link ninepin.core.read.Value#text} gives it, null for NULL
     * @throws UnwritableException when a value cannot stand in its field
     */
    void write(int type, List<String> values) throws IOException;
}
