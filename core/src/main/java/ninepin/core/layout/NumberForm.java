package ninepin.core.layout;

/**
 * How a number of a fixed-length file is written, where it is not plain digits with a sign in front.
 *
 * @param written as digits, or in one of the forms of business computers
 * @param sign where its sign stands, for digits
 * @param implied whether the decimal sign is left out: the last digits, as many as the scale, are the fraction
 */
public record NumberForm(Written written, Sign sign, boolean implied) {

    /** Digits with a sign in front, if any, and a decimal sign. */
    public static final NumberForm PLAIN = new NumberForm(Written.DIGITS, Sign.LEADING, false);

    /** What stands in the bytes of a number. */
    public enum Written {
        /** One digit a character. */
        DIGITS,
        /** Two digits a byte, the last half byte the sign: C, A, E, F plus, D, B minus. */
        PACKED,
        /** A whole number, the highest byte first; in two's complement, unless it is unsigned. */
        BINARY;

        @Override
        public String toString() {
            return name().toLowerCase();
        }
    }

    /** Where the sign stands; of packed and binary numbers only whether there is one. */
    public enum Sign {
        /** In front: {@code -12}; may be missing. */
        LEADING("leading"),
        /** Behind: {@code 12-}; may be missing. */
        TRAILING("trailing"),
        /** In the last character: A to I are 1 to 9, { is 0; J to R are -1 to -9, } is -0. Plain digits are plus. */
        OVERPUNCHED("overpunched"),
        /** The same in the first character. */
        OVERPUNCHED_LEADING("overpunched-leading"),
        /** Nowhere: the number is never below zero. */
        UNSIGNED("unsigned");

        private final String words;

        Sign(String words) {
            this.words = words;
        }

        @Override
        public String toString() {
            return words;
        }
    }

    public NumberForm {
        written = written == null ? Written.DIGITS : written;
        sign = sign == null ? Sign.LEADING : sign;
    }

    /** How numbers of a type are written; plain for all other types. */
    public static NumberForm of(DataType type) {
        NumberForm form = type instanceof DataType.IntegerNumber i
                ? i.form()
                : type instanceof DataType.Decimal d ? d.form() : null;
        return form == null ? PLAIN : form;
    }

    /** Whether the sign stands in a digit. */
    public boolean punched() {
        return sign == Sign.OVERPUNCHED || sign == Sign.OVERPUNCHED_LEADING;
    }

    /** Whether the bytes are no text. */
    public boolean raw() {
        return written != Written.DIGITS;
    }
}
