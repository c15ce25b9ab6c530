package ninepin.core.read;

/**
 * Why a text is not a value of its type.
 *
 * @param code the stable code of the message
 * @param expected what was expected, such as {@code a whole number}
 * @param advice the sharpest thing that can be said about the place, such as {@code Character 3 is the letter O.}; or null
 */
public record Problem(String code, String expected, String advice) {}
