package ninepin.server.api;

import java.sql.SQLException;
import java.sql.SQLNonTransientConnectionException;
import java.sql.SQLTransientException;
import java.util.Set;

/** Tells faults of the database that Ninepin keeps its own tables in from faults of Ninepin. */
public final class OwnDatabase {

    /** What people are told while it is away. */
    public static final String AWAY =
            "Ninepin's own database does not answer. Runs and pages go on by themselves when it is back.";

    /** No room, a dead lock, a lock that was waited for too long, a connection that was ended, a server that is ending. */
    private static final Set<Integer> PASSING =
            Set.of(3, 1021, 1026, 1030, 1114, 1205, 1213, 1290, 1317, 1053, 1927, 1040);

    private OwnDatabase() {}

    /** Whether something failed because the database is away, full or busy, so that it may succeed later. */
    public static boolean isAway(Throwable e) {
        for (Throwable cause = e; cause != null; cause = cause.getCause()) {
            if (cause instanceof SQLTransientException
                    || cause instanceof SQLNonTransientConnectionException
                    || cause instanceof SQLException sql && isAway(sql)) {
                return true;
            }
        }
        return false;
    }

    private static boolean isAway(SQLException e) {
        return e.getSQLState() != null && e.getSQLState().startsWith("08") || PASSING.contains(e.getErrorCode());
    }
}
