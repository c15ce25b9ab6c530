package ninepin.server.codes;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.codes.CodeList;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.database.HostedSql;
import ninepin.core.layout.DefinitionException;

/** Reads the lines of a code list from a database, in a transaction that cannot write. */
public final class CodeQuery {

    private static final int SECONDS = 60;

    private CodeQuery() {}

    /**
     * What a query gave.
     *
     * @param columns the names of its columns
     * @param entries its rows
     */
    public record Read(List<String> columns, List<CodeList.Entry> entries) {}

    /**
     * Asks a query.
     *
     * @param most the most rows that are read
     */
    public static Read ask(DatabaseAddress database, CodeList.Query query, int most) throws TargetException {
        Dialect dialect = Dialect.of(database);
        HostedSql sql = HostedSql.parse("query.statement", database.kind(), query.statement())
                .requireQuestion();
        if (!sql.variables().isEmpty()) {
            throw new DefinitionException(
                    "query.statement",
                    "has the host variable :" + sql.variables().get(0) + "; a code list has no values for any");
        }
        try (Connection c = dialect.connect(database, Dialect.Use.QUESTIONS);
                Statement s = c.createStatement()) {
            dialect.beginQuestions(c);
            s.setQueryTimeout(SECONDS);
            s.setMaxRows(most);
            try (ResultSet r = s.executeQuery(sql.sql())) {
                List<String> columns = new ArrayList<>();
                for (int i = 1; i <= r.getMetaData().getColumnCount(); i++) {
                    columns.add(r.getMetaData().getColumnLabel(i));
                }
                List<CodeList.Entry> entries = new ArrayList<>();
                while (r.next()) {
                    List<String> values = new ArrayList<>();
                    for (int i = 1; i <= columns.size(); i++) {
                        values.add(dialect.text(r, i));
                    }
                    if (values.get(0) != null && !values.get(0).isEmpty()) {
                        entries.add(new CodeList.Entry(values, null, null));
                    }
                }
                return new Read(columns, entries);
            }
        } catch (SQLException e) {
            throw dialect.explain(e, "read the code list");
        }
    }

    /** A list with the lines its query gives now. */
    public static CodeList filled(CodeList list, DatabaseAddress database) throws TargetException {
        Read read = ask(database, list.query(), CodeList.MOST_ENTRIES + 1);
        if (read.columns().size() < list.columns().size()) {
            throw new DefinitionException(
                    "query.statement",
                    "the query of " + list.name() + " gives " + read.columns().size() + " columns; the list has "
                            + list.columns().size());
        }
        List<CodeList.Entry> entries = read.entries().stream()
                .map(e -> new CodeList.Entry(
                        new ArrayList<>(e.values().subList(0, list.columns().size())), null, null))
                .toList();
        return list.withEntries(entries);
    }
}
