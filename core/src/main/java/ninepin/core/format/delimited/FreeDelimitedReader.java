package ninepin.core.format.delimited;

import java.io.IOException;
import java.nio.charset.Charset;
import java.util.Arrays;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.Words;
import ninepin.core.format.lines.TypeTags;
import ninepin.core.format.lines.WindowReader;
import ninepin.core.layout.Delimited;
import ninepin.core.record.Fault;
import ninepin.core.record.Position;
import ninepin.core.record.RecordBuffer;

/**
 * Reads delimited text that goes beyond RFC 4180: delimiters of several characters, an escape character, records that
 * end with something else than a line, quotes that are let pass as text. Looks at every byte, which {@link
 * DelimitedReader} does not.
 */
final class FreeDelimitedReader extends WindowReader {

    private static final int NONE = -1;
    private static final int OPEN = -2;

    private final byte[] delimiter;
    private final byte[] recordEnd;
    private final byte[] comment;
    private final int quote;
    private final int escape;
    private final boolean lenient;
    private final Charset charset;
    private byte[] values = new byte[256];
    private boolean escaped;

    FreeDelimitedReader(ByteSource source, Delimited format, Position start, TypeTags tags, long body) {
        super(source, start, body, format.charset(), format.blankRows(), tags);
        Delimited.Habits habits = format.habitsOrNone();
        this.charset = format.charset().held().charset();
        this.delimiter = format.delimiter().getBytes(charset);
        this.recordEnd = habits.recordEnd() == null ? null : habits.recordEnd().getBytes(charset);
        this.comment = habits.comment() == null ? null : habits.comment().getBytes(charset);
        this.quote = format.quote() == null ? NONE : format.quote();
        this.escape = habits.escape() == null ? NONE : habits.escape();
        this.lenient = format.toleranceOrStrict().strayQuotes();
    }

    @Override
    protected void passOver() throws IOException {
        while (comment != null && stands(comment, 0)) {
            passLine();
        }
    }

    @Override
    protected boolean isBlank() {
        for (int i = record.start(); i < record.start() + record.length(); i++) {
            byte b = record.buffer()[i];
            if (b != ' ' && b != '\t' && b != '\r' && b != '\n' && b != delimiter[0]) {
                return false;
            }
        }
        return record.blank() || recordEnd != null && record.fieldCount() == 1;
    }

    @Override
    protected int typeByTag(TypeTags known) {
        return known.byColumn(record, charset);
    }

    private boolean has(int at) throws IOException {
        return at < held() || more() && at < held();
    }

    /** Whether bytes stand at a place. */
    private boolean stands(byte[] wanted, int at) throws IOException {
        for (int i = 0; i < wanted.length; i++) {
            if (!has(at + i) || byteAt(at + i) != wanted[i]) {
                return false;
            }
        }
        return true;
    }

    private boolean endsRecord(int at) throws IOException {
        return !has(at) || (recordEnd == null ? endsLine(byteAt(at)) : stands(recordEnd, at));
    }

    @Override
    protected void cut() throws IOException {
        record.values(null);
        escaped = false;
        int at = 0;
        while (true) {
            int from = at;
            int close = quote != NONE && has(at) && byteAt(at) == quote ? closing(at) : NONE;
            byte mark = 0;
            int to;
            if (close >= 0) {
                mark = (byte) (RecordBuffer.QUOTED | (doubledUpTo(at + 1, close) ? RecordBuffer.DOUBLED : 0));
                from = at + 1;
                to = close;
                at = close + 1;
            } else if (close == NONE || lenient) {
                at = unquoted(at);
                to = at;
            } else {
                broken(at);
                return;
            }
            if (at > MAX_RECORD_BYTES) {
                passLong(at);
                return;
            }
            if (!record.add(from, to, mark)) {
                endWith(at, tooManyFields());
                return;
            }
            if (endsRecord(at)) {
                end(at);
                return;
            }
            at += delimiter.length;
        }
    }

    private int unquoted(int from) throws IOException {
        int at = from;
        while (at <= MAX_RECORD_BYTES && has(at)) {
            byte b = byteAt(at);
            if (escape != NONE && b == escape && has(at + 1)) {
                escaped = true;
                at += 2;
            } else if (b == delimiter[0] && stands(delimiter, at) || endsRecord(at)) {
                return at;
            } else {
                at++;
            }
        }
        return Math.min(at, held());
    }

