package ninepin.core.record;

import java.nio.charset.Charset;
import java.util.Arrays;
import java.util.List;

/**
 * A record as it stands in the file: its place, and each field as a slice of the reader's buffer. One object is used
 * again for every record.
 *
 * <p>Readers fill it as a {@link RecordBuffer}. A format whose bytes in the buffer are not those of the file, or whose values
 * are not slices of them, has a kind of record of its own that knows the way back.
 */
public abstract class RawRecord implements Placed {

    /** The most bytes of a record whose characters are counted to tell a place. */
    private static final int MOST_COUNTED = 100_000;

    protected byte[] buffer;
    protected int start;
    protected int length;
    protected long offset;
    protected long fullLength;
    protected long line;
    protected long number;
    protected Fault fault;
    protected int type;

    protected int fieldCount;
    protected int[] from = new int[64];
    protected int[] to = new int[64];
    protected byte[] marks = new byte[64];

    /** Whether every field stands at the place that the layout gives it. */
    protected boolean placed;

    protected byte[] valueBytes;
    protected int[] valueFrom;
    protected int[] valueTo;

    /** The mark of a slice that stands in quotes. */
    public static final byte QUOTED = 1;

    /** The mark of a slice that holds doubled quotes, which stand for one. */
    public static final byte DOUBLED = 2;

    RawRecord() {}

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
        return offset + place;
    }

    /** Whether its bytes are held in another encoding than the file has, so that no slice of the file is the record. */
    public boolean transcribed() {
        return false;
    }

    /** Its bytes as they are kept by themselves: in UTF-16 the higher byte first, of an XML file in UTF-8. */
    public byte[] fileBytes() {
        return Arrays.copyOfRange(buffer, start, start + length);
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
        return 0;
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
        return from[field];
    }

    /** The byte after the content of a field. */
    public int to(int field) {
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

    /** The encoding of its bytes where it is not the one that the layout says; else null. */
    public Charset encoding() {
        return null;
    }

    /** The bytes of a unit of its text: two in UTF-16, else one. */
    public int unitBytes() {
        return 1;
    }

    /** The unit that begins at a place of the record: a byte as it is, or two as a number; -1 behind the end. */
    public int unit(int place) {
        return place < length ? buffer[start + place] : -1;
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

    /** Whether a field is not there at all, as far as the format tells that from one without a value. */
    public boolean isMissing(int field) {
        return valueBytes != null && valueFrom[field] < 0;
    }

    /** Where the value of a field starts among {@link #valueBytes()}, or -1 where the record lacks the field. */
    public int valueFrom(int field) {
        return valueFrom[field];
    }

    /** The byte after the value of a field. */
    public int valueTo(int field) {
        return valueTo[field];
    }

    /** Whether every field is whole and stands at the place that a fixed-length layout gives it. */
    public boolean placed() {
        return placed;
    }

    /** What in it is not as its format demands though it could be read, each for the record as a whole. */
    public List<Fault> breaches() {
        return List.of();
    }

    /** What is to be said of its fields without refusing it. */
    public List<Fault> notes() {
        return List.of();
    }

    /**
     * Where a part of it stands, as people find it.
     *
     * @param charset the charset of its bytes, where it has no {@link #encoding()} of its own
     * @param breaksLines whether LF and CR end lines in it
     */
    public Locator locator(int partFrom, int partTo, Charset charset, boolean breaksLines) {
        int lineStart = 0;
        long onLine = line;
        int width = unitBytes();
        for (int i = 0; breaksLines && i < partFrom; i += width) {
            int unit = unit(i);
            if (unit == '\n' || unit == '\r' && unit(i + width) != '\n') {
                onLine++;
                lineStart = i + width;
            }
        }
        int before = onLine == line ? columnBefore() : 0;
        int first = characters(lineStart, partFrom, charset) + 1 + before;
        return Locator.columns(onLine, first, Math.max(first, first + characters(partFrom, partTo, charset) - 1));
    }

    private int characters(int partFrom, int partTo, Charset charset) {
        int cut = Math.min(partTo, partFrom + MOST_COUNTED);
        Charset own = encoding() == null ? charset : encoding();
        String text = new String(buffer, start + partFrom, Math.max(0, cut - partFrom), own);
        return text.codePointCount(0, text.length());
    }
}
