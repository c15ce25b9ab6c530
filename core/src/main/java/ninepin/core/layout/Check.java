package ninepin.core.layout;

import java.math.BigDecimal;
import java.util.List;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;

/**
 * A rule that a field's values have to satisfy, and how much a breach weighs. Null values breach {@link Required}
 * only.
 */
public sealed interface Check {

    Severity severity();

    /** How the rule reads in a sentence after the field's name. */
    String sentence();

    /** Fails with a {@link DefinitionException} when the rule makes no sense for the type. */
    default void requireFits(String field, DataType type) {}

    /** A value must be there: not missing, not empty, not only blanks. */
    record Required(Severity severity) implements Check {
        public Required {
            severity = orReject(severity);
        }

        @Override
        public String sentence() {
            return "must have a value";
        }
    }

    /** The field must be there, be it without a value: of JSON a member that may be null, of XML an element that may be empty. */
    record Present(Severity severity) implements Check {
        public Present {
            severity = orReject(severity);
        }

        @Override
        public String sentence() {
            return "must be there, with a value or without";
        }
    }

    /**
     * What a value that does not fit the field's type weighs. Without this check it is a reject; as a note, the value
     * is taken as NULL.
     */
    record TypeFits(Severity severity) implements Check {
        public TypeFits {
            severity = orReject(severity);
        }

        @Override
        public String sentence() {
            return "must fit its type";
        }
    }

    /** The number of characters lies between two bounds, either of which may be missing. */
    record Length(Integer min, Integer max, Severity severity) implements Check {
        public Length {
            severity = orReject(severity);
            if (min == null && max == null) {
                throw new DefinitionException("check.length", "says neither the fewest nor the most characters");
            }
            if (min != null && min < 0 || max != null && max < 0 || min != null && max != null && min > max) {
                throw new DefinitionException("check.length", "the bounds make no sense: " + min + " to " + max);
            }
        }

        @Override
        public String sentence() {
            if (min == null) {
                return "has at most " + max + " characters";
            }
            if (max == null) {
                return "has at least " + min + " characters";
            }
            return min.equals(max) ? "has " + min + " characters" : "has " + min + " to " + max + " characters";
        }
    }

    /**
     * The value lies between two bounds, both inclusive, either of which may be missing. Numbers are written with a
     * decimal point, dates and times as ISO 8601.
     */
    record Range(String min, String max, Severity severity) implements Check {
        public Range {
            severity = orReject(severity);
            min = min == null || min.isBlank() ? null : min.trim();
            max = max == null || max.isBlank() ? null : max.trim();
            if (min == null && max == null) {
                throw new DefinitionException("check.range", "says neither the smallest nor the largest value");
            }
        }

        @Override
        public String sentence() {
            if (min == null) {
                return "is at most " + max;
            }
            return max == null ? "is at least " + min : "is from " + min + " to " + max;
        }

        @Override
        public void requireFits(String field, DataType type) {
            String part = "fields." + field + ".checks.range";
            try {
                BigDecimal low = min == null ? null : Bounds.of(type, min);
                BigDecimal high = max == null ? null : Bounds.of(type, max);
                if (low != null && high != null && low.compareTo(high) > 0) {
                    throw new DefinitionException(part, "the smallest is larger than the largest");
                }
            } catch (RuntimeException e) {
                if (e instanceof DefinitionException) {
                    throw e;
                }
                throw new DefinitionException(part, min + " to " + max + " are not bounds for " + type.label());
            }
        }
    }

    /** The whole text matches a regular expression (of Java). */
    record Matches(String pattern, Severity severity) implements Check {
        public Matches {
            severity = orReject(severity);
            Names.requireText("check.pattern", pattern);
            if (pattern.length() > 1_000) {
                throw new DefinitionException("check.pattern", "a pattern has 1000 characters at most");
            }
            try {
                Pattern.compile(pattern);
            } catch (PatternSyntaxException e) {
                throw new DefinitionException(
                        "check.pattern", e.getDescription() + " at character " + (e.getIndex() + 1) + " of " + pattern);
            }
        }

        @Override
        public String sentence() {
            return "matches " + pattern;
        }
    }

    /** The text, blanks at the ends aside, is one of a list. */
    record OneOf(List<String> values, Severity severity) implements Check {
        public OneOf {
            severity = orReject(severity);
            values = values == null ? List.of() : List.copyOf(values);
            if (values.isEmpty()) {
                throw new DefinitionException("check.oneOf", "the list is empty");
            }
        }

        @Override
        public String sentence() {
            List<String> shown = values.size() > 6 ? values.subList(0, 6) : values;
            return "is one of " + String.join(", ", shown) + (values.size() > 6 ? ", …" : "");
        }
    }

    /**
     * No two records of the file have the same value.
     *
     * @param with names of further fields that make up the value with this one
     */
    record Unique(List<String> with, Severity severity) implements Check {
        public Unique {
            severity = orReject(severity);
            with = with == null ? List.of() : List.copyOf(with);
        }

        @Override
        public String sentence() {
            return with.isEmpty()
                    ? "stands once in the file"
                    : "stands once in the file together with " + String.join(", ", with);
        }
    }

    private static Severity orReject(Severity severity) {
        return severity == null ? Severity.REJECT : severity;
    }
}
