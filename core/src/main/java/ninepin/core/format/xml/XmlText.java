package ninepin.core.format.xml;

import java.io.IOException;
import java.io.Reader;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CoderResult;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.IllegalCharsetNameException;
import java.nio.charset.StandardCharsets;
import java.nio.charset.UnsupportedCharsetException;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.Bytes;
import ninepin.core.bytes.Utf8;
import ninepin.core.bytes.Words;
import ninepin.core.layout.Shown;
import ninepin.core.record.ByteOrderMark;
import ninepin.core.record.Fault;
import ninepin.core.record.RecordReader;

/**
 * The characters of an XML file for its parser, which counts them, and the way back from the count to bytes. The bytes
 * from a kept place on stay held, so that a record's own bytes can be handed out. Memory grows with what is kept.
 */
final class XmlText extends Reader {

    /** The file cannot be read on; the fault says why. */
    static final class Unreadable extends IOException {
        private static final long serialVersionUID = 1L;
        final transient Fault fault;

        Unreadable(Fault fault) {
            super(fault.found());
            this.fault = fault;
        }
    }

    private static final Pattern DECLARED =
            Pattern.compile("^<\\?xml[^>]*?\\sencoding\\s*=\\s*[\"']([^\"']{1,40})[\"']");
    private static final Pattern VERSION_1_1 =
            Pattern.compile("^\ufeff?<\\?xml[^>]*?\\sversion\\s*=\\s*[\"']1\\.1[\"']");
    /** A declaration stands in so many bytes. */
    private static final int DECLARATION = 200;

    private static final int BLOCK = 1 << 14;
    /** The first of the two units that are no characters. */
    private static final char NO_CHARACTER = 0xfffe;

    private final ByteSource source;
    private final CharsetDecoder decoder;
    private final int bytesPerChar;
    /** Whether controls have to be written as references, as XML 1.1 demands. */
    private final boolean restricted;

    private byte[] bytes = new byte[BLOCK * 4];
    /** The byte of the file at {@code bytes[0]}, where decoding has come to in the array, and how much it holds. */
    private long origin;

    private int decoded;
    private int limit;
    private long kept;
    /** How far decoding had come when the parser told of something the last time. */
    private long told;
    /** The last place asked for: characters behind the byte order mark, and the byte they end at. */
    private long knownChar;

    private long knownByte;
    /** The byte from which on every character that was decoded is one byte. */
    private long narrowFrom;

    XmlText(ByteSource source) throws IOException {
        this.source = source;
        byte[] first = source.slice(0, DECLARATION);
        Charset charset = charset(first);
        this.decoder = charset.newDecoder()
                .onMalformedInput(CodingErrorAction.REPORT)
                .onUnmappableCharacter(CodingErrorAction.REPORT);
        this.bytesPerChar = charset.equals(StandardCharsets.UTF_8) ? 0 : Bytes.isUtf16(charset) ? 2 : 1;
        this.restricted = VERSION_1_1.matcher(new String(first, charset)).find();
        int mark = ByteOrderMark.isUtf8(first) ? 3 : ByteOrderMark.isUtf16(first) ? 2 : 0;
        this.origin = mark;
        this.kept = mark;
        this.knownByte = mark;
    }

    /** The encoding of a file; UTF-8 where it cannot be told. */
    static Charset charsetOrUtf8(ByteSource source) throws IOException {
        try {
            return charset(source);
        } catch (Unreadable e) {
            return StandardCharsets.UTF_8;
        }
    }

    /** The encoding of a file. */
    static Charset charset(ByteSource source) throws IOException {
        return charset(source.slice(0, DECLARATION));
    }

