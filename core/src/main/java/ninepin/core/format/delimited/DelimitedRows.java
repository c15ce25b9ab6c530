package ninepin.core.format.delimited;

import ninepin.core.bytes.ByteSource;
import ninepin.core.format.lines.TypeTags;
import ninepin.core.layout.Delimited;
import ninepin.core.record.Position;
import ninepin.core.record.RecordReader;

/** Chooses the reader of delimited rows: a fast one for what the standard knows, and one for all the rest. */
public final class DelimitedRows {

    private DelimitedRows() {}

    /** Reads all rows from a place on, whatever they are. The source is closed with the reader. */
    public static RecordReader of(ByteSource source, Delimited format, Position start) {
        return of(source, format, start, null, start.offset());
    }

    /**
     * @param tags tells the record types apart, or null where there is one
     * @param body where the first record of the file starts
     */
    static RecordReader of(ByteSource source, Delimited format, Position start, TypeTags tags, long body) {
        return format.standard()
                ? new DelimitedReader(source, format, start, tags, body)
                : new FreeDelimitedReader(source, format, start, tags, body);
    }
}
