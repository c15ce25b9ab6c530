package ninepin.core.formula;

import java.util.ArrayList;
import java.util.List;
import ninepin.core.formula.SqlType.Kind;

/** Reads what has words of its own between its parts: CASE, CAST, SUBSTRING … FROM …, literals of dates, and so on. */
final class WordyFunctions {

    static final List<String> NAMES = List.of(
            "CASE",
            "CAST",
            "COALESCE",
            "NULLIF",
            "GREATEST",
            "LEAST",
            "SUBSTRING",
            "TRIM",
            "POSITION",
            "OVERLAY",
            "EXTRACT",
            "SUBSTRING_REGEX",
            "REPLACE_REGEX",
            "CURRENT_DATE",
            "TRANSLATE",
            "COUNT",
            "SUM",
            "MIN",
            "MAX",
            "AVG");

    private final Parser parser;
    private final Moments moments;

    WordyFunctions(Parser parser) {
        this.parser = parser;
        this.moments = new Moments(parser);
    }

    /** Whether a word begins one of these, and no field. */
    boolean begins(String word, Token next) {
        return switch (word) {
            case "CASE", "NULL", "TRUE", "FALSE", "UNKNOWN", "CURRENT_DATE", "INTERVAL" -> true;
            case "DATE", "TIME", "TIMESTAMP" -> next.kind() == Token.Kind.TEXT;
            default -> next.isSign("(") && NAMES.contains(word);
        };
    }

    Expr read(String word) {
        Cursor cursor = parser.cursor;
        int from = cursor.next().from();
        Expr made =
                switch (word) {
                    case "NULL" -> new Constant(SqlType.NOTHING);
                    case "UNKNOWN" -> new Constant(SqlType.BOOLEAN);
                    case "TRUE", "FALSE" -> truth(word.equals("TRUE"));
                    case "CURRENT_DATE" -> moments.today();
                    case "DATE", "TIME", "TIMESTAMP" -> moments.literal(word);
                    case "INTERVAL" -> moments.interval();
                    case "CASE" -> choice(from);
                    case "COALESCE" -> coalesce(from);
                    case "NULLIF" -> nullIf(from);
                    case "GREATEST", "LEAST" -> extreme(word);
                    case "COUNT", "SUM", "MIN", "MAX", "AVG" -> new AggregateReader(parser).read(word, from);
                    default -> {
                        cursor.expectSign("(", "behind " + word);
                        Expr inner = inParentheses(word);
                        cursor.expectSign(")", "to close " + word);
                        yield inner;
                    }
                };
        return made.at(from, cursor.end());
    }

    private static Expr truth(boolean truth) {
        Constant constant = new Constant(SqlType.BOOLEAN);
        constant.value.set(truth);
        return constant;
    }

    private Expr inParentheses(String word) {
        return switch (word) {
            case "CAST" -> new CastReader(parser).read();
            case "SUBSTRING" -> substring();
            case "TRIM" -> trim();
            case "POSITION" -> position();
            case "OVERLAY" -> overlay();
            case "EXTRACT" -> moments.extract();
            case "TRANSLATE" -> new TranslateReader(parser).read();
            case "SUBSTRING_REGEX" -> substringRegex();
            default -> replaceRegex();
        };
    }

    private Expr text(Expr e, String of) {
        return parser.operators.require(Kind.CHARACTER, e, of);
    }

    private Expr number(Expr e, String of) {
        return parser.operators.require(Kind.NUMERIC, e, of);
    }

    /** {@code CASE WHEN … THEN … ELSE … END}, and {@code CASE x WHEN value THEN …}. */
    private Expr choice(int from) {
        Cursor cursor = parser.cursor;
        Expr operand = cursor.peek().isWord("WHEN") ? null : parser.expression();
        List<Expr> conditions = new ArrayList<>();
        List<Expr> results = new ArrayList<>();
        while (cursor.takeWord("WHEN")) {
            conditions.add(
                    operand == null
                            ? parser.operators.require(Kind.BOOLEAN, parser.expression(), "WHEN")
                            : oneOf(operand));
            cursor.expectWord("THEN", "behind the condition");
            results.add(parser.expression());
        }
        if (results.isEmpty()) {
            throw cursor.unexpected("expected WHEN");
        }
        Expr otherwise = cursor.takeWord("ELSE") ? parser.expression() : null;
        cursor.expectWord("END", "to close CASE");
        List<Expr> all = new ArrayList<>(results);
        if (otherwise != null) {
            all.add(otherwise);
        }
        return new Logic.Choice(together("CASE", all, from), conditions, results, otherwise);
    }

