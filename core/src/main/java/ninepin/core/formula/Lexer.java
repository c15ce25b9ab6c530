package ninepin.core.formula;

import java.util.ArrayList;
import java.util.List;

/** Cuts a formula into words and signs. */
final class Lexer {

    private static final String[] SIGNS = {"||", "<>", "<=", ">=", "=", "<", ">", "+", "-", "*", "/", "(", ")", ",", "."
    };

    /** A chain of operators nests as deep as it has parts, and is evaluated so. */
    private static final int MOST_TOKENS = 3_000;

    private final String text;
    private final List<Token> tokens = new ArrayList<>();
    private int at;

    private Lexer(String text) {
        this.text = text;
    }

    static List<Token> of(String text) {
        Lexer lexer = new Lexer(text);
        while (lexer.passBlanks()) {
            lexer.take();
            if (lexer.tokens.size() > MOST_TOKENS) {
                throw new FormulaException(
                        lexer.at, text.length(), "A formula has at most " + MOST_TOKENS + " words and signs.");
            }
        }
        lexer.add(Token.Kind.END, "", lexer.at);
        return lexer.tokens;
    }

    private void add(Token.Kind kind, String content, int from) {
        tokens.add(new Token(kind, content, from, at));
    }

    /** Passes over blanks and comments; false at the end. */
    private boolean passBlanks() {
        while (at < text.length()) {
            if (Character.isWhitespace(text.charAt(at))) {
                at++;
            } else if (text.startsWith("--", at)) {
                int end = text.indexOf('\n', at);
                at = end < 0 ? text.length() : end;
            } else if (text.startsWith("/*", at)) {
                int end = text.indexOf("*/", at + 2);
                if (end < 0) {
                    throw new FormulaException(at, text.length(), "This comment is not closed; */ is missing.");
                }
                at = end + 2;
            } else {
                return true;
            }
        }
        return false;
    }

    private void take() {
        int from = at;
        char c = text.charAt(at);
        if (Character.isLetter(c) || c == '_') {
            add(Token.Kind.WORD, word(), from);
        } else if (isDigit(at) || c == '.' && isDigit(at + 1)) {
            number();
        } else if (c == '\'' || c == '"') {
            quoted(c);
        } else if (c == ':' && at + 1 < text.length() && isNameStart(text.charAt(at + 1))) {
            at++;
            String name = word();
            add(Token.Kind.HOST, name, from);
        } else {
            sign();
        }
    }

    private static boolean isNameStart(char c) {
        return Character.isLetter(c) || c == '_';
    }

    private String word() {
        int from = at;
        while (at < text.length() && (Character.isLetterOrDigit(text.charAt(at)) || text.charAt(at) == '_')) {
            at++;
        }
        return text.substring(from, at);
    }

    private boolean isDigit(int place) {
        return place < text.length() && text.charAt(place) >= '0' && text.charAt(place) <= '9';
    }

    private void number() {
        int from = at;
        boolean point = false;
        while (isDigit(at) || at < text.length() && text.charAt(at) == '.' && !point) {
            point |= text.charAt(at) == '.';
            at++;
        }
        if (at < text.length() && isNameStart(text.charAt(at))) {
            char c = text.charAt(at);
            int end = at;
            word();
            throw new FormulaException(
                    from,
                    at,
                    (c == 'e' || c == 'E')
                                    && (isDigit(end + 1) || at < text.length() && "+-".indexOf(text.charAt(at)) >= 0)
                            ? "Numbers are exact here: write this one out instead of with an exponent."
                            : "A name cannot begin with a digit; a name like that is written in double quotes.");
        }
        add(Token.Kind.NUMBER, text.substring(from, at), from);
    }

    private void quoted(char quote) {
        int from = at++;
        StringBuilder content = new StringBuilder();
        while (true) {
            int end = text.indexOf(quote, at);
            if (end < 0) {
                at = text.length();
                throw new FormulaException(
                        from,
                        at,
                        quote == '\''
                                ? "This text is not closed; a ' is missing at its end."
                                : "This name is not closed; a \" is missing at its end.");
            }
            content.append(text, at, end);
            at = end + 1;
            if (at >= text.length() || text.charAt(at) != quote) {
                break;
            }
            content.append(quote);
            at++;
        }
        add(quote == '\'' ? Token.Kind.TEXT : Token.Kind.QUOTED, content.toString(), from);
    }

    private void sign() {
        int from = at;
        for (String sign : SIGNS) {
            if (text.startsWith(sign, at)) {
                at += sign.length();
                add(Token.Kind.SIGN, sign, from);
                return;
            }
        }
        String hint =
                switch (text.charAt(at)) {
                    case '!' -> " Unequal is written <>.";
                    case '&' -> " Texts are joined with ||.";
                    case '%' -> " The rest of a division is MOD(a, b).";
                    case '[', ']' -> " A field name with blanks is written in double quotes.";
                    default -> "";
                };
        int end = text.offsetByCodePoints(at, 1);
        throw new FormulaException(from, end, "There is no sign " + text.substring(at, end) + "." + hint);
    }
}
