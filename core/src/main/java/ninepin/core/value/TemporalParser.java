package ninepin.core.value;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.Locale;
import ninepin.core.bytes.Words;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Shown;
import ninepin.core.layout.TemporalPattern;
import ninepin.core.layout.TemporalPattern.Part;
import ninepin.core.layout.TemporalPattern.Unit;

/** Dates, times and timestamps written by a {@link TemporalPattern}. The calendar is the ISO (Gregorian) one. */
final class TemporalParser extends ValueParser {

    private static final long NANOS = 1_000_000_000L;
    private static final long DAY = 86_400L * NANOS;
    private static final long FIRST_DAY = LocalDate.of(1, 1, 1).toEpochDay();
    private static final long LAST_DAY = LocalDate.of(9999, 12, 31).toEpochDay();
    /** The hours that an offset has at most. */
    private static final int MOST_OFFSET = 18;

    private static final int FRACTION = Unit.FRACTION.ordinal();

    private final FileCharset charset;
    private final TemporalPattern pattern;
    private final Part[] parts;
    /** The bytes a value has when every part has one width, or -1. */
    private final int width;

    /** Takes the digits where it is nothing else, few enough for a word and each part with two or four; else null. */
    private final PlacedParser.EightDigits word;

    private final int[] unit;
    private final int[] digits;
    /** For each part of a word where it stands there, in bits. */
    private final int[] shift;

    private final byte[] literal;
    private final Value.Kind kind;
    private final int pivot;
    private final int[] found = new int[Unit.values().length];

    TemporalParser(String pattern, Integer pivot, Value.Kind kind, FileCharset charset) {
        this.pattern = TemporalPattern.parse(pattern);
        this.parts = this.pattern.parts().toArray(Part[]::new);
        this.kind = kind;
        this.pivot = pivot == null ? -1 : pivot;
        this.charset = charset;
        this.unit = new int[parts.length];
        this.digits = new int[parts.length];
        this.shift = new int[parts.length];
        this.literal = new byte[parts.length];
        int all = 0;
        boolean fixed = true;
        boolean pairs = true;
        for (int p = 0; p < parts.length; p++) {
            unit[p] = parts[p].unit().ordinal();
            digits[p] = parts[p].unit().inDigits() ? parts[p].maxDigits() : 0;
            shift[p] = all << 3;
            pairs &= digits[p] == 2 || digits[p] == 4;
            literal[p] = (byte) parts[p].literal();
            all += parts[p].maxDigits();
            boolean plain = parts[p].unit() == Unit.LITERAL
                    || parts[p].unit().inDigits() && parts[p].unit() != Unit.HALF_DAY_HOUR;
            fixed &= plain && parts[p].section() == 0 && parts[p].minDigits() == parts[p].maxDigits();
        }
        this.width = fixed ? all : -1;
        this.word = fixed && pairs && all <= Long.BYTES ? new PlacedParser.EightDigits(all) : null;
        if (word != null) {
            // In a word the digits stand at its end.
            for (int p = 0; p < parts.length; p++) {
                shift[p] += Long.BYTES - all << 3;
            }
        }
    }

    @Override
    public PlacedParser placed(int at, int length) {
        return word != null && length == width ? new PlacedParser.Moment(at, length, this) : null;
    }

    @Override
    public Problem parse(byte[] bytes, int fieldFrom, int fieldTo, Value into) {
        if (word != null && fieldTo - fieldFrom == width && takenApart(Words.upToEight(bytes, fieldFrom, width))) {
            return finish(into);
        }
        int from = skipBlanks(bytes, fieldFrom, fieldTo);
        int to = trimEnd(bytes, from, fieldTo);
        if (from == to) {
            into.setNull();
            return null;
        }
        if (to - from == width && fixed(bytes, from)) {
            return finish(into);
        }
        into.setNull();
        Arrays.fill(found, 0);
        int i = from;
        for (int p = 0; p < parts.length; p++) {
            Part part = parts[p];
            boolean begins = part.section() > 0 && (p == 0 || parts[p - 1].section() != part.section());
            if (begins && !isThere(part, bytes, i, to)) {
                while (p + 1 < parts.length && parts[p + 1].section() == part.section()) {
                    p++;
                }
                continue;
            }
            int end = take(part, bytes, i, to);
            if (end < 0) {
                return misfit(bytes, fieldFrom, fieldTo, ~end - fieldFrom, part);
            }
            i = end;
        }
        if (i < to) {
            return misfit(bytes, fieldFrom, fieldTo, i - fieldFrom, null);
        }
        return finish(into);
    }

    /** Whether what may be missing begins with what stands there. */
    private static boolean isThere(Part part, byte[] bytes, int i, int to) {
        if (i == to) {
            return false;
        }
        byte b = bytes[i];
        return switch (part.unit()) {
            case LITERAL -> b == part.literal();
            case OFFSET -> b == 'Z' || b == 'z' || b == '+' || b == '-';
            default -> b >= '0' && b <= '9';
        };
    }

