package ninepin.core.shape;

import java.util.List;
import java.util.Locale;
import ninepin.core.layout.DefinitionException;

/**
 * A finishing touch on a value.
 *
 * @param does what it does
 * @param to how many characters or digits, where it needs to know; else null
 * @param with the fill, the pattern or the method, where it needs one; else null
 */
public record Touch(Kind does, Integer to, String with) {

    /** What a touch does. */
    public enum Kind {
        /** Blanks at both ends go; nothing left becomes NULL. */
        TRIM(Needs.NOTHING),
        TRIM_LEFT(Needs.NOTHING),
        TRIM_RIGHT(Needs.NOTHING),
        /** Zeros before the first other digit go; one stays. */
        LEADING_ZEROS(Needs.NOTHING),
        UPPER(Needs.NOTHING),
        LOWER(Needs.NOTHING),
        /** Filled up at the start to so many characters. */
        PAD_LEFT(Needs.SIZE_AND_FILL),
        PAD_RIGHT(Needs.SIZE_AND_FILL),
        /** So many characters are kept. */
        CUT(Needs.SIZE),
        /** A number rounded half away from zero to so many digits behind the point. */
        ROUND(Needs.SIZE),
        /** A number written as an example is: {@code 1.234,50}. */
        NUMBER(Needs.PATTERN),
        /** A date or time written by a pattern: {@code dd.MM.yyyy}. */
        DATE(Needs.PATTERN),
        ENCODE(Needs.METHOD),
        DECODE(Needs.METHOD),
        HASH(Needs.HASH);

        final Needs needs;

        Kind(Needs needs) {
            this.needs = needs;
        }

        @Override
        public String toString() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }

    /** What a touch has to know. */
    enum Needs {
        NOTHING,
        SIZE,
        SIZE_AND_FILL,
        PATTERN,
        METHOD,
        HASH
    }

    /** The ways to encode and decode a text. */
    public static final List<String> METHODS = List.of("base64", "hex", "url", "xml");

    /** The methods of a hash. */
    public static final List<String> HASHES = List.of("sha-256", "sha-512", "sha-1", "md5");

    private static final int MOST = 10_000;

    public Touch {
        if (does == null) {
            throw new DefinitionException("touches.do", "a touch says what it does");
        }
        boolean size = does.needs == Needs.SIZE || does.needs == Needs.SIZE_AND_FILL;
        if (size && (to == null || to < (does == Kind.ROUND ? 0 : 1) || to > MOST)) {
            throw new DefinitionException("touches.to", does + " says how many, up to " + MOST);
        }
        if (does.needs == Needs.SIZE_AND_FILL) {
            with = with == null || with.isEmpty() ? " " : with;
        }
        if (does.needs == Needs.PATTERN) {
            TextForms.check(does, with);
        }
        if (does.needs == Needs.METHOD && !METHODS.contains(with)) {
            throw new DefinitionException("touches.with", does + " is one of " + String.join(", ", METHODS));
        }
        if (does.needs == Needs.HASH) {
            with = with == null ? HASHES.get(0) : with;
            if (!HASHES.contains(with)) {
                throw new DefinitionException("touches.with", "a hash is one of " + String.join(", ", HASHES));
            }
        }
        to = size ? to : null;
        with = does.needs == Needs.NOTHING || does.needs == Needs.SIZE ? null : with;
    }

    /** A touch that needs to know nothing. */
    public static Touch of(Kind does) {
        return new Touch(does, null, null);
    }

    /** How the touch reads in a sentence. */
    public String sentence() {
        return switch (does) {
            case TRIM -> "trimmed";
            case TRIM_LEFT -> "trimmed at the start";
            case TRIM_RIGHT -> "trimmed at the end";
            case LEADING_ZEROS -> "without leading zeros";
            case UPPER -> "in upper case";
            case LOWER -> "in lower case";
            case PAD_LEFT -> "filled at the start with \"" + with + "\" to " + to + " characters";
            case PAD_RIGHT -> "filled at the end with \"" + with + "\" to " + to + " characters";
            case CUT -> "cut to " + to + (to == 1 ? " character" : " characters");
            case ROUND ->
                to == 0
                        ? "rounded to a whole number"
                        : "rounded to " + to + (to == 1 ? " digit" : " digits") + " after the point";
            case NUMBER, DATE -> "written as " + with;
            case ENCODE -> "encoded as " + with;
            case DECODE -> "decoded from " + with;
            case HASH -> "as its " + with + " hash";
        };
    }
}
