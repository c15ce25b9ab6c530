package ninepin.core.formula;

import java.util.Arrays;
import ninepin.core.value.Value;

/**
 * The typed values of the records of a document, in the order of the file, each behind the one it belongs to. They are
 * copies, so they outlive the records; the objects are used again for the next document.
 */
public final class DocumentValues {

    private int[] types = new int[16];
    private int[] depths = new int[16];
    private Value[][] values = new Value[16][];
    private boolean[] left = new boolean[16];
    private int size;

    public void clear() {
        size = 0;
    }

    public int size() {
        return size;
    }

    /**
     * Adds a record.
     *
     * @param type the index of its record type
     * @param depth how many records it belongs to
     * @param from its values, which are copied
     */
    public void add(int type, int depth, Value... from) {
        if (size == types.length) {
            types = Arrays.copyOf(types, size * 2);
            depths = Arrays.copyOf(depths, size * 2);
            values = Arrays.copyOf(values, size * 2);
            left = Arrays.copyOf(left, size * 2);
        }
        types[size] = type;
        depths[size] = depth;
        left[size] = false;
        Value[] own = values[size];
        if (own == null || own.length != from.length) {
            own = new Value[from.length];
            for (int f = 0; f < own.length; f++) {
                own[f] = new Value();
            }
            values[size] = own;
        }
        for (int f = 0; f < from.length; f++) {
            own[f].copyOf(from[f]);
        }
        size++;
    }

    public int type(int record) {
        return types[record];
    }

    /** The values of a record, by field. */
    public Value[] values(int record) {
        return values[record];
    }

    /** Leaves a record out of all aggregates. */
    public void leaveOut(int record) {
        left[record] = true;
    }

    boolean isLeftOut(int record) {
        return left[record];
    }

    int depth(int record) {
        return depths[record];
    }

    /** The record behind the last one that belongs to a record. */
    public int endOf(int record) {
        int end = record + 1;
        while (end < size && depths[end] > depths[record]) {
            end++;
        }
        return end;
    }
}