    /** Takes a part; returns where the next one begins, or the complement of where it does not go on. */
    private int take(Part part, byte[] bytes, int from, int to) {
        switch (part.unit()) {
            case LITERAL:
                return from < to && bytes[from] == part.literal() ? from + 1 : ~from;
            case MONTH_NAME:
                return month(part, bytes, from, to);
            case HALF_DAY:
                return halfDay(bytes, from, to);
            case OFFSET:
                return offset(bytes, from, to);
            default:
                return number(part, bytes, from, to);
        }
    }

    private int number(Part part, byte[] bytes, int from, int to) {
        int i = from;
        int number = 0;
        while (i - from < part.maxDigits() && i < to && bytes[i] >= '0' && bytes[i] <= '9') {
            number = number * 10 + bytes[i++] - '0';
        }
        if (i - from < part.minDigits()) {
            return ~i;
        }
        found[part.unit().ordinal()] = part.unit() == Unit.FRACTION ? toNanos(number, i - from) : number;
        return i;
    }

    private int month(Part part, byte[] bytes, int from, int to) {
        for (int m = 0; m < TemporalPattern.MONTHS.size(); m++) {
            String name = TemporalPattern.MONTHS.get(m);
            int length = part.minDigits() == TemporalPattern.SHORT_MONTH ? part.minDigits() : name.length();
            if (isWord(name, length, bytes, from, to)) {
                found[Unit.MONTH.ordinal()] = m + 1;
                return from + length;
            }
        }
        return ~from;
    }

    private int halfDay(byte[] bytes, int from, int to) {
        boolean after = isWord("PM", 2, bytes, from, to);
        int hour = found[Unit.HALF_DAY_HOUR.ordinal()];
        if (!after && !isWord("AM", 2, bytes, from, to) || hour < 1 || hour > 12) {
            return ~from;
        }
        found[Unit.HOUR.ordinal()] = hour % 12 + (after ? 12 : 0);
        return from + 2;
    }

    /** Whether the first letters of a word stand there, large or small. */
    private static boolean isWord(String word, int length, byte[] bytes, int from, int to) {
        if (from + length > to) {
            return false;
        }
        for (int i = 0; i < length; i++) {
            if ((bytes[from + i] | 0x20) != (word.charAt(i) | 0x20)) {
                return false;
            }
        }
        return true;
    }

    /** Z, +02, +0200 or +02:00. */
    private int offset(byte[] bytes, int from, int to) {
        if (from == to) {
            return ~from;
        }
        byte sign = bytes[from];
        if (sign == 'Z' || sign == 'z') {
            return from + 1;
        }
        int hours = (sign == '+' || sign == '-') && from + 3 <= to ? twoDigits(bytes, from + 1) : -1;
        if (hours < 0 || hours > MOST_OFFSET) {
            return ~from;
        }
        int i = from + 3;
        int at = i < to && bytes[i] == ':' ? i + 1 : i;
        int minutes = at + 2 <= to ? twoDigits(bytes, at) : -1;
        if (minutes > 59 || minutes < 0 && at > i) {
            return ~at;
        }
        int all = hours * 60 + Math.max(0, minutes);
        found[Unit.OFFSET.ordinal()] = sign == '-' ? -all : all;
        return minutes < 0 ? i : at + 2;
    }

    /** Takes a value that is digits alone; false when something else is among them, and then nothing is known. */
    boolean takenApart(long from) {
        long eight = word.behindZeros(from);
        if (!Words.areDigits(eight)) {
            return false;
        }
        long pairs = Words.pairs(eight);
        for (int p = 0; p < unit.length; p++) {
            int number = (int) (pairs >>> shift[p]) & 0xff;
            if (digits[p] == 4) {
                number = number * 100 + ((int) (pairs >>> shift[p] + 16) & 0xff);
            }
            found[unit[p]] = unit[p] == FRACTION ? toNanos(number, digits[p]) : number;
        }
        return true;
    }

    /** Takes a value whose parts all stand at fixed places; false when one does not fit, and then nothing is known. */
    private boolean fixed(byte[] bytes, int from) {
        int i = from;
        for (int p = 0; p < unit.length; p++) {
            int count = digits[p];
            if (count == 0) {
                if (bytes[i++] != literal[p]) {
                    return false;
                }
                continue;
            }
            int number = count == 2 ? twoDigits(bytes, i) : digits(bytes, i, count);
            if (number < 0) {
                return false;
            }
            i += count;
            found[unit[p]] = unit[p] == FRACTION ? toNanos(number, count) : number;
        }
        return true;
    }

    private static int twoDigits(byte[] bytes, int from) {
        int tens = bytes[from] - '0';
        int ones = bytes[from + 1] - '0';
        return (tens | ones | 9 - tens | 9 - ones) < 0 ? -1 : tens * 10 + ones;
    }

    private static int digits(byte[] bytes, int from, int count) {
        int number = 0;
        for (int i = from; i < from + count; i++) {
            int digit = bytes[i] - '0';
            if (digit < 0 || digit > 9) {
                return -1;
            }
            number = number * 10 + digit;
        }
        return number;
    }

