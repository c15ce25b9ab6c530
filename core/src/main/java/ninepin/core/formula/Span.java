package ninepin.core.formula;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * The units in which an interval is counted, as they stand behind it. Of the first there may be as many as there are; of
 * those behind it only as many as do not make one of the unit before.
 */
public record Span(Unit first, Unit last) {

    /** Units of time, from the longest to the shortest. */
    public enum Unit {
        YEAR(12, 0),
        MONTH(1, 12),
        DAY(Times.DAY, 0),
        HOUR(3600 * Times.NANOS, 24),
        MINUTE(60 * Times.NANOS, 60),
        SECOND(Times.NANOS, 60);

        /** How long it is: in months where it is one of {@link #months()}, else in nanoseconds. */
        final long length;
        /** How many of it make one of the unit before it; 0 where there is none before it. */
        final int inNext;

        Unit(long length, int inNext) {
            this.length = length;
            this.inNext = inNext;
        }

        /** Whether it is counted in months, which have no length in days. */
        boolean months() {
            return compareTo(DAY) < 0;
        }

        static Optional<Unit> of(String word) {
            return Stream.of(values()).filter(u -> u.name().equals(word)).findFirst();
        }
    }

    static final Span OF_SECONDS = new Span(Unit.DAY, Unit.SECOND);

    boolean has(Unit unit) {
        return unit.compareTo(first) >= 0 && unit.compareTo(last) <= 0;
    }

    /** The units of both, and those between them. */
    Span union(Span other) {
        return new Span(
                first.compareTo(other.first) < 0 ? first : other.first,
                last.compareTo(other.last) > 0 ? last : other.last);
    }

    /** An amount without what is shorter than the last unit, unless that is the second, which has parts. */
    long cut(long amount) {
        return last == Unit.SECOND ? amount : amount - amount % last.length;
    }

    /** How many of a unit an amount has: of the first all, of another those that do not make one of the unit before. */
    long count(Unit unit, long amount) {
        return within(unit, amount) / unit.length;
    }

    /** The seconds of an amount, with so many digits of their parts. */
    BigDecimal seconds(long amount, int digits) {
        return BigDecimal.valueOf(within(Unit.SECOND, amount), 9).setScale(digits, RoundingMode.DOWN);
    }

    private long within(Unit unit, long amount) {
        return unit == first ? amount : amount % (unit.length * unit.inNext);
    }

    @Override
    public String toString() {
        return first == last ? first.name() : first + " TO " + last;
    }
}
