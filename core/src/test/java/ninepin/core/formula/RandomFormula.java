package ninepin.core.formula;

import java.util.List;
import java.util.Random;
import java.util.function.Supplier;

/** Makes formulas of the fields of {@link RefereeTest}, each as Ninepin reads it and as the server does. */
final class RandomFormula {

    /** A formula, and the same for the server. */
    record Pair(String ours, String theirs) {

        static Pair same(String text) {
            return new Pair(text, text);
        }

        /** Both, with {@code %s} in a pattern standing for parts. */
        static Pair of(String pattern, Pair... parts) {
            return of(pattern, pattern, parts);
        }

        static Pair of(String ours, String theirs, Pair... parts) {
            Object[] a = List.of(parts).stream().map(Pair::ours).toArray();
            Object[] b = List.of(parts).stream().map(Pair::theirs).toArray();
            return new Pair(String.format(ours, a), String.format(theirs, b));
        }
    }

    private static final List<String> TEXTS =
            List.of("''", "'a'", "'Tarn'", "' x '", "'%'", "'ö'", "'🥛'", "'a_b'", "'00'", "'it''s'", "'ABC-12'");
    private static final List<String> PATTERNS =
            List.of("'%a%'", "'_'", "'T_rn%'", "''", "'%'", "'%n_'", "'ö%'", "'_%_'");
    private static final List<String> REGEXES = List.of("'[0-9]+'", "'^[A-Z]'", "'a|b'", "'ö+'", "'[a-z]{2}'", "'.n'");

    private final Random random;

    RandomFormula(Random random) {
        this.random = random;
    }

    /** A formula of any kind. */
    Pair any(int depth) {
        return switch (random.nextInt(5)) {
            case 0, 1 -> number(depth);
            case 2 -> text(depth);
            case 3 -> truth(depth);
            default -> day(depth);
        };
    }

    @SafeVarargs
    private Pair one(Supplier<Pair>... choices) {
        return choices[random.nextInt(choices.length)].get();
    }

    private Pair pick(String... same) {
        return Pair.same(same[random.nextInt(same.length)]);
    }

    private Pair from(List<String> literals) {
        return Pair.same(literals.get(random.nextInt(literals.size())));
    }

    private Pair whole(int least, int most) {
        return Pair.same(Integer.toString(least + random.nextInt(most - least + 1)));
    }

    private Pair literal() {
        return one(
                () -> whole(0, 99),
                () -> pick("0.5", "2.25", "10.0", "0.001", "7", "-3"),
                // Of a NULL without a type the server makes numbers of other scales.
                () -> new Pair("NULL", "CAST(NULL AS DECIMAL(1,0))"));
    }

    Pair number(int depth) {
        if (depth == 0) {
            return one(() -> pick("n", "m", "d", "e"), this::literal);
        }
        int d = depth - 1;
        return one(
                () -> Pair.of("(%s + %s)", number(d), number(d)),
                () -> Pair.of("(%s - %s)", number(d), number(d)),
                () -> Pair.of("(%s * %s)", number(d), number(d)),
                () -> Pair.of("CAST(%s / %s AS DECIMAL(24,4))", pick("n", "m", "7", "100"), number(d)),
                () -> Pair.of("CAST(%s / %s AS DECIMAL(24,6))", pick("d"), number(d)),
                () -> Pair.of("MOD(%s, %s)", "(0 + MOD(%s, %s))", number(d), number(d)),
                () -> Pair.of("(- %s)", number(d)),
                () -> Pair.of("ABS(%s)", number(d)),
                () -> Pair.of("ROUND(%s, %s)", number(d), whole(-2, 3)),
                () -> Pair.of("ROUND(%s)", number(d)),
                () -> Pair.of("FLOOR(%s)", number(d)),
                () -> Pair.of("CEILING(%s)", number(d)),
                () -> Pair.of("CAST(POWER(%s, %s) AS DECIMAL(30,0))", pick("n", "m", "3"), whole(0, 4)),
                () -> Pair.of("GREATEST(%s, %s, %s)", number(d), number(d), number(d)),
                () -> Pair.of("LEAST(%s, %s)", number(d), number(d)),
                () -> Pair.of("COALESCE(%s, %s)", number(d), number(d)),
                () -> Pair.of("NULLIF(%s, %s)", number(d), number(d)),
                () -> Pair.of("CHAR_LENGTH(%s)", text(d)),
                () -> Pair.of("POSITION(%s IN %s)", text(d), text(d)),
                () -> Pair.of("CAST(%s AS DECIMAL(20,2))", number(d)),
                () -> Pair.of("CAST(CAST(%s AS CHAR(60)) AS DECIMAL(30,4))", number(d)),
                () -> Pair.of("EXTRACT(%s FROM %s)", pick("YEAR", "MONTH", "DAY"), day(d)),
                () -> Pair.of("EXTRACT(%s FROM at)", pick("YEAR", "DAY", "HOUR", "MINUTE", "SECOND")),
                () -> Pair.of("EXTRACT(DAY FROM (%s - %s) DAY)", "DATEDIFF(%s, %s)", day(d), day(d)),
                () -> Pair.of(
                        "EXTRACT(MONTH FROM (%s - %s) MONTH)", "TIMESTAMPDIFF(MONTH, %2$s, %1$s)", day(d), day(d)),
                () -> Pair.of("EXTRACT(YEAR FROM (%s - %s) YEAR)", "TIMESTAMPDIFF(YEAR, %2$s, %1$s)", day(d), day(d)),
                () -> Pair.of(
                        "EXTRACT(HOUR FROM (at - CAST(%s AS TIMESTAMP)) HOUR)",
                        "TIMESTAMPDIFF(HOUR, CAST(%s AS DATETIME), at)", day(d)),
                () -> Pair.of("OCTET_LENGTH(%s)", text(d)),
                () -> Pair.of("CASE WHEN %s THEN %s ELSE %s END", truth(d), number(d), number(d)),
                () -> Pair.of(
                        "CASE %s WHEN %s THEN %s WHEN %s THEN %s END",
                        number(d), number(d), number(d), number(d), number(d)));
    }

