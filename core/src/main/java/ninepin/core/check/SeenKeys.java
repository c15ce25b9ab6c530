package ninepin.core.check;

import java.nio.charset.Charset;
import ninepin.core.layout.Severity;
import ninepin.core.value.Value;

/** Remembers the keys of records, and the place at which each first stood: a line or the number of a record. */
public final class SeenKeys {

    private final UniqueCheck keys;

    /**
     * @param fields the indexes of the fields of the key
     * @param charset the charset of texts
     */
    public SeenKeys(int[] fields, Charset charset) {
        this.keys = new UniqueCheck(0, fields, Severity.NOTE, null, charset);
    }

    /** Adds the key of a record; the place it first stood at, or 0 when it is new or a part of it is NULL. */
    public long add(Value[] values, long place) {
        return keys.add(values, place);
    }

    /** Remembers that a key stands at a place, whatever was known of it. */
    public void put(Value[] values, long place) {
        keys.put(values, place);
    }

    /** The place that is remembered of a key, or 0. */
    public long place(Value[] values) {
        return keys.line(values);
    }
}