    private static int toNanos(int number, int digits) {
        int nanos = number;
        for (int d = digits; d < 9; d++) {
            nanos *= 10;
        }
        return nanos;
    }

    /** Makes a value of the parts that were found. */
    Problem finish(Value into) {
        int month = found[Unit.MONTH.ordinal()];
        int day = found[Unit.DAY.ordinal()];
        int hour = found[Unit.HOUR.ordinal()];
        int minute = found[Unit.MINUTE.ordinal()];
        int second = found[Unit.SECOND.ordinal()];
        if (hour > 23 || minute > 59 || second > 59) {
            into.setNull();
            return new Problem("TIM-02", "a time of day from 00:00 to 23:59:59", null);
        }
        long nanos = (hour * 3600L + minute * 60L + second) * NANOS + found[Unit.FRACTION.ordinal()];
        if (kind == Value.Kind.TIME) {
            into.set(kind, nanos);
            return null;
        }
        int year = found[Unit.YEAR.ordinal()];
        if (pivot >= 0) {
            year += year <= pivot ? 2000 : 1900;
        }
        if (year < 1 || month < 1 || month > 12 || day < 1 || day > 31 || day > 28 && !exists(year, month, day)) {
            into.setNull();
            return noSuchDay(year, month, day);
        }
        long days = epochDay(year, month, day);
        if (kind == Value.Kind.TIMESTAMP && found[Unit.OFFSET.ordinal()] != 0) {
            // A moment with an offset is one of UTC; a day or a time of day stays as it is written.
            nanos -= found[Unit.OFFSET.ordinal()] * 60L * NANOS;
            days += Math.floorDiv(nanos, DAY);
            nanos = Math.floorMod(nanos, DAY);
            if (days < FIRST_DAY || days > LAST_DAY) {
                into.setNull();
                return new Problem("DAT-02", "a moment of the years 1 to 9999 in UTC", null);
            }
        }
        into.set(kind, days);
        into.nanos = nanos;
        return null;
    }

    private static boolean exists(int year, int month, int day) {
        try {
            LocalDate.of(year, month, day);
            return true;
        } catch (DateTimeException e) {
            return false;
        }
    }

    /** Days since 1970-01-01 of a day that exists (the algorithm of {@link LocalDate#toEpochDay}). */
    private static long epochDay(int year, int month, int day) {
        long y = year;
        long total = 365 * y + (y + 3) / 4 - (y + 99) / 100 + (y + 399) / 400;
        total += (367 * month - 362) / 12 + day - 1;
        if (month > 2) {
            boolean leap = (year & 3) == 0 && (year % 100 != 0 || year % 400 == 0);
            total -= leap ? 1 : 2;
        }
        return total - 719_528;
    }

    private Problem noSuchDay(int year, int month, int day) {
        String advice = null;
        if (month > 12 && day <= 12 && day >= 1) {
            advice = "There is no month " + month + ". Day and month may have changed places.";
        } else if (month < 1 || month > 12) {
            advice = "There is no month " + month + ".";
        } else if (year < 1) {
            advice = "There is no year " + year + ".";
        } else {
            advice = "That month has no day " + day + ".";
        }
        return new Problem("DAT-02", "a day of the calendar, written " + pattern.text(), advice);
    }

    private Problem misfit(byte[] bytes, int from, int to, int at, Part part) {
        String text = new String(bytes, from, Math.min(to - from, 400), charset.charset());
        String what = kind == Value.Kind.DATE ? "a date" : kind == Value.Kind.TIME ? "a time" : "a date and time";
        String advice;
        if (at >= text.stripTrailing().length()) {
            advice = part == null ? null : "It ends before the " + name(part) + ".";
        } else if (part == null) {
            advice = "It goes on after the pattern's end, at character " + (at + 1) + ".";
        } else {
            advice = "Character " + (at + 1) + " is " + Shown.quoted(text.substring(at, at + 1)) + "; here stands the "
                    + name(part) + ".";
        }
        return new Problem(kind == Value.Kind.TIME ? "TIM-01" : "DAT-01", what + " written " + pattern.text(), advice);
    }

    private static String name(Part part) {
        if (part.unit() == Unit.LITERAL) {
            return "character " + Shown.quoted(String.valueOf(part.literal()));
        }
        String words =
                switch (part.unit()) {
                    case MONTH_NAME ->
                        "month as " + (part.minDigits() == TemporalPattern.SHORT_MONTH ? "Jan" : "January");
                    case HALF_DAY -> "AM or PM behind an hour from 1 to 12";
                    case OFFSET -> "offset from UTC, such as Z or +02:00";
                    case HALF_DAY_HOUR -> "hour";
                    default -> part.unit().name().toLowerCase(Locale.ROOT);
                };
        if (!part.unit().inDigits()) {
            return words;
        }
        return words + " with "
                + (part.minDigits() == part.maxDigits()
                        ? part.minDigits() + " digits"
                        : part.minDigits() + " or " + part.maxDigits() + " digits");
    }
}
