package ninepin.core.formula;

import java.util.Optional;
import ninepin.core.layout.DataType;
import ninepin.core.layout.TemporalPattern;

/**
 * The type of an expression, known before anything is evaluated.
 *
 * @param kind what kind of values it has
 * @param precision for numbers their digits in all; for text the most characters; else 0
 * @param scale for numbers the digits after the point; for times and intervals those of the second; else 0
 * @param span for intervals the units in which they are counted; else null
 */
public record SqlType(Kind kind, int precision, int scale, Span span) {

    /** Kinds of values; values of different kinds are never compared or mixed unasked. */
    public enum Kind {
        CHARACTER("text"),
        NUMERIC("a number"),
        BOOLEAN("true or false"),
        DATE("a date"),
        TIME("a time"),
        TIMESTAMP("a timestamp"),
        /** An interval of years and months; its number is the months. */
        MONTHS("an interval of months"),
        /** An interval of days to seconds; its number is the nanoseconds. */
        SECONDS("an interval of days or shorter"),
        /** NULL alone, which goes with every kind. */
        NOTHING("NULL");

        final String words;

        Kind(String words) {
            this.words = words;
        }
    }

    /** The most digits of a number. */
    public static final int MOST_DIGITS = 38;
    /** The most characters of a text. */
    public static final int MOST_CHARACTERS = 1_000_000;

    static final SqlType BOOLEAN = new SqlType(Kind.BOOLEAN, 0, 0, null);
    static final SqlType DATE = new SqlType(Kind.DATE, 0, 0, null);
    static final SqlType NOTHING = new SqlType(Kind.NOTHING, 0, 0, null);
    /** A count: of characters, years, days. */
    static final SqlType COUNT = numeric(10, 0);

    static SqlType numeric(int precision, int scale) {
        int digits = Math.min(precision, MOST_DIGITS);
        return new SqlType(Kind.NUMERIC, digits, Math.min(scale, digits), null);
    }

    static SqlType text(long most) {
        return new SqlType(Kind.CHARACTER, (int) Math.min(most, MOST_CHARACTERS), 0, null);
    }

    static SqlType time(int fraction) {
        return new SqlType(Kind.TIME, 0, fraction, null);
    }

    static SqlType timestamp(int fraction) {
        return new SqlType(Kind.TIMESTAMP, 0, fraction, null);
    }

    /** An interval that is counted in such units; where they end with the second, with so many digits of its parts. */
    static SqlType interval(Span span, int fraction) {
        return new SqlType(
                span.first().months() ? Kind.MONTHS : Kind.SECONDS,
                0,
                span.last() == Span.Unit.SECOND ? fraction : 0,
                span);
    }

    /** The same kind of time with room for as many digits of the second as the other has. */
    SqlType withFractionOf(SqlType other) {
        return new SqlType(kind, precision, Math.max(scale, other.scale), span);
    }

    /** The type of a field of a layout. */
    public static SqlType of(DataType type) {
        if (type instanceof DataType.CharacterVarying t) {
            return text(t.length());
        }
        if (type instanceof DataType.IntegerNumber) {
            return numeric(18, 0);
        }
        if (type instanceof DataType.Decimal d) {
            return numeric(d.precision(), d.scale());
        }
        if (type instanceof DataType.Bool) {
            return BOOLEAN;
        }
        if (type instanceof DataType.Date) {
            return DATE;
        }
        return type instanceof DataType.Time t
                ? time(fraction(t.pattern()))
                : timestamp(fraction(((DataType.Timestamp) type).pattern()));
    }

    private static int fraction(String pattern) {
        return TemporalPattern.parse(pattern).fractionDigits();
    }

    /** The type of a field that holds such values; empty for NULL and for intervals, which no target has. */
    public Optional<DataType> asField() {
        return switch (kind) {
            case CHARACTER -> Optional.of(new DataType.CharacterVarying(Math.max(1, precision)));
            case NUMERIC ->
                Optional.of(
                        scale == 0 && precision <= 18
                                ? new DataType.IntegerNumber()
                                : new DataType.Decimal(Math.max(1, precision), scale, '.', null));
            case BOOLEAN -> Optional.of(new DataType.Bool(null, null));
            case DATE -> Optional.of(new DataType.Date("yyyy-MM-dd"));
            case TIME -> Optional.of(new DataType.Time("HH:mm:ss" + fractionPattern()));
            case TIMESTAMP -> Optional.of(new DataType.Timestamp("yyyy-MM-dd HH:mm:ss" + fractionPattern()));
            default -> Optional.empty();
        };
    }

    private String fractionPattern() {
        return scale == 0 ? "" : "." + "S".repeat(scale);
    }

    boolean is(Kind other) {
        return kind == other;
    }

    /** Whether values of the two go together in a comparison or a choice. */
    boolean goesWith(SqlType other) {
        return kind == other.kind || kind == Kind.NOTHING || other.kind == Kind.NOTHING;
    }

    /** The type that holds the values of both. */
    SqlType union(SqlType other) {
        if (kind == Kind.NOTHING) {
            return other;
        }
        if (other.kind == Kind.NOTHING) {
            return this;
        }
        int fraction = Math.max(scale, other.scale);
        if (kind == Kind.NUMERIC) {
            return numeric(Math.max(precision - scale, other.precision - other.scale) + fraction, fraction);
        }
        return new SqlType(
                kind, Math.max(precision, other.precision), fraction, span == null ? null : span.union(other.span));
    }

    /** How the type reads in a sentence. */
    public String label() {
        return switch (kind) {
            case CHARACTER -> "CHARACTER VARYING(" + precision + ")";
            case NUMERIC -> scale == 0 ? "NUMERIC(" + precision + ")" : "NUMERIC(" + precision + "," + scale + ")";
            case MONTHS, SECONDS -> "INTERVAL " + span;
            case NOTHING -> "NULL";
            default -> kind.name();
        };
    }
}
