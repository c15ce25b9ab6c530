package ninepin.core.formula;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;
import ninepin.core.formula.SqlType.Kind;

/** COUNT, SUM, MIN, MAX or AVG while it is being reckoned; NULLs are left out. */
public final class Accumulator {

    /** What is reckoned. */
    public enum Function {
        COUNT,
        SUM,
        MIN,
        MAX,
        AVG;

        @Override
        public String toString() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    private final Function function;
    private final SqlType of;
    private final SqlType type;
    private final Set<String> seen;
    private final Datum best = new Datum();
    private long count;
    private BigDecimal sum = BigDecimal.ZERO;

    /**
     * @param of the type of what is taken; null to count records
     * @param distinct whether each value is taken once
     */
    public Accumulator(Function function, SqlType of, boolean distinct) {
        this.function = function;
        this.of = of;
        this.type = type(function, of);
        this.seen = distinct ? new HashSet<>() : null;
    }

    /**
     * The type of the result: a sum has ten digits more, an average four more behind the point.
     *
     * @param of the type of what is taken; of SUM and AVG a number
     */
    public static SqlType type(Function function, SqlType of) {
        return switch (function) {
            case COUNT -> SqlType.COUNT;
            case MIN, MAX -> of;
            default -> {
                int more = function == Function.AVG ? 4 : 0;
                yield SqlType.numeric(
                        Math.min(SqlType.MOST_DIGITS, of.precision() + 10 + more),
                        Math.min(SqlType.MOST_DIGITS, of.scale() + more));
            }
        };
    }

    /** Begins anew. */
    void clear() {
        count = 0;
        sum = BigDecimal.ZERO;
        best.setNull();
        if (seen != null) {
            seen.clear();
        }
    }

    /** Counts a record. */
    public void count() {
        count++;
    }

    /** Takes a value, which may be changed afterwards. */
    public void take(Datum d) {
        if (d.isNull() || seen != null && !seen.add(d.written(of))) {
            return;
        }
        count++;
        if (function == Function.SUM || function == Function.AVG) {
            sum = sum.add(d.decimal());
        } else if (function != Function.COUNT) {
            int sign = function == Function.MAX ? 1 : -1;
            if (best.isNull() || sign * Comparison.compare(type.kind(), d, best) > 0) {
                best.setTo(d);
            }
        }
    }

    /** How many values it holds, beside its own. */
    public int held() {
        return seen == null ? 0 : seen.size();
    }

    /** Whether the result is NULL. */
    boolean isNull() {
        return function != Function.COUNT && count == 0;
    }

    /** The exact number that COUNT, SUM and AVG give; null for MIN and MAX. */
    BigDecimal exact() {
        return switch (function) {
            case COUNT -> BigDecimal.valueOf(count);
            case SUM -> sum.setScale(type.scale(), RoundingMode.HALF_UP);
            case AVG -> sum.divide(BigDecimal.valueOf(count), type.scale(), RoundingMode.HALF_UP);
            default -> null;
        };
    }

    /** What MIN and MAX give. */
    Datum best() {
        return best;
    }

    /** The result as SQL writes it when it is cast to text; null for NULL. */
    public String written() {
        if (isNull()) {
            return null;
        }
        BigDecimal exact = exact();
        return exact == null ? best.written(type) : exact.toPlainString();
    }

    /** Whether a function takes values of a type. */
    public static boolean takes(Function function, SqlType of) {
        return function != Function.SUM && function != Function.AVG || of.is(Kind.NUMERIC) || of.is(Kind.NOTHING);
    }
}
