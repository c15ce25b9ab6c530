package ninepin.core.formula;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.RoundingMode;
import java.util.stream.LongStream;

/**
 * Exact arithmetic. A sum has the larger scale of both, a product the sum of their scales, a quotient four digits more
 * than the dividend; what has to be rounded is rounded half up (away from zero). A result of more than 38 digits is
 * none.
 */
final class Numbers {

    /** The powers of ten that a long holds. */
    static final long[] TENS = LongStream.iterate(1, n -> n * 10).limit(19).toArray();

    /** The digits that a division adds to the scale of the dividend. */
    static final int QUOTIENT_DIGITS = 4;

    private Numbers() {}

    static SqlType sumType(SqlType a, SqlType b) {
        SqlType both = a.union(b);
        return SqlType.numeric(both.precision() + 1, both.scale());
    }

    static SqlType productType(SqlType a, SqlType b) {
        return SqlType.numeric(a.precision() + b.precision(), a.scale() + b.scale());
    }

    static SqlType quotientType(SqlType a, SqlType b) {
        int scale = a.scale() + QUOTIENT_DIGITS;
        return SqlType.numeric(a.precision() - a.scale() + b.scale() + scale, scale);
    }

    /** Adds, or subtracts where the sign is -1. */
    static void add(Expr self, Datum a, Datum b, int sign, Datum out) {
        if (a.big == null && b.big == null && a.scale == b.scale) {
            long other = sign * b.number;
            long sum = a.number + other;
            if (((a.number ^ sum) & (other ^ sum)) >= 0) {
                out.set(sum, a.scale);
                return;
            }
        }
        BigDecimal other = sign < 0 ? b.decimal().negate() : b.decimal();
        setExact(self, a.decimal().add(other), out);
    }

    static void multiply(Expr self, Datum a, Datum b, Datum out) {
        int scale = a.scale + b.scale;
        if (a.big == null && b.big == null && scale == self.type.scale()) {
            long product = a.number * b.number;
            if (Math.multiplyHigh(a.number, b.number) == product >> 63) {
                out.set(product, scale);
                return;
            }
        }
        BigDecimal product = a.decimal().multiply(b.decimal());
        if (scale > self.type.scale() && product.stripTrailingZeros().scale() > self.type.scale()) {
            throw new EvaluationException(
                    "FML-02",
                    self,
                    "a product with more than " + self.type.scale()
                            + " digits behind the point; ROUND what is multiplied");
        }
        setExact(self, product, out);
    }

    static void divide(Expr self, Datum a, Datum b, Datum out) {
        requireDivisor(self, b);
        setExact(self, a.decimal().divide(b.decimal(), self.type.scale(), RoundingMode.HALF_UP), out);
    }

    /** What is left of a division; it has the sign of the dividend. */
    static void modulo(Expr self, Datum a, Datum b, Datum out) {
        requireDivisor(self, b);
        if (a.big == null && b.big == null && a.scale == b.scale) {
            out.set(a.number % b.number, a.scale);
        } else {
            setExact(self, a.decimal().remainder(b.decimal()), out);
        }
    }

    private static void requireDivisor(Expr self, Datum b) {
        if (b.big == null && b.number == 0) {
            throw new EvaluationException("FML-01", self, "a division by zero");
        }
    }

    /** A number that has to be whole, whatever its size. */
    static BigInteger whole(Expr self, Datum number) {
        BigDecimal exact = number.decimal();
        if (exact.stripTrailingZeros().scale() > 0) {
            throw new EvaluationException("FML-03", self, exact.toPlainString() + " where a whole number is wanted");
        }
        return exact.toBigInteger();
    }

    static void negate(Expr self, Datum a, Datum out) {
        if (a.big == null && a.number != Long.MIN_VALUE) {
            out.set(-a.number, a.scale);
        } else {
            setExact(self, a.decimal().negate(), out);
        }
    }

    /** Rounds to so many digits after the point; before it where that is negative. */
    static void round(Expr self, Datum a, long digits, RoundingMode mode, Datum out) {
        int wanted = (int) Math.max(-SqlType.MOST_DIGITS, Math.min(digits, self.type.scale()));
        setExact(self, a.decimal().setScale(wanted, mode), out);
    }

    static void power(Expr self, Datum a, Datum b, Datum out) {
        if (b.big != null || b.number < 0 || b.number > 1000) {
            throw new EvaluationException(
                    "FML-03", self, "an exponent of " + b.decimal().toPlainString() + ", which is not 0 to 1000");
        }
        BigDecimal base = a.decimal();
        if (base.precision() * b.number > 40_000) {
            throw tooLarge(self);
        }
        setExact(self, base.pow((int) b.number), out);
    }

    /** Makes a number that of the node, with the scale of its type. */
    static void setExact(Expr self, BigDecimal exact, Datum out) {
        BigDecimal scaled =
                exact.scale() == self.type.scale() ? exact : exact.setScale(self.type.scale(), RoundingMode.HALF_UP);
        if (scaled.precision() > SqlType.MOST_DIGITS) {
            throw tooLarge(self);
        }
        out.set(scaled);
    }

    private static EvaluationException tooLarge(Expr self) {
        return new EvaluationException("FML-02", self, "a number of more than " + SqlType.MOST_DIGITS + " digits");
    }

    static int compare(Datum a, Datum b) {
        return a.big == null && b.big == null && a.scale == b.scale
                ? Long.compare(a.number, b.number)
                : a.decimal().compareTo(b.decimal());
    }
}
