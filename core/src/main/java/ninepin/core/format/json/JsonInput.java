package ninepin.core.format.json;

import java.io.IOException;
import java.util.Arrays;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.Utf8;
import ninepin.core.bytes.Words;
import ninepin.core.record.Fault;

/**
 * The bytes of a JSON text, token by token, as RFC 8259 has them. What is kept stays in one piece in memory; places are
 * counted from there, so that they stay valid when bytes move.
 */
final class JsonInput {

    private static final int INITIAL = 1 << 18;
    /** So much is held of what cannot be read, for people to see. */
    private static final int MOST_BEFORE = 1000;

    private static final int MOST_BEHIND = 200;
    private static final long QUOTES = '"' * Words.EACH;
    private static final long ESCAPES = '\\' * Words.EACH;
    private static final long LINE_FEEDS = '\n' * Words.EACH;
    private static final long RETURNS = '\r' * Words.EACH;

    /** A text that cannot be read on. */
    static final class Broken extends Exception {
        private static final long serialVersionUID = 1L;
        final transient Fault fault;

        Broken(Fault fault) {
            super(fault.found(), null, false, false);
            this.fault = fault;
        }
    }

    private final ByteSource source;
    private final int most;
    private final boolean trailingCommas;
    private byte[] bytes = new byte[INITIAL + Words.SLACK];
    /** The byte of the source that stands at {@code bytes[0]}. */
    private long origin;
    /** The first byte that is kept. */
    private int keep;
    /** The byte that is looked at. */
    private int at;
    /** The byte behind those that are held. */
    private int limit;
    /** Where the text ends: behind a line, or never. */
    private int end = Integer.MAX_VALUE;

    /** The bytes that end the line which the text ends with. */
    private int lineBreak;

    private long line;
    /** Where the line starts, as a byte of the source. */
    private long lineStart;

    /** The characters of the line that are not held any more. */
    private int beforeHeld;

    /**
     * @param most the most bytes that are kept
     * @param trailingCommas whether a comma may stand before a closing bracket
     */
    JsonInput(ByteSource source, long position, long line, int most, boolean trailingCommas) {
        this.source = source;
        this.most = most;
        this.trailingCommas = trailingCommas;
        this.origin = position;
        this.line = line;
        this.lineStart = position;
    }

    /** Keeps what stands from here on, until that is said again. */
    void keepFromHere() {
        keep = at;
    }

    /** The byte that is looked at, counted from the first one kept. */
    int place() {
        return at - keep;
    }

    /** The byte of the source that is looked at. */
    long offset() {
        return origin + at;
    }

    long line() {
        return line;
    }

    /** The characters that stand before the byte on its line. */
    int column() {
        return beforeHeld + Utf8.count(bytes, Math.min(onLine(), at), at);
    }

    /** Where the line starts among the bytes, as far as it is held. */
    private int onLine() {
        return (int) Math.max(0, Math.min(lineStart - origin, limit));
    }

    byte[] bytes() {
        return bytes;
    }

    /** Where a place stands among {@link #bytes()}. */
    int index(int place) {
        return keep + place;
    }

    /** The byte that is looked at; -1 at the end. */
    int peek() throws IOException, Broken {
        if (at >= end || at >= limit && !fetch()) {
            return -1;
        }
        return bytes[at];
    }

    /** Fetches more bytes behind those that are held; false at the end of the source. Places stay as they are. */
    private boolean fetch() throws IOException, Broken {
        if (keep > 0) {
            beforeHeld += Utf8.count(bytes, Math.min(keep, onLine()), keep);
            System.arraycopy(bytes, keep, bytes, 0, limit - keep);
            origin += keep;
            at -= keep;
            limit -= keep;
            end -= end == Integer.MAX_VALUE ? 0 : keep;
            keep = 0;
        }
        // Behind the last byte eight can be looked at.
        int room = bytes.length - Words.SLACK;
        if (limit == room) {
            if (limit >= most) {
                throw new Broken(JsonFaults.tooLong(most));
            }
            room = (int) Math.min(most, room * 2L);
            bytes = Arrays.copyOf(bytes, room + Words.SLACK);
        }
        int n = source.read(origin + limit, bytes, limit, room - limit);
        limit += Math.max(0, n);
        return n > 0;
    }

