package ninepin.core.format.lines;

import java.io.IOException;
import java.util.Arrays;
import ninepin.core.bytes.ByteSource;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.FileCharset;
import ninepin.core.record.Fault;
import ninepin.core.record.Position;
import ninepin.core.record.RawRecord;
import ninepin.core.record.RecordBuffer;

/**
 * What readers of records among bytes have in common: the window over the file, lines and their ends, what becomes of
 * blank records, and the end of the file. Memory grows with the longest record, up to {@link ninepin.core.record.RecordReader#MAX_RECORD_BYTES}; a
 * longer one carries a fault and is passed over, its first bytes kept.
 */
public abstract class WindowReader implements LineReader {

    private static final Fault BLANK_ROW = new Fault(
            "ROW-03",
            -1,
            0,
            0,
            "a blank row",
            "a record",
            "The layout says that blank rows are rejects; it can pass over them.");

    private static final int KEPT_BYTES = 64 << 10;
    private static final byte CARRIAGE_RETURN = '\r';
    private static final byte END_OF_FILE_MARK = 0x1a;

    /** The record that is handed out next. */
    protected final RecordBuffer record;
    /** A blank in the charset of the file. */
    protected final byte blank;

    /** CR, LF, and in EBCDIC also NEL. */
    private final Stops lineEnds;

    /** The line at which reading stands, from 1. */
    protected long line;

    private final Window window;

    private final FileCharset charset;
    private final ByteSource source;
    private final byte lineFeed;
    private final byte newLine;
    private final TypeTags tags;
    private final boolean rejectBlank;
    private final long body;
    private long records;

    /**
     * @param source the bytes, closed with the reader
     * @param start where to start
     * @param body where the first record of the file starts
     * @param tags tells the record types apart, or null where there is one
     */
    protected WindowReader(
            ByteSource source, Position start, long body, FileCharset charset, BlankRows blankRows, TypeTags tags) {
        this(
                source,
                start,
                body,
                charset,
                blankRows,
                tags,
                charset == FileCharset.UTF_16 ? new Utf16Record() : new RecordBuffer());
    }

    /**
     * @param record the record that is handed out
     */
    protected WindowReader(
            ByteSource source,
            Position start,
            long body,
            FileCharset charset,
            BlankRows blankRows,
            TypeTags tags,
            RecordBuffer record) {
        this.source = source;
        this.charset = charset.held();
        // EBCDIC writes the end of a line as NEL (0x15), as LF (0x25), or as CR and LF.
        this.lineFeed = charset.held().ascii() ? (byte) '\n' : 0x25;
        this.newLine = charset.held().ascii() ? (byte) '\n' : 0x15;
        this.blank = " ".getBytes(charset.held().charset())[0];
        this.lineEnds = new Stops(lineFeed, CARRIAGE_RETURN, newLine);
        boolean wide = charset == FileCharset.UTF_16;
        this.record = record;
        this.window =
                wide ? new Utf16Window(source, start.offset(), lineFeed) : new Window(source, start.offset(), lineFeed);
        this.tags = tags == null || tags.trivial() ? null : tags;
        this.rejectBlank = blankRows == BlankRows.REJECT;
        this.body = body;
        this.line = start.line();
        this.records = start.records();
    }

    /** Takes one record, from the start of the window on, and passes over its end: a line. */
    protected void cut() throws IOException {
        int end = lineEndFrom(0);
        if (end == held() && end > MAX_RECORD_BYTES) {
            passLongLine(end, "Check the line ends of the file.");
        } else {
            endLine(end);
        }
    }

    /** Whether nothing stands in the record that was cut: blanks, and tabs in charsets that have ASCII's. */
    protected boolean isBlank() {
        for (int i = record.start(); i < record.start() + record.length(); i++) {
            if (record.buffer()[i] != blank && (record.buffer()[i] != '\t' || !charset.ascii())) {
                return false;
            }
        }
        return true;
    }

    /** The type by the tag of the record that was cut; {@link TypeTags#UNKNOWN} with a fault on it. Here records have no tag. */
    protected int typeByTag(TypeTags known) {
        record.fault(known.unknown(record, 0, record.length(), charset.charset()));
        return TypeTags.UNKNOWN;
    }

    /** Makes the record that was cut one of a type. */
    protected void become(int type) {
        record.type(type);
    }

    /** Passes over what is no record. */
    protected void passOver() throws IOException {}

    @Override
    public final RawRecord record() {
        return record;
    }

    @Override
    public final Position position() {
        return new Position(offset(), line, records);
    }

    @Override
    public final long offset() {
        return window.offsetOf(window.start);
    }

    @Override
    public final void close() {
        // The source is borrowed, and nothing else is open.
    }

    @Override
    public final Item next() throws IOException {
        record.type(tags == null ? 0 : TypeTags.UNKNOWN);
        passOver();
        record.begin(offset(), line);
        if (atEnd()) {
            record.number(0);
            record.hold(window.bytes, window.start, 0);
            return Item.END;
        }
        cut();
        if (record.fault() == null && isBlank()) {
            if (!rejectBlank) {
                record.number(0);
                return Item.BLANK;
            }
            record.fault(BLANK_ROW);
        }
        record.number(++records);
        if (record.fault() == null) {
            become(tags == null ? 0 : type());
        }
        return Item.RECORD;
    }

