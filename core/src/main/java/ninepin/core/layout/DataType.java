package ninepin.core.layout;

import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** The type of a field's values: the types of ISO SQL, with the way they are written in the file. */
public sealed interface DataType {

    /** How the type reads in a sentence, such as {@code DECIMAL(8,2)}. */
    String label();

    /**
     * Text.
     *
     * @param length the most characters (Unicode code points) a value may have, 1 to 1,000,000
     */
    record CharacterVarying(int length) implements DataType {
        public CharacterVarying {
            if (length < 1 || length > 1_000_000) {
                throw new DefinitionException("type.length", "must be from 1 to 1000000");
            }
        }

        @Override
        public String label() {
            return "CHARACTER VARYING(" + length + ")";
        }
    }

    /** A whole number of at most 18 digits, with an optional leading sign. */
    record IntegerNumber() implements DataType {
        @Override
        public String label() {
            return "INTEGER";
        }
    }

    /**
     * An exact decimal.
     *
     * @param precision digits in all, 1 to 38
     * @param scale digits after the decimal sign, 0 to precision
     * @param decimalSign the sign between whole and fraction, a point or a comma
     * @param groupingSign the sign between groups of three digits, or null for none
     */
    record Decimal(int precision, int scale, char decimalSign, Character groupingSign) implements DataType {
        public Decimal {
            decimalSign = decimalSign == 0 ? '.' : decimalSign;
            if (precision < 1 || precision > 38) {
                throw new DefinitionException("type.precision", "must be from 1 to 38");
            }
            if (scale < 0 || scale > precision) {
                throw new DefinitionException("type.scale", "must be from 0 to the precision, " + precision);
            }
            if (decimalSign != '.' && decimalSign != ',') {
                throw new DefinitionException("type.decimalSign", "must be a point or a comma");
            }
            if (groupingSign != null && (groupingSign == decimalSign || ".,' _".indexOf(groupingSign) < 0)) {
                throw new DefinitionException(
                        "type.groupingSign",
                        "must be a point, comma, apostrophe, blank or underscore, not " + "the decimal sign");
            }
        }

        @Override
        public String label() {
            return "DECIMAL(" + precision + "," + scale + ")";
        }
    }

    /**
     * True or false.
     *
     * @param trueTokens the texts that mean true, compared without regard to case
     * @param falseTokens the texts that mean false
     */
    record Bool(List<String> trueTokens, List<String> falseTokens) implements DataType {
        public Bool {
            trueTokens = trueTokens == null || trueTokens.isEmpty() ? List.of("true") : List.copyOf(trueTokens);
            falseTokens = falseTokens == null || falseTokens.isEmpty() ? List.of("false") : List.copyOf(falseTokens);
            Set<String> seen = new HashSet<>();
            for (List<String> tokens : List.of(trueTokens, falseTokens)) {
                for (String token : tokens) {
                    if (token.isBlank()) {
                        throw new DefinitionException("type.tokens", "a blank cannot be a token");
                    }
                    if (!seen.add(token.toLowerCase())) {
                        throw new DefinitionException("type.tokens", "\"" + token + "\" stands twice");
                    }
                }
            }
        }

        @Override
        public String label() {
            return "BOOLEAN";
        }
    }

    /**
     * A calendar date.
     *
     * @param pattern how it is written, such as {@code dd.MM.yyyy}; see {@link TemporalPattern}
     */
    record Date(String pattern) implements DataType {
        public Date {
            pattern = pattern == null ? "yyyy-MM-dd" : pattern;
            TemporalPattern.parse(pattern).requireParts("type.pattern", true, false);
        }

        @Override
        public String label() {
            return "DATE";
        }
    }

    /** A time of day, written as the pattern says, such as {@code HH:mm}. */
    record Time(String pattern) implements DataType {
        public Time {
            pattern = pattern == null ? "HH:mm:ss" : pattern;
            TemporalPattern.parse(pattern).requireParts("type.pattern", false, true);
        }

        @Override
        public String label() {
            return "TIME";
        }
    }

    /** A date with a time of day and no zone, written as the pattern says. */
    record Timestamp(String pattern) implements DataType {
        public Timestamp {
            pattern = pattern == null ? "yyyy-MM-dd HH:mm:ss" : pattern;
            TemporalPattern.parse(pattern).requireParts("type.pattern", true, true);
        }

        @Override
        public String label() {
            return "TIMESTAMP";
        }
    }
}
