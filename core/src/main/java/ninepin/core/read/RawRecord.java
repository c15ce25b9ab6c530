package ninepin.core.read;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * A record as it stands in the file: its place, and each field as a slice of the reader's buffer. One object is used
 * again for every record.
 */
public final class RawRecord implements Placed {

    static final int MAX_FIELDS = 16_384;

    static final Fault BLANK_ROW = new Fault(
            "ROW-03",
            -1,
            0,
            0,
            "a blank row",
            "a record",
            "The layout says that blank rows are rejects; it can pass over them.");

    byte[] buffer;
    int start;
    int length;
    long offset;
    long fullLength;
    long line;
    long number;
    Fault fault;
    int type;
    int columnBefore;
    /** Whether the file writes in UTF-16 what is held here as UTF-8. */
    boolean wide;
    /** The encoding of an XML file, or null where it is UTF-8 or the file is of another kind. */
    Charset encoding;

    /** For values that are gathered: whether places still are characters, and what it takes to turn them into bytes. */
    private boolean unplaced;

    long firstChar;
    int bytesPerChar;

    int fieldCount;
    int[] from = new int[64];
    int[] to = new int[64];
    byte[] marks = new byte[64];

    /** Whether every field stands at the place that the layout gives it. */
    private boolean placed;
    /** The places that the fields have, where they were taken at once; else null. */
    private int[] taken;

    private BitSet repeated;

    /** Breaches of the schema, and the character of the record at which each was found; null for none. */
    private List<String> breaches;

    private List<Integer> breachPlaces;

    byte[] valueBytes;
    int[] valueFrom;
    int[] valueTo;

    static final byte QUOTED = 1;
    static final byte DOUBLED = 2;

    /** The bytes that hold the record, from {@link #start()} on. */
    public byte[] buffer() {
        return buffer;
    }

    /** Where the record starts in the buffer. */
    public int start() {
        return start;
    }

    /** The number of its bytes in the buffer, without its line end. */
    public int length() {
        return length;
    }

    /** The byte of the file where it starts, from 0. */
    @Override
    public long offset() {
        return offset;
    }

    /** The number of its bytes in the file; more than {@link #length()} where a record was too long to keep. */
    @Override
    public long fullLength() {
        return fullLength;
    }

    /** The byte of the file at which a place of the record stands. */
    public long byteOf(int place) {
        return offset + (wide ? Utf16Window.width(buffer, start, start + place) : place);
    }

    /** Whether its bytes are held in another encoding than the file has, so that no slice of the file is the record. */
    public boolean transcribed() {
        return wide || encoding != null;
    }

    /** Its bytes as they stand in the file; those of UTF-16 with the higher byte first, those of XML in UTF-8. */
    public byte[] fileBytes() {
        if (encoding != null) {
            return text(encoding).getBytes(StandardCharsets.UTF_8);
        }
        return wide
                ? new String(buffer, start, length, StandardCharsets.UTF_8).getBytes(StandardCharsets.UTF_16BE)
                : Arrays.copyOfRange(buffer, start, start + length);
    }

    /** The line of the file where it starts, from 1. */
    @Override
    public long line() {
        return line;
    }

    /** Its number among the records of the file, from 1; 0 for a blank row. */
    @Override
    public long number() {
        return number;
    }

    /** The characters that stand before it on its first line. */
    public int columnBefore() {
        return columnBefore;
    }

    /** The index of its record type in the layout; -1 where a fault keeps it from being told. */
    public int type() {
        return type;
    }

    /** What is wrong with how it is written, or null. */
    public Fault fault() {
        return fault;
    }

    public int fieldCount() {
        return fieldCount;
    }

    /** Where the content of a field starts, counted from the start of the record, quotes left out. */
    public int from(int field) {
        if (unplaced) {
            place();
        }
        return from[field];
    }

    /** The byte after the content of a field. */
    public int to(int field) {
        if (unplaced) {
            place();
        }
        return to[field];
    }

    /** Whether a field stands in quotes. */
    public boolean quoted(int field) {
        return (marks[field] & QUOTED) != 0;
    }

    /** Whether a field holds doubled quotes that stand for one. */
    public boolean doubled(int field) {
        return (marks[field] & DOUBLED) != 0;
    }

    /** The encoding of an XML file, or null where it is UTF-8 or the file is of another kind. */
    public Charset encoding() {
        return encoding;
    }

    /** The bytes of a unit of the file's text: two in XML of UTF-16, else one. */
    public int unitBytes() {
        return encoding != null && WrittenCharset.wide(encoding) ? 2 : 1;
    }

