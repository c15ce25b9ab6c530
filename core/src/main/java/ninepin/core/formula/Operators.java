package ninepin.core.formula;

import java.math.BigInteger;
import ninepin.core.formula.SqlType.Kind;

/** Makes the operations that stand between or before their operands, once their types are found to fit. */
final class Operators {

    /** Says that an operand has to be of a kind. */
    Expr require(Kind kind, Expr operand, String of) {
        if (!operand.is(kind) && !operand.is(Kind.NOTHING)) {
            throw new FormulaException(
                    operand.from,
                    operand.to,
                    of + " wants " + kind.words + ", and this is " + operand.type.kind().words + "."
                            + advice(kind, operand));
        }
        return operand;
    }

    private static String advice(Kind wanted, Expr operand) {
        if (wanted == Kind.CHARACTER && !operand.is(Kind.BOOLEAN)) {
            return " CAST(… AS VARCHAR(20)) makes it text.";
        }
        if (wanted == Kind.NUMERIC && operand.is(Kind.CHARACTER)) {
            return " CAST(… AS NUMERIC(10,2)) makes a number of it.";
        }
        return "";
    }

    /** Says that two operands have to be of one kind. */
    void requireTogether(String of, Expr a, Expr b) {
        if (!a.type.goesWith(b.type)) {
            throw new FormulaException(
                    a.from,
                    b.to,
                    of + " wants two of a kind; this is " + a.type.kind().words + " and " + b.type.kind().words + "."
                            + advice(a.type.kind(), b));
        }
    }

    Expr junction(String word, Expr left, Expr right) {
        require(Kind.BOOLEAN, left, word);
        require(Kind.BOOLEAN, right, word);
        return new Logic.Junction(left, right, word.equals("OR")).at(left.from, right.to);
    }

    Expr comparison(String sign, Expr left, Expr right) {
        requireTogether(sign, left, right);
        Kind kind = left.is(Kind.NOTHING) ? right.type.kind() : left.type.kind();
        Strict.Body body =
                switch (sign) {
                    case "=" -> (s, in, out) -> out.set(Comparison.compare(kind, in[0], in[1]) == 0);
                    case "<>" -> (s, in, out) -> out.set(Comparison.compare(kind, in[0], in[1]) != 0);
                    case "<" -> (s, in, out) -> out.set(Comparison.compare(kind, in[0], in[1]) < 0);
                    case "<=" -> (s, in, out) -> out.set(Comparison.compare(kind, in[0], in[1]) <= 0);
                    case ">" -> (s, in, out) -> out.set(Comparison.compare(kind, in[0], in[1]) > 0);
                    default -> (s, in, out) -> out.set(Comparison.compare(kind, in[0], in[1]) >= 0);
                };
        return new Strict(SqlType.BOOLEAN, body, left, right).at(left.from, right.to);
    }

    /** IS DISTINCT FROM: whether two differ, where NULL is like NULL and like nothing else. */
    Expr distinct(Expr left, Expr right, boolean negated) {
        requireTogether("IS DISTINCT FROM", left, right);
        return new Logic.Distinct(left, right, negated);
    }

    Expr like(Expr text, Expr pattern, Expr escape) {
        require(Kind.CHARACTER, text, "LIKE");
        require(Kind.CHARACTER, pattern, "LIKE");
        if (escape == null) {
            return new Strict(
                    SqlType.BOOLEAN,
                    (self, in, out) -> out.set(Texts.like(self, in[0].text, in[1].text, -1)),
                    text,
                    pattern);
        }
        require(Kind.CHARACTER, escape, "ESCAPE");
        return new Strict(
                SqlType.BOOLEAN,
                (self, in, out) -> {
                    if (Texts.length(in[2].text) != 1) {
                        throw new EvaluationException("FML-03", self, "an escape of more or less than one character");
                    }
                    out.set(Texts.like(self, in[0].text, in[1].text, in[2].text.codePointAt(0)));
                },
                text,
                pattern,
                escape);
    }

    /** {@code +}, {@code -} and {@code ||}. */
    Expr sum(String sign, Expr left, Expr right) {
        if (sign.equals("||")) {
            return concatenation(left, right);
        }
        int factor = sign.equals("-") ? -1 : 1;
        Expr made;
        if (isTime(left) || sign.equals("+") && isTime(right)) {
            made = timeSum(sign, factor, left, right);
        } else if (isInterval(left) || isInterval(right)) {
            requireTogether(sign, left, right);
            made = new Strict(
                    left.type.union(right.type),
                    (self, in, out) -> out.set(Times.sum(self, in[0].number, factor, in[1].number)),
                    left,
                    right);
        } else {
            require(Kind.NUMERIC, left, sign);
            require(Kind.NUMERIC, right, sign);
            SqlType type = Numbers.sumType(number(left), number(right));
            made = new Strict(type, (self, in, out) -> Numbers.add(self, in[0], in[1], factor, out), left, right);
        }
        return made.at(left.from, right.to);
    }

    private Expr concatenation(Expr left, Expr right) {
        require(Kind.CHARACTER, left, "||");
        require(Kind.CHARACTER, right, "||");
        SqlType type = SqlType.text((long) left.type.precision() + right.type.precision());
        return new Strict(type, (self, in, out) -> Texts.concatenate(self, in[0], in[1], out), left, right)
                .at(left.from, right.to);
    }

