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

        /** The most characters that a text may have. */
        public static final int MOST = 1_000_000;

        public CharacterVarying {
            if (length < 1 || length > MOST) {
                throw new DefinitionException("type.length", "must be from 1 to " + MOST);
            }
        }

        @Override
        public String label() {
            return "CHARACTER VARYING(" + length + ")";
        }
    }

    /**
     * A whole number of at most 18 digits.
     *
     * @param form how it is written, or null for digits with an optional leading sign
     */
    record IntegerNumber(NumberForm form) implements DataType {

        /** Digits with an optional leading sign. */
        public IntegerNumber() {
            this(null);
        }

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
     * @param form how it is written, or null for digits with an optional leading sign
     * @param exponent true where it may have an exponent, as in {@code 1.5E3}, and then is read exactly; else null
     */
    record Decimal(
            int precision, int scale, char decimalSign, Character groupingSign, NumberForm form, Boolean exponent)
            implements DataType {

        /** The most digits of a number. */
        public static final int MOST_DIGITS = 38;

        /** Digits with an optional leading sign. */
        public Decimal(int precision, int scale, char decimalSign, Character groupingSign) {
            this(precision, scale, decimalSign, groupingSign, null);
        }

        /** Without exponent. */
        public Decimal(int precision, int scale, char decimalSign, Character groupingSign, NumberForm form) {
            this(precision, scale, decimalSign, groupingSign, form, null);
        }

        public Decimal {
            if (form != null && form.implied() && groupingSign != null) {
                throw new DefinitionException("type.form", "with an implied decimal sign there are no groups");
            }
            if (form != null && form.written() == NumberForm.Written.BINARY && precision > 18) {
                throw new DefinitionException("type.precision", "binary numbers have 18 digits at most");
            }
            exponent = Boolean.TRUE.equals(exponent) ? true : null;
            if (exponent != null && (form != null && form.raw() || groupingSign != null)) {
                throw new DefinitionException("type.exponent", "goes with plain digits only, without groups");
            }
            decimalSign = decimalSign == 0 ? '.' : decimalSign;
            if (precision < 1 || precision > MOST_DIGITS) {
                throw new DefinitionException("type.precision", "must be from 1 to " + MOST_DIGITS);
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

        /** Whether it may have an exponent. */
        public boolean mayHaveExponent() {
            return exponent != null;
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
     * @param pivot the last of the two-digit years that lie in this century: with 49, {@code 49} is 2049 and
     *     {@code 50} is 1950; null where years have four digits
     */
    record Date(String pattern, Integer pivot) implements DataType {

        /** With years of four digits. */
        public Date(String pattern) {
            this(pattern, null);
        }

        public Date {
            requirePivot(pattern, pivot);
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

    /** A date with a time of day and no zone, written as the pattern says; the pivot as for {@link Date}. */
    record Timestamp(String pattern, Integer pivot) implements DataType {

        /** With years of four digits. */
        public Timestamp(String pattern) {
            this(pattern, null);
        }

        public Timestamp {
            requirePivot(pattern, pivot);
            pattern = pattern == null ? "yyyy-MM-dd HH:mm:ss" : pattern;
            TemporalPattern.parse(pattern).requireParts("type.pattern", true, true);
        }

        @Override
        public String label() {
            return "TIMESTAMP";
        }
    }

    private static void requirePivot(String pattern, Integer pivot) {
        boolean two = pattern != null && TemporalPattern.parse(pattern).twoDigitYear();
        if (two && pivot == null) {
            throw new DefinitionException("type.pivot", "a year of two digits needs a pivot, such as 49");
        }
        if (pivot != null && (!two || pivot < 0 || pivot > 99)) {
            throw new DefinitionException("type.pivot", "is a year from 0 to 99, for a year of two digits");
        }
    }
}
