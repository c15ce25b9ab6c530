package ninepin.core.layout;

import java.time.temporal.ChronoField;
import java.time.temporal.TemporalAccessor;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * How dates and times are written, in the letters of ISO 8601 and the trade: {@code yyyy} or {@code yy} year, {@code MM} or
 * {@code M} month, {@code MMM} or {@code MMMM} its English name, short or whole, {@code dd} or {@code d} day, {@code HH} or
 * {@code H} hour, {@code hh} or {@code h} hour of the half day with {@code a} for AM or PM, {@code mm} minute, {@code ss}
 * second, {@code S} (one to nine) fraction of a second, {@code X} offset from UTC, such as {@code Z} or {@code +02:00}. A
 * doubled letter takes two digits exactly, a single one takes one or two. Letters inside apostrophes, and every other
 * character, stand for themselves. What stands in brackets may be missing; a fraction there takes as many digits as there
 * are, up to as many as it has letters.
 *
 * @param text the pattern as written
 * @param parts its parts in order
 */
public record TemporalPattern(String text, List<Part> parts) {

    /** What a part of a pattern stands for. */
    public enum Unit {
        YEAR,
        MONTH,
        MONTH_NAME,
        DAY,
        HOUR,
        HALF_DAY_HOUR,
        HALF_DAY,
        MINUTE,
        SECOND,
        FRACTION,
        OFFSET,
        LITERAL;

        private static final Set<Unit> DIGITS =
                EnumSet.of(YEAR, MONTH, DAY, HOUR, HALF_DAY_HOUR, MINUTE, SECOND, FRACTION);
        private static final Set<Unit> MAY_BE_MISSING = EnumSet.of(MINUTE, SECOND, FRACTION, OFFSET, LITERAL);

        /** Whether it is written in digits. */
        public boolean inDigits() {
            return DIGITS.contains(this);
        }
    }

    /** The English names of months; their first three letters are the short ones. */
    public static final List<String> MONTHS = List.of(
            "January",
            "February",
            "March",
            "April",
            "May",
            "June",
            "July",
            "August",
            "September",
            "October",
            "November",
            "December");
    /** The letters of a short name. */
    public static final int SHORT_MONTH = 3;

    /**
     * A part of a pattern.
     *
     * @param unit what it stands for
     * @param minDigits fewest digits taken; of a month's name the letters of its pattern
     * @param maxDigits most digits taken
     * @param literal the character itself, where the unit is LITERAL
     * @param section which of the brackets it stands in, from 1; 0 outside
     */
    public record Part(Unit unit, int minDigits, int maxDigits, char literal, int section) {

        private Part in(int inSection) {
            boolean any = unit == Unit.FRACTION && inSection > 0;
            return new Part(unit, any ? 1 : minDigits, maxDigits, literal, inSection);
        }
    }

    public TemporalPattern {
        parts = List.copyOf(parts);
    }

    /** Reads a pattern; throws {@link DefinitionException} for a letter that means nothing. */
    public static TemporalPattern parse(String text) {
        Names.requireText("type.pattern", text);
        List<Part> parts = new ArrayList<>();
        int sections = 0;
        boolean open = false;
        int i = 0;
        while (i < text.length()) {
            char c = text.charAt(i);
            int section = open ? sections : 0;
            if (c == '[' && !open) {
                open = true;
                sections++;
                i++;
            } else if (c == ']' && open) {
                open = false;
                i++;
            } else if (c == '[' || c == ']') {
                throw new DefinitionException(
                        "type.pattern", "brackets stand in pairs and not inside each other: " + text);
            } else if (c == '\'') {
                int close = text.indexOf('\'', i + 1);
                if (close < 0) {
                    throw new DefinitionException("type.pattern", "an apostrophe is not closed in " + text);
                }
                for (int k = i + 1; k < close; k++) {
                    parts.add(literal(text.charAt(k)).in(section));
                }
                i = close + 1;
            } else if (Character.isLetter(c)) {
                int end = i;
                while (end < text.length() && text.charAt(end) == c) {
                    end++;
                }
                parts.add(part(text, c, end - i).in(section));
                i = end;
            } else {
                parts.add(literal(c).in(section));
                i++;
            }
        }
        if (open) {
            throw new DefinitionException("type.pattern", "a bracket is not closed in " + text);
        }
        for (Part part : parts) {
            if (part.section > 0 && !Unit.MAY_BE_MISSING.contains(part.unit)) {
                throw new DefinitionException(
                        "type.pattern", "only minutes, seconds, their fraction and the offset may be missing: " + text);
            }
        }
        return new TemporalPattern(text, parts);
    }

