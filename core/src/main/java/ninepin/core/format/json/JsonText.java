package ninepin.core.format.json;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Texts as they are written in JSON. */
final class JsonText {

    private static final Pattern ESCAPE = Pattern.compile("\\\\(?:[\"\\\\/bfnrt]|u[0-9A-Fa-f]{4})");

    private JsonText() {}

    /** What a text between quotes stands for, in UTF-8. Half a surrogate pair stands for a character that is none. */
    static byte[] unescaped(byte[] bytes, int from, int to) {
        String written = new String(bytes, from, to - from, StandardCharsets.UTF_8);
        StringBuilder text = new StringBuilder(written.length());
        for (int i = 0; i < written.length(); i++) {
            char c = written.charAt(i);
            if (c != '\\') {
                text.append(c);
                continue;
            }
            char kind = written.charAt(++i);
            switch (kind) {
                case 'b' -> text.append('\b');
                case 'f' -> text.append('\f');
                case 'n' -> text.append('\n');
                case 'r' -> text.append('\r');
                case 't' -> text.append('\t');
                case 'u' -> {
                    text.append((char) Integer.parseInt(written.substring(i + 1, i + 5), 16));
                    i += 4;
                }
                default -> text.append(kind);
            }
        }
        return bytes(text.toString());
    }

    /** In UTF-8, half a surrogate pair as the three bytes that no UTF-8 has, so that it is found to be no character. */
    private static byte[] bytes(String text) {
        if (!hasHalf(text)) {
            return text.getBytes(StandardCharsets.UTF_8);
        }
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        for (int i = 0; i < text.length(); ) {
            int c = text.codePointAt(i);
            if (c >= Character.MIN_SURROGATE && c <= Character.MAX_SURROGATE) {
                bytes.write(0xe0 | c >> 12);
                bytes.write(0x80 | c >> 6 & 0x3f);
                bytes.write(0x80 | c & 0x3f);
            } else {
                bytes.writeBytes(Character.toString(c).getBytes(StandardCharsets.UTF_8));
            }
            i += Character.charCount(c);
        }
        return bytes.toByteArray();
    }

    private static boolean hasHalf(String text) {
        return text.codePoints().anyMatch(c -> c >= Character.MIN_SURROGATE && c <= Character.MAX_SURROGATE);
    }

    /** A text as it stands between quotes. */
    static String escaped(String text) {
        StringBuilder written = new StringBuilder(text.length() + 8);
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '"' -> written.append("\\\"");
                case '\\' -> written.append("\\\\");
                case '\n' -> written.append("\\n");
                case '\r' -> written.append("\\r");
                case '\t' -> written.append("\\t");
                default -> {
                    if (c < ' ') {
                        written.append(String.format("\\u%04x", (int) c));
                    } else {
                        written.append(c);
                    }
                }
            }
        }
        return written.toString();
    }

    /** A text between quotes in which escapes may stand, with what could not stand there escaped. */
    static String mended(String text) {
        StringBuilder written = new StringBuilder(text.length() + 8);
        for (int i = 0; i < text.length(); i++) {
            Matcher escape = ESCAPE.matcher(text).region(i, text.length());
            if (escape.lookingAt()) {
                written.append(escape.group());
                i = escape.end() - 1;
            } else {
                written.append(escaped(text.substring(i, i + 1)));
            }
        }
        return written.toString();
    }
}