    /** The encoding after appendix F of XML 1.0: by the mark, by the declaration, else UTF-8. */
    static Charset charset(byte[] first) throws Unreadable {
        if (ByteOrderMark.isUtf16(first)) {
            Charset charset = first[0] == (byte) 0xff ? StandardCharsets.UTF_16LE : StandardCharsets.UTF_16BE;
            requireMark("UTF-16", new String(first, 2, first.length - 2, charset));
            return charset;
        }
        if (first.length > 3 && first[0] == 0 && first[1] == '<') {
            return StandardCharsets.UTF_16BE;
        }
        if (first.length > 3 && first[0] == '<' && first[1] == 0) {
            return StandardCharsets.UTF_16LE;
        }
        int mark = ByteOrderMark.isUtf8(first) ? 3 : 0;
        Matcher declared = DECLARED.matcher(new String(first, mark, first.length - mark, StandardCharsets.ISO_8859_1));
        if (mark == 3) {
            requireMark("UTF-8", new String(first, mark, first.length - mark, StandardCharsets.ISO_8859_1));
        }
        if (mark == 3 || !declared.find()) {
            return StandardCharsets.UTF_8;
        }
        try {
            Charset charset = Charset.forName(declared.group(1));
            if (charset.equals(StandardCharsets.UTF_8) || charset.newEncoder().maxBytesPerChar() == 1.0f) {
                return charset;
            }
        } catch (IllegalCharsetNameException | UnsupportedCharsetException e) {
            // Told below, in the same words as an encoding that is known but cannot be read.
        }
        throw new Unreadable(XmlFaults.ending(
                "XML-04",
                "the encoding " + Shown.quoted(declared.group(1)),
                "UTF-8, UTF-16, or an encoding of one byte a character",
                "Ask the sender for UTF-8."));
    }

    /** The mark and the declaration have to say the same (XML 1.0, 4.3.3). */
    private static void requireMark(String marked, String start) throws Unreadable {
        Matcher declared = DECLARED.matcher(start);
        if (declared.find() && !declared.group(1).toUpperCase(Locale.ROOT).startsWith(marked)) {
            throw new Unreadable(XmlFaults.ending(
                    "XML-04",
                    "the encoding " + Shown.quoted(declared.group(1)) + " behind the byte order mark of " + marked,
                    "a mark and a declaration that say the same",
                    "Ask the sender which of them is right."));
        }
    }

    @Override
    public int read(char[] into, int from, int length) throws IOException {
        int to = from + Math.min(length, BLOCK);
        while (true) {
            int at = bytesPerChar == 0 && !restricted ? common(into, from, to) : from;
            CoderResult result = CoderResult.UNDERFLOW;
            if (at < to && decoded < limit) {
                ByteBuffer in = ByteBuffer.wrap(bytes, decoded, limit - decoded);
                CharBuffer out = CharBuffer.wrap(into, at, to - at);
                result = decoder.decode(in, out, false);
                requireCharacters(into, at, out.position());
                if (in.position() - decoded != out.position() - at) {
                    narrowFrom = origin + in.position();
                }
                decoded = in.position();
                at = out.position();
            }
            if (at > from) {
                return at - from;
            }
            if (result.isError()) {
                throw misfit(result.length());
            }
            if (!fill()) {
                if (decoded < limit) {
                    throw misfit(limit - decoded);
                }
                return -1;
            }
        }
    }

    /** Decodes UTF-8 as far as its characters are of one or two bytes; where it has come to. */
    private int common(char[] into, int from, int to) {
        int at = decoded;
        int out = from;
        while (at < limit && out < to) {
            if (at + Long.BYTES <= limit && out + Long.BYTES <= to) {
                long word = Words.at(bytes, at);
                if ((word & Words.HIGH) == 0) {
                    for (int i = 0; i < Long.BYTES; i++) {
                        into[out + i] = (char) (word >>> (i << 3) & 0x7f);
                    }
                    at += Long.BYTES;
                    out += Long.BYTES;
                    continue;
                }
            }
            int lead = bytes[at];
            if (lead >= 0) {
                into[out++] = (char) lead;
                at++;
            } else if (at + 1 < limit
                    && (lead & 0xff) >= 0xc2
                    && (lead & 0xe0) == 0xc0
                    && bytes[at + 1] < (byte) 0xc0) {
                into[out++] = (char) ((lead & 0x1f) << 6 | bytes[at + 1] & 0x3f);
                at += 2;
                narrowFrom = origin + at;
            } else {
                break;
            }
        }
        decoded = at;
        return out;
    }

