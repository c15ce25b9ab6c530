package ninepin.core.formula;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

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
        if (text.startsWith("U&'", at) || text.startsWith("u&'", at)) {
            at += 2;
            unicode(from);
        } else if (Character.isLetter(c) || c == '_') {
            add(Token.Kind.WORD, word(), from);
        } else if (isDigit(at) || c == '.' && isDigit(at + 1)) {
            number();
        } else if (c == '\'' || c == '"') {
            add(c == '\'' ? Token.Kind.TEXT : Token.Kind.QUOTED, quoted(c), from);
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

    /** A text in which characters stand by their numbers: {@code U&'\00F6'}, or with another sign behind UESCAPE. */
    private void unicode(int from) {
        String content = quoted('\'');
        int end = at;
        char escape = '\\';
        int word = passBlanks() ? at : end;
        if (text.regionMatches(true, word, "UESCAPE", 0, 7)) {
            at = word + 7;
            int named = passBlanks() ? at : end;
            String sign = named < text.length() && text.charAt(named) == '\'' ? quoted('\'') : "";
            if (!sign.matches("[^0-9A-Fa-f+'\"\\s]")) {
                throw new FormulaException(
                        word, at, "Behind UESCAPE stands one sign that is no hexadecimal digit, such as '!'.");
            }
            escape = sign.charAt(0);
        } else {
            at = end;
        }
        add(Token.Kind.TEXT, unescaped(content, escape, from), from);
    }

    private String unescaped(String content, char escape, int from) {
        Matcher escapes = Pattern.compile("(?s)" + Pattern.quote(String.valueOf(escape))
                        + "(?<same>" + Pattern.quote(String.valueOf(escape))
                        + ")?(?:(?<four>[0-9A-Fa-f]{4})|\\+(?<six>[0-9A-Fa-f]{6}))?")
                .matcher(content);
        StringBuilder out = new StringBuilder();
        int behind = 0;
        while (escapes.find(behind)) {
            out.append(content, behind, escapes.start());
            if (escapes.group("same") != null) {
                out.append(escape);
                behind = escapes.end("same");
            } else {
                String digits = escapes.group("four") != null ? escapes.group("four") : escapes.group("six");
                int point = digits == null ? -1 : Integer.parseInt(digits, 16);
                if (!Character.isValidCodePoint(point)) {
                    throw new FormulaException(
                            from,
                            at,
                            "Behind " + escape
                                    + " stand the four hexadecimal digits of a character, + and six of them, or "
                                    + escape + " again.");
                }
                out.appendCodePoint(point);
                behind = escapes.end();
            }
        }
        out.append(content, behind, content.length());
        if (out.codePoints().anyMatch(c -> c >= Character.MIN_SURROGATE && c <= Character.MAX_SURROGATE)) {
            throw new FormulaException(from, at, "This is half a character; its other half is missing.");
        }
        return out.toString();
    }

    /** What stands between two quotes, of which two stand for one. */
    private String quoted(char quote) {
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
        return content.toString();
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
