package ninepin.core.formula;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalTime;

/** Dates, times and intervals. Years go from 1 to 9999; there are no zones. */
final class Times {

    static final long NANOS = 1_000_000_000L;
    static final long DAY = 86_400L * NANOS;

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

    private static Misfit outside(Expr self) {
        return new Misfit("FML-02", self, "a day that is not in the years 1 to 9999");
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

    private static Misfit tooLong(Expr self) {
        return new Misfit("FML-02", self, "an interval of more than 292 years; compare the dates instead");
    }

    /** A date, time or timestamp and an interval, added or, with the sign -1, subtracted. */
    static void add(Expr self, SqlType type, Datum time, SqlType.Kind interval, Datum by, int sign, Datum out) {
        long amount = sign * by.number;
        if (interval == SqlType.Kind.MONTHS) {
            out.setTimestamp(plusMonths(self, time.number, amount), time.nanos);
        } else if (type.is(SqlType.Kind.TIME)) {
            out.set(Math.floorMod(time.number + amount % DAY, DAY));
        } else if (type.is(SqlType.Kind.DATE)) {
            if (amount % DAY != 0) {
                throw new Misfit("FML-03", self, "a date and hours; cast the date to a TIMESTAMP first");
            }
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

    /** EXTRACT: a part of a date, time, timestamp or interval. */
    static void extract(String part, SqlType type, Datum d, Datum out) {
        switch (type.kind()) {
            case DATE -> date(part, d.number, out);
            case TIME -> time(part, d.number, type.scale(), out);
            case TIMESTAMP -> {
                if (part.equals("YEAR") || part.equals("MONTH") || part.equals("DAY")) {
                    date(part, d.number, out);
                } else {
                    time(part, d.nanos, type.scale(), out);
                }
            }
            case MONTHS -> out.set(part.equals("YEAR") ? d.number / 12 : d.number % 12);
            default -> {
                if (part.equals("DAY")) {
                    out.set(d.number / DAY);
                } else {
                    time(part, d.number % DAY, 9, out);
                }
            }
        }
    }

    private static void date(String part, long days, Datum out) {
        LocalDate date = LocalDate.ofEpochDay(days);
        out.set(
                part.equals("YEAR")
                        ? date.getYear()
                        : part.equals("MONTH") ? date.getMonthValue() : date.getDayOfMonth());
    }

    private static void time(String part, long nanos, int fraction, Datum out) {
        long seconds = nanos / NANOS;
        switch (part) {
            case "HOUR" -> out.set(seconds / 3600);
            case "MINUTE" -> out.set(seconds / 60 % 60);
            default ->
                out.set(BigDecimal.valueOf(nanos % (60 * NANOS), 9).setScale(fraction, java.math.RoundingMode.DOWN));
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