    /** Whether a value is one of those behind WHEN, between commas. */
    private Expr oneOf(Expr operand) {
        Expr any = parser.operators.comparison("=", operand, parser.expression());
        while (parser.cursor.takeSign(",")) {
            any = parser.operators.junction("OR", any, parser.operators.comparison("=", operand, parser.expression()));
        }
        return any;
    }

    /** The type that holds the values of all. */
    private SqlType together(String of, List<Expr> all, int from) {
        SqlType type = SqlType.NOTHING;
        for (Expr e : all) {
            if (!type.goesWith(e.type)) {
                throw new FormulaException(
                        from,
                        e.to,
                        of + " gives " + type.kind().words + " here and " + e.type.kind().words
                                + " there; all its values have to be of one kind.");
            }
            type = type.union(e.type);
        }
        return type;
    }

    private Expr coalesce(int from) {
        List<Expr> args = parser.arguments();
        if (args.isEmpty()) {
            throw parser.cursor.unexpected("expected values in COALESCE");
        }
        return new Logic.Choice(together("COALESCE", args, from), List.of(), args, null);
    }

    private Expr nullIf(int from) {
        List<Expr> args = parser.arguments();
        if (args.size() != 2) {
            throw new FormulaException(from, parser.cursor.end(), "NULLIF takes 2 arguments, not " + args.size() + ".");
        }
        Expr equal = parser.operators.comparison("=", args.get(0), args.get(1));
        return new Logic.Choice(args.get(0).type, List.of(equal), List.of(new Constant(SqlType.NOTHING)), args.get(0));
    }

    private Expr extreme(String word) {
        int from = parser.cursor.peek().from();
        List<Expr> args = parser.arguments();
        if (args.isEmpty()) {
            throw parser.cursor.unexpected("expected values in " + word);
        }
        SqlType type = together(word, args, from);
        int sign = word.equals("GREATEST") ? 1 : -1;
        return new Strict(
                type,
                (self, in, out) -> {
                    Datum best = in[0];
                    for (Datum d : in) {
                        best = sign * Comparison.compare(type.kind(), d, best) > 0 ? d : best;
                    }
                    out.setTo(best);
                    if (type.is(Kind.NUMERIC)) {
                        Numbers.setExact(self, best.decimal(), out);
                    }
                },
                args.toArray(Expr[]::new));
    }

    private Expr substring() {
        Cursor cursor = parser.cursor;
        Expr of = text(parser.expression(), "SUBSTRING");
        cursor.expectWord("FROM", "before the first character");
        Expr start = number(parser.expression(), "FROM");
        if (!cursor.takeWord("FOR")) {
            return new Strict(of.type, (s, in, out) -> Texts.substring(s, in[0], in[1], null, out), of, start);
        }
        Expr length = number(parser.expression(), "FOR");
        SqlType type = length instanceof Constant c && !c.value.isNull() && c.value.scale == 0
                ? SqlType.text(Math.max(1, Math.min(of.type.precision(), c.value.number)))
                : of.type;
        return new Strict(type, (s, in, out) -> Texts.substring(s, in[0], in[1], in[2], out), of, start, length);
    }

    /** {@code TRIM(x)}, {@code TRIM('0' FROM x)}, {@code TRIM(LEADING '0' FROM x)}. */
    private Expr trim() {
        Cursor cursor = parser.cursor;
        String word = cursor.upper();
        boolean side = List.of("LEADING", "TRAILING", "BOTH").contains(word)
                && !cursor.ahead(1).isSign(")")
                && !cursor.ahead(1).isSign("|");
        if (side) {
            cursor.next();
        }
        boolean start = !side || !word.equals("TRAILING");
        boolean end = !side || !word.equals("LEADING");
        Expr character = Constant.of(" ");
        Expr of;
        if (side && cursor.takeWord("FROM")) {
            of = parser.expression();
        } else {
            of = parser.expression();
            if (cursor.takeWord("FROM")) {
                character = text(of, "TRIM");
                of = parser.expression();
            } else if (side) {
                throw cursor.unexpected("expected FROM and the text to trim");
            }
        }
        text(of, "TRIM");
        return new Strict(of.type, (s, in, out) -> Texts.trim(s, in[0], in[1], start, end, out), of, character);
    }

