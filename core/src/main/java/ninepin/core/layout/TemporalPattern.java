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
 * {@code M} month, {@code dd} or {@code d} day, {@code HH} or {@code H} hour, {@code mm} minute, {@code ss} second,
 * {@code S} (one to nine) fraction of a second. A doubled letter takes two digits exactly, a single one takes one or
 * two. Letters inside apostrophes, and every other character, stand for themselves.
 *
 * @param text the pattern as written
 * @param parts its parts in order
 */
public record TemporalPattern(String text, List<Part> parts) {

    /** What a part of a pattern stands for. */
    public enum Unit {
        YEAR,
        MONTH,
        DAY,
        HOUR,
        MINUTE,
        SECOND,
        FRACTION,
        LITERAL
    }

    /**
     * A part of a pattern.
     *
     * @param unit what it stands for
     * @param minDigits fewest digits taken
     * @param maxDigits most digits taken
     * @param literal the character itself, where the unit is LITERAL
     */
    public record Part(Unit unit, int minDigits, int maxDigits, char literal) {}

    public TemporalPattern {
        parts = List.copyOf(parts);
    }

    /** Reads a pattern; throws {@link DefinitionException} for a letter that means nothing. */
    public static TemporalPattern parse(String text) {
        Names.requireText("type.pattern", text);
        List<Part> parts = new ArrayList<>();
        int i = 0;
        while (i < text.length()) {
            char c = text.charAt(i);
            if (c == '\'') {
                int close = text.indexOf('\'', i + 1);
                if (close < 0) {
                    throw new DefinitionException("type.pattern", "an apostrophe is not closed in " + text);
                }
                for (int k = i + 1; k < close; k++) {
                    parts.add(literal(text.charAt(k)));
                }
                i = close + 1;
            } else if (Character.isLetter(c)) {
                int end = i;
                while (end < text.length() && text.charAt(end) == c) {
                    end++;
                }
                parts.add(part(text, c, end - i));
                i = end;
            } else {
                parts.add(literal(c));
                i++;
            }
        }
        return new TemporalPattern(text, parts);
    }

    private static Part literal(char c) {
        if (c < 0x20 || c > 0x7e) {
            throw new DefinitionException("type.pattern", "only ASCII characters can stand between the parts");
        }
        return new Part(Unit.LITERAL, 1, 1, c);
    }

    private static Part part(String text, char letter, int count) {
        switch (letter) {
            case 'y':
                if (count == 4) {
                    return new Part(Unit.YEAR, 4, 4, letter);
                }
                if (count == 2) {
                    return new Part(Unit.YEAR, 2, 2, letter);
                }
                throw new DefinitionException("type.pattern", "write the year as yyyy or yy in " + text);
            case 'M':
                return oneOrTwo(text, Unit.MONTH, letter, count);
            case 'd':
                return oneOrTwo(text, Unit.DAY, letter, count);
            case 'H':
                return oneOrTwo(text, Unit.HOUR, letter, count);
            case 'm':
                return oneOrTwo(text, Unit.MINUTE, letter, count);
            case 's':
                return oneOrTwo(text, Unit.SECOND, letter, count);
            case 'S':
                if (count <= 9) {
                    return new Part(Unit.FRACTION, count, count, letter);
                }
                throw new DefinitionException("type.pattern", "a fraction has nine digits at most");
            default:
                throw new DefinitionException(
                        "type.pattern",
                        "the letter " + letter + " means nothing here (known: yyyy MM dd HH mm ss S; put text inside "
                                + "apostrophes)");
        }
    }

    private static Part oneOrTwo(String text, Unit unit, char letter, int count) {
        if (count > 2) {
            throw new DefinitionException("type.pattern", "\"" + letter + "\" stands once or twice, not more: " + text);
        }
        return new Part(unit, count, 2, letter);
    }

    /** Whether years are written with two digits. */
    public boolean twoDigitYear() {
        return parts.stream().anyMatch(p -> p.unit() == Unit.YEAR && p.maxDigits() == 2);
    }

    void requireParts(String where, boolean date, boolean time) {
        Set<Unit> seen = EnumSet.noneOf(Unit.class);
        for (Part part : parts) {
            if (part.unit() != Unit.LITERAL && !seen.add(part.unit())) {
                throw new DefinitionException(where, "the " + part.unit().name().toLowerCase() + " stands twice");
            }
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

    /** A date or time as the pattern writes it. */
    public String format(TemporalAccessor value) {
        StringBuilder text = new StringBuilder();
        for (Part part : parts) {
            switch (part.unit()) {
                case YEAR -> {
                    int year = value.get(ChronoField.YEAR);
                    text.append(padded(part.maxDigits() == 2 ? year % 100 : year, part.maxDigits()));
                }
                case MONTH -> text.append(padded(value.get(ChronoField.MONTH_OF_YEAR), part.minDigits()));
                case DAY -> text.append(padded(value.get(ChronoField.DAY_OF_MONTH), part.minDigits()));
                case HOUR -> text.append(padded(value.get(ChronoField.HOUR_OF_DAY), part.minDigits()));
                case MINUTE -> text.append(padded(value.get(ChronoField.MINUTE_OF_HOUR), part.minDigits()));
                case SECOND -> text.append(padded(value.get(ChronoField.SECOND_OF_MINUTE), part.minDigits()));
                case FRACTION -> {
                    String nanos = padded(value.get(ChronoField.NANO_OF_SECOND), 9);
                    text.append(nanos, 0, Math.min(9, part.maxDigits()));
                }
                default -> text.append(part.literal());
            }
        }
        return text.toString();
    }

    private static String padded(int number, int digits) {
        return String.format(Locale.ROOT, "%0" + digits + "d", number);
    }
}
