package ninepin.core.read;

import java.io.IOException;
import ninepin.core.layout.Delimited;
import ninepin.core.source.ByteSource;

/**
 * Reads delimited text after RFC 4180 as bytes. All charsets of {@link ninepin.core.layout.FileCharset} write ASCII
 * as single bytes that occur in no other character, so delimiters, quotes and line ends are found without decoding.
 *
 * <p>A quote that opens and does not close properly does not swallow the file: the record ends with the line on which
 * the quote stands, carries a fault, and reading goes on with the next line. Memory grows with the longest record, up
 * to {@link #MAX_RECORD_BYTES}; a longer one carries a fault and is passed over, its first bytes kept.
 */
public final class DelimitedReader implements RecordReader {

    /** The most bytes of a record that are held in memory. */
    public static final int MAX_RECORD_BYTES = 16 << 20;

    private static final int KEPT_BYTES = 64 << 10;
    private static final int NO_QUOTE = -1;
    private static final Fault BLANK_ROW = new Fault(
            "ROW-03",
            -1,
            0,
            0,
            "a blank row",
            "a record",
            "The layout says that blank rows are rejects; it can pass over them.");

    private final ByteSource source;
    private final Window window;
    private final byte delimiter;
    private final int quote;
    private final boolean rejectBlankRows;
    private final RawRecord record = new RawRecord();

    private long line;
    private long records;

    /**
     * @param source the bytes, closed with the reader
     * @param format how the file is written
     * @param start where to start; behind the header
     */
    public DelimitedReader(ByteSource source, Delimited format, Position start) {
        this.source = source;
        this.window = new Window(source, start.offset());
        this.delimiter = format.charset()
                .charset()
                .encode(String.valueOf(format.delimiter()))
                .get(0);
        this.quote = format.quote() == null
                ? NO_QUOTE
                : format.charset().charset().encode("" + format.quote()).get(0);
        this.rejectBlankRows = format.blankRows() == Delimited.BlankRows.REJECT;
        this.line = start.line();
        this.records = start.records();
    }

    @Override
    public RawRecord record() {
        return record;
    }

    @Override
    public Position position() {
        return new Position(window.offsetOf(window.start), line, records);
    }

    /** The byte where the next item starts; the same as {@link #position()} without making an object. */
    public long offset() {
        return window.offsetOf(window.start);
    }

    @Override
    public void close() throws IOException {
        source.close();
    }

    @Override
    public Item next() throws IOException {
        record.clear();
        record.line = line;
        record.offset = window.offsetOf(window.start);
        if (window.start == window.limit && !window.more()) {
            record.number = 0;
            record.buffer = window.bytes;
            record.start = window.start;
            record.length = 0;
            record.fullLength = 0;
            return Item.END;
        }
        scan();
        if (record.fault == null && record.blank()) {
            if (!rejectBlankRows) {
                record.number = 0;
                return Item.BLANK;
            }
            record.fault = BLANK_ROW;
        }
        record.number = ++records;
        return Item.RECORD;
    }

    /** Scans one record. Places are counted from the start of the record, which keeps them valid when bytes move. */
    private void scan() throws IOException {
        int at = 0;
        while (true) {
            int from = at;
            if (quote != NO_QUOTE && byteAt(at) == quote && at < held()) {
                at = quoted(at);
                if (at < 0) {
                    return;
                }
            } else {
                at = unquoted(at);
                if (at < 0) {
                    tooLong(MAX_RECORD_BYTES);
                    return;
                }
                if (!record.add(from, at, (byte) 0)) {
                    tooManyFields(at);
                    return;
                }
            }
            if (at == held() || window.bytes[window.start + at] != delimiter) {
                finish(at);
                return;
            }
            at++;
        }
    }

    /** The end of an unquoted field, or -1 when the record is too long. */
    private int unquoted(int at) throws IOException {
        final byte end = delimiter;
        while (true) {
            byte[] bytes = window.bytes;
            int i = window.start + at;
            byte c;
            while ((c = bytes[i]) != end && c != '\n' && c != '\r') {
                i++;
            }
            at = i - window.start;
            if (i < window.limit || !fetch()) {
                return at;
            }
            if (at > MAX_RECORD_BYTES) {
                return -1;
            }
        }
    }

