package ninepin.core.format.workbook;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;

/**
 * How cells are written in a transcript, in UTF-8:
 *
 * <pre>
 * "Fell Vale"   text, with \" \\ \n \r \t and &#92;uXXXX for what cannot stand on a line
 * 34.5          a number
 * 123{00000}    a number that is shown with zeros in front of it
 * 2026-11-01    a date; 2026-11-01T10:30:00 with a time, 10:30:00 a time of day
 * TRUE, FALSE   a truth value
 * #N/A          an error
 * =             a formula that has no value
 * ^34.5         a cell that is merged with the one that has this value
 * &#64;AB           no cell: the next one stands in column AB
 * </pre>
 */
final class CellText {

    static final byte QUOTE = '"';
    static final byte ESCAPE = '\\';
    static final byte SEPARATOR = ',';
    static final byte COVERED = '^';
    static final byte JUMP = '@';
    static final byte ERROR = '#';
    static final byte NO_VALUE = '=';
    /** Stands around the way a number is shown. */
    static final byte SHOWN_AS = '{';

    static final byte SHOWN_AS_END = '}';

    private static final String PLAIN_ESCAPES = "\"\\nrt";
    private static final String ESCAPED = "\"\\\n\r\t";
    private static final int LETTERS_OF_CODE = 4;
    private static final int HEXADECIMAL = 16;

    private CellText() {}

    /** A text as it is written, with its quotes. */
    static byte[] quoted(String text) {
        ByteArrayOutputStream out = new ByteArrayOutputStream(text.length() + 2);
        out.write(QUOTE);
        int from = 0;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (mustEscape(c)) {
                out.writeBytes(text.substring(from, i).getBytes(StandardCharsets.UTF_8));
                out.writeBytes(escape(c).getBytes(StandardCharsets.US_ASCII));
                from = i + 1;
            }
        }
        out.writeBytes(text.substring(from).getBytes(StandardCharsets.UTF_8));
        out.write(QUOTE);
        return out.toByteArray();
    }

    /** A text as it is written between quotes, but for escapes that stand in it already. */
    static String mended(String text) {
        StringBuilder out = new StringBuilder(text.length());
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            int length = c == ESCAPE ? escapeLength(text, i) : 0;
            if (length > 0) {
                out.append(text, i, i + length);
                i += length - 1;
            } else {
                out.append(mustEscape(c) ? escape(c) : String.valueOf(c));
            }
        }
        return out.toString();
    }

    private static int escapeLength(String text, int at) {
        if (at + 1 >= text.length()) {
            return 0;
        }
        if (PLAIN_ESCAPES.indexOf(text.charAt(at + 1)) >= 0) {
            return 2;
        }
        boolean code = text.regionMatches(at + 1, "u", 0, 1) && at + 2 + LETTERS_OF_CODE <= text.length();
        return code && text.substring(at + 2, at + 2 + LETTERS_OF_CODE).matches("[0-9a-fA-F]+")
                ? 2 + LETTERS_OF_CODE
                : 0;
    }

    /** Whether a character cannot stand in a text on a line as it is. */
    static boolean mustEscape(char c) {
        return c < ' ' || c == QUOTE || c == ESCAPE;
    }

    private static String escape(char c) {
        int plain = ESCAPED.indexOf(c);
        return plain >= 0 ? "\\" + PLAIN_ESCAPES.charAt(plain) : String.format("\\u%04x", (int) c);
    }

    /** The text of bytes that stood between quotes; what is no escape stays as it is. */
    static String text(byte[] line, int from, int to) {
        String raw = new String(line, from, to - from, StandardCharsets.UTF_8);
        StringBuilder out = new StringBuilder(raw.length());
        for (int i = 0; i < raw.length(); i++) {
            char c = raw.charAt(i);
            int length = c == ESCAPE ? escapeLength(raw, i) : 0;
            if (length == 2) {
                out.append(ESCAPED.charAt(PLAIN_ESCAPES.indexOf(raw.charAt(i + 1))));
                i++;
            } else if (length > 2) {
                out.append((char) Integer.parseInt(raw.substring(i + 2, i + length), HEXADECIMAL));
                i += length - 1;
            } else {
                out.append(c);
            }
        }
        return out.toString();
    }
}