    private int type() throws IOException {
        int type = tags.byPlace(record.offset() == body, tags.asksForLast() && nothingBehind());
        return type == TypeTags.UNKNOWN ? typeByTag(tags) : type;
    }

    /** Whether only line ends, blanks and end-of-file marks stand behind the record that was cut. */
    private boolean nothingBehind() throws IOException {
        int length = window.start - record.start();
        // The record's bytes stay held while what stands behind them is looked at.
        window.start = record.start();
        int at = length;
        boolean nothing = true;
        while (nothing && (at < held() || window.more())) {
            byte b = byteAt(at++);
            nothing = b == blank || endsLine(b) || b == '\t' || b == END_OF_FILE_MARK;
        }
        record.move(window.bytes, window.start);
        window.start += length;
        return nothing;
    }

    /** Whether nothing is left of the file. */
    protected final boolean atEnd() throws IOException {
        return held() == 0 && !window.more();
    }

    /** Whether a byte ends a line. */
    protected final boolean endsLine(byte b) {
        return b == lineFeed || b == CARRIAGE_RETURN || b == newLine;
    }

    /** Whether a byte ends a line or the file. */
    protected final boolean endsFile(byte b) {
        return endsLine(b) || b == END_OF_FILE_MARK;
    }

    /** Where the line ends in which a place stands, or where what is held ends when it is too long to hold. */
    protected final int lineEndFrom(int at) throws IOException {
        int from = at;
        while (true) {
            int end = Math.min(held(), lineEnds.next(window.bytes, window.start + from) - window.start);
            if (end < held() || end > MAX_RECORD_BYTES || !window.more()) {
                return end;
            }
            from = end;
        }
    }

    /** Ends the record at a place, and passes over the line end that stands there. */
    protected final void endLine(int end) throws IOException {
        fetchWholeLineEnd(end);
        take(end);
        passLineEnd();
    }

    /** Makes so many bytes the record. */
    protected final void take(int length) {
        record.hold(window.bytes, window.start, length);
        window.start += length;
    }

    /** Passes over the rest of a line that is too long to hold, from a place in it, keeping its first bytes. */
    protected final void passLongLine(int at, String advice) throws IOException {
        byte[] kept = Arrays.copyOfRange(window.bytes, window.start, window.start + KEPT_BYTES);
        long begin = offset();
        window.start += at;
        do {
            window.start = Math.min(window.limit, lineEnds.next(window.bytes, window.start));
        } while (held() == 0 && window.more());
        fetchWholeLineEnd(0);
        long length = offset() - begin;
        record.clear();
        record.hold(kept, 0, kept.length);
        record.fullLength(length);
        record.fault(new Fault(
                "LEN-02", -1, 0, 200, "a line of " + length + " bytes", "at most " + MAX_RECORD_BYTES, advice));
        passLineEnd();
    }

    @Override
    public final void passLine() throws IOException {
        int end = lineEndFrom(0);
        fetchWholeLineEnd(end);
        window.start += end;
        passLineEnd();
    }

    /** Makes sure that the line feed behind a carriage return is held, before the record's bytes are handed out. */
    private void fetchWholeLineEnd(int end) throws IOException {
        if (end + 1 == held() && byteAt(end) == CARRIAGE_RETURN) {
            window.more();
        }
    }

    private void passLineEnd() {
        if (held() == 0) {
            return;
        }
        if (byteAt(0) == CARRIAGE_RETURN && held() > 1 && byteAt(1) == lineFeed) {
            window.start++;
        }
        window.start++;
        line++;
    }

    /** The bytes that are held from where reading stands on. */
    protected final int held() {
        return window.limit - window.start;
    }

    /** A byte that is held, counted from where reading stands. */
    protected final byte byteAt(int at) {
        return window.bytes[window.start + at];
    }

    /** Fetches more bytes behind those that are held; false at the end of the file. Places stay as they are. */
    protected final boolean more() throws IOException {
        return window.more();
    }

    /** The next place from one on at which one of some bytes stands; not before what is held ends where none does. */
    protected final int next(Stops stops, int at) {
        return stops.next(window.bytes, window.start + at) - window.start;
    }

    /** Whether some bytes stand where reading does. */
    protected final boolean startsWith(byte[] wanted) {
        return held() >= wanted.length
                && Arrays.equals(window.bytes, window.start, window.start + wanted.length, wanted, 0, wanted.length);
    }

    /** The bytes that are held; where reading stands among them says {@link #heldFrom()}. */
    protected final byte[] heldBytes() {
        return window.bytes;
    }

    /** Where the first byte that is held from where reading stands on is among {@link #heldBytes()}. */
    protected final int heldFrom() {
        return window.start;
    }

    /** Passes over so many bytes that are held. */
    protected final void pass(int count) {
        window.start += count;
    }
}
