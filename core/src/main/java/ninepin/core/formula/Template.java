package ninepin.core.formula;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

/** A datetime template of ISO SQL: how a date or time is written, such as {@code DD.MM.YYYY HH24:MI}. */
final class Template {

    private static final String[] PARTS = {
        "YYYY", "YY", "MM", "DDD", "DD", "HH24", "HH12", "MI", "SSSSS", "SS", "FF1", "FF2", "FF3", "FF4", "FF5", "FF6",
        "FF7", "FF8", "FF9", "A.M.", "P.M."
    };
    private static final String DELIMITERS = "-./,';: ";

    private final List<String> parts = new ArrayList<>();
    private boolean hasDate;
    private boolean hasTime;

    /** Takes a template apart; a part that is not known is an error at its place. */
    Template(Constant text) {
        String t = text.value.text;
        for (int at = 0; at < t.length(); ) {
            String part = partAt(t, at);
            if (part == null) {
                throw new FormulaException(
                        text.from,
                        text.to,
                        "There is no template part at \"" + t.substring(at)
                                + "\"; the parts are YYYY, YY, MM, DD, DDD, HH24, HH12, MI, SS, SSSSS, FF1 to FF9, A.M.,"
                                + " and between them - . / , ' ; : or a blank.");
            }
            boolean date = part.startsWith("Y") || part.equals("MM") || part.startsWith("D");
            hasDate |= date;
            hasTime |= !date && part.length() > 1;
            parts.add(part);
            at += part.length();
        }
    }

    private static String partAt(String t, int at) {
        for (String part : PARTS) {
            if (t.regionMatches(true, at, part, 0, part.length())) {
                return part;
            }
        }
        return DELIMITERS.indexOf(t.charAt(at)) >= 0 ? t.substring(at, at + 1) : null;
    }

    /** Whether it has parts of a date, and whether of a time. */
    boolean fits(SqlType.Kind kind) {
        return (!hasDate || kind != SqlType.Kind.TIME) && (!hasTime || kind != SqlType.Kind.DATE);
    }

    boolean hasDate() {
        return hasDate;
    }

    /** Writes a moment: days since 1970-01-01 and nanoseconds of the day. */
    String write(long days, long nanos) {
        LocalDate date = LocalDate.ofEpochDay(days);
        long seconds = nanos / Times.NANOS;
        StringBuilder out = new StringBuilder();
        for (String part : parts) {
            switch (part) {
                case "YYYY" -> padded(out, date.getYear(), 4);
                case "YY" -> padded(out, date.getYear() % 100, 2);
                case "MM" -> padded(out, date.getMonthValue(), 2);
                case "DDD" -> padded(out, date.getDayOfYear(), 3);
                case "DD" -> padded(out, date.getDayOfMonth(), 2);
                case "HH24" -> padded(out, seconds / 3600, 2);
                case "HH12" -> padded(out, (seconds / 3600 + 11) % 12 + 1, 2);
                case "MI" -> padded(out, seconds / 60 % 60, 2);
                case "SSSSS" -> padded(out, seconds, 5);
                case "SS" -> padded(out, seconds % 60, 2);
                case "A.M.", "P.M." -> out.append(seconds < 43_200 ? "A.M." : "P.M.");
                default -> {
                    if (part.startsWith("FF")) {
                        out.append(String.format("%09d", nanos % Times.NANOS), 0, part.charAt(2) - '0');
                    } else {
                        out.append(part);
                    }
                }
            }
        }
        return out.toString();
    }

    private static void padded(StringBuilder out, long number, int width) {
        String digits = Long.toString(number);
        out.append("0".repeat(Math.max(0, width - digits.length()))).append(digits);
    }

    /**
     * Reads a text.
     *
     * @param thisYear the year whose century a two-digit year lies in
     * @param out gets the days and the nanoseconds of the day
     * @return false where the text is not written so, or is no moment of the calendar
     */
    boolean read(String text, int thisYear, Datum out) {
        long[] found = {0, 1, 1, 0, 0, 0, 0}; // year, month, day, hour, minute, second, nanos
        int dayOfYear = -1;
        boolean twelve = false;
        int afternoon = -1;
        int at = 0;
        for (String part : parts) {
            if (part.length() == 1) {
                if (at >= text.length() || text.charAt(at) != part.charAt(0)) {
                    return false;
                }
                at++;
                continue;
            }
            if (part.endsWith(".M.")) {
                boolean am = text.regionMatches(true, at, "A.M.", 0, 4);
                if (!am && !text.regionMatches(true, at, "P.M.", 0, 4)) {
                    return false;
                }
                afternoon = am ? 0 : 1;
                at += 4;
                continue;
            }
            int width = width(part);
            long number = digits(text, at, width);
            if (number < 0) {
                return false;
            }
            at += width;
            switch (part) {
                case "YYYY" -> found[0] = number;
                case "YY" -> found[0] = thisYear - thisYear % 100 + number;
                case "MM" -> found[1] = number;
                case "DDD" -> dayOfYear = (int) number;
                case "DD" -> found[2] = number;
                case "HH24" -> found[3] = number;
                case "HH12" -> {
                    twelve = true;
                    found[3] = number;
                }
                case "MI" -> found[4] = number;
                case "SS" -> found[5] = number;
                case "SSSSS" -> {
                    found[3] = number / 3600;
                    found[4] = number / 60 % 60;
                    found[5] = number % 60;
                }
                default -> found[6] = number * Numbers.TENS[9 - width];
            }
        }
        if (twelve) {
            if (found[3] < 1 || found[3] > 12 || afternoon < 0) {
                return false;
            }
            found[3] = found[3] % 12 + 12L * afternoon;
        }
        if (at != text.length() || found[3] > 23 || found[4] > 59 || found[5] > 59) {
            return false;
        }
        try {
            LocalDate date = dayOfYear >= 0
                    ? LocalDate.ofYearDay((int) found[0], dayOfYear)
                    : LocalDate.of(hasDate ? (int) found[0] : 1970, (int) found[1], (int) found[2]);
            if (hasDate && date.getYear() < 1) {
                return false;
            }
            out.setTimestamp(date.toEpochDay(), (found[3] * 3600 + found[4] * 60 + found[5]) * Times.NANOS + found[6]);
            return true;
        } catch (java.time.DateTimeException e) {
            return false;
        }
    }

    private static int width(String part) {
        if (part.startsWith("FF")) {
            return part.charAt(2) - '0';
        }
        return part.startsWith("HH") ? 2 : part.length();
    }

    private static long digits(String text, int from, int width) {
        if (from + width > text.length()) {
            return -1;
        }
        long number = 0;
        for (int i = from; i < from + width; i++) {
            int digit = text.charAt(i) - '0';
            if (digit < 0 || digit > 9) {
                return -1;
            }
            number = number * 10 + digit;
        }
        return number;
    }
}
