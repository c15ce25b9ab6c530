package ninepin.core.deliver.database;

import ninepin.core.deliver.DatabaseKind;
import ninepin.core.layout.DefinitionException;

/** Finds where quotes and comments of a statement end, as a kind of database reads them. */
abstract class SqlScanner {

    private final String part;
    final String text;

    /**
     * @param part what the statement is part of, for messages
     */
    SqlScanner(String part, String text) {
        this.part = part;
        this.text = text;
    }

    static SqlScanner of(DatabaseKind kind, String part, String text) {
        return switch (kind) {
            case MARIADB -> new OfMariaDb(part, text);
            // Of others it is not known; the standard has no backslashes and no quotes of other kinds.
            case POSTGRESQL, OTHER -> new OfPostgreSql(part, text);
        };
    }

    /** The place behind what is quoted or a comment, or the place itself. */
    abstract int behind(int at);

    static boolean isName(char c, boolean first) {
        return c == '_' || Character.isLetter(c) || !first && (Character.isDigit(c) || c == '$');
    }

    /** Whether a name ends right before a place, so that what stands there goes on with it. */
    boolean inName(int at) {
        return at > 0 && isName(text.charAt(at - 1), false);
    }

    int lineEnd(int at) {
        int end = text.indexOf('\n', at);
        return end < 0 ? text.length() : end;
    }

    int behindQuote(int at, boolean backslashes) {
        char quote = text.charAt(at);
        for (int i = at + 1; i < text.length(); i++) {
            if (text.charAt(i) == quote) {
                return i + 1;
            }
            if (backslashes && text.charAt(i) == '\\') {
                i++;
            }
        }
        throw notClosed("a quote is");
    }

    int behind(String close, int from, String what) {
        int end = text.indexOf(close, from);
        if (end < 0) {
            throw notClosed(what);
        }
        return end + close.length();
    }

    DefinitionException notClosed(String what) {
        return refused(what + " not closed");
    }

    DefinitionException refused(String why) {
        return new DefinitionException(part, why);
    }

    private static final class OfMariaDb extends SqlScanner {

        OfMariaDb(String part, String text) {
            super(part, text);
        }

        @Override
        int behind(int at) {
            char c = text.charAt(at);
            if (c == '\'' || c == '"') {
                return behindQuote(at, true);
            }
            if (c == '`') {
                return behindQuote(at, false);
            }
            boolean line = c == '#'
                    || text.startsWith("--", at)
                            && (at + 2 == text.length() || text.charAt(at + 2) <= ' ' || text.charAt(at + 2) == 127);
            if (line) {
                return lineEnd(at);
            }
            if (text.startsWith("/*", at)) {
                if (text.startsWith("!", at + 2) || text.startsWith("M!", at + 2)) {
                    throw refused("has a comment that the server would run; write what it says without /*!");
                }
                return behind("*/", at + 2, "a comment is");
            }
            return at;
        }
    }

    private static final class OfPostgreSql extends SqlScanner {

        OfPostgreSql(String part, String text) {
            super(part, text);
        }

        @Override
        int behind(int at) {
            char c = text.charAt(at);
            if (c == '\'') {
                boolean escapes =
                        at > 0 && (text.charAt(at - 1) == 'E' || text.charAt(at - 1) == 'e') && !inName(at - 1);
                return behindQuote(at, escapes);
            }
            if (c == '"') {
                return behindQuote(at, false);
            }
            if (text.startsWith("--", at)) {
                return lineEnd(at);
            }
            if (text.startsWith("/*", at)) {
                return behindNested(at);
            }
            if (c == '$' && !inName(at)) {
                int end = at + 1;
                while (end < text.length() && text.charAt(end) != '$' && isName(text.charAt(end), end == at + 1)) {
                    end++;
                }
                if (end < text.length() && text.charAt(end) == '$') {
                    return behind(text.substring(at, end + 1), end + 1, "a quoted body is");
                }
            }
            return at;
        }

        private int behindNested(int at) {
            int depth = 0;
            for (int i = at; i + 1 < text.length(); i++) {
                if (text.startsWith("/*", i)) {
                    depth++;
                    i++;
                } else if (text.startsWith("*/", i)) {
                    i++;
                    if (--depth == 0) {
                        return i + 1;
                    }
                }
            }
            throw notClosed("a comment is");
        }
    }
}