    /** The unit that begins at a place of the record: a byte as it is, or two as a number; -1 behind the end. */
    public int unit(int place) {
        if (place + unitBytes() > length) {
            return -1;
        }
        int at = start + place;
        if (unitBytes() == 1) {
            return buffer[at];
        }
        int low = encoding.equals(StandardCharsets.UTF_16BE) ? 1 : 0;
        return (buffer[at + 1 - low] & 0xff) << 8 | buffer[at + low] & 0xff;
    }

    /** The text of the whole record. */
    public String text(Charset charset) {
        return new String(buffer, start, length, charset);
    }

    /** The text of a field with quotes and escapes undone. */
    public String text(int field, Charset charset, char quote) {
        if (valueBytes != null) {
            int at = valueFrom[field];
            return at < 0 ? "" : new String(valueBytes, at, valueTo[field] - at, charset);
        }
        String text = new String(buffer, start + from[field], to[field] - from[field], charset);
        return doubled(field) ? text.replace("" + quote + quote, String.valueOf(quote)) : text;
    }

    /** The bytes that hold the values of fields, in UTF-8, where they differ from the file's own; else null. */
    public byte[] valueBytes() {
        return valueBytes;
    }

    /** Where the value of a field starts among {@link #valueBytes()}, or -1 where the record lacks the field. */
    public int valueFrom(int field) {
        return valueFrom[field];
    }

    /** The byte after the value of a field. */
    public int valueTo(int field) {
        return valueTo[field];
    }

    void addRepeated(int field) {
        if (repeated == null) {
            repeated = new BitSet();
        }
        repeated.set(field);
    }

    /** The fields whose element stands more than once, of which the first is taken; null where there are none. */
    public BitSet repeated() {
        return repeated;
    }

    void addBreach(String message, int character) {
        if (breaches == null) {
            breaches = new ArrayList<>();
            breachPlaces = new ArrayList<>();
        }
        breaches.add(message);
        breachPlaces.add(character);
    }

    /** Whether something of the record breaches the schema of its file. */
    public boolean breached() {
        return breaches != null;
    }

    /** What of the record breaches the schema of its file; the field is none. */
    public List<Fault> breaches() {
        if (breaches == null) {
            return List.of();
        }
        List<Fault> faults = new ArrayList<>();
        for (int i = 0; i < breaches.size(); i++) {
            int at = Math.max(0, Math.min(length, byteAt(breachPlaces.get(i))));
            faults.add(new Fault(
                    "XSD-01",
                    Fault.NO_FIELD,
                    at,
                    endOfTag(at),
                    "a breach of the schema: " + breaches.get(i),
                    "what the schema allows",
                    null));
        }
        return faults;
    }

    /** The place behind the tag that stands at another; one unit behind that where none does. */
    private int endOfTag(int at) {
        int width = unitBytes();
        int end = at;
        while (unit(at) == '<' && unit(end) != '>' && end < length) {
            end += width;
        }
        return Math.min(length, end + width);
    }

    /** Makes this a record whose values are gathered one by one. */
    void beginValues(int newType, int fields, long newOffset, long newLine) {
        clear();
        breaches = null;
        repeated = null;
        type = newType;
        offset = newOffset;
        line = newLine;
        if (valueFrom == null || valueFrom.length < fields) {
            valueFrom = new int[fields];
            valueTo = new int[fields];
        }
        while (fieldCount < fields) {
            add(0, 0, (byte) 0);
        }
        unplaced = true;
        Arrays.fill(from, 0, fields, 0);
        Arrays.fill(to, 0, fields, 0);
        Arrays.fill(valueFrom, 0, fields, -1);
        Arrays.fill(valueTo, 0, fields, 0);
    }

    /** Turns the places of gathered values from characters into bytes; few are ever asked for. */
    private void place() {
        unplaced = false;
        for (int f = 0; f < fieldCount; f++) {
            if (from[f] < 0) {
                XmlAttribute.place(this, f, byteAt(-1 - from[f]), to[f]);
            } else {
                from[f] = byteAt(from[f]);
                to[f] = byteAt(to[f]);
            }
        }
    }

    private int byteAt(int character) {
        return bytesPerChar > 0
                ? character * bytesPerChar
                : Utf8.skip(buffer, start, start + length, character) - start;
    }

    void clear() {
        fieldCount = 0;
        fault = null;
        placed = false;
    }

    /** Makes ready for fields that do not stand where the layout places them. */
    void misplace() {
        taken = null;
    }

    /** Adds a field; false when there are more than a record may have. */
    boolean add(int fieldFrom, int fieldTo, byte mark) {
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

    /** Whether every field is whole and stands at the place that a fixed-length layout gives it. */
    public boolean placed() {
        return placed;
    }

    /** Takes the places that a layout gives to all fields of a type. */
    void takePlaces(int[] starts, int[] ends) {
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

    boolean blank() {
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
