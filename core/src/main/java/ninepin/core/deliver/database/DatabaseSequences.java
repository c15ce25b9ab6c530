package ninepin.core.deliver.database;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashMap;
import java.util.Map;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TargetException;
import ninepin.core.shape.Sequences;

/**
 * Sequences kept in a table of the target database. Numbers are reserved in blocks, each in a transaction of its own, so
 * no two runs get the same; what is left of a block is given back at the end where nobody drew behind it. Deliveries that
 * run side by side share one.
 */
public final class DatabaseSequences implements Sequences, AutoCloseable {

    private static final int BLOCK = 1_000;

    /** A block of numbers. */
    private static final class Block {
        long next;
        long end;
    }

    private final DatabaseAddress address;
    private final Dialect dialect;
    private final Map<String, Block> blocks = new HashMap<>();
    private Connection connection;

    public DatabaseSequences(DatabaseAddress address) {
        this.address = address;
        this.dialect = Dialect.of(address);
    }

    @Override
    public synchronized long draw(String name, long start) {
        Block block = blocks.computeIfAbsent(name, n -> new Block());
        if (block.next == block.end) {
            reserve(name, start, block);
        }
        return block.next++;
    }

    private void reserve(String name, long start, Block block) {
        try {
            if (connection == null) {
                connection = dialect.connectBriefly(address, Dialect.Use.STATEMENTS);
                if (!dialect.hasColumn(connection, "ninepin_sequence", "name")) {
                    try (Statement s = connection.createStatement()) {
                        s.execute(dialect.sequences());
                    }
                }
                connection.setAutoCommit(false);
            }
            try (PreparedStatement make = connection.prepareStatement("INSERT INTO ninepin_sequence SELECT ?, ?"
                            + " WHERE NOT EXISTS (SELECT 1 FROM ninepin_sequence WHERE name = ?)");
                    PreparedStatement look =
                            connection.prepareStatement("SELECT next_number FROM ninepin_sequence WHERE name = ?"
                                    + (dialect.selectsForUpdate() ? " FOR UPDATE" : ""));
                    PreparedStatement take =
                            connection.prepareStatement("UPDATE ninepin_sequence SET next_number = ? WHERE name = ?")) {
                make.setString(1, name);
                make.setLong(2, start);
                make.setString(3, name);
                makeOnce(make);
                if (!dialect.selectsForUpdate()) {
                    lock(name);
                }
                look.setString(1, name);
                try (ResultSet r = look.executeQuery()) {
                    r.next();
                    block.next = r.getLong(1);
                    block.end = Math.addExact(block.next, BLOCK);
                }
                take.setLong(1, block.end);
                take.setString(2, name);
                take.executeUpdate();
                connection.commit();
            }
        } catch (SQLException e) {
            giveUp();
            TargetException explained = dialect.explain(e, "draw from the sequence " + name);
            throw new Unavailable(explained.getMessage(), explained.mayPass());
        } catch (TargetException e) {
            throw new Unavailable(e.getMessage(), e.mayPass());
        }
    }

    private void lock(String name) throws SQLException {
        try (PreparedStatement s =
                connection.prepareStatement("UPDATE ninepin_sequence SET next_number = next_number WHERE name = ?")) {
            s.setString(1, name);
            s.executeUpdate();
        }
    }

    private void giveUp() {
        if (connection != null) {
            DatabaseLoadConnection.closeQuietly(connection);
            connection = null;
        }
    }

    /** Another run may make the same sequence at the same time; then it is there. */
    private void makeOnce(PreparedStatement make) throws SQLException {
        try {
            make.executeUpdate();
            connection.commit();
        } catch (SQLException e) {
            connection.rollback();
            if (!dialect.isAboutRows(e)) {
                throw e;
            }
        }
    }

    /** Gives back what is left. */
    @Override
    public synchronized void close() {
        if (connection == null) {
            return;
        }
        try (Connection c = connection;
                PreparedStatement back = c.prepareStatement(
                        "UPDATE ninepin_sequence SET next_number = ? WHERE name = ? AND next_number = ?")) {
            for (Map.Entry<String, Block> block : blocks.entrySet()) {
                back.setLong(1, block.getValue().next);
                back.setString(2, block.getKey());
                back.setLong(3, block.getValue().end);
                back.executeUpdate();
            }
            c.commit();
        } catch (SQLException e) {
            // What is left of the blocks stays a gap, which a sequence may have.
            blocks.clear();
        }
    }
}
