package ninepin.core.formula;

import java.util.List;
import java.util.Locale;

/** The tokens of a formula, taken one after the other. */
final class Cursor {

    /** How deep parentheses, calls and operators may nest. */
    private static final int MOST_DEPTH = 200;

    private final List<Token> tokens;
    private int at;
    private int depth;

    Cursor(List<Token> tokens) {
        this.tokens = tokens;
    }

    Token peek() {
        return tokens.get(at);
    }

    Token ahead(int by) {
        return tokens.get(Math.max(0, Math.min(at + by, tokens.size() - 1)));
    }

    Token next() {
        Token token = tokens.get(at);
        at = Math.min(at + 1, tokens.size() - 1);
        return token;
    }

    /** Where the token before ended. */
    int end() {
        return at == 0 ? 0 : tokens.get(at - 1).to();
    }

    boolean takeWord(String word) {
        if (peek().isWord(word)) {
            next();
            return true;
        }
        return false;
    }

    boolean takeSign(String sign) {
        if (peek().isSign(sign)) {
            next();
            return true;
        }
        return false;
    }

    void expectSign(String sign, String why) {
        if (!takeSign(sign)) {
            throw unexpected("expected " + sign + " " + why);
        }
    }

    void expectWord(String word, String why) {
        if (!takeWord(word)) {
            throw unexpected("expected " + word + " " + why);
        }
    }

    FormulaException unexpected(String expected) {
        Token t = peek();
        return new FormulaException(t.from(), t.to(), "Found " + t.shown() + ", " + expected + ".");
    }

    String upper() {
        return peek().text().toUpperCase(Locale.ROOT);
    }

    void deeper() {
        if (++depth > MOST_DEPTH) {
            throw new FormulaException(
                    peek().from(), peek().to(), "This nests more than " + MOST_DEPTH + " deep; split the formula.");
        }
    }

    void back() {
        depth--;
    }
}
