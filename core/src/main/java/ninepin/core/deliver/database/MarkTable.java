package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.TargetException;
import ninepin.core.record.Position;
import tools.jackson.databind.json.JsonMapper;

/** The table of marks in the target database: one row for each delivery of each run. */
final class MarkTable {

    /** The column that was added last, by which an older table is known. */
    private static final String NEWEST = "elsewhere";

    private static final JsonMapper JSON = new JsonMapper();

    private final Dialect dialect;
    private final String runKey;
    private final String delivery;
    /** The number under which this process has taken the run up; 0 where it has not. */
    private volatile long epoch;
    /** The commits that the next one builds on. */
    private volatile long commits;

    MarkTable(Dialect dialect, String runKey, String delivery) {
        this.dialect = dialect;
        this.runKey = runKey;
        this.delivery = delivery;
    }

    /** What the mark is of: the run and the delivery. */
    String name() {
        return runKey + "|" + delivery;
    }

    /** Makes the table, or brings an older one up to date. Commits by itself, so it comes before the first row. */
    void create(Connection connection) throws SQLException {
        try (Statement s = connection.createStatement()) {
            if (isThere(connection)) {
                return;
            }
            for (String make : dialect.marks()) {
                s.execute(make);
            }
        }
    }

    /** The mark where there is a table of marks; changes nothing. */
    Optional<Mark> look(Connection connection) throws SQLException {
        if (!hasColumn(connection, "rows_removed")) {
            return Optional.empty();
        }
        // A table that an older Ninepin made is brought up to date by whoever delivers next.
        return read(connection, isThere(connection) ? NEWEST : "0 AS " + NEWEST).filter(m -> m.commits() > 0);
    }

    /**
     * Takes the run up, in a transaction of its own.
     *
     * @return the mark; empty where nothing is committed
     */
    Optional<Mark> takeUp(Connection connection, TakeUp as) throws SQLException, TargetException {
        boolean auto = connection.getAutoCommit();
        connection.setAutoCommit(false);
        try {
            long taken = raise(connection, as);
            Optional<Mark> mark = read(connection).filter(m -> m.commits() > 0);
            connection.commit();
            epoch = taken;
            commits = mark.map(Mark::commits).orElse(0L);
            return mark;
        } catch (SQLException | TargetException e) {
            connection.rollback();
            throw e;
        } finally {
            connection.setAutoCommit(auto);
        }
    }

    private long raise(Connection connection, TakeUp as) throws SQLException, TargetException {
        Long known = lock(connection);
        if (known == null) {
            insertFirst(connection);
            known = lock(connection);
        }
        long taken = as.after(known);
        try (PreparedStatement s =
                connection.prepareStatement("UPDATE ninepin_mark SET epoch = ? WHERE run_key = ? AND delivery = ?")) {
            s.setLong(1, taken);
            s.setString(2, runKey);
            s.setString(3, delivery);
            s.executeUpdate();
        }
        return taken;
    }

    /** Locks the mark's row until the end of the transaction; its epoch, or null where there is none. */
    private Long lock(Connection connection) throws SQLException {
        String which = " WHERE run_key = ? AND delivery = ?";
        if (!dialect.selectsForUpdate()) {
            try (PreparedStatement s = connection.prepareStatement("UPDATE ninepin_mark SET epoch = epoch" + which)) {
                s.setString(1, runKey);
                s.setString(2, delivery);
                s.executeUpdate();
            }
        }
        try (PreparedStatement s = connection.prepareStatement(
                "SELECT epoch FROM ninepin_mark" + which + (dialect.selectsForUpdate() ? " FOR UPDATE" : ""))) {
            s.setString(1, runKey);
            s.setString(2, delivery);
            try (ResultSet r = s.executeQuery()) {
                return r.next() ? r.getLong(1) : null;
            }
        }
    }

    /** Adds a mark of nothing; where another process does the same at once, its mark will do. */
    private void insertFirst(Connection connection) throws SQLException {
        try {
            insert(connection, Mark.none(""));
            connection.commit();
        } catch (SQLException e) {
            connection.rollback();
            if (!dialect.isAboutRows(e)) {
                throw e;
            }
        }
    }

    /**
     * Keeps the run until the end of the transaction that is under way.
     *
     * @throws TargetException where another process has taken it over
     */
    void hold(Connection connection) throws SQLException, TargetException {
        Long known = lock(connection);
        if (known == null || known != epoch) {
            throw TargetException.fenced();
        }
    }

    /** Whether the table is there with its newest column; making it every time would ask for rights that need not be. */
    private boolean isThere(Connection connection) throws SQLException {
        return hasColumn(connection, NEWEST);
    }

    private boolean hasColumn(Connection connection, String column) throws SQLException {
        return dialect.hasColumn(connection, "ninepin_mark", column);
    }

    Optional<Mark> read(Connection connection) throws SQLException {
        return read(connection, NEWEST);
    }

