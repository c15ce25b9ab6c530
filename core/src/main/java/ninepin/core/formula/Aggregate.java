package ninepin.core.formula;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.HashSet;
import java.util.Set;
import ninepin.core.formula.SqlType.Kind;

/** COUNT, SUM, MIN, MAX or AVG over the records of a type that belong to a record; NULLs are left out. */
final class Aggregate extends Expr {

    private final String function;
    private final int over;
    private final int root;
    private final Expr of;
    private final boolean distinct;
    private final Expr filter;
    private final Datum best = new Datum();

    private long count;
    private BigDecimal sum;

    /**
     * @param over the index of the type of the records
     * @param root the index of the type of the record they belong to
     * @param of what is taken of each, or null to count the records
     * @param filter which are taken, or null for all
     */
    Aggregate(String function, SqlType type, int over, int root, Expr of, boolean distinct, Expr filter) {
        super(type);
        this.function = function;
        this.over = over;
        this.root = root;
        this.of = of;
        this.distinct = distinct;
        this.filter = filter;
    }

    @Override
    Datum eval(Standpoint row) {
        count = 0;
        sum = BigDecimal.ZERO;
        best.setNull();
        DocumentValues document = row.document();
        if (document == null) {
            return result();
        }
        int first = row.recordOf(root);
        int end = document.endOf(first);
        Set<String> seen = distinct ? new HashSet<>() : null;
        row.save();
        try {
            for (int i = first + 1; i < end; i++) {
                row.standAt(i);
                if (document.type(i) == over
                        && !document.isLeftOut(i)
                        && (filter == null || filter.eval(row).isTrue())) {
                    take(row, seen);
                }
            }
        } finally {
            row.restore();
        }
        return result();
    }

    private void take(Standpoint row, Set<String> seen) {
        if (of == null) {
            count++;
            return;
        }
        Datum d = of.eval(row);
        if (d.isNull() || seen != null && !seen.add(d.written(of.type))) {
            return;
        }
        count++;
        if (function.equals("SUM") || function.equals("AVG")) {
            sum = sum.add(d.decimal());
        } else if (!function.equals("COUNT")) {
            int sign = function.equals("MAX") ? 1 : -1;
            if (best.isNull() || sign * Comparison.compare(type.kind(), d, best) > 0) {
                best.setTo(d);
            }
        }
    }

    private Datum result() {
        if (function.equals("COUNT")) {
            return value.set(count);
        }
        if (count == 0) {
            return value.setNull();
        }
        if (!type.is(Kind.NUMERIC) || function.equals("MIN") || function.equals("MAX")) {
            return value.setTo(best);
        }
        BigDecimal exact = function.equals("SUM")
                ? sum
                : sum.divide(BigDecimal.valueOf(count), type.scale(), RoundingMode.HALF_UP);
        Numbers.setExact(this, exact.setScale(type.scale(), RoundingMode.HALF_UP), value);
        return value;
    }
}