    /** A time and an interval, in either order where they are added; or the difference of two times. */
    private Expr timeSum(String sign, int factor, Expr left, Expr right) {
        if (sign.equals("-") && isTime(right)) {
            requireTogether(sign, left, right);
            return new Difference(left, right);
        }
        Expr time = isTime(left) ? left : right;
        Expr by = time == left ? right : left;
        if (!isInterval(by) || !fits(time.type, by.type)) {
            throw new FormulaException(
                    by.from,
                    by.to,
                    "To " + time.type.kind().words + " an interval is added, such as "
                            + (time.is(Kind.TIME) ? "INTERVAL '90' MINUTE" : "INTERVAL '3' DAY") + "; this is "
                            + (isInterval(by) ? "one of " + by.type.span() : by.type.kind().words) + "."
                            + (time.is(Kind.DATE) && isInterval(by)
                                    ? " CAST(… AS TIMESTAMP) gives the date a time."
                                    : ""));
        }
        Kind interval = by.type.kind();
        SqlType type = time.is(Kind.DATE) ? time.type : time.type.withFractionOf(by.type);
        return new Strict(
                type, (self, in, out) -> Times.add(self, type, in[0], interval, in[1], factor, out), time, by);
    }

    /** A date is moved by whole days or months, a time of the day by hours or less, a timestamp by any. */
    private static boolean fits(SqlType time, SqlType by) {
        Span.Unit day = Span.Unit.DAY;
        return switch (time.kind()) {
            case DATE -> by.span().last().compareTo(day) <= 0;
            case TIME -> by.span().first().compareTo(day) > 0;
            default -> true;
        };
    }

    /** The difference of two times, of which is not known yet in which unit it is wanted. It is never evaluated. */
    static final class Difference extends Expr {
        final SqlType of;
        private final Expr left;
        private final Expr right;

        Difference(Expr left, Expr right) {
            super(SqlType.interval(Span.OF_SECONDS, 0));
            this.of = left.type.union(right.type);
            this.left = left;
            this.right = right;
        }

        /** The difference in a unit; what is shorter than the unit is cut. */
        Expr in(Span span) {
            Kind kind = of.kind();
            Strict.Body body = span.first().months()
                    ? (self, in, out) -> out.set(span.cut(Times.months(kind, in[0], in[1])))
                    : (self, in, out) -> {
                        Times.between(self, kind, in[0], in[1], out);
                        out.set(span.cut(out.number));
                    };
            return new Strict(SqlType.interval(span, of.scale()), body, left, right);
        }

        @Override
        Datum eval(RecordContext row) {
            throw new IllegalStateException("a difference without its unit");
        }
    }

    private static boolean isTime(Expr e) {
        return e.is(Kind.DATE) || e.is(Kind.TIME) || e.is(Kind.TIMESTAMP);
    }

    private static boolean isInterval(Expr e) {
        return e.is(Kind.MONTHS) || e.is(Kind.SECONDS);
    }

    private static SqlType number(Expr e) {
        return e.is(Kind.NOTHING) ? SqlType.numeric(1, 0) : e.type;
    }

    Expr product(String sign, Expr left, Expr right) {
        Expr made;
        if (isInterval(left) || isInterval(right) && sign.equals("*")) {
            made = scaledInterval(sign, isInterval(left) ? left : right, isInterval(left) ? right : left);
        } else {
            require(Kind.NUMERIC, left, sign);
            require(Kind.NUMERIC, right, sign);
            SqlType a = number(left);
            SqlType b = number(right);
            made = sign.equals("*")
                    ? new Strict(
                            Numbers.productType(a, b),
                            (self, in, out) -> Numbers.multiply(self, in[0], in[1], out),
                            left,
                            right)
                    : new Strict(
                            Numbers.quotientType(a, b),
                            (self, in, out) -> Numbers.divide(self, in[0], in[1], out),
                            left,
                            right);
        }
        return made.at(left.from, right.to);
    }

    private Expr scaledInterval(String sign, Expr interval, Expr by) {
        require(Kind.NUMERIC, by, sign);
        boolean times = sign.equals("*");
        // A part of a day is hours; of months there is none.
        SqlType type = times || interval.is(Kind.MONTHS) || interval.is(Kind.NOTHING)
                ? interval.type
                : SqlType.interval(new Span(interval.type.span().first(), Span.Unit.SECOND), 9);
        return new Strict(
                type,
                (self, in, out) -> {
                    BigInteger factor = Numbers.whole(self, in[1]);
                    if (!times && factor.signum() == 0) {
                        throw new EvaluationException("FML-01", self, "a division by zero");
                    }
                    out.set(
                            times
                                    ? Times.product(self, in[0].number, factor)
                                    : BigInteger.valueOf(in[0].number)
                                            .divide(factor)
                                            .longValue());
                },
                interval,
                by);
    }

    Expr signed(Token sign, Expr operand) {
        if (isInterval(operand)) {
            return sign.isSign("-")
                    ? new Strict(operand.type, (self, in, out) -> out.set(-in[0].number), operand)
                    : operand;
        }
        require(Kind.NUMERIC, operand, sign.text());
        if (sign.isSign("-") && operand instanceof Constant literal && !literal.value.isNull()) {
            Constant negative = new Constant(literal.type);
            Numbers.negate(negative, literal.value, negative.value);
            return negative;
        }
        return sign.isSign("-")
                ? new Strict(number(operand), (self, in, out) -> Numbers.negate(self, in[0], out), operand)
                : operand;
    }
}
