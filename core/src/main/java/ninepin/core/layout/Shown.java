package ninepin.core.layout;

/** Raw text made fit to be shown in a message: control characters visible, long texts cut. */
public final class Shown {

    private static final int MOST = 80;
    private static final String[] CONTROLS =
            ("NUL SOH STX ETX EOT ENQ ACK BEL BS TAB LF VT FF CR SO SI DLE DC1 DC2 DC3 DC4"
                            + " NAK SYN ETB CAN EM SUB ESC FS GS RS US")
                    .split(" ");

    private Shown() {}

    /** The text in double quotes, control characters by their names (ISO/IEC 6429), 80 characters at most. */
    public static String quoted(String text) {
        return '"' + visible(text) + '"';
    }

    /** The text with control characters by their names (ISO/IEC 6429), 80 characters at most. */
    public static String visible(String text) {
        return visible(text, MOST);
    }

    /** The text with control characters by their names, so many characters at most. */
    public static String visible(String text, int most) {
        StringBuilder out = new StringBuilder();
        int shown = 0;
        for (int i = 0; i < text.length() && shown < most; shown++) {
            int c = text.codePointAt(i);
            if (c < 0x20) {
                out.append('‹').append(CONTROLS[c]).append('›');
            } else if (c == 0x7f) {
                out.append("‹DEL›");
            } else if (c >= 0x80 && c < 0xa0 || c == 0xfeff || c == 0xfffd) {
                out.append(String.format("\\u%04X", c));
            } else {
                out.appendCodePoint(c);
            }
            i += Character.charCount(c);
            if (shown == most - 1 && i < text.length()) {
                out.append('…');
            }
        }
        return out.toString();
    }

    /** A byte by its character or, where it has none, by its number. */
    public static String character(byte b) {
        if (b > 0x20 && b < 0x7f) {
            return "\"" + (char) b + "\"";
        }
        return b == ' ' ? "a blank" : String.format("byte 0x%02X", b & 0xff);
    }
}
