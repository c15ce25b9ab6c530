package ninepin.core.record;

import java.util.Arrays;

/** A record that a reader fills: where it stands, the bytes that hold it, and the slices of its fields. */
public class RecordBuffer extends RawRecord {

    /** The most fields of a record. */
    public static final int MAX_FIELDS = 16_384;

    /** The places that the fields have, where they were taken at once; else null. */
    private int[] taken;

    /**
     * Makes ready for a record.
     *
     * @param newOffset the byte of the file where it starts
     * @param newLine the line where it starts
     */
    public final void begin(long newOffset, long newLine) {
        offset = newOffset;
        line = newLine;
        clear();
    }

    /** Forgets fields and fault. */
    public final void clear() {
        fieldCount = 0;
        fault = null;
        placed = false;
    }

    /** Says which bytes hold it; as many of the file as the format makes of them. */
    public final void hold(byte[] newBuffer, int newStart, int newLength) {
        move(newBuffer, newStart);
        length = newLength;
        fullLength = byteOf(newLength) - offset;
    }

    /** Says where its bytes have been moved. */
    public final void move(byte[] newBuffer, int newStart) {
        buffer = newBuffer;
        start = newStart;
    }

    /** Says how many bytes it has in the file, where not all of them are held. */
    public final void fullLength(long bytes) {
        fullLength = bytes;
    }

    /** Numbers it among the records of the file, from 1; 0 for what is none. */
    public final void number(long newNumber) {
        number = newNumber;
    }

    /** Says what is wrong with how it is written. */
    public final void fault(Fault newFault) {
        fault = newFault;
    }

    /** Makes it a record of a type. */
    public final void type(int newType) {
        type = newType;
    }

    /** Makes ready for fields that do not stand where the layout places them. */
    public final void misplace() {
        taken = null;
    }

    /** Adds a field; false when there are more than a record may have. */
    public final boolean add(int fieldFrom, int fieldTo, byte mark) {
        if (fieldCount == from.length) {
            if (fieldCount >= MAX_FIELDS) {
                return false;
            }
            int larger = Math.min(MAX_FIELDS, fieldCount * 2);
            from = Arrays.copyOf(from, larger);
            to = Arrays.copyOf(to, larger);
            marks = Arrays.copyOf(marks, larger);
        }
        from[fieldCount] = fieldFrom;
        to[fieldCount] = fieldTo;
        marks[fieldCount++] = mark;
        return true;
    }

    /** Takes the places that a layout gives to all fields of a type. */
    public final void takePlaces(int[] starts, int[] ends) {
        placed = true;
        fieldCount = starts.length;
        if (taken == starts) {
            return;
        }
        taken = starts;
        if (from.length < starts.length) {
            from = new int[starts.length];
            to = new int[starts.length];
            marks = new byte[starts.length];
        }
        System.arraycopy(starts, 0, from, 0, starts.length);
        System.arraycopy(ends, 0, to, 0, starts.length);
    }

    /** Says which bytes hold the values of its fields; null where they are slices of the record. */
    public final void values(byte[] bytes) {
        valueBytes = bytes;
    }

    /** Makes ready for values that are held apart; none has a value yet. */
    public final void beginValues(int fields) {
        if (valueFrom == null || valueFrom.length < fields) {
            valueFrom = new int[fields];
            valueTo = new int[fields];
        }
        Arrays.fill(valueFrom, 0, fields, -1);
        Arrays.fill(valueTo, 0, fields, 0);
    }

    /** Says where the value of a field stands among {@link #valueBytes()}. */
    public final void value(int field, int valueStart, int valueEnd) {
        valueFrom[field] = valueStart;
        valueTo[field] = valueEnd;
    }

    /** Whether nothing but blanks stands in its fields. */
    public final boolean blank() {
        for (int f = 0; f < fieldCount; f++) {
            if (marks[f] != 0) {
                return false;
            }
            for (int i = start + from[f]; i < start + to[f]; i++) {
                if (buffer[i] != ' ' && buffer[i] != '\t') {
                    return false;
                }
            }
        }
        return true;
    }
}
