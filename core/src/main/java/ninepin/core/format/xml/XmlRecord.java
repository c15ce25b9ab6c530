package ninepin.core.format.xml;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import ninepin.core.bytes.Bytes;
import ninepin.core.bytes.Utf8;
import ninepin.core.record.Fault;
import ninepin.core.record.RecordBuffer;

/**
 * A record of an XML file. Its bytes are those of the file, in the file's encoding; its values are gathered one by one, in
 * UTF-8. The places of fields are counted in characters at first and turned into bytes when one is asked for; few ever are.
 */
final class XmlRecord extends RecordBuffer {

    /** A field whose element has been found, and whose text has not. */
    private static final int FOUND = Integer.MAX_VALUE;

    /** The encoding of the file, or null where it is UTF-8. */
    private Charset encoding;

    private int bytesPerChar;
    private long firstChar;
    private int columnBefore;
    private boolean unplaced;

    private BitSet repeated;
    /** Breaches of the schema, and the character of the record at which each was found; null for none. */
    private List<String> breaches;

    private List<Integer> breachPlaces;

    /**
     * Makes ready for a record.
     *
     * @param character the character of the file at which it starts
     * @param before the characters that stand before it on its first line
     */
    void begin(int newType, int fields, long newOffset, long newLine, long character, int before) {
        begin(newOffset, newLine);
        breaches = null;
        repeated = null;
        type = newType;
        firstChar = character;
        columnBefore = before;
        while (fieldCount < fields) {
            add(0, 0, (byte) 0);
        }
        unplaced = true;
        Arrays.fill(from, 0, fields, 0);
        Arrays.fill(to, 0, fields, 0);
        beginValues(fields);
    }

    /**
     * Says how the file is encoded.
     *
     * @param bytes how many bytes every character has; 0 for UTF-8, where that differs
     */
    void encoded(Charset charset, int bytes) {
        bytesPerChar = bytes;
        encoding = bytes == 0 ? null : charset;
    }

    /** Whether a field has its value already. */
    boolean has(int field) {
        return valueFrom[field] >= 0;
    }

    /** Whether an element of a field has been found already. */
    boolean met(int field) {
        return valueFrom[field] >= 0 || valueTo[field] < 0;
    }

    /** Notes that the element of a field has been found. */
    void meet(int field) {
        valueTo[field] = -1;
        from[field] = FOUND;
    }

    /** Notes where the first text of a field starts. */
    void textAt(int field, long character) {
        if (from[field] == FOUND) {
            from[field] = (int) (character - firstChar);
        }
    }

    /** Notes where the element of a field ends. */
    void endAt(int field, long character) {
        int at = (int) (character - firstChar);
        from[field] = Math.min(from[field], at);
        to[field] = at;
    }

    /** Notes that a field stands in an attribute: the character of its tag, and which of its attributes it is. */
    void inAttribute(int field, long tag, int attribute) {
        from[field] = -1 - (int) (tag - firstChar);
        to[field] = attribute;
    }

    /** Notes that an element of a field stands once more. */
    void addRepeated(int field) {
        if (repeated == null) {
            repeated = new BitSet();
        }
        repeated.set(field);
    }

    /** Notes a breach of the schema at a character of the file. */
    void addBreach(String message, long character) {
        if (breaches == null) {
            breaches = new ArrayList<>();
            breachPlaces = new ArrayList<>();
        }
        breaches.add(message);
        breachPlaces.add((int) Math.max(0, character - firstChar));
    }

    @Override
    public int from(int field) {
        place();
        return super.from(field);
    }

    @Override
    public int to(int field) {
        place();
        return super.to(field);
    }

    private void place() {
        if (!unplaced) {
            return;
        }
        unplaced = false;
        for (int f = 0; f < fieldCount; f++) {
            if (from[f] < 0) {
                int tag = byteAt(-1 - from[f]);
                int[] value = new XmlAttribute(this, tag).find(to[f]);
                from[f] = value[0];
                to[f] = value[1];
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

    @Override
    public boolean transcribed() {
        return encoding != null;
    }

    @Override
    public byte[] fileBytes() {
        return encoding == null ? super.fileBytes() : text(encoding).getBytes(StandardCharsets.UTF_8);
    }

    @Override
    public int columnBefore() {
        return columnBefore;
    }

    @Override
    public Charset encoding() {
        return encoding;
    }

    @Override
    public int unitBytes() {
        return encoding != null && Bytes.isUtf16(encoding) ? 2 : 1;
    }

    @Override
    public int unit(int place) {
        if (unitBytes() == 1) {
            return super.unit(place);
        }
        if (place + 2 > length) {
            return -1;
        }
        int at = start + place;
        int low = encoding.equals(StandardCharsets.UTF_16BE) ? 1 : 0;
        return (buffer[at + 1 - low] & 0xff) << 8 | buffer[at + low] & 0xff;
    }

    /** Breaches of the schema. */
    @Override
    public List<Fault> breaches() {
        if (breaches == null) {
            return List.of();
        }
        List<Fault> faults = new ArrayList<>();
        for (int i = 0; i < breaches.size(); i++) {
            int at = Math.min(length, byteAt(breachPlaces.get(i)));
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

    /** Elements of which the first is taken; where the schema is breached, that says enough. */
    @Override
    public List<Fault> notes() {
        if (repeated == null || breaches != null) {
            return List.of();
        }
        return repeated.stream()
                .mapToObj(f -> new Fault(
                        "XML-06",
                        f,
                        from(f),
                        to(f),
                        null,
                        "one element",
                        "It stands more than once; the first is taken. A record type of its own takes each."))
                .toList();
    }
}