    /** The place of the quote that closes one, or {@link #OPEN} when none does. */
    private int closing(int open) throws IOException {
        boolean before = escaped;
        int close = closing(open, false);
        if (close == OPEN && lenient) {
            // A quote that is let pass as text must not swallow the lines behind it.
            escaped = before;
            close = closing(open, true);
        }
        if (close == OPEN) {
            escaped = before;
        }
        return close;
    }

    /**
     * @param within whether quotes inside are text, and the field has to close in its own record
     */
    private int closing(int open, boolean within) throws IOException {
        int at = open + 1;
        while (at <= MAX_RECORD_BYTES && has(at)) {
            byte b = byteAt(at);
            if (escape != NONE && b == escape && has(at + 1)) {
                escaped = true;
                at += 2;
            } else if (b != quote) {
                if (within && endsRecord(at)) {
                    return OPEN;
                }
                at++;
            } else if (escape == NONE && has(at + 1) && byteAt(at + 1) == quote) {
                at += 2;
            } else if (endsRecord(at + 1) || stands(delimiter, at + 1)) {
                return at;
            } else if (within) {
                at++;
            } else {
                return OPEN;
            }
        }
        return OPEN;
    }

    private boolean doubledUpTo(int from, int to) {
        for (int i = from; escape == NONE && i + 1 < to; i++) {
            if (byteAt(i) == quote && byteAt(i + 1) == quote) {
                return true;
            }
        }
        return false;
    }

    /** Ends the record at a place and passes over what ends it. */
    private void end(int at) throws IOException {
        if (escaped) {
            unescape();
        }
        if (recordEnd == null) {
            // Has to be asked first: bytes move when more are fetched.
            endLine(at);
            shareValues();
            return;
        }
        stands(recordEnd, at);
        take(at);
        int ended = Math.min(recordEnd.length, held());
        pass(ended);
        for (int i = record.start(); i < record.start() + at + ended; i++) {
            line += record.buffer()[i] == '\n' ? 1 : 0;
        }
        shareValues();
    }

    private void shareValues() {
        if (escaped && record.fault() == null) {
            record.values(values);
        }
    }

    /** Writes the values of all fields one behind the other, what the escape character stands before as it is. */
    private void unescape() {
        int fields = record.fieldCount();
        record.beginValues(fields);
        int n = 0;
        for (int f = 0; f < fields; f++) {
            int from = record.from(f);
            int to = record.to(f);
            if (values.length < n + to - from + Words.SLACK) {
                values = Arrays.copyOf(values, (n + to - from) * 2 + Words.SLACK);
            }
            // A field in which nothing stands is NULL, unless it is quoted.
            int start = from == to && !record.quoted(f) ? -1 : n;
            for (int i = from; i < to; i++) {
                if (byteAt(i) == escape && i + 1 < to) {
                    i++;
                }
                values[n++] = byteAt(i);
            }
            record.value(f, start, n);
        }
    }

    private void broken(int open) throws IOException {
        int end = open;
        while (end <= MAX_RECORD_BYTES && !endsRecord(end)) {
            end++;
        }
        record.add(open, Math.min(end, held()), (byte) 0);
        endWith(
                Math.min(end, held()),
                new Fault(
                        "QUO-01",
                        record.fieldCount() - 1,
                        open,
                        Math.min(end, held()),
                        "a quote that opens here and does not close",
                        "a closing quote followed by the delimiter or the end of the record",
                        "Let the layout take stray quotes as text, or say that it has no quote."));
    }

    private static Fault tooManyFields() {
        return new Fault(
                "ROW-02",
                -1,
                0,
                200,
                "more than " + RecordBuffer.MAX_FIELDS + " columns",
                "at most " + RecordBuffer.MAX_FIELDS,
                "Check the delimiter.");
    }

    private void endWith(int at, Fault fault) throws IOException {
        int end = at;
        while (end <= MAX_RECORD_BYTES && !endsRecord(end)) {
            end++;
        }
        if (end > MAX_RECORD_BYTES) {
            passLong(end);
            return;
        }
        record.fault(fault);
        end(end);
    }

    /** Passes over a record that is too long to hold, up to the next end of a line. */
    private void passLong(int at) throws IOException {
        escaped = false;
        passLongLine(Math.min(at, held()), "Check the delimiter, the quotes and what ends a record.");
    }
}