    private static Part literal(char c) {
        if (c < 0x20 || c > 0x7e) {
            throw new DefinitionException("type.pattern", "only ASCII characters can stand between the parts");
        }
        return new Part(Unit.LITERAL, 1, 1, c, 0);
    }

    private static Part part(String text, char letter, int count) {
        switch (letter) {
            case 'y':
                if (count == 4) {
                    return new Part(Unit.YEAR, 4, 4, letter, 0);
                }
                if (count == 2) {
                    return new Part(Unit.YEAR, 2, 2, letter, 0);
                }
                throw new DefinitionException("type.pattern", "write the year as yyyy or yy in " + text);
            case 'M':
                if (count == SHORT_MONTH || count == SHORT_MONTH + 1) {
                    return new Part(Unit.MONTH_NAME, count, 0, letter, 0);
                }
                return oneOrTwo(text, Unit.MONTH, letter, count);
            case 'd':
                return oneOrTwo(text, Unit.DAY, letter, count);
            case 'H':
                return oneOrTwo(text, Unit.HOUR, letter, count);
            case 'h':
                return oneOrTwo(text, Unit.HALF_DAY_HOUR, letter, count);
            case 'a', 'X':
                if (count == 1) {
                    return new Part(letter == 'a' ? Unit.HALF_DAY : Unit.OFFSET, 0, 0, letter, 0);
                }
                throw new DefinitionException("type.pattern", "\"" + letter + "\" stands once: " + text);
            case 'm':
                return oneOrTwo(text, Unit.MINUTE, letter, count);
            case 's':
                return oneOrTwo(text, Unit.SECOND, letter, count);
            case 'S':
                if (count <= 9) {
                    return new Part(Unit.FRACTION, count, count, letter, 0);
                }
                throw new DefinitionException("type.pattern", "a fraction has nine digits at most");
            default:
                throw new DefinitionException(
                        "type.pattern",
                        "the letter " + letter + " means nothing here (known: yyyy MM MMM dd HH mm ss S a X; put text "
                                + "inside apostrophes)");
        }
    }

    private static Part oneOrTwo(String text, Unit unit, char letter, int count) {
        if (count > 2) {
            throw new DefinitionException("type.pattern", "\"" + letter + "\" stands once or twice, not more: " + text);
        }
        return new Part(unit, count, 2, letter, 0);
    }

    /** Whether years are written with two digits. */
    public boolean twoDigitYear() {
        return parts.stream().anyMatch(p -> p.unit() == Unit.YEAR && p.maxDigits() == 2);
    }

    void requireParts(String where, boolean date, boolean time) {
        Set<Unit> seen = EnumSet.noneOf(Unit.class);
        for (Part part : parts) {
            Unit unit = part.unit() == Unit.MONTH_NAME
                    ? Unit.MONTH
                    : part.unit() == Unit.HALF_DAY_HOUR ? Unit.HOUR : part.unit();
            if (unit != Unit.LITERAL && !seen.add(unit)) {
                throw new DefinitionException(where, "the " + unit.name().toLowerCase() + " stands twice");
            }
        }
        boolean halves = parts.stream().anyMatch(p -> p.unit() == Unit.HALF_DAY_HOUR);
        if (halves != seen.contains(Unit.HALF_DAY)) {
            throw new DefinitionException(where, "h and a go together, and H goes without a: " + text);
        }
        boolean hasDate = seen.containsAll(EnumSet.of(Unit.YEAR, Unit.MONTH, Unit.DAY));
        boolean anyDate = seen.contains(Unit.YEAR) || seen.contains(Unit.MONTH) || seen.contains(Unit.DAY);
        boolean hasTime = seen.contains(Unit.HOUR);
        boolean anyTime =
                hasTime || seen.contains(Unit.MINUTE) || seen.contains(Unit.SECOND) || seen.contains(Unit.FRACTION);
        if (date && !hasDate) {
            throw new DefinitionException(where, "year, month and day are all needed: " + text);
        }
        if (!date && anyDate) {
            throw new DefinitionException(where, "a time has no year, month or day: " + text);
        }
        if (time && !hasTime) {
            throw new DefinitionException(where, "the hour is needed: " + text);
        }
        if (!time && anyTime) {
            throw new DefinitionException(where, "a date has no hour, minute or second: " + text);
        }
    }