    Pair text(int depth) {
        if (depth == 0) {
            return one(() -> pick("t", "u", "t", "u", "NULL"), () -> from(TEXTS));
        }
        int d = depth - 1;
        return one(
                () -> Pair.of("(%s || %s)", text(d), text(d)),
                () -> Pair.of("UPPER(%s)", text(d)),
                () -> Pair.of("LOWER(%s)", text(d)),
                () -> Pair.of("SUBSTRING(%s FROM %s FOR %s)", text(d), whole(1, 6), whole(0, 5)),
                () -> Pair.of("SUBSTRING(%s FROM %s)", text(d), whole(1, 9)),
                () -> Pair.of("TRIM(%s)", text(d)),
                () -> Pair.of("TRIM(%s '0' FROM %s)", pick("LEADING", "TRAILING", "BOTH"), text(d)),
                () -> Pair.of("LPAD(%s, %s, %s)", text(d), whole(0, 12), pick("'0'", "'ab'", "' '")),
                () -> Pair.of("RPAD(%s, %s, %s)", text(d), whole(0, 12), pick("'.'", "'🥛x'")),
                () -> Pair.of(
                        "REPLACE(%s, %s, COALESCE(%s, ''))", text(d), pick("'a'", "'n'", "' '", "'Tarn'"), text(d)),
                () -> Pair.of(
                        "CAST(CAST(%s AS DECIMAL(30,4)) AS VARCHAR(60))",
                        "CAST(CAST(%s AS DECIMAL(30,4)) AS CHAR(60))", number(d)),
                () -> Pair.of("CAST(%s AS CHAR(14))", "RPAD(CAST(%s AS CHAR(14)), 14, ' ')", day(d)),
                () -> Pair.of("COALESCE(%s, %s)", text(d), text(d)),
                () -> Pair.of("NULLIF(%s, %s)", text(d), text(d)),
                () -> Pair.of("GREATEST(%s, %s)", text(d), text(d)),
                () -> Pair.of("CASE WHEN %s THEN %s ELSE %s END", truth(d), text(d), text(d)),
                this::overlay,
                () -> regex("SUBSTRING_REGEX(%s IN %s)", "NULLIF(REGEXP_SUBSTR(%2$s, %1$s), '')", text(d)),
                () -> regex("REPLACE_REGEX(%s IN %s WITH '<>')", "REGEXP_REPLACE(%2$s, %1$s, '<>')", text(d)),
                () -> format(d));
    }

    private Pair format(int depth) {
        Pair day = day(depth);
        return one(
                () -> Pair.of("CAST(%s AS VARCHAR(10) FORMAT 'DD.MM.YYYY')", "DATE_FORMAT(%s, '%%d.%%m.%%Y')", day),
                () -> Pair.of("CAST(%s AS VARCHAR(8) FORMAT 'YYYYMMDD')", "DATE_FORMAT(%s, '%%Y%%m%%d')", day),
                () -> Pair.of("CAST(at AS VARCHAR(20) FORMAT 'HH24:MI/DDD')", "DATE_FORMAT(at, '%%H:%%i/%%j')"));
    }

