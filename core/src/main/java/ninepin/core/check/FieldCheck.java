package ninepin.core.check;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.charset.Charset;
import java.util.HashSet;
import java.util.Set;
import java.util.regex.Pattern;
import ninepin.core.bytes.Words;
import ninepin.core.layout.Bounds;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Severity;
import ninepin.core.value.Value;

/** A check of one value, made ready to be asked for every record. NULL passes them all but for {@link Check.Required}. */
abstract class FieldCheck {

    final Severity severity;
    final String code;
    final String expected;

    FieldCheck(Severity severity, String code, String expected) {
        this.severity = severity;
        this.code = code;
        this.expected = expected;
    }

    abstract boolean holds(Value value);

    /** What can be said about the breach beside what was expected, or null. */
    String advice(Value value) {
        return null;
    }

    /** The ready check for a definition, or null where the checker sees to it elsewhere (required, type, unique). */
    static FieldCheck of(Check check, DataType type, Charset charset) {
        if (check instanceof Check.Length c) {
            return new LengthCheck(c, charset);
        }
        if (check instanceof Check.Range c) {
            return new RangeCheck(c, type);
        }
        if (check instanceof Check.Matches c) {
            return new MatchesCheck(c, charset);
        }
        if (check instanceof Check.OneOf c) {
            return new OneOfCheck(c, charset);
        }
        return null;
    }

    private static final class LengthCheck extends FieldCheck {
        private final int min;
        private final int max;
        private final Charset charset;

        LengthCheck(Check.Length c, Charset charset) {
            super(c.severity(), "LEN-03", lengthWords(c));
            this.min = c.min() == null ? 0 : c.min();
            this.max = c.max() == null ? Integer.MAX_VALUE : c.max();
            this.charset = charset;
        }

        private static String lengthWords(Check.Length c) {
            if (c.min() == null) {
                return "at most " + c.max() + " characters";
            }
            if (c.max() == null) {
                return "at least " + c.min() + " characters";
            }
            return (c.min().equals(c.max()) ? c.min() : c.min() + " to " + c.max()) + " characters";
        }

        private int length(Value value) {
            return value.kind() == Value.Kind.TEXT
                    ? value.characters()
                    : value.text(charset).length();
        }

        @Override
        boolean holds(Value value) {
            int length = length(value);
            return length >= min && length <= max;
        }

        @Override
        String advice(Value value) {
            return "It has " + length(value) + ".";
        }
    }

    private static final class RangeCheck extends FieldCheck {
        private static final int SCALES = 10;
        private static final BigDecimal MOST = BigDecimal.valueOf(Long.MAX_VALUE);

        private final BigDecimal min;
        private final BigDecimal max;
        /** The bounds for numbers of each small scale, so that most values are compared without an object. */
        private final long[] least = new long[SCALES];

        private final long[] most = new long[SCALES];

        RangeCheck(Check.Range c, DataType type) {
            super(
                    c.severity(),
                    "RNG-01",
                    c.min() == null
                            ? "at most " + c.max()
                            : c.max() == null ? "at least " + c.min() : "from " + c.min() + " to " + c.max());
            this.min = c.min() == null ? null : Bounds.of(type, c.min());
            this.max = c.max() == null ? null : Bounds.of(type, c.max());
            for (int scale = 0; scale < SCALES; scale++) {
                least[scale] = min == null ? Long.MIN_VALUE : scaled(min, scale, RoundingMode.CEILING);
                most[scale] = max == null ? Long.MAX_VALUE : scaled(max, scale, RoundingMode.FLOOR);
            }
        }

        private static long scaled(BigDecimal bound, int scale, RoundingMode rounding) {
            BigDecimal scaled = bound.movePointRight(scale).setScale(0, rounding);
            return scaled.abs().compareTo(MOST) > 0 ? scaled.signum() * Long.MAX_VALUE : scaled.longValueExact();
        }

        @Override
        boolean holds(Value value) {
            if (value.kind() == Value.Kind.TIMESTAMP
                    || value.kind() == Value.Kind.BIG_NUMBER
                    || scale(value) >= SCALES) {
                BigDecimal ordered = value.ordered();
                return (min == null || min.compareTo(ordered) <= 0) && (max == null || max.compareTo(ordered) >= 0);
            }
            int scale = scale(value);
            return value.number() >= least[scale] && value.number() <= most[scale];
        }

        private static int scale(Value value) {
            return value.kind() == Value.Kind.NUMBER ? value.scale() : 0;
        }
    }

    private static final class MatchesCheck extends FieldCheck {
        private final Pattern pattern;
        private final Charset charset;
        private boolean tooMuchWork;

        MatchesCheck(Check.Matches c, Charset charset) {
            super(c.severity(), "PAT-01", "text that matches " + c.pattern());
            this.pattern = Pattern.compile(c.pattern());
            this.charset = charset;
        }

        @Override
        boolean holds(Value value) {
            tooMuchWork = false;
            try {
                return pattern.matcher(new BoundedText(value.text(charset))).matches();
            } catch (BoundedText.TooMuchWork e) {
                tooMuchWork = true;
                return false;
            } catch (StackOverflowError e) {
                tooMuchWork = true;
                return false;
            }
        }

        @Override
        String advice(Value value) {
            return tooMuchWork ? "Matching was given up after too many steps; simplify the pattern." : null;
        }
    }

    private static final class OneOfCheck extends FieldCheck {
        private final Set<String> values;
        /** The first values of up to eight bytes, as words. */
        private final long[] words;

        private final Charset charset;

        OneOfCheck(Check.OneOf c, Charset charset) {
            super(c.severity(), "LST-01", c.sentence().substring(3));
            this.values = new HashSet<>(c.values());
            this.words = c.values().stream()
                    .map(v -> v.getBytes(charset))
                    .filter(v -> v.length <= Long.BYTES)
                    .mapToLong(v -> Words.upToEight(v, 0, v.length))
                    .limit(16)
                    .toArray();
            this.charset = charset;
        }

        @Override
        boolean holds(Value value) {
            int length = value.to() - value.from();
            if (value.kind() == Value.Kind.TEXT && length <= Long.BYTES) {
                long wanted = Words.upToEight(value.bytes(), value.from(), length);
                for (long word : words) {
                    if (word == wanted) {
                        return true;
                    }
                }
            }
            String text = value.text(charset);
            return values.contains(text) || values.contains(text.strip());
        }

        @Override
        String advice(Value value) {
            String text = value.text(charset).strip();
            return values.stream()
                    .filter(text::equalsIgnoreCase)
                    .findFirst()
                    .map(v -> "The list has " + v + ": upper and lower case differ.")
                    .orElse(null);
        }
    }
}