    private Optional<Mark> read(Connection connection, String newest) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement(
                "SELECT next_offset, next_line, records, rows_read, rows_added, rows_changed, rows_unchanged, rows_rejected,"
                        + " rows_set_aside, blank, notes, delivered, without_rows, commits, journal_length, fingerprint, complete, shares, rows_removed, "
                        + newest
                        + " FROM ninepin_mark WHERE run_key = ? AND delivery = ?")) {
            s.setString(1, runKey);
            s.setString(2, delivery);
            try (ResultSet r = s.executeQuery()) {
                return r.next() ? Optional.of(mark(r)) : Optional.empty();
            }
        }
    }

    private static Mark mark(ResultSet r) throws SQLException {
        long added = r.getLong("rows_added");
        long changed = r.getLong("rows_changed");
        long unchanged = r.getLong("rows_unchanged");
        Tally tally = new Tally(
                r.getLong("rows_read"),
                r.getLong("delivered"),
                added,
                changed,
                unchanged,
                r.getLong("rows_rejected"),
                r.getLong("rows_set_aside"),
                r.getLong("blank"),
                r.getLong("notes"),
                r.getLong("without_rows"),
                r.getLong("rows_removed"),
                r.getLong(NEWEST));
        return new Mark(
                new Position(r.getLong("next_offset"), r.getLong("next_line"), r.getLong("records")),
                tally,
                shares(r.getString("shares")),
                r.getLong("commits"),
                r.getLong("journal_length"),
                r.getString("fingerprint"),
                r.getBoolean("complete"));
    }

    private static Shares shares(String json) {
        return json == null ? Shares.NONE : JSON.readValue(json, Shares.class);
    }

    private static final List<String> COLUMNS = Stream.concat(
                    Dialect.COUNTS.stream(),
                    Stream.of(NEWEST, "fingerprint", "complete", "shares", "run_key", "delivery"))
            .toList();

    private static final String CHANGE = "UPDATE ninepin_mark SET marked_at = CURRENT_TIMESTAMP, "
            + COLUMNS.stream().limit(COLUMNS.size() - 2L).map(c -> c + " = ?").collect(Collectors.joining(", "))
            + " WHERE run_key = ? AND delivery = ? AND epoch = ? AND commits = ?";

    private static final String ADD = "INSERT INTO ninepin_mark (" + String.join(", ", COLUMNS) + ") VALUES (?"
            + ", ?".repeat(COLUMNS.size() - 1) + ")";

    /** The same run's mark of something else that is done once. */
    MarkTable of(String what) {
        return new MarkTable(dialect, runKey, what);
    }

    /** Writes inside the transaction that is under way that it is done. */
    void done(Connection connection) throws SQLException {
        Mark none = Mark.none("");
        insert(connection, new Mark(none.position(), none.tally(), none.shares(), 0, 0, "", true));
    }

    /** Removes all marks of the run inside the transaction that is under way. */
    void forget(Connection connection) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement("DELETE FROM ninepin_mark WHERE run_key = ?")) {
            s.setString(1, runKey);
            s.executeUpdate();
        }
    }

    /**
     * Writes the mark inside the transaction that is under way.
     *
     * @throws TargetException where the run has been taken over since this process took it up
     */
    void write(Connection connection, Mark mark) throws SQLException, TargetException {
        try (PreparedStatement s = connection.prepareStatement(CHANGE)) {
            int at = fill(s, mark);
            s.setLong(at++, epoch);
            s.setLong(at, commits);
            if (s.executeUpdate() == 0) {
                throw TargetException.fenced();
            }
        }
    }

    /** What was written is committed. */
    void committed(Mark mark) {
        commits = mark.commits();
    }

    /** Adds a mark of something that is done once, inside the transaction that is under way. */
    void insert(Connection connection, Mark mark) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement(ADD)) {
            fill(s, mark);
            s.executeUpdate();
        }
    }

    /** Gives a statement the values of {@link #COLUMNS}; the parameter after them. */
    private int fill(PreparedStatement s, Mark mark) throws SQLException {
        Tally t = mark.tally();
        long[] numbers = {
            mark.position().offset(),
            mark.position().line(),
            mark.position().records(),
            t.read(),
            t.added(),
            t.changed(),
            t.unchanged(),
            t.removed(),
            t.rejected(),
            t.setAside(),
            t.blank(),
            t.notes(),
            t.delivered(),
            t.withoutRows(),
            mark.commits(),
            mark.journalLength(),
            t.elsewhere()
        };
        int at = 1;
        for (long number : numbers) {
            s.setLong(at++, number);
        }
        s.setString(at++, mark.fingerprint());
        s.setBoolean(at++, mark.complete());
        s.setString(at++, mark.shares().none() ? null : JSON.writeValueAsString(mark.shares()));
        s.setString(at++, runKey);
        s.setString(at++, delivery);
        return at;
    }
}
