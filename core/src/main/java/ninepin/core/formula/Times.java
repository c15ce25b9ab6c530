package ninepin.core.formula;

import java.math.BigInteger;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;

/** Dates, times and intervals. Years go from 1 to 9999; there are no zones. */
final class Times {

    static final long NANOS = 1_000_000_000L;
    static final long DAY = 86_400L * NANOS;

    /** What a time of the day is counted in. */
    private static final Span CLOCK = new Span(Span.Unit.HOUR, Span.Unit.SECOND);

    private static final long FIRST = LocalDate.of(1, 1, 1).toEpochDay();
    private static final long LAST = LocalDate.of(9999, 12, 31).toEpochDay();

    private Times() {}

    /** A day moved by months; a day that the month does not have is the month's last. */
    static long plusMonths(Expr self, long days, long months) {
        try {
            return inRange(self, LocalDate.ofEpochDay(days).plusMonths(months).toEpochDay());
        } catch (DateTimeException | ArithmeticException e) {
            throw outside(self);
        }
    }

    private static long inRange(Expr self, long days) {
        if (days < FIRST || days > LAST) {
            throw outside(self);
        }
        return days;
    }

    private static EvaluationException outside(Expr self) {
        return new EvaluationException("FML-02", self, "a day that is not in the years 1 to 9999");
    }

    /** The sum of two intervals of one kind; with the factor -1 their difference. */
    static long sum(Expr self, long a, int factor, long b) {
        try {
            return factor < 0 ? Math.subtractExact(a, b) : Math.addExact(a, b);
        } catch (ArithmeticException e) {
            throw tooLong(self);
        }
    }

    /** An interval so many times. */
    static long product(Expr self, long interval, BigInteger factor) {
        try {
            return BigInteger.valueOf(interval).multiply(factor).longValueExact();
        } catch (ArithmeticException e) {
            throw tooLong(self);
        }
    }

    private static EvaluationException tooLong(Expr self) {
        return new EvaluationException("FML-02", self, "an interval of more than 292 years; compare the dates instead");
    }

    /** A date, time or timestamp and an interval, added or, with the sign -1, subtracted. */
    static void add(Expr self, SqlType type, Datum time, SqlType.Kind interval, Datum by, int sign, Datum out) {
        long amount = sign * by.number;
        if (interval == SqlType.Kind.MONTHS) {
            out.setTimestamp(plusMonths(self, time.number, amount), time.nanos);
        } else if (type.is(SqlType.Kind.TIME)) {
            out.set(Math.floorMod(time.number + amount % DAY, DAY));
        } else if (type.is(SqlType.Kind.DATE)) {
            out.set(inRange(self, time.number + amount / DAY));
        } else {
            long nanos = time.nanos + Math.floorMod(amount, DAY);
            out.setTimestamp(inRange(self, time.number + Math.floorDiv(amount, DAY) + nanos / DAY), nanos % DAY);
        }
    }

    /** The time from one moment to another, in nanoseconds. */
    static void between(Expr self, SqlType.Kind kind, Datum a, Datum b, Datum out) {
        try {
            out.set(
                    switch (kind) {
                        case DATE -> Math.multiplyExact(a.number - b.number, DAY);
                        case TIME -> a.number - b.number;
                        default -> Math.addExact(Math.multiplyExact(a.number - b.number, DAY), a.nanos - b.nanos);
                    });
        } catch (ArithmeticException e) {
            throw tooLong(self);
        }
    }

    /** The whole months from one moment to another; the last counts once its day and its time are reached. */
    static long months(SqlType.Kind kind, Datum a, Datum b) {
        boolean timed = kind == SqlType.Kind.TIMESTAMP;
        return ChronoUnit.MONTHS.between(moment(b, timed), moment(a, timed));
    }

    private static LocalDateTime moment(Datum d, boolean timed) {
        LocalDate day = LocalDate.ofEpochDay(d.number);
        return timed ? LocalDateTime.of(day, LocalTime.ofNanoOfDay(d.nanos)) : day.atStartOfDay();
    }

    /** EXTRACT: a part of a date, time, timestamp or interval. */
    static void extract(Span.Unit part, SqlType type, Datum d, Datum out) {
        switch (type.kind()) {
            case DATE -> date(part, d.number, out);
            case TIME -> take(part, CLOCK, d.number, type.scale(), out);
            case TIMESTAMP -> {
                if (part.compareTo(Span.Unit.DAY) <= 0) {
                    date(part, d.number, out);
                } else {
                    take(part, CLOCK, d.nanos, type.scale(), out);
                }
            }
            default -> take(part, type.span(), d.number, type.scale(), out);
        }
    }

    private static void date(Span.Unit part, long days, Datum out) {
        LocalDate date = LocalDate.ofEpochDay(days);
        out.set(
                switch (part) {
                    case YEAR -> date.getYear();
                    case MONTH -> date.getMonthValue();
                    default -> date.getDayOfMonth();
                });
    }

    private static void take(Span.Unit part, Span of, long amount, int fraction, Datum out) {
        if (part == Span.Unit.SECOND) {
            out.set(of.seconds(amount, fraction));
        } else {
            out.set(of.count(part, amount));
        }
    }

    /** Days since 1970-01-01 of a text like 2026-11-23; null where it is none. */
    static Long day(String text) {
        try {
            return text.matches("[0-9]{4}-[0-9]{2}-[0-9]{2}") && !text.startsWith("0000")
                    ? LocalDate.parse(text).toEpochDay()
                    : null;
        } catch (DateTimeException e) {
            return null;
        }
    }

    /** Nanoseconds of a text like 04:17, 04:17:30 or 04:17:30.5; null where it is none. */
    static Long nanos(String text) {
        try {
            return text.matches("[0-9]{2}:[0-9]{2}(:[0-9]{2}(\\.[0-9]{1,9})?)?")
                    ? LocalTime.parse(text).toNanoOfDay()
                    : null;
        } catch (DateTimeException e) {
            return null;
        }
    }
}
