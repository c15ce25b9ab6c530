package ninepin.server.api;

import java.sql.SQLException;
import java.sql.SQLNonTransientConnectionException;
import java.sql.SQLTransientException;
import java.util.Set;

/** Tells faults of the database that Ninepin keeps its own tables in from faults of Ninepin. */
public final class OwnDatabase {

    private static final String AWAY =
            "Ninepin's own database does not answer. Runs and pages go on by themselves when it is back.";

    private static final String FULL =
            "The disk of Ninepin's own database is full. Make room; runs and pages then go on by themselves.";

    /** The error numbers of a disk or a table without room. */
    private static final Set<Integer> NO_ROOM = Set.of(3, 1021, 1114);

    /**
     * No room, a dead lock, a lock that was waited for too long, a connection that was ended or broke, a server that is
     * ending or not yet up, a table that is being brought in order after a crash.
     */
    private static final Set<Integer> PASSING = Set.of(
            3, 1021, 1023, 1026, 1030, 1033, 1040, 1053, 1080, 1114, 1152, 1158, 1159, 1160, 1161, 1184, 1194, 1203,
            1205, 1213, 1290, 1317, 1877, 1927, 1969, 2006, 2013, 4031);

    /** What the pool says of a connection that it has closed meanwhile, without a number or a state. */
    private static final Set<String> CLOSED = Set.of("Connection is closed", "Statement is closed");

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

    /** What people are told of it while something fails as {@link #isAway} says. */
    public static String words(Throwable e) {
        for (Throwable cause = e; cause != null; cause = cause.getCause()) {
            if (cause instanceof SQLException sql && NO_ROOM.contains(sql.getErrorCode())) {
                return FULL;
            }
        }
        return AWAY;
    }

    private static boolean isAway(SQLException e) {
        return e.getSQLState() != null && e.getSQLState().startsWith("08")
                || PASSING.contains(e.getErrorCode())
                || e.getMessage() != null && CLOSED.stream().anyMatch(e.getMessage()::contains);
    }
}
