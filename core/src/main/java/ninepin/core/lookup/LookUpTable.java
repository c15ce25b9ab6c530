package ninepin.core.lookup;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.value.Value;

/** What a look-up looks into, held in memory. Never changes; may be asked by several threads. */
public final class LookUpTable {

    /** The most values that are held: rows times the fields that are added. */
    public static final int MOST_VALUES = 4_000_000;
    /** What stands for rows of which several have one key. */
    private static final Value[] SEVERAL = new Value[0];

    private final LookUp lookUp;
    private final List<Field> fields;
    private final List<Field> keys;
    private final FileCharset charset;
    private final Map<String, Value[]> rows;
    private final Value[] blank;

    /**
     * @param fields the fields that are added
     * @param keys the fields of the key, in its order
     * @param charset the charset of the texts
     * @param rows the values of the fields by the key's text
     */
    private LookUpTable(
            LookUp lookUp, List<Field> fields, List<Field> keys, FileCharset charset, Map<String, Value[]> rows) {
        this.lookUp = lookUp;
        this.fields = List.copyOf(fields);
        this.keys = List.copyOf(keys);
        this.charset = charset;
        this.rows = rows;
        this.blank = new Value[fields.size()];
        for (int f = 0; f < blank.length; f++) {
            blank[f] = new Value();
        }
    }

    /** Collects the rows of a table. */
    static final class Builder {
        private final LookUp lookUp;
        private final List<Field> fields;
        private final List<Field> keys;
        private final FileCharset charset;
        private final Map<String, Value[]> rows = new HashMap<>();
        private long values;

        Builder(LookUp lookUp, List<Field> fields, List<Field> keys, FileCharset charset) {
            this.lookUp = lookUp;
            this.fields = fields;
            this.keys = keys;
            this.charset = charset;
        }

        /** Adds a row; its values are copied. */
        void add(String key, Value[] own) throws LookUpException {
            values += own.length + 1L;
            if (values > MOST_VALUES) {
                throw new LookUpException("It has more than " + rows.size() + " rows, which is as much as is held of "
                        + fields.size() + " fields. Take fewer fields, or look into a view with fewer rows.");
            }
            Value[] copies = new Value[own.length];
            for (int f = 0; f < own.length; f++) {
                copies[f] = new Value();
                copies[f].takeExactly(own[f]);
            }
            rows.merge(key, copies, (a, b) -> SEVERAL);
        }

        LookUpTable table() {
            return new LookUpTable(lookUp, fields, keys, charset, rows);
        }
    }

    public LookUp lookUp() {
        return lookUp;
    }

    /** The fields that are added. */
    public List<Field> fields() {
        return fields;
    }

    /** The fields of the key, in its order. */
    public List<Field> keys() {
        return keys;
    }

    /** The charset of its texts. */
    public FileCharset charset() {
        return charset;
    }

    /** How many different keys there are. */
    public int size() {
        return rows.size();
    }

    /** The values for a key, see {@link KeyText}; null where it is not there. */
    public Value[] find(String key) {
        return rows.get(key);
    }

    /** Whether what was found stands for several rows with one key. */
    public static boolean isSeveral(Value[] found) {
        return found == SEVERAL;
    }

    /** NULL for each field. */
    public Value[] blank() {
        return blank;
    }
}