    /** The server leaves a text as it is where the place lies behind its end; here the replacement is put there. */
    private Pair overlay() {
        int start = 1 + random.nextInt(3);
        Pair of = one(() -> pick("t", "u"), () -> pick("'ABC-12'"));
        return new Pair(
                "OVERLAY(" + of.ours() + " PLACING 'xy' FROM " + start + " FOR 1)",
                "CASE WHEN CHAR_LENGTH(" + of.theirs() + ") < " + start + " THEN " + of.theirs()
                        + " || 'xy' ELSE INSERT(" + of.theirs() + ", " + start + ", 1, 'xy') END");
    }

    private Pair regex(String ours, String theirs, Pair of) {
        return Pair.of(ours, theirs, from(REGEXES), of);
    }

    Pair truth(int depth) {
        if (depth == 0) {
            return one(
                    () -> pick("b", "TRUE", "FALSE"),
                    () -> new Pair("UNKNOWN", "NULL"),
                    () -> Pair.of("(%s %s %s)", number(0), sign(), number(0)));
        }
        int d = depth - 1;
        return one(
                () -> Pair.of("(%s %s %s)", number(d), sign(), number(d)),
                () -> Pair.of("(%s %s %s)", text(d), sign(), text(d)),
                () -> Pair.of("(%s %s %s)", day(d), sign(), day(d)),
                () -> Pair.of("(%s AND %s)", truth(d), truth(d)),
                () -> Pair.of("(%s OR %s)", truth(d), truth(d)),
                () -> Pair.of("(NOT %s)", truth(d)),
                () -> Pair.of(
                        "(%s IS %s)",
                        truth(d), pick("TRUE", "NOT TRUE", "FALSE", "NOT FALSE", "UNKNOWN", "NOT UNKNOWN")),
                () -> Pair.of("(%s IS NULL)", text(d)),
                () -> Pair.of("(%s IS NOT NULL)", number(d)),
                () -> Pair.of("(%s BETWEEN %s AND %s)", number(d), number(d), number(d)),
                () -> Pair.of("(%s NOT BETWEEN %s AND %s)", text(d), text(d), text(d)),
                () -> Pair.of("(%s IN (%s, %s, %s))", number(d), number(d), number(d), number(d)),
                () -> Pair.of("(%s NOT IN (%s, %s))", text(d), text(d), text(d)),
                () -> Pair.of("(%s IS DISTINCT FROM %s)", "(NOT %s <=> %s)", number(d), number(d)),
                () -> Pair.of("(%s IS NOT DISTINCT FROM %s)", "(%s <=> %s)", text(d), text(d)),
                () -> Pair.of("(%s LIKE %s)", text(d), from(PATTERNS)),
                () -> Pair.of("(%s NOT LIKE '%%!%%' ESCAPE '!')", text(d)),
                () -> Pair.of("(%s LIKE_REGEX %s)", "(%s REGEXP %s)", text(d), from(REGEXES)));
    }

    private Pair sign() {
        return pick("=", "<>", "<", "<=", ">", ">=");
    }

    Pair day(int depth) {
        if (depth == 0) {
            return pick("day", "later", "DATE '2024-02-29'", "DATE '1999-12-31'");
        }
        int d = depth - 1;
        return one(
                () -> Pair.of("(%s + INTERVAL '%s' %s)", day(d), whole(0, 400), pick("DAY", "MONTH")),
                () -> Pair.of("(%s - INTERVAL '%s' %s)", day(d), whole(0, 40), pick("DAY", "MONTH", "YEAR")),
                () -> Pair.of("CAST(at AS DATE)"),
                () -> Pair.of("CAST(CAST(%s AS CHAR(10)) AS DATE)", day(d)),
                () -> Pair.of(
                        "CAST(%s AS DATE FORMAT 'DD.MM.YYYY')",
                        "STR_TO_DATE(%s, '%%d.%%m.%%Y')", pick("'23.11.2026'", "'01.02.2003'", "'29.02.2024'")),
                () -> Pair.of("COALESCE(%s, %s)", day(d), day(d)),
                () -> Pair.of("NULLIF(%s, %s)", day(d), day(d)),
                () -> Pair.of("LEAST(%s, %s)", day(d), day(d)),
                () -> Pair.of("CASE WHEN %s THEN %s ELSE %s END", truth(d), day(d), day(d)));
    }
}