    /** Ends the text with the line that begins here. Behind it, its line end is held too. */
    void endWithLine() throws IOException, Broken {
        keepFromHere();
        end = Integer.MAX_VALUE;
        int length = lineBreakFrom(0);
        while (keep + length == limit && fetch()) {
            length = lineBreakFrom(length);
        }
        lineBreak = keep + length == limit ? 0 : 1;
        if (lineBreak > 0 && bytes[keep + length] == '\r') {
            boolean more = keep + length + 1 < limit || fetch();
            lineBreak += more && bytes[keep + length + 1] == '\n' ? 1 : 0;
        }
        end = keep + length;
    }

    /** The byte behind those that are held, among {@link #bytes()}. */
    int held() {
        return limit;
    }

    /** Ends the text with the line that begins here, where that is known to end at a place; false where no line end is held there. */
    boolean endsLineAt(int index) {
        boolean feed = index < limit && bytes[index] == '\n';
        boolean both = index + 1 < limit && bytes[index] == '\r' && bytes[index + 1] == '\n';
        if (!feed && !both) {
            return false;
        }
        end = index;
        lineBreak = feed ? 1 : 2;
        return true;
    }

    /** The place of the first line break from a place on, or of the end of what is held. */
    private int lineBreakFrom(int place) {
        byte[] held = bytes;
        int stop = limit;
        int i = keep + place;
        while (i < stop) {
            long word = Words.at(held, i);
            long breaks = Words.zeros(word ^ LINE_FEEDS) | Words.zeros(word ^ RETURNS);
            if (breaks != 0) {
                return Math.min(stop, i + (Long.numberOfTrailingZeros(breaks) >>> 3)) - keep;
            }
            i += Long.BYTES;
        }
        return stop - keep;
    }

    /** Whether nothing stands behind the line that the text ends with. */
    boolean isLastLine() {
        return lineBreak == 0;
    }

    /** Goes behind the line that the text ends with. What is kept stays. */
    void passLine() {
        at = end + lineBreak;
        end = Integer.MAX_VALUE;
        if (lineBreak > 0) {
            newLine();
        }
    }

    /** The bytes of the line that the text ends with. */
    int lineLength() {
        return end - keep;
    }

    private void newLine() {
        line++;
        lineStart = offset();
        beforeHeld = 0;
    }

    /** Passes over blanks and line ends. */
    void passBlanks() throws IOException, Broken {
        for (int b = peek(); b == ' ' || b == '\n' || b == '\r' || b == '\t'; b = peek()) {
            at++;
            if (b == '\n' || b == '\r' && peek() != '\n') {
                newLine();
            }
        }
    }

    /** Passes over a byte order mark, which some write in spite of RFC 8259; that of UTF-16 ends it. */
    void passMark() throws IOException, Broken {
        if (peek() == (byte) 0xef) {
            take("\u00ef\u00bb\u00bf", "a JSON value");
            lineStart = offset();
        } else if (at < limit && (bytes[at] == (byte) 0xff || bytes[at] == (byte) 0xfe)) {
            throw new Broken(JsonFaults.notUtf8(place()));
        }
    }

    /** Whether a byte stands here, which is then passed over. */
    boolean takes(char wanted) throws IOException, Broken {
        if (peek() != wanted) {
            return false;
        }
        at++;
        return true;
    }

    /** Of eight bytes in a string those that are no plain characters: quotes, escapes, controls, and all beyond ASCII. */
    static long notPlain(long word) {
        // Bytes below the blank, or beyond ASCII, have their high bit set by one or the other.
        return Words.zeros(word ^ QUOTES) | Words.zeros(word ^ ESCAPES) | (word - Words.BLANKS | word) & Words.HIGH;
    }

    /** Whether a name with its quotes stands here, which is then passed over. */
    boolean takes(QuotedName name) {
        boolean there = at + name.length() <= Math.min(end, limit) && name.isAt(bytes, at);
        at += there ? name.length() : 0;
        return there;
    }

    /** Passes over a comma between two parts; false where the parts have ended, with what ends them passed over. */
    boolean goesOn(char closing) throws IOException, Broken {
        passBlanks();
        if (takes(closing)) {
            return false;
        }
        if (!takes(',')) {
            throw broken("a comma or " + closing);
        }
        passBlanks();
        if (trailingCommas && takes(closing)) {
            return false;
        }
        return true;
    }

    /** The colon behind a name. */
    void takeColon() throws IOException, Broken {
        passBlanks();
        if (!takes(':')) {
            throw broken("a colon");
        }
        passBlanks();
    }

