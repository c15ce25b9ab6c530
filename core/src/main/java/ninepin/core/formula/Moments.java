package ninepin.core.formula;

import java.math.BigDecimal;
import java.util.List;
import java.util.Locale;
import ninepin.core.formula.SqlType.Kind;

/** Reads literals of dates, times and intervals, and what is taken out of them. */
final class Moments {

    private static final List<String> UNITS = List.of("YEAR", "MONTH", "DAY", "HOUR", "MINUTE", "SECOND");
    private static final long[] NANOS_OF = {0, 0, Times.DAY, 3600 * Times.NANOS, 60 * Times.NANOS, Times.NANOS};

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
        } catch (Misfit e) {
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
        int first = unit("behind the amount");
        int last = cursor.takeWord("TO") ? unit("behind TO") : first;
        boolean months = first <= 1;
        if (last < first || months != last <= 1) {
            throw cursor.unexpected(
                    "which does not go together; intervals go from YEAR to MONTH or from DAY to SECOND");
        }
        Constant constant = new Constant(months ? SqlType.MONTHS : SqlType.SECONDS);
        Long amount = amount(token.text().strip(), first, last);
        if (amount == null) {
            throw new FormulaException(
                    token.from(),
                    token.to(),
                    "This is no amount of " + UNITS.get(first) + (last > first ? " TO " + UNITS.get(last) : "") + ".");
        }
        constant.value.set(minus ? -amount : amount);
        return constant;
    }

    private int unit(String where) {
        int unit = UNITS.indexOf(parser.cursor.upper());
        if (unit < 0 || parser.cursor.peek().kind() != Token.Kind.WORD) {
            throw parser.cursor.unexpected("expected YEAR, MONTH, DAY, HOUR, MINUTE or SECOND " + where);
        }
        parser.cursor.next();
        return unit;
    }

    /** How many of a unit make one of the next longer one, where it is always as many. */
    private static final long[] MOST_OF = {Long.MAX_VALUE, 12, Long.MAX_VALUE, 24, 60, 60};

    private static Long amount(String text, int first, int last) {
        boolean minus = text.startsWith("-");
        String[] parts = text.replaceFirst("^[+-]", "").split("[-: ]");
        if (parts.length != last - first + 1) {
            return null;
        }
        BigDecimal amount = BigDecimal.ZERO;
        for (int i = 0; i < parts.length; i++) {
            int unit = first + i;
            if (!parts[i].matches(unit == 5 ? "[0-9]{1,9}(\\.[0-9]{1,9})?" : "[0-9]{1,6}")) {
                return null;
            }
            // Only the first of them may be as large as it likes.
            if (i > 0 && new BigDecimal(parts[i]).compareTo(BigDecimal.valueOf(MOST_OF[unit])) >= 0) {
                return null;
            }
            long factor = unit == 0 ? 12 : unit == 1 ? 1 : NANOS_OF[unit];
            amount = amount.add(new BigDecimal(parts[i]).multiply(BigDecimal.valueOf(factor)));
        }
        if (amount.compareTo(BigDecimal.valueOf(Long.MAX_VALUE)) > 0) {
            return null;
        }
        return minus ? -amount.longValue() : amount.longValue();
    }

    Expr extract() {
        Token part = parser.cursor.next();
        String name = part.text().toUpperCase(Locale.ROOT);
        if (!UNITS.contains(name)) {
            throw new FormulaException(
                    part.from(),
                    part.to(),
                    "There is no part " + part.text() + "; the parts are " + String.join(", ", UNITS) + ".");
        }
        parser.cursor.expectWord("FROM", "behind " + name);
        Expr of = parser.expression();
        int unit = UNITS.indexOf(name);
        boolean fits =
                switch (of.type.kind()) {
                    case DATE -> unit <= 2;
                    case TIME -> unit > 2;
                    case TIMESTAMP, NOTHING -> true;
                    case MONTHS -> unit <= 1;
                    case SECONDS -> unit >= 2;
                    default -> false;
                };
        if (!fits) {
            throw new FormulaException(of.from, of.to, name + " cannot be taken from " + of.type.kind().words + ".");
        }
        SqlType type =
                name.equals("SECOND") ? SqlType.numeric(11, of.is(Kind.SECONDS) ? 9 : of.type.scale()) : SqlType.COUNT;
        return new Strict(type, (self, in, out) -> Times.extract(name, of.type, in[0], out), of);
    }

    /** The unit behind a difference; days and shorter ones only, since a month has no one length. */
    Expr qualified(Expr difference, int from) {
        Cursor cursor = parser.cursor;
        if (cursor.peek().kind() != Token.Kind.WORD || !UNITS.contains(cursor.upper())) {
            return difference;
        }
        Token first = cursor.peek();
        int unit = unit("behind the difference");
        if (cursor.takeWord("TO")) {
            unit("behind TO");
        }
        if (unit <= 1) {
            throw new FormulaException(
                    first.from(), first.to(), "The difference is counted in DAY or shorter; take years with EXTRACT.");
        }
        return difference.at(from, cursor.end());
    }
}
