package ninepin.core.deliver;

import java.util.Locale;

/**
 * A statement that a job runs in a database that it delivers to, once for each run.
 *
 * @param connection the name of the connection
 * @param when whether it comes before the first row or after the last
 * @param alone whether it is a transaction of its own, not one with rows
 * @param sql the statement, with host variables such as {@code :today}
 * @param writtenBy who wrote it, as the application has noted; or null
 */
public record OwnStatement(String connection, When when, boolean alone, String sql, String writtenBy) {

    /** When a statement runs. */
    public enum When {
        BEFORE,
        AFTER;

        @Override
        public String toString() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    public OwnStatement {
        connection = connection == null ? "" : connection.strip();
        when = when == null ? When.BEFORE : when;
        sql = sql == null ? "" : sql;
    }
}
