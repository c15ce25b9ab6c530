package ninepin.core.format.delimited;

import java.util.regex.Pattern;

/**
 * Texts in delimited files that people open with a spreadsheet, which takes what begins like a formula for one. Such texts get
 * an apostrophe in front; numbers stay as they are.
 */
public final class SpreadsheetText {

    private static final Pattern FORMULA = Pattern.compile("(?s)'*[=+\\-@\\t\\r\\n].*");
    private static final Pattern NUMBER = Pattern.compile("[+-]?[0-9]+([.,][0-9]+)*");

    private SpreadsheetText() {}

    /** The text as it is written. */
    public static String safe(String text) {
        return text != null && isFormula(text) ? "'" + text : text;
    }

    /** The text as it was before {@link #safe}. */
    public static String original(String written) {
        return written != null && written.startsWith("'") && isFormula(written.substring(1))
                ? written.substring(1)
                : written;
    }

    private static boolean isFormula(String text) {
        return FORMULA.matcher(text).matches() && !NUMBER.matcher(text).matches();
    }
}
