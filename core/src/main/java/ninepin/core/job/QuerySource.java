package ninepin.core.job;

import ninepin.core.layout.DefinitionException;

/**
 * Rows of a database in place of a file: they are copied, as one look at the database, to a file in the layout of the job,
 * which is then run like any other.
 *
 * @param connection the name of the connection
 * @param statement the query, with host variables such as {@code :today}
 * @param key the column that puts the rows in order; null for the order of the query itself
 * @param onlyNew whether only rows are taken whose key comes behind that of the last row taken
 * @param lagSeconds with onlyNew: how long a row may be committed after one with a higher key was; rows are taken so much later
 * @param writtenBy who wrote it, as the application has noted; or null
 */
public record QuerySource(
        String connection, String statement, String key, boolean onlyNew, int lagSeconds, String writtenBy) {

    private static final int MOST_LAG = 86_400;

    public QuerySource {
        connection = connection == null ? "" : connection.strip();
        statement = statement == null ? "" : statement;
        key = key == null || key.isBlank() ? null : key.strip();
        if (onlyNew && key == null) {
            throw new DefinitionException("pickUp.query.key", "says by which column new rows are known");
        }
        if (lagSeconds < 0 || lagSeconds > MOST_LAG) {
            throw new DefinitionException("pickUp.query.lagSeconds", "goes from 0 to " + MOST_LAG);
        }
        lagSeconds = onlyNew ? lagSeconds : 0;
    }

    /** Whether it is said what is asked. */
    public boolean decided() {
        return !connection.isEmpty() && !statement.isBlank();
    }
}
