package ninepin.core.deliver.mariadb;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Optional;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.Tally;
import ninepin.core.read.Position;
import tools.jackson.databind.json.JsonMapper;

/** The table of marks in the target database: one row for each delivery of each run. */
final class MarkTable {

    static final String PREFIX = "ninepin_";

    private static final String CREATE =
            """
            CREATE TABLE IF NOT EXISTS ninepin_mark (
              run_key VARCHAR(64) CHARACTER SET ascii NOT NULL COMMENT 'the run',
              delivery VARCHAR(128) NOT NULL COMMENT 'the target of the delivery',
              next_offset BIGINT NOT NULL COMMENT 'byte of the file where the next record starts',
              next_line BIGINT NOT NULL,
              records BIGINT NOT NULL COMMENT 'records before it',
              rows_read BIGINT NOT NULL, rows_added BIGINT NOT NULL, rows_changed BIGINT NOT NULL,
              rows_unchanged BIGINT NOT NULL, rows_rejected BIGINT NOT NULL, rows_set_aside BIGINT NOT NULL,
              blank BIGINT NOT NULL, notes BIGINT NOT NULL,
              delivered BIGINT NOT NULL COMMENT 'records whose rows are in the target',
              without_rows BIGINT NOT NULL COMMENT 'records that make no rows',
              commits BIGINT NOT NULL,
              journal_length BIGINT NOT NULL,
              fingerprint CHAR(64) CHARACTER SET ascii NOT NULL COMMENT 'SHA-256 of the file',
              complete BOOLEAN NOT NULL,
              shares TEXT COMMENT 'what lanes and reasons have of it',
              marked_at TIMESTAMP NOT NULL DEFAULT CURRENT_TIMESTAMP ON UPDATE CURRENT_TIMESTAMP,
              PRIMARY KEY (run_key, delivery)
            ) ENGINE=InnoDB COMMENT='How far runs of Ninepin have come; written with the rows they deliver'
            """;

    private static final JsonMapper JSON = new JsonMapper();

    private final String runKey;
    private final String delivery;

    MarkTable(String runKey, String delivery) {
        this.runKey = runKey;
        this.delivery = delivery;
    }

    /** Makes the table, or brings an older one up to date. Commits by itself, so it comes before the first row. */
    void create(Connection connection) throws SQLException {
        try (PreparedStatement there = connection.prepareStatement(
                        "SELECT 1 FROM information_schema.columns"
                                + " WHERE table_schema = DATABASE() AND table_name = 'ninepin_mark' AND column_name = 'shares'");
                ResultSet row = there.executeQuery()) {
            if (row.next()) {
                return;
            }
        }
        try (Statement s = connection.createStatement()) {
            s.execute(CREATE);
            s.execute("ALTER TABLE ninepin_mark ADD COLUMN IF NOT EXISTS delivered BIGINT NOT NULL"
                    + " DEFAULT (rows_added + rows_changed + rows_unchanged),"
                    + " ADD COLUMN IF NOT EXISTS without_rows BIGINT NOT NULL DEFAULT 0,"
                    + " ADD COLUMN IF NOT EXISTS shares TEXT");
        }
    }

    Optional<Mark> read(Connection connection) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement(
                "SELECT next_offset, next_line, records, rows_read, rows_added, rows_changed, rows_unchanged, rows_rejected,"
                        + " rows_set_aside, blank, notes, delivered, without_rows, commits, journal_length, fingerprint, complete, shares"
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
                r.getLong("without_rows"));
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

    /** Writes the mark inside the transaction that is under way. */
    void write(Connection connection, Mark mark) throws SQLException {
        try (PreparedStatement s = connection.prepareStatement(
                "REPLACE INTO ninepin_mark (run_key, delivery, next_offset, next_line, records, rows_read, rows_added,"
                        + " rows_changed, rows_unchanged, rows_rejected, rows_set_aside, blank, notes, delivered,"
                        + " without_rows, commits, journal_length, fingerprint, complete, shares)"
                        + " VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?,?)")) {
            Tally t = mark.tally();
            s.setString(1, runKey);
            s.setString(2, delivery);
            long[] numbers = {
                mark.position().offset(),
                mark.position().line(),
                mark.position().records(),
                t.read(),
                t.added(),
                t.changed(),
                t.unchanged(),
                t.rejected(),
                t.setAside(),
                t.blank(),
                t.notes(),
                t.delivered(),
                t.withoutRows(),
                mark.commits(),
                mark.journalLength()
            };
            for (int i = 0; i < numbers.length; i++) {
                s.setLong(3 + i, numbers[i]);
            }
            s.setString(18, mark.fingerprint());
            s.setBoolean(19, mark.complete());
            s.setString(20, mark.shares().none() ? null : JSON.writeValueAsString(mark.shares()));
            s.executeUpdate();
        }
    }
}
