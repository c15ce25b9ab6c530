package ninepin.core.formula;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;
import ninepin.core.check.BoundedText;

/** Regular expressions, compiled once and matched within a bound of work. */
final class Regex {

    private final Pattern pattern;

    /**
     * @param pattern the expression, where it stands in the formula known
     * @param flags letters of {@code i} (any case), {@code s} (a point is any character), {@code m} (each line),
     *     {@code x} (blanks do not count), or null
     */
    Regex(Constant pattern, Constant flags) {
        int options = Pattern.UNICODE_CASE;
        for (char flag : flags == null ? new char[0] : flags.value.text.toCharArray()) {
            options |= switch (flag) {
                case 'i' -> Pattern.CASE_INSENSITIVE;
                case 's' -> Pattern.DOTALL;
                case 'm' -> Pattern.MULTILINE;
                case 'x' -> Pattern.COMMENTS;
                default ->
                    throw new FormulaException(
                            flags.from, flags.to, "There is no flag " + flag + "; the flags are i, s, m and x.");
            };
        }
        try {
            this.pattern = Pattern.compile(pattern.value.text, options);
        } catch (PatternSyntaxException e) {
            throw new FormulaException(
                    pattern.from,
                    pattern.to,
                    "This is no regular expression: " + e.getDescription() + " at character " + (e.getIndex() + 1)
                            + ".");
        }
    }

    boolean matches(Expr self, String text) {
        try {
            return pattern.matcher(new BoundedText(text)).find();
        } catch (BoundedText.TooMuchWork | StackOverflowError e) {
            throw tooMuch(self);
        }
    }

    /** The so-many-th match, from 1; null where there are fewer. */
    String substring(Expr self, String text, long occurrence) {
        try {
            Matcher matcher = pattern.matcher(new BoundedText(text));
            for (long n = 1; matcher.find(); n++) {
                if (n == occurrence) {
                    return text.substring(matcher.start(), matcher.end());
                }
            }
            return null;
        } catch (BoundedText.TooMuchWork | StackOverflowError e) {
            throw tooMuch(self);
        }
    }

    /** Every match replaced; {@code $1} stands for the first group, {@code \$} for the sign. */
    String replace(Expr self, String text, String by) {
        try {
            String result = pattern.matcher(new BoundedText(text)).replaceAll(by);
            if (result.length() > SqlType.MOST_CHARACTERS) {
                throw new EvaluationException(
                        "FML-02", self, "a text of more than " + SqlType.MOST_CHARACTERS + " characters");
            }
            return result;
        } catch (BoundedText.TooMuchWork | StackOverflowError e) {
            throw tooMuch(self);
        } catch (IllegalArgumentException | IndexOutOfBoundsException e) {
            throw new EvaluationException("FML-03", self, "a replacement that names a group which is not there: " + by);
        }
    }

    private static EvaluationException tooMuch(Expr self) {
        return new EvaluationException("FML-04", self, "a regular expression that takes too long on this value");
    }
}
