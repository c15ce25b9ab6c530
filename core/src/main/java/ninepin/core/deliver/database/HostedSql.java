package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import ninepin.core.layout.DefinitionException;

/**
 * A statement that a person has written, with host variables: {@code :name} outside of quotes and comments stands for a
 * value that is bound, never put into the text.
 *
 * @param text the statement as it was written
 * @param sql the statement with a question mark for each variable
 * @param variables the names of the variables, in order
 */
public record HostedSql(String text, String sql, List<String> variables) {

    public HostedSql {
        variables = List.copyOf(variables);
    }

    /**
     * Reads a statement.
     *
     * @param part what it is part of, for messages
     */
    public static HostedSql parse(String part, String text) {
        if (text == null || text.isBlank()) {
            throw new DefinitionException(part, "has no statement");
        }
        String body = text.strip();
        body = body.endsWith(";") ? body.substring(0, body.length() - 1) : body;
        StringBuilder sql = new StringBuilder();
        List<String> names = new ArrayList<>();
        int at = 0;
        while (at < body.length()) {
            int behind = behindQuoted(part, body, at);
            if (behind > at) {
                sql.append(body, at, behind);
                at = behind;
                continue;
            }
            char c = body.charAt(at);
            if (c == ';') {
                throw new DefinitionException(part, "is one statement; what stands behind \";\" is another");
            }
            if (c == '?') {
                throw new DefinitionException(part, "has a question mark; write a host variable, as in :today");
            }
            boolean cast = c == ':' && (body.startsWith("::", at) || at > 0 && body.charAt(at - 1) == ':');
            int end = at + 1;
            while (end < body.length() && isName(body.charAt(end), end == at + 1)) {
                end++;
            }
            if (c == ':' && !cast && end > at + 1) {
                names.add(body.substring(at + 1, end));
                sql.append('?');
                at = end;
            } else {
                sql.append(c);
                at++;
            }
        }
        return new HostedSql(text, sql.toString(), names);
    }

    private static boolean isName(char c, boolean first) {
        return c == '_' || Character.isLetter(c) || !first && Character.isDigit(c);
    }

    /** The place behind what is quoted or a comment, or the place itself. */
    private static int behindQuoted(String part, String text, int at) {
        char c = text.charAt(at);
        if (c == '\'' || c == '"' || c == '`') {
            return behind(part, text, at + 1, String.valueOf(c), "a quote is");
        }
        if (text.startsWith("--", at)) {
            int end = text.indexOf('\n', at);
            return end < 0 ? text.length() : end;
        }
        if (text.startsWith("/*", at)) {
            return behind(part, text, at + 2, "*/", "a comment is");
        }
        if (text.startsWith("$$", at)) {
            return behind(part, text, at + 2, "$$", "a quoted body is");
        }
        return at;
    }

    private static int behind(String part, String text, int from, String close, String what) {
        int end = text.indexOf(close, from);
        if (end < 0) {
            throw new DefinitionException(part, what + " not closed");
        }
        return end + close.length();
    }

    /** The variables that have no value among some. */
    public List<String> unknown(Map<String, String> values) {
        return variables.stream().filter(v -> !values.containsKey(v)).distinct().toList();
    }

    /** Prepares it with its values. */
    PreparedStatement prepare(Dialect dialect, Connection connection, Map<String, String> values) throws SQLException {
        return prepare(dialect, connection, sql, values);
    }

    /** Prepares a statement that this one stands in, with its values. */
    PreparedStatement prepare(Dialect dialect, Connection connection, String around, Map<String, String> values)
            throws SQLException {
        PreparedStatement statement = connection.prepareStatement(around);
        for (int i = 0; i < variables.size(); i++) {
            dialect.bind(statement, i + 1, values.get(variables.get(i)));
        }
        return statement;
    }
}
