package ninepin.core.formula;

import java.util.List;
import ninepin.core.formula.SqlType.Kind;

/** Reads what stands in the parentheses of CAST. */
final class CastReader {

    private static final List<String> TYPES = List.of(
            "CHAR",
            "CHARACTER",
            "VARCHAR",
            "INTEGER",
            "INT",
            "SMALLINT",
            "BIGINT",
            "NUMERIC",
            "DECIMAL",
            "DEC",
            "DATE",
            "TIME",
            "TIMESTAMP",
            "BOOLEAN");

    private final Parser parser;
    private final Cursor cursor;
    /** Whether the type is a text of always as many characters. */
    private boolean fixed;

    CastReader(Parser parser) {
        this.parser = parser;
        this.cursor = parser.cursor;
    }

    Expr read() {
        Expr operand = parser.expression();
        cursor.expectWord("AS", "before the type");
        Token named = cursor.peek();
        SqlType type = type();
        Template template = cursor.takeWord("FORMAT") ? template(operand, type) : null;
        Expr cast = Casts.of(operand, type, template, parser.scope.today().getYear());
        if (cast == null) {
            throw new FormulaException(
                    named.from(),
                    named.to(),
                    "No " + type.kind().words.replaceFirst("^an? ", "") + " can be made of " + operand.type.kind().words
                            + ".");
        }
        return fixed ? filled(cast.at(operand.from, cursor.end())) : cast;
    }

    /** A text of CHAR, filled up with blanks. */
    private static Expr filled(Expr cast) {
        Datum length = new Datum().set(cast.type.precision());
        return new Strict(cast.type, (self, in, out) -> Texts.pad(self, in[0], length, " ", false, out), cast);
    }

    private Template template(Expr operand, SqlType type) {
        Token token = cursor.peek();
        if (token.kind() != Token.Kind.TEXT) {
            throw cursor.unexpected("and FORMAT wants a text such as 'DD.MM.YYYY'");
        }
        cursor.next();
        Constant text = Constant.of(token.text());
        text.at(token.from(), token.to());
        Template template = new Template(text);
        boolean writes = type.is(Kind.CHARACTER);
        Kind moment = writes ? operand.type.kind() : type.kind();
        boolean temporal = moment == Kind.DATE || moment == Kind.TIME || moment == Kind.TIMESTAMP;
        if (!temporal || !writes && !operand.is(Kind.CHARACTER) || !template.fits(moment)) {
            throw new FormulaException(
                    token.from(),
                    token.to(),
                    "This template does not go with " + moment.words + " and " + type.label() + ".");
        }
        return template;
    }

    private SqlType type() {
        String word = cursor.upper();
        Token token = cursor.peek();
        if (token.kind() != Token.Kind.WORD || !TYPES.contains(word)) {
            throw cursor.unexpected("expected a type: " + String.join(", ", TYPES)
                    + NearNames.hint(token.text(), TYPES).replace("?", ""));
        }
        cursor.next();
        switch (word) {
            case "CHAR", "CHARACTER", "VARCHAR":
                boolean varying = cursor.takeWord("VARYING") || word.equals("VARCHAR");
                SqlType text = SqlType.text(size(0, SqlType.MOST_CHARACTERS));
                fixed = !varying && text.precision() > 0;
                return text;
            case "SMALLINT":
                return SqlType.numeric(5, 0);
            case "INTEGER", "INT":
                return SqlType.numeric(10, 0);
            case "BIGINT":
                return SqlType.numeric(19, 0);
            case "NUMERIC", "DECIMAL", "DEC":
                return exact();
            case "DATE":
                return SqlType.DATE;
            case "TIME":
                return SqlType.time(size(0, 9));
            case "TIMESTAMP":
                return SqlType.timestamp(size(6, 9));
            default:
                return SqlType.BOOLEAN;
        }
    }

    private SqlType exact() {
        if (!cursor.takeSign("(")) {
            return SqlType.numeric(SqlType.MOST_DIGITS, 0);
        }
        int precision = whole(1, SqlType.MOST_DIGITS);
        int scale = cursor.takeSign(",") ? whole(0, precision) : 0;
        cursor.expectSign(")", "behind the digits");
        return SqlType.numeric(precision, scale);
    }

    private int size(int without, int most) {
        if (!cursor.takeSign("(")) {
            return without;
        }
        int size = whole(most == 9 ? 0 : 1, most);
        cursor.expectSign(")", "behind the length");
        return size;
    }

    private int whole(int least, int most) {
        Token token = cursor.peek();
        int number = token.kind() == Token.Kind.NUMBER && token.text().matches("[0-9]{1,7}")
                ? Integer.parseInt(token.text())
                : -1;
        if (number < least || number > most) {
            throw cursor.unexpected("expected a whole number from " + least + " to " + most);
        }
        cursor.next();
        return number;
    }
}
