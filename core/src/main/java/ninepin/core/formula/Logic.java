package ninepin.core.formula;

import java.util.List;

/** Truth in three values: what depends on NULL is unknown, which is NULL. */
final class Logic {

    private Logic() {}

    /** AND and OR: the one value that decides, or unknown where a part is. */
    static final class Junction extends Expr {
        private final Expr left;
        private final Expr right;
        private final boolean deciding;

        /** Makes an AND where {@code false} decides, an OR where {@code true} does. */
        Junction(Expr left, Expr right, boolean deciding) {
            super(SqlType.BOOLEAN);
            this.left = left;
            this.right = right;
            this.deciding = deciding;
        }

        @Override
        Datum eval(RecordContext row) {
            Datum a = left.eval(row);
            if (!a.isNull() && a.isTrue() == deciding) {
                return value.set(deciding);
            }
            boolean unknown = a.isNull();
            Datum b = right.eval(row);
            if (!b.isNull() && b.isTrue() == deciding) {
                return value.set(deciding);
            }
            return unknown || b.isNull() ? value.setNull() : value.set(!deciding);
        }
    }

    static Expr not(Expr operand) {
        return new Strict(SqlType.BOOLEAN, (self, in, out) -> out.set(!in[0].isTrue()), operand);
    }

    /** IS NULL. */
    static final class IsNull extends Expr {
        private final Expr operand;
        private final boolean negated;

        IsNull(Expr operand, boolean negated) {
            super(SqlType.BOOLEAN);
            this.operand = operand;
            this.negated = negated;
        }

        @Override
        Datum eval(RecordContext row) {
            return value.set(operand.eval(row).isNull() != negated);
        }
    }

    /** IS DISTINCT FROM. */
    static final class Distinct extends Expr {
        private final Expr left;
        private final Expr right;
        private final SqlType.Kind kind;
        private final boolean negated;

        Distinct(Expr left, Expr right, boolean negated) {
            super(SqlType.BOOLEAN);
            this.left = left;
            this.right = right;
            this.kind = left.type.union(right.type).kind();
            this.negated = negated;
        }

        @Override
        Datum eval(RecordContext row) {
            Datum a = left.eval(row);
            Datum b = right.eval(row);
            boolean distinct =
                    a.isNull() || b.isNull() ? a.isNull() != b.isNull() : Comparison.compare(kind, a, b) != 0;
            return value.set(distinct != negated);
        }
    }

    /** IS TRUE, IS FALSE, IS UNKNOWN; the truth asked for is null for the last. */
    static final class IsTruth extends Expr {
        private final Expr operand;
        private final Boolean wanted;
        private final boolean negated;

        IsTruth(Expr operand, Boolean wanted, boolean negated) {
            super(SqlType.BOOLEAN);
            this.operand = operand;
            this.wanted = wanted;
            this.negated = negated;
        }

        @Override
        Datum eval(RecordContext row) {
            Datum d = operand.eval(row);
            boolean holds = wanted == null ? d.isNull() : !d.isNull() && d.isTrue() == wanted;
            return value.set(holds != negated);
        }
    }

    /** IN a list: true where one is equal, else unknown where one is NULL. */
    static final class In extends Expr {
        private final Expr operand;
        private final List<Expr> list;

        In(Expr operand, List<Expr> list) {
            super(SqlType.BOOLEAN);
            this.operand = operand;
            this.list = List.copyOf(list);
        }

        @Override
        Datum eval(RecordContext row) {
            Datum a = operand.eval(row);
            if (a.isNull()) {
                return value.setNull();
            }
            boolean unknown = false;
            for (int i = 0; i < list.size(); i++) {
                Datum b = list.get(i).eval(row);
                if (b.isNull()) {
                    unknown = true;
                } else if (Comparison.compare(operand.type.kind(), a, b) == 0) {
                    return value.set(true);
                }
            }
            return unknown ? value.setNull() : value.set(false);
        }
    }

    /** CASE: the first branch whose condition is true; COALESCE: the first value that is not NULL. */
    static final class Choice extends Expr {
        private final Expr[] conditions;
        private final Expr[] results;
        private final Expr otherwise;

        /** Makes a CASE; without conditions, each result is its own: it is taken where it is not NULL. */
        Choice(SqlType type, List<Expr> conditions, List<Expr> results, Expr otherwise) {
            super(type);
            this.conditions = conditions.toArray(Expr[]::new);
            this.results = results.toArray(Expr[]::new);
            this.otherwise = otherwise;
        }

        @Override
        Datum eval(RecordContext row) {
            for (int i = 0; i < results.length; i++) {
                if (conditions.length == 0) {
                    if (!results[i].eval(row).isNull()) {
                        return take(results[i].value);
                    }
                } else if (conditions[i].eval(row).isTrue()) {
                    return take(results[i].eval(row));
                }
            }
            return otherwise == null ? value.setNull() : take(otherwise.eval(row));
        }

        private Datum take(Datum chosen) {
            value.setTo(chosen);
            if (is(SqlType.Kind.NUMERIC) && !value.isNull() && value.scale != type.scale()) {
                Numbers.setExact(this, chosen.decimal(), value);
            }
            return value;
        }
    }
}