    /** A word such as {@code true}. */
    void take(String word, String expected) throws IOException, Broken {
        for (int i = 0; i < word.length(); i++) {
            if (peek() != (byte) word.charAt(i)) {
                throw broken(expected);
            }
            at++;
        }
    }

    /** A number, as exactly as it is written. */
    void takeNumber() throws IOException, Broken {
        takes('-');
        if (!takes('0')) {
            takeDigits();
        }
        if (takes('.')) {
            takeDigits();
        }
        if (peek() == 'e' || peek() == 'E') {
            at++;
            if (peek() == '+' || peek() == '-') {
                at++;
            }
            takeDigits();
        }
    }

    private void takeDigits() throws IOException, Broken {
        if (!isDigit(peek())) {
            throw broken("a digit");
        }
        do {
            byte[] held = bytes;
            int stop = Math.min(end, limit);
            int i = at;
            while (i < stop && isDigit(held[i])) {
                i++;
            }
            at = i;
        } while (isDigit(peek()));
    }

    private static boolean isDigit(int b) {
        return b >= '0' && b <= '9';
    }

    /** A string with its quotes; true where an escape stands in it. */
    boolean takeString() throws IOException, Broken {
        int from = place();
        at++;
        boolean escapes = false;
        boolean beyondAscii = false;
        passPlain();
        for (int b = peek(); b != '"'; b = peek()) {
            if (b == '\\') {
                escapes = true;
                at++;
                takeEscape();
            } else if (b >= ' ') {
                passPlain();
            } else if (b < -1 || b == -1 && at < Math.min(end, limit)) {
                beyondAscii = true;
                at++;
            } else {
                throw broken(b == -1 ? "a quote that ends the text" : "control characters written as escapes");
            }
        }
        at++;
        int bad = beyondAscii ? Utf8.firstBad(bytes, index(from), at) : -1;
        if (bad >= 0) {
            throw new Broken(JsonFaults.notUtf8(bad - keep));
        }
        return escapes;
    }

    /** Passes over what is held of the plain characters of a text. */
    private void passPlain() {
        byte[] held = bytes;
        int stop = Math.min(end, limit);
        int i = at;
        while (i < stop) {
            long other = notPlain(Words.at(held, i));
            if (other != 0) {
                at = Math.min(stop, i + (Long.numberOfTrailingZeros(other) >>> 3));
                return;
            }
            i += Long.BYTES;
        }
        at = stop;
    }

    private void takeEscape() throws IOException, Broken {
        int kind = peek();
        if (kind == 'u') {
            at++;
            for (int i = 0; i < 4; i++) {
                if (Character.digit(peek(), 16) < 0) {
                    throw broken("four hexadecimal digits");
                }
                at++;
            }
        } else if (kind > 0 && "\"\\/bfnrt".indexOf(kind) >= 0) {
            at++;
        } else {
            throw broken("an escape such as \\n or \\u00e4");
        }
    }

    /** The end of the text. */
    void takeEnd() throws IOException, Broken {
        passBlanks();
        if (peek() != -1 || at < Math.min(end, limit)) {
            throw broken("nothing more");
        }
    }

    Broken broken(String expected) throws IOException, Broken {
        int there = peek();
        boolean ends = at >= Math.min(end, limit);
        String found = ends ? "" : there >= ' ' ? String.valueOf((char) there) : String.format("\\x%02x", there & 0xff);
        return new Broken(JsonFaults.malformed(place(), found, expected));
    }

    /**
     * Holds what stands around the byte that is looked at in a record with a fault, whose places are counted from the first
     * byte kept.
     */
    void hold(JsonRecord r, Fault fault) {
        int first = Math.max(keep, at - MOST_BEFORE);
        int last = Math.min(Math.min(end, limit), at + MOST_BEHIND);
        // Of what stands on several lines, as much as is on the last one.
        first = Math.max(first, Math.min(onLine(), at));
        int before = beforeHeld + Utf8.count(bytes, onLine(), first);
        r.beginBroken(origin + first, line, before);
        r.hold(bytes, first, Math.max(0, last - first));
        int moved = first - keep;
        r.fault(new Fault(
                fault.code(),
                fault.column(),
                Math.max(0, fault.from() - moved),
                Math.max(0, fault.to() - moved),
                fault.found(),
                fault.expected(),
                fault.advice(),
                fault.halts()));
    }
}
