package ninepin.core.shape;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.text.DecimalFormat;
import java.text.DecimalFormatSymbols;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.TemporalAccessor;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ninepin.core.layout.DefinitionException;

/** Numbers written as an example is, and dates written by a pattern. */
final class TextForms {

    /** One thousand two hundred and thirty-four, as somebody would write it. */
    private static final Pattern EXAMPLE = Pattern.compile("1([.,' \\u00a0\\u202f]?)234(?:([.,])(\\d{1,18}))?");

    /** The letters of a pattern, or text in single quotes. */
    private static final Pattern TEMPORAL = Pattern.compile("(?:[yuMdHhmsSaE]+|'[^']*'|[^A-Za-z'\\[\\]{}#])+");

    private TextForms() {}

    static void check(Touch.Kind kind, String pattern) {
        if (kind == Touch.Kind.NUMBER
                && (pattern == null || !EXAMPLE.matcher(pattern).matches())) {
            throw new DefinitionException(
                    "touches.with", "a number is written as 1234 is: 1234, 1234.50, 1.234,50, 1 234,5");
        }
        if (kind == Touch.Kind.DATE) {
            temporal(pattern);
        }
    }

    /** A number as the example is written. */
    static String number(BigDecimal number, String example) {
        Matcher m = EXAMPLE.matcher(example);
        m.matches();
        int digits = m.group(3) == null ? 0 : m.group(3).length();
        DecimalFormatSymbols symbols = new DecimalFormatSymbols(Locale.ROOT);
        boolean grouped = !m.group(1).isEmpty();
        if (grouped) {
            symbols.setGroupingSeparator(m.group(1).charAt(0));
        }
        if (digits > 0) {
            symbols.setDecimalSeparator(m.group(2).charAt(0));
        }
        String whole = grouped ? "#,##0" : "0";
        DecimalFormat format = new DecimalFormat(digits == 0 ? whole : whole + "." + "0".repeat(digits), symbols);
        return format.format(number.setScale(digits, RoundingMode.HALF_UP));
    }

    static DateTimeFormatter temporal(String pattern) {
        if (pattern == null || !TEMPORAL.matcher(pattern).matches()) {
            throw new DefinitionException(
                    "touches.with", "a date or time is written by a pattern such as dd.MM.yyyy or d MMM yyyy HH:mm");
        }
        try {
            return DateTimeFormatter.ofPattern(pattern.replace('y', 'u'), Locale.ENGLISH);
        } catch (IllegalArgumentException e) {
            throw new DefinitionException("touches.with", "\"" + pattern + "\" is no pattern: " + e.getMessage());
        }
    }

    /** A date, time or both from their ISO form. */
    static TemporalAccessor moment(String iso) {
        String text = iso.strip().replace(' ', 'T');
        if (text.indexOf('T') > 0) {
            return LocalDateTime.parse(text);
        }
        return text.indexOf(':') > 0 ? LocalTime.parse(text) : LocalDate.parse(text);
    }

    static String temporal(String iso, DateTimeFormatter format) throws DateTimeException {
        return format.format(moment(iso));
    }
}
