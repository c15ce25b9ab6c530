package ninepin.server.api;

/** What people and files bring, fit to stand in a line of the log: neither a second line nor a picture of one. */
public final class LogText {

    private static final int MOST = 200;

    private LogText() {}

    /** A text without line breaks and other control characters, and not too long. */
    public static String of(Object value) {
        String text = String.valueOf(value);
        StringBuilder clean = new StringBuilder(Math.min(text.length(), MOST));
        text.codePoints().limit(MOST).forEach(c -> {
            int type = Character.getType(c);
            boolean plain = type != Character.CONTROL
                    && type != Character.FORMAT
                    && type != Character.LINE_SEPARATOR
                    && type != Character.PARAGRAPH_SEPARATOR
                    && type != Character.SURROGATE
                    && type != Character.UNASSIGNED;
            clean.appendCodePoint(plain ? c : '\uFFFD');
        });
        return text.codePointCount(0, text.length()) > MOST ? clean + "…" : clean.toString();
    }
}
