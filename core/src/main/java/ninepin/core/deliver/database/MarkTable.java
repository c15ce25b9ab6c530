package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.Tally;
import ninepin.core.read.Position;
import tools.jackson.databind.json.JsonMapper;

/** The table of marks in the target database: one row for each delivery of each run. */
final class MarkTable {

    private static final JsonMapper JSON = new JsonMapper();

    private final Dialect dialect;
    private final String runKey;
    private final String delivery;

    MarkTable(Dialect dialect, String runKey, String delivery) {
        this.dialect = dialect;
        this.runKey = runKey;
        this.delivery = delivery;
    }

    /** Makes the table, or brings an older one up to date. Commits by itself, so it comes before the first row. */
    void create(Connection connection) throws SQLException {
        try (Statement s = connection.createStatement()) {
            if (isThere(s)) {
                return;
            }
            for (String make : dialect.marks()) {
                s.execute(make);
            }
        }
    }

    /** Whether the table is there with its newest column; making it every time would ask for rights that need not be. */
    private boolean isThere(Statement s) throws SQLException {
        try (ResultSet row = s.executeQuery("SELECT COUNT(*) FROM information_schema.columns" + " WHERE table_schema = "
                + dialect.currentSchema() + " AND table_name = 'ninepin_mark' AND column_name = 'rows_removed'")) {
            return row.next() && row.getLong(1) > 0;
        }
    }

    Optional<Mark> read(Connection connection) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement(
                "SELECT next_offset, next_line, records, rows_read, rows_added, rows_changed, rows_unchanged, rows_rejected,"
                        + " rows_set_aside, blank, notes, delivered, without_rows, commits, journal_length, fingerprint, complete, shares, rows_removed"
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
                r.getLong("rows_removed"));
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

    private static final List<String> COLUMNS = List.of(
            "next_offset",
            "next_line",
            "records",
            "rows_read",
            "rows_added",
            "rows_changed",
            "rows_unchanged",
            "rows_removed",
            "rows_rejected",
            "rows_set_aside",
            "blank",
            "notes",
            "delivered",
            "without_rows",
            "commits",
            "journal_length",
            "fingerprint",
            "complete",
            "shares",
            "run_key",
            "delivery");

    private static final String CHANGE = "UPDATE ninepin_mark SET marked_at = CURRENT_TIMESTAMP, "
            + COLUMNS.stream().limit(COLUMNS.size() - 2L).map(c -> c + " = ?").collect(Collectors.joining(", "))
            + " WHERE run_key = ? AND delivery = ?";

    private static final String ADD = "INSERT INTO ninepin_mark (" + String.join(", ", COLUMNS) + ") VALUES (?"
            + ", ?".repeat(COLUMNS.size() - 1) + ")";

    /** The same run's mark of something else that is done once. */
    MarkTable of(String what) {
        return new MarkTable(dialect, runKey, what);
    }

    /** Writes inside the transaction that is under way that it is done. */
    void done(Connection connection) throws SQLException {
        Mark none = Mark.none("");
        write(connection, new Mark(none.position(), none.tally(), none.shares(), 0, 0, "", true));
    }

    /** Removes all marks of the run inside the transaction that is under way. */
    void forget(Connection connection) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement("DELETE FROM ninepin_mark WHERE run_key = ?")) {
            s.setString(1, runKey);
            s.executeUpdate();
        }
    }

    /** Writes the mark inside the transaction that is under way. */
    void write(Connection connection, Mark mark) throws SQLException {
        if (write(connection, CHANGE, mark) == 0) {
            write(connection, ADD, mark);
        }
    }

    private int write(Connection connection, String sql, Mark mark) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement(sql)) {
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
                mark.journalLength()
            };
            int at = 1;
            for (long number : numbers) {
                s.setLong(at++, number);
            }
            s.setString(at++, mark.fingerprint());
            s.setBoolean(at++, mark.complete());
            s.setString(at++, mark.shares().none() ? null : JSON.writeValueAsString(mark.shares()));
            s.setString(at++, runKey);
            s.setString(at, delivery);
            return s.executeUpdate();
        }
    }
}
