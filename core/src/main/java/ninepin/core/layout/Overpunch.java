package ninepin.core.layout;

/**
 * Signs that stand in a digit: A to I are 1 to 9 and { is 0, J to R are -1 to -9 and } is -0. In EBCDIC the two braces
 * are the bytes 0xC0 and 0xD0 whatever letters a code page has there.
 */
public final class Overpunch {

    public static final String PLUS = "{ABCDEFGHI";
    public static final String MINUS = "}JKLMNOPQR";

    private static final int PLUS_ZERO = 0xc0;
    private static final int MINUS_ZERO = 0xd0;

    private Overpunch() {}

    /**
     * The text of a number with its braces.
     *
     * @param text the text as the code page has it, a character for each byte
     * @param bytes where its bytes stand
     * @param from the first of them
     */
    public static String ofEbcdic(String text, byte[] bytes, int from) {
        char[] all = text.toCharArray();
        for (int i = 0; i < all.length; i++) {
            int b = bytes[from + i] & 0xff;
            all[i] = b == PLUS_ZERO ? PLUS.charAt(0) : b == MINUS_ZERO ? MINUS.charAt(0) : all[i];
        }
        return new String(all);
    }

    /** Sets the bytes of braces, of a text that was written in a code page. */
    public static void toEbcdic(String text, byte[] bytes) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == PLUS.charAt(0) || c == MINUS.charAt(0)) {
                bytes[i] = (byte) (c == PLUS.charAt(0) ? PLUS_ZERO : MINUS_ZERO);
            }
        }
    }
}