    /** What XML has no place for, whatever the encoding: U+FFFE and U+FFFF, and in XML 1.1 controls as they are. */
    private void requireCharacters(char[] chars, int from, int to) throws Unreadable {
        for (int i = from; i < to; i++) {
            char c = chars[i];
            if (c >= NO_CHARACTER || restricted && c >= 0x7f && c < 0xa0 && c != 0x85) {
                throw new Unreadable(XmlFaults.forbidden(c));
            }
        }
    }

    private Unreadable misfit(int length) {
        StringBuilder hex = new StringBuilder();
        for (int i = decoded; i < Math.min(limit, decoded + length); i++) {
            hex.append(String.format(" 0x%02X", bytes[i]));
        }
        return new Unreadable(XmlFaults.ending(
                "CHR-01",
                "at byte " + (origin + decoded + 1) + " of the file" + hex,
                "text in " + decoder.charset().name(),
                "The file says that it is in that encoding; ask its sender."));
    }

    private boolean fill() throws IOException {
        int unneeded = (int) Math.min(decoded, Math.min(kept, knownByte) - origin);
        if (unneeded > bytes.length / 2 || limit == bytes.length && unneeded > 0) {
            System.arraycopy(bytes, unneeded, bytes, 0, limit - unneeded);
            origin += unneeded;
            decoded -= unneeded;
            limit -= unneeded;
        }
        if (origin + limit - told > RecordReader.MAX_RECORD_BYTES + BLOCK) {
            throw new Unreadable(XmlFaults.tooLong());
        }
        if (limit == bytes.length && limit - (kept - origin) >= RecordReader.MAX_TREE_BYTES) {
            throw new Unreadable(XmlFaults.ending(
                    "XML-03",
                    "a record of more than " + (RecordReader.MAX_TREE_BYTES >> 20) + " MiB",
                    "at most that",
                    "Choose a deeper element as the outermost record type."));
        }
        if (limit == bytes.length) {
            bytes = java.util.Arrays.copyOf(bytes, bytes.length * 2);
        }
        int n = source.read(origin + limit, bytes, limit, Math.min(BLOCK, bytes.length - limit));
        if (n > 0) {
            limit += n;
        }
        return n > 0;
    }

    /** Says that the parser has told of an element, a text, a comment or an instruction; what follows is another. */
    void told() {
        told = origin + decoded;
    }

    /** Keeps the bytes from a place of the file on. */
    void keep(long offset) {
        kept = offset;
    }

    /** The byte of the file at which a character stands, counted from the first behind the mark. Asked in rising order. */
    long byteOf(long character) {
        if (bytesPerChar > 0 || knownByte >= narrowFrom) {
            knownByte += (character - knownChar) * Math.max(1, bytesPerChar);
            knownChar = character;
            return knownByte;
        }
        int at = Utf8.skip(bytes, (int) (knownByte - origin), limit, (int) (character - knownChar));
        knownChar = character;
        knownByte = origin + at;
        return knownByte;
    }

    /** The array that holds the kept bytes. */
    byte[] bytes() {
        return bytes;
    }

    /** Where a byte of the file stands in {@link #bytes()}. */
    int indexOf(long offset) {
        return (int) (offset - origin);
    }

    /** The encoding of the file. */
    Charset charset() {
        return decoder.charset();
    }

    /** How many bytes every character has; 0 for UTF-8, where that differs. */
    int bytesPerChar() {
        return bytesPerChar;
    }

    @Override
    public void close() {
        // The source belongs to the reader of records.
    }
}