    private Expr position() {
        Expr wanted = text(parser.sum(), "POSITION");
        parser.cursor.expectWord("IN", "between what is looked for and the text");
        Expr of = text(parser.expression(), "POSITION");
        return new Strict(SqlType.COUNT, (s, in, out) -> Texts.position(in[0], in[1], out), wanted, of);
    }

    private Expr overlay() {
        Cursor cursor = parser.cursor;
        Expr of = text(parser.expression(), "OVERLAY");
        cursor.expectWord("PLACING", "before the replacement");
        Expr by = text(parser.expression(), "PLACING");
        cursor.expectWord("FROM", "before the first character");
        Expr start = number(parser.expression(), "FROM");
        SqlType type = SqlType.text((long) of.type.precision() + by.type.precision());
        if (!cursor.takeWord("FOR")) {
            return new Strict(type, (s, in, out) -> Texts.overlay(s, in[0], in[1], in[2], null, out), of, by, start);
        }
        Expr length = number(parser.expression(), "FOR");
        return new Strict(
                type, (s, in, out) -> Texts.overlay(s, in[0], in[1], in[2], in[3], out), of, by, start, length);
    }

    /** The right side of {@code LIKE_REGEX}. */
    Expr likeRegex(Expr of) {
        text(of, "LIKE_REGEX");
        Regex regex = regex("LIKE_REGEX");
        return new Strict(SqlType.BOOLEAN, (self, in, out) -> out.set(regex.matches(self, in[0].text)), of);
    }

    private Regex regex(String of) {
        Constant pattern = textLiteral(of, "a regular expression as a text, such as '^[A-Z]+$'");
        return new Regex(pattern, parser.cursor.takeWord("FLAG") ? textLiteral("FLAG", "flags such as 'i'") : null);
    }

    private Constant textLiteral(String of, String what) {
        Token token = parser.cursor.peek();
        if (token.kind() != Token.Kind.TEXT) {
            throw parser.cursor.unexpected("and " + of + " wants " + what);
        }
        parser.cursor.next();
        Constant constant = Constant.of(token.text());
        constant.at(token.from(), token.to());
        return constant;
    }

    /** {@code SUBSTRING_REGEX('[0-9]+' IN x OCCURRENCE 2)}; NULL where there is no such match. */
    private Expr substringRegex() {
        Regex regex = regex("SUBSTRING_REGEX");
        parser.cursor.expectWord("IN", "before the text");
        Expr of = text(parser.expression(), "SUBSTRING_REGEX");
        Expr occurrence = null;
        if (parser.cursor.takeWord("OCCURRENCE")) {
            occurrence = number(parser.expression(), "OCCURRENCE");
        }
        return occurrence == null
                ? new Strict(of.type, (self, in, out) -> out.set(regex.substring(self, in[0].text, 1)), of)
                : new Strict(
                        of.type,
                        (self, in, out) -> out.set(regex.substring(self, in[0].text, Texts.whole(self, in[1]))),
                        of,
                        occurrence);
    }

    /** {@code REPLACE_REGEX('[0-9]' IN x WITH '#')}: every match. */
    private Expr replaceRegex() {
        Regex regex = regex("REPLACE_REGEX");
        parser.cursor.expectWord("IN", "before the text");
        Expr of = text(parser.expression(), "REPLACE_REGEX");
        parser.cursor.expectWord("WITH", "before the replacement");
        Expr by = text(parser.expression(), "WITH");
        SqlType type = SqlType.text((of.type.precision() + 1L) * Math.max(1, by.type.precision()));
        return new Strict(type, (self, in, out) -> out.set(regex.replace(self, in[0].text, in[1].text)), of, by);
    }

    Moments moments() {
        return moments;
    }
}
