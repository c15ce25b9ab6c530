package ninepin.core.formula;

/**
 * A word or sign of a formula.
 *
 * @param kind what it is
 * @param text a word as written, the content of a literal or of a quoted name, or the sign
 * @param from its first character in the formula, from 0
 * @param to the character after its last
 */
record Token(Kind kind, String text, int from, int to) {

    enum Kind {
        WORD,
        QUOTED,
        TEXT,
        NUMBER,
        HOST,
        SIGN,
        END
    }

    boolean isWord(String word) {
        return kind == Kind.WORD && text.equalsIgnoreCase(word);
    }

    boolean isSign(String sign) {
        return kind == Kind.SIGN && text.equals(sign);
    }

    /** How it is spoken of in a message. */
    String shown() {
        return switch (kind) {
            case END -> "the end of the formula";
            case TEXT -> "the text '" + (text.length() > 30 ? text.substring(0, 30) + "…" : text) + "'";
            case QUOTED -> "the name \"" + text + "\"";
            case HOST -> ":" + text;
            default -> text;
        };
    }
}