    /** The place behind a quoted field, or -1 when it is broken and the record has been ended. */
    private int quoted(int open) throws IOException {
        long lineOfOpen = line;
        long lines = line;
        byte mark = RawRecord.QUOTED;
        int at = open + 1;
        while (true) {
            if (at == held() && !fetch()) {
                return broken(open, lineOfOpen, "the file ends before it closes");
            }
            byte c = byteAt(at);
            if (c == quote) {
                if (at + 1 == held()) {
                    fetch();
                }
                if (at + 1 < held() && byteAt(at + 1) == quote) {
                    mark |= RawRecord.DOUBLED;
                    at += 2;
                    continue;
                }
                if (at + 1 == held() || closes(byteAt(at + 1))) {
                    line = lines;
                    if (!record.add(open + 1, at, mark)) {
                        tooManyFields(at + 1);
                        return -1;
                    }
                    return at + 1;
                }
                return broken(
                        open,
                        lineOfOpen,
                        lines == lineOfOpen
                                ? "the quote at byte " + (at + 1) + " of the record is followed by "
                                        + Shown.character(byteAt(at + 1))
                                : "the next quote, on line " + lines + ", is followed by "
                                        + Shown.character(byteAt(at + 1)));
            }
            if (c == '\n' || c == '\r' && !followedByLineFeed(at)) {
                lines++;
            }
            at++;
            if (at > MAX_RECORD_BYTES) {
                return broken(open, lineOfOpen, "it does not close within " + (MAX_RECORD_BYTES >> 20) + " MiB");
            }
        }
    }

    private boolean closes(byte c) {
        return c == delimiter || c == '\n' || c == '\r';
    }

    private boolean followedByLineFeed(int at) throws IOException {
        if (at + 1 == held()) {
            fetch();
        }
        return at + 1 < held() && byteAt(at + 1) == '\n';
    }

    /** Ends the record with the line on which the quote opens, with a fault. */
    private int broken(int open, long lineOfOpen, String why) throws IOException {
        line = lineOfOpen;
        int column = record.fieldCount;
        int end = lineEndFrom(open);
        record.add(open, end, (byte) 0);
        endWith(
                end,
                new Fault(
                        "QUO-01",
                        column,
                        open,
                        end,
                        "a quote that opens here and does not close: " + why,
                        "a closing quote followed by the delimiter or the end of the line",
                        "Write a quote inside quoted text twice, or say that the layout has no quote."));
        return -1;
    }

    private void tooManyFields(int at) throws IOException {
        int end = lineEndFrom(at);
        endWith(
                end,
                new Fault(
                        "ROW-02",
                        -1,
                        0,
                        Math.min(end, 200),
                        "more than " + RawRecord.MAX_FIELDS + " columns",
                        "at most " + RawRecord.MAX_FIELDS,
                        "Check the delimiter."));
    }

    private int lineEndFrom(int at) throws IOException {
        int end = at;
        do {
            while (end < held() && byteAt(end) != '\n' && byteAt(end) != '\r') {
                end++;
            }
        } while (end == held() && end <= MAX_RECORD_BYTES && fetch());
        return end;
    }

    private void endWith(int end, Fault fault) throws IOException {
        if (end > MAX_RECORD_BYTES) {
            tooLong(end);
        } else {
            record.fault = fault;
            finish(end);
        }
    }

    /** Passes over the rest of a line that is too long to hold, from a place in it, keeping its first bytes. */
    private void tooLong(int at) throws IOException {
        byte[] kept = java.util.Arrays.copyOfRange(window.bytes, window.start, window.start + KEPT_BYTES);
        long begin = window.offsetOf(window.start);
        window.start += at;
        while (true) {
            int i = window.start;
            while (i < window.limit && window.bytes[i] != '\n' && window.bytes[i] != '\r') {
                i++;
            }
            window.start = i;
            if (i < window.limit || !window.more()) {
                break;
            }
        }
        fetchWholeLineEnd(0);
        long end = window.offsetOf(window.start);
        record.clear();
        record.buffer = kept;
        record.start = 0;
        record.length = kept.length;
        record.fullLength = end - begin;
        record.fault = new Fault(
                "LEN-02",
                -1,
                0,
                200,
                "a line of " + (end - begin) + " bytes",
                "at most " + MAX_RECORD_BYTES,
                "Check the line ends and quotes of the file.");
        passLineEnd();
    }

    private void finish(int end) throws IOException {
        fetchWholeLineEnd(end);
        record.buffer = window.bytes;
        record.start = window.start;
        record.length = end;
        record.fullLength = end;
        window.start += end;
        passLineEnd();
    }

    /** Makes sure that the line feed behind a carriage return is held, before the record's bytes are handed out. */
    private void fetchWholeLineEnd(int end) throws IOException {
        if (end + 1 == held() && byteAt(end) == '\r') {
            fetch();
        }
    }

    private void passLineEnd() {
        if (window.start == window.limit) {
            return;
        }
        byte c = window.bytes[window.start];
        if (c == '\r' && window.start + 1 < window.limit && window.bytes[window.start + 1] == '\n') {
            window.start++;
        }
        window.start++;
        line++;
    }

    private int held() {
        return window.limit - window.start;
    }

    private byte byteAt(int at) {
        return window.bytes[window.start + at];
    }

    private boolean fetch() throws IOException {
        return window.more();
    }
}
