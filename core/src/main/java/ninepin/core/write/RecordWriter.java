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
     * Begins a file in the usual style.
     *
     * @param out where the bytes go; closed with the writer
     */
    static RecordWriter to(OutputStream out, Layout layout) throws IOException {
        return to(out, layout, WriteStyle.USUAL);
    }

    /**
     * Begins a file.
     *
     * @param out where the bytes go; closed with the writer
     */
    static RecordWriter to(OutputStream out, Layout layout, WriteStyle style) throws IOException {
        if (layout.format() instanceof Delimited) {
            return new DelimitedWriter(out, layout, style).begin();
        }
        if (layout.format() instanceof FixedLength) {
            return new FixedLengthWriter(out, layout, style);
        }
        return new XmlWriter(out, layout, style);
    }

    /**
     * Goes on with a file that was begun: nothing is written before the next record.
     *
     * @param state what {@link #state} gave behind the record written last
     */
    static RecordWriter onward(OutputStream out, Layout layout, WriteStyle style, String state) throws IOException {
        if (layout.format() instanceof Delimited) {
            return new DelimitedWriter(out, layout, style);
        }
        if (layout.format() instanceof FixedLength) {
            return new FixedLengthWriter(out, layout, style);
        }
        return new XmlWriter(out, layout, style, state);
    }

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
     * @param values for each field its value as {@link ninepin.core.read.Value#text} gives it, null for NULL
     * @throws UnwritableException when a value cannot stand in its field
     */
    void write(int type, List<String> values) throws IOException;
}
