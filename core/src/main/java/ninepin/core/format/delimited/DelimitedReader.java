package ninepin.core.format.delimited;

import java.io.IOException;
import java.nio.charset.Charset;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.lines.Stops;
import ninepin.core.format.lines.TypeTags;
import ninepin.core.format.lines.WindowReader;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Shown;
import ninepin.core.record.Fault;
import ninepin.core.record.Position;
import ninepin.core.record.RecordBuffer;

/**
 * Reads delimited text after RFC 4180 as bytes. All charsets of {@link ninepin.core.layout.FileCharset} write ASCII
 * as single bytes that occur in no other character, so delimiters, quotes and line ends are found without decoding.
 *
 * <p>A quote that opens and does not close properly does not swallow the file: the record ends with the line on which
 * the quote stands, carries a fault, and reading goes on with the next line.
 */
public final class DelimitedReader extends WindowReader {

    private static final int NO_QUOTE = -1;
    private static final String LONG_LINE = "Check the line ends and quotes of the file.";
    private final byte delimiter;
    private final int quote;
    private final Stops stops;
    private final Stops quotedStops;
    private final Charset charset;
    private final byte[] comment;

    /**
     * @param source the bytes, closed with the reader
     * @param format how the file is written
     * @param start where to start; behind the header
     */
    public DelimitedReader(ByteSource source, Delimited format, Position start) {
        this(source, format, start, null, start.offset());
    }

    /**
     * @param tags tells the record types apart, or null where there is one
     * @param body where the first record of the file starts
     */
    DelimitedReader(ByteSource source, Delimited format, Position start, TypeTags tags, long body) {
        super(source, start, body, format.charset(), format.blankRows(), tags);
        this.charset = format.charset().held().charset();
        this.delimiter =
                format.charset().held().charset().encode(format.delimiter()).get(0);
        this.quote = format.quote() == null
                ? NO_QUOTE
                : format.charset().held().charset().encode("" + format.quote()).get(0);
        this.stops = new Stops(delimiter, (byte) '\n', (byte) '\r');
        this.quotedStops = new Stops((byte) quote, (byte) '\n', (byte) '\r');
        String mark = format.habitsOrNone().comment();
        this.comment = mark == null ? null : mark.getBytes(charset);
    }

    @Override
    protected void passOver() throws IOException {
        while (comment != null && startsWithComment()) {
            passLine();
        }
    }

    private boolean startsWithComment() throws IOException {
        while (held() < comment.length && more()) {
            // Fetches until there is enough to compare.
        }
        return startsWith(comment);
    }

    @Override
    protected boolean isBlank() {
        return record.blank();
    }

    @Override
    protected int typeByTag(TypeTags known) {
        return known.byColumn(record, charset);
    }

    /** Places are counted from the start of the record, which keeps them valid when bytes move. */
    @Override
    protected void cut() throws IOException {
        int at = 0;
        while (true) {
            if (startsWithQuote(at)) {
                at = quoted(at);
                if (at < 0) {
                    return;
                }
                if (at == held() || byteAt(at) != delimiter) {
                    endLine(at);
                    return;
                }
                at++;
            } else {
                at = unquoted(at);
                if (at < 0) {
                    return;
                }
            }
        }
    }

    private boolean startsWithQuote(int at) throws IOException {
        if (at == held() && !more()) {
            return false;
        }
        return quote != NO_QUOTE && byteAt(at) == quote;
    }

    /** Takes unquoted fields up to one that may be quoted, whose place it returns; -1 when the record has ended. */
    private int unquoted(int begin) throws IOException {
        int field = begin;
        int scanned = begin;
        while (true) {
            int stop = next(stops, scanned);
            if (stop >= held()) {
                stop = held();
                if (stop > MAX_RECORD_BYTES) {
                    passLongLine(MAX_RECORD_BYTES, LONG_LINE);
                    return -1;
                }
                if (more()) {
                    scanned = stop;
                    continue;
                }
            }
            if (!record.add(field, stop, (byte) 0)) {
                tooManyFields(stop);
                return -1;
            }
            if (stop == held() || byteAt(stop) != delimiter) {
                endLine(stop);
                return -1;
            }
            field = stop + 1;
            scanned = field;
            if (field == held() || byteAt(field) == quote) {
                return field;
            }
        }
    }

    /** The place behind a quoted field, or -1 when it is broken and the record has been ended. */
    private int quoted(int open) throws IOException {
        long lineOfOpen = line;
        long lines = line;
        byte mark = RecordBuffer.QUOTED;
        int at = open + 1;
        while (true) {
            at = next(quotedStops, at);
            if (at >= held()) {
                at = held();
                if (at > MAX_RECORD_BYTES) {
                    return broken(open, lineOfOpen, "it does not close within " + (MAX_RECORD_BYTES >> 20) + " MiB");
                }
                if (!more()) {
                    return broken(open, lineOfOpen, "the file ends before it closes");
                }
                continue;
            }
            byte c = byteAt(at);
            if (c == quote) {
                if (at + 1 == held()) {
                    more();
                }
                if (at + 1 < held() && byteAt(at + 1) == quote) {
                    mark |= RecordBuffer.DOUBLED;
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
            if (c == '\n' || !followedByLineFeed(at)) {
                lines++;
            }
            at++;
        }
    }

    private boolean closes(byte c) {
        return c == delimiter || c == '\n' || c == '\r';
    }

    private boolean followedByLineFeed(int at) throws IOException {
        if (at + 1 == held()) {
            more();
        }
        return at + 1 < held() && byteAt(at + 1) == '\n';
    }

    /** Ends the record with the line on which the quote opens, with a fault. */
    private int broken(int open, long lineOfOpen, String why) throws IOException {
        line = lineOfOpen;
        int column = record.fieldCount();
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
                        "more than " + RecordBuffer.MAX_FIELDS + " columns",
                        "at most " + RecordBuffer.MAX_FIELDS,
                        "Check the delimiter."));
    }

    private void endWith(int end, Fault fault) throws IOException {
        if (end > MAX_RECORD_BYTES) {
            passLongLine(end, LONG_LINE);
        } else {
            record.fault(fault);
            endLine(end);
        }
    }
}