    /** The most digits of the second behind its point; 0 where none are written. */
    public int fractionDigits() {
        return parts.stream()
                .filter(p -> p.unit() == Unit.FRACTION)
                .mapToInt(Part::maxDigits)
                .sum();
    }

    /** Whether moments are written with their offset from UTC. */
    public boolean hasOffset() {
        return parts.stream().anyMatch(p -> p.unit() == Unit.OFFSET);
    }

    /**
     * A date or time as the pattern writes it. A moment is one of UTC where the pattern has an offset; of what may be missing
     * a fraction is left out where it is 0, and the offset of a date or a time of day, which is not known.
     */
    public String format(TemporalAccessor value) {
        StringBuilder text = new StringBuilder();
        boolean moment = value.isSupported(ChronoField.YEAR) && value.isSupported(ChronoField.HOUR_OF_DAY);
        for (int p = 0; p < parts.size(); p++) {
            Part part = parts.get(p);
            if (part.section() == 0 || isWritten(part.section(), value, moment)) {
                write(part, value, text);
            }
        }
        return text.toString();
    }

    private boolean isWritten(int section, TemporalAccessor value, boolean moment) {
        return parts.stream().filter(p -> p.section() == section).allMatch(p -> switch (p.unit()) {
            case FRACTION -> value.get(ChronoField.NANO_OF_SECOND) != 0;
            case OFFSET -> moment;
            default -> true;
        });
    }

    private static void write(Part part, TemporalAccessor value, StringBuilder text) {
        switch (part.unit()) {
            case YEAR -> {
                int year = value.get(ChronoField.YEAR);
                text.append(padded(part.maxDigits() == 2 ? year % 100 : year, part.maxDigits()));
            }
            case MONTH -> text.append(padded(value.get(ChronoField.MONTH_OF_YEAR), part.minDigits()));
            case MONTH_NAME -> {
                String name = MONTHS.get(value.get(ChronoField.MONTH_OF_YEAR) - 1);
                text.append(part.minDigits() == SHORT_MONTH ? name.substring(0, SHORT_MONTH) : name);
            }
            case DAY -> text.append(padded(value.get(ChronoField.DAY_OF_MONTH), part.minDigits()));
            case HOUR -> text.append(padded(value.get(ChronoField.HOUR_OF_DAY), part.minDigits()));
            case HALF_DAY_HOUR -> text.append(padded(value.get(ChronoField.CLOCK_HOUR_OF_AMPM), part.minDigits()));
            case HALF_DAY -> text.append(value.get(ChronoField.AMPM_OF_DAY) == 0 ? "AM" : "PM");
            case MINUTE -> text.append(padded(value.get(ChronoField.MINUTE_OF_HOUR), part.minDigits()));
            case SECOND -> text.append(padded(value.get(ChronoField.SECOND_OF_MINUTE), part.minDigits()));
            case FRACTION -> {
                String nanos = padded(value.get(ChronoField.NANO_OF_SECOND), 9).substring(0, part.maxDigits());
                text.append(part.section() > 0 ? nanos.replaceFirst("0+$", "") : nanos);
            }
            case OFFSET -> text.append('Z');
            default -> text.append(part.literal());
        }
    }

    private static String padded(int number, int digits) {
        return String.format(Locale.ROOT, "%0" + digits + "d", number);
    }
}
