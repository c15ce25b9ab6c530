package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import ninepin.core.deliver.DatabaseKind;
import ninepin.core.layout.DefinitionException;

/**
 * A statement that a person has written, with host variables: {@code :name} outside of quotes and comments stands for a
 * value that is bound, never put into the text. It is one statement as its database reads it; see {@link SqlScanner}.
 *
 * @param part what it is part of, for messages
 * @param kind the kind of database that it is for
 * @param text the statement as it was written
 * @param sql the statement with a question mark for each variable
 * @param variables the names of the variables, in order
 * @param words the words outside of quotes and comments, in upper case
 */
public record HostedSql(
        String part, DatabaseKind kind, String text, String sql, List<String> variables, List<String> words) {

    /** How what only asks begins. */
    private static final Set<String> ASKING = Set.of("SELECT", "WITH", "VALUES", "TABLE");
    /** What would end the transaction that rows and mark are part of, or begin another. */
    private static final Set<String> OF_TRANSACTIONS = Set.of(
            "COMMIT",
            "ROLLBACK",
            "BEGIN",
            "START",
            "END",
            "ABORT",
            "SAVEPOINT",
            "RELEASE",
            "XA",
            "DISCARD",
            "PREPARE",
            "EXECUTE",
            "DEALLOCATE");
    /** What would change how the connection reads statements or commits. */
    private static final Set<String> OF_SESSIONS =
            Set.of("AUTOCOMMIT", "TRANSACTION", "SQL_MODE", "STANDARD_CONFORMING_STRINGS", "BACKSLASH_QUOTE");

    /** What databases that run inside of this process know to reach its files, or to run code in it, as far as known. */
    private static final Set<String> OF_THIS_PROCESS = Set.of(
            "ALIAS",
            "ATTACH",
            "BACKUP",
            "CSVREAD",
            "CSVWRITE",
            "FILE_READ",
            "FILE_WRITE",
            "LOAD_EXTENSION",
            "READFILE",
            "RUNSCRIPT",
            "SCRIPT",
            "VACUUM",
            "WRITEFILE");

    public HostedSql {
        variables = List.copyOf(variables);
        words = List.copyOf(words);
    }

    /**
     * Reads a statement.
     *
     * @param part what it is part of, for messages
     * @param kind the kind of database that it is for
     * @throws DefinitionException where it is not one statement, or reads or writes files of a machine
     */
    public static HostedSql parse(String part, DatabaseKind kind, String text) {
        if (text == null || text.isBlank()) {
            throw new DefinitionException(part, "has no statement");
        }
        String body = text.strip();
        body = body.endsWith(";") ? body.substring(0, body.length() - 1) : body;
        StringBuilder sql = new StringBuilder();
        List<String> names = new ArrayList<>();
        List<String> words = new ArrayList<>();
        SqlScanner scanner = SqlScanner.of(kind, part, body);
        int at = 0;
        while (at < body.length()) {
            int behind = scanner.behind(at);
            if (behind > at) {
                sql.append(body, at, behind);
                at = behind;
                continue;
            }
            char c = body.charAt(at);
            if (c == ';') {
                throw scanner.refused("is one statement; what stands behind \";\" is another");
            }
            if (c == '?') {
                throw scanner.refused("has a question mark; write a host variable, as in :today");
            }
            boolean variable = c == ':' && !body.startsWith("::", at) && (at == 0 || body.charAt(at - 1) != ':');
            int from = variable ? at + 1 : at;
            int end = from;
            while (end < body.length() && SqlScanner.isName(body.charAt(end), end == from && !scanner.inName(at))) {
                end++;
            }
            if (variable && end > from) {
                names.add(body.substring(from, end));
                sql.append('?');
                at = end;
            } else if (!variable && end > from) {
                words.add(body.substring(from, end).toUpperCase(Locale.ROOT));
                sql.append(body, from, end);
                at = end;
            } else {
                sql.append(c);
                at++;
            }
        }
        HostedSql read = new HostedSql(part, kind, text, sql.toString(), names, words);
        read.refuseFiles();
        return read;
    }

    private String firstWord() {
        return words.isEmpty() ? "" : words.get(0);
    }

    private void refuseFiles() {
        boolean copies = firstWord().equals("COPY") || firstWord().equals("LOAD");
        if (copies || words.contains("OUTFILE") || words.contains("DUMPFILE") || words.contains("INFILE")) {
            throw refused("reads or writes a file of a machine, which statements may not");
        }
        if (kind == DatabaseKind.OTHER && words.stream().anyMatch(OF_THIS_PROCESS::contains)) {
            throw refused("reaches files of this machine, or runs code on it, which statements may not");
        }
    }

    /**
     * Requires that it only asks.
     *
     * @return itself
     */
    public HostedSql requireQuestion() {
        if (!ASKING.contains(firstWord())) {
            throw refused("begins with none of SELECT, WITH, VALUES and TABLE, so it is no question");
        }
        if (words.contains("INTO")) {
            throw refused("puts its rows INTO something; a question gives them back");
        }
        return this;
    }

    /**
     * Requires that the transactions stay as Ninepin makes them.
     *
     * @return itself
     */
    HostedSql requirePartOfTransaction() {
        boolean locks = kind == DatabaseKind.MARIADB
                && (firstWord().equals("LOCK") || firstWord().equals("UNLOCK"));
        boolean sets = firstWord().equals("SET") && words.stream().anyMatch(OF_SESSIONS::contains);
        if (OF_TRANSACTIONS.contains(firstWord()) || locks || sets) {
            throw refused("begins, ends or changes a transaction, which rows and their mark are one of");
        }
        return this;
    }

    private DefinitionException refused(String why) {
        return new DefinitionException(part, why);
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
        dialect.keepFromFiles(statement);
        bind(dialect, statement, values);
        return statement;
    }

    /** Gives a prepared statement the values of its variables. */
    void bind(Dialect dialect, PreparedStatement statement, Map<String, String> values) throws SQLException {
        for (int i = 0; i < variables.size(); i++) {
            dialect.bind(statement, i + 1, values.get(variables.get(i)));
        }
    }
}
