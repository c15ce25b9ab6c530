package ninepin.core.check;

import java.nio.charset.Charset;
import ninepin.core.layout.Severity;
import ninepin.core.read.Value;

/** Remembers the keys of records, and the line on which each first stood. */
public final class SeenKeys {

    private final UniqueCheck keys;

    /**
     * @param fields the indexes of the fields of the key
     * @param charset the charset of texts
     */
    public SeenKeys(int[] fields, Charset charset) {
        this.keys = new UniqueCheck(0, fields, Severity.NOTE, null, charset);
    }

    /** Adds the key of a record; the line it first stood on, or 0 when it is new or a part of it is NULL. */
    public long add(Value[] values, long line) {
        return keys.add(values, line);
    }

    /** Remembers that a key stands on a line, whatever was known of it. */
    public void put(Value[] values, long line) {
        keys.put(values, line);
    }

    /** The line that is remembered of a key, or 0. */
    public long line(Value[] values) {
        return keys.line(values);
    }
}
