package ninepin.core.formula;

import java.math.BigDecimal;
import java.util.Locale;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ninepin.core.formula.SqlType.Kind;

/** Reads literals of dates, times and intervals, and what is taken out of them. */
final class Moments {

    private final Parser parser;

    Moments(Parser parser) {
        this.parser = parser;
    }

    Expr today() {
        Constant constant = new Constant(SqlType.DATE);
        constant.value.set(parser.scope.today().toEpochDay());
        return constant;
    }

    /** The text behind DATE, TIME or TIMESTAMP. */
    Expr literal(String word) {
        Token token = parser.cursor.next();
        int point = token.text().indexOf('.');
        int fraction = point < 0 ? 0 : Math.min(9, token.text().length() - point - 1);
        SqlType type = word.equals("DATE")
                ? SqlType.DATE
                : word.equals("TIME") ? SqlType.time(fraction) : SqlType.timestamp(fraction);
        Expr cast = Casts.of(Constant.of(token.text()), type, null, 0);
        Constant constant = new Constant(type);
        try {
            constant.value.setTo(cast.eval(null));
        } catch (EvaluationException e) {
            throw new FormulaException(
                    token.from(),
                    token.to(),
                    "This is no " + word + "; it is written "
                            + switch (word) {
                                case "DATE" -> "DATE '2026-11-23'.";
                                case "TIME" -> "TIME '04:17:00'.";
                                default -> "TIMESTAMP '2026-11-23 04:17:00'.";
                            });
        }
        return constant;
    }

    /** What stands behind INTERVAL: {@code '3' DAY}, {@code '1-6' YEAR TO MONTH}, {@code '2 10:30:00' DAY TO SECOND}. */
    Expr interval() {
        Cursor cursor = parser.cursor;
        boolean minus = cursor.takeSign("-");
        Token token = cursor.peek();
        if (token.kind() != Token.Kind.TEXT) {
            throw cursor.unexpected("expected an amount as a text, such as INTERVAL '3' DAY");
        }
        cursor.next();
        Span span = span("the amount");
        int point = token.text().indexOf('.');
        Constant constant = new Constant(
                SqlType.interval(span, point < 0 ? 0 : token.text().strip().length() - point - 1));
        Long amount = amount(token.text().strip(), span);
        if (amount == null) {
            throw new FormulaException(token.from(), token.to(), "This is no amount of " + span + ".");
        }
        constant.value.set(minus ? -amount : amount);
        return constant;
    }

    /** The units of an interval, as they stand behind something. */
    private Span span(String behind) {
        Cursor cursor = parser.cursor;
        Span.Unit first = unit("behind " + behind);
        Span.Unit last = cursor.takeWord("TO") ? unit("behind TO") : first;
        if (last.compareTo(first) < 0 || first.months() != last.months()) {
            throw cursor.unexpected(
                    "which does not go together; intervals go from YEAR to MONTH or from DAY to SECOND");
        }
        return new Span(first, last);
    }

    private boolean unitComes(int ahead) {
        Token token = parser.cursor.ahead(ahead);
        return token.kind() == Token.Kind.WORD
                && Span.Unit.of(token.text().toUpperCase(Locale.ROOT)).isPresent();
    }

    private Span.Unit unit(String where) {
        if (!unitComes(0)) {
            throw parser.cursor.unexpected("expected YEAR, MONTH, DAY, HOUR, MINUTE or SECOND " + where);
        }
        Span.Unit unit = Span.Unit.of(parser.cursor.upper()).orElseThrow();
        parser.cursor.next();
        return unit;
    }

    private static Long amount(String text, Span span) {
        boolean minus = text.startsWith("-");
        String[] parts = text.replaceFirst("^[+-]", "").split("[-: ]");
        int first = span.first().ordinal();
        if (parts.length != span.last().ordinal() - first + 1) {
            return null;
        }
        BigDecimal amount = BigDecimal.ZERO;
        for (int i = 0; i < parts.length; i++) {
            Span.Unit unit = Span.Unit.values()[first + i];
            if (!parts[i].matches(unit == Span.Unit.SECOND ? "[0-9]{1,9}(\\.[0-9]{1,9})?" : "[0-9]{1,6}")) {
                return null;
            }
            BigDecimal part = new BigDecimal(parts[i]);
            if (i > 0 && part.compareTo(BigDecimal.valueOf(unit.inNext)) >= 0) {
                return null;
            }
            amount = amount.add(part.multiply(BigDecimal.valueOf(unit.length)));
        }
        if (amount.compareTo(BigDecimal.valueOf(Long.MAX_VALUE)) > 0) {
            return null;
        }
        return minus ? -amount.longValue() : amount.longValue();
    }

    Expr extract() {
        Token named = parser.cursor.next();
        Span.Unit part = Span.Unit.of(named.text().toUpperCase(Locale.ROOT))
                .orElseThrow(() -> new FormulaException(
                        named.from(),
                        named.to(),
                        "There is no part " + named.text() + "; the parts are "
                                + Stream.of(Span.Unit.values()).map(Enum::name).collect(Collectors.joining(", "))
                                + "."));
        parser.cursor.expectWord("FROM", "behind " + part);
        Expr of = parser.expression();
        boolean fits =
                switch (of.type.kind()) {
                    case DATE -> part.compareTo(Span.Unit.DAY) <= 0;
                    case TIME -> part.compareTo(Span.Unit.DAY) > 0;
                    case TIMESTAMP, NOTHING -> true;
                    case MONTHS, SECONDS -> of.type.span().has(part);
                    default -> false;
                };
        if (!fits) {
            String shown = of.type.span() == null ? of.type.kind().words : "an interval of " + of.type.span();
            throw new FormulaException(of.from, of.to, part + " cannot be taken from " + shown + ".");
        }
        SqlType type =
                part == Span.Unit.SECOND ? SqlType.numeric(10 + of.type.scale(), of.type.scale()) : SqlType.COUNT;
        return new Strict(type, (self, in, out) -> Times.extract(part, of.type, in[0], out), of);
    }

    /** Says that a difference of two times has no unit behind it; it would mean one thing to one and another to others. */
    void requireUnit(Operators.Difference difference) {
        if (!parser.cursor.peek().isSign(")") || !unitComes(1)) {
            throw new FormulaException(
                    difference.from,
                    difference.to,
                    "A difference of two " + (difference.of.is(Kind.TIME) ? "times" : "dates")
                            + " stands in parentheses with its unit behind it, such as (a - b) "
                            + (difference.of.is(Kind.TIME) ? "MINUTE" : "DAY") + ".");
        }
    }

    /** The difference of two times in the unit behind it: {@code (a - b) DAY}. */
    Expr qualified(Operators.Difference difference, int from) {
        int at = parser.cursor.peek().from();
        Span span = span("the difference");
        if (difference.of.is(Kind.TIME) && span.first().compareTo(Span.Unit.HOUR) < 0) {
            throw new FormulaException(
                    at, parser.cursor.end(), "The difference of two times is counted in HOUR, MINUTE or SECOND.");
        }
        return difference.in(span).at(from, parser.cursor.end());
    }
}
