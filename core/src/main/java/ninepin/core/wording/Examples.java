package ninepin.core.wording;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** What an example of a written date or number stands for. */
final class Examples {

    /** Patterns of dates, those that are read one way only before those that are not. */
    private static final List<String> DATES = List.of(
            "yyyy-MM-dd",
            "yyyyMMdd",
            "dd.MM.yyyy",
            "d.M.yyyy",
            "dd.MM.yy",
            "dd MMM yyyy",
            "d MMM yyyy",
            "dd MMMM yyyy",
            "d MMMM yyyy",
            "MMM d, yyyy",
            "MMMM d, yyyy",
            "dd/MM/yyyy",
            "MM/dd/yyyy",
            "yyyy/MM/dd",
            "dd-MMM-yyyy",
            "dd-MM-yyyy",
            "EEE d MMM yyyy");

    private Examples() {}

    /** The pattern that writes a date as an example is, such as {@code 23 Nov 2026}. */
    static Optional<String> datePattern(String example) {
        String text = example.strip();
        if (text.matches("[yMdHhmsSE.:/, T'-]+") && text.contains("y")) {
            return Optional.of(text);
        }
        return DATES.stream().filter(p -> reads(text, p)).findFirst();
    }

    private static boolean reads(String text, String pattern) {
        try {
            DateTimeFormatter format = DateTimeFormatter.ofPattern(pattern.replace('y', 'u'), Locale.ENGLISH);
            return format.format(LocalDate.parse(text, format)).equals(text);
        } catch (DateTimeException e) {
            return false;
        }
    }

    /** A date however it is written in an instruction. */
    static Optional<LocalDate> date(String text) {
        return datePattern(text).flatMap(p -> {
            try {
                DateTimeFormatter format = DateTimeFormatter.ofPattern(p.replace('y', 'u'), Locale.ENGLISH);
                return Optional.of(LocalDate.parse(text.strip(), format));
            } catch (DateTimeException e) {
                return Optional.empty();
            }
        });
    }

    /** The example of a number, with the digits that say how one thousand two hundred and thirty-four is written. */
    static Optional<String> numberExample(String example) {
        String text = example.strip();
        if (!text.matches("\\d{1,3}([.,' ]?\\d{3})*([.,]\\d{1,2}|[.,]\\d{4,})?|\\d+([.,]\\d+)?")) {
            return Optional.empty();
        }
        java.util.regex.Matcher m = java.util.regex.Pattern.compile("(\\d{1,3})(?:([.,' ])\\d{3})*(?:([.,])(\\d+))?")
                .matcher(text);
        if (!m.matches()) {
            m = java.util.regex.Pattern.compile("(\\d+)()(?:([.,])(\\d+))?").matcher(text);
            if (!m.matches()) {
                return Optional.empty();
            }
        }
        String grouping = m.group(2) == null ? "" : m.group(2);
        return Optional.of("1" + grouping + "234" + (m.group(3) == null ? "" : m.group(3) + m.group(4)));
    }
}
