package ninepin.core.value;

/**
 * Why a text is not a value of its type.
 *
 * @param code the stable code of the message
 * @param expected what was expected, such as {@code a whole number}
 * @param advice the sharpest thing that can be said about the place, such as {@code Character 3 is the letter O.}; or null
 */
public record Problem(String code, String expected, String advice) {

    /**
     * A byte that is no character of its charset.
     *
     * @param charset the name of the charset
     * @param b the byte
     * @param at its place in the value, from 0
     */
    public static Problem wrongByte(String charset, byte b, int at) {
        return new Problem(
                "CHR-01",
                "text in " + charset,
                String.format(
                        "Byte %d (0x%02X) is no character of it; check the charset of the layout.", at + 1, b & 0xff));
    }
}
