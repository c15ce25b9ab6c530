package ninepin.doors.query;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Types;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;
import ninepin.core.deliver.TableLayout;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.database.HostedSql;
import ninepin.core.deliver.database.QuestionSession;
import ninepin.core.format.Formats;
import ninepin.core.format.Transcripts;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.record.RecordWriter;
import ninepin.core.value.UnwritableException;

/** Writes what a query gives to a file, in one transaction that cannot write and sees one state of the database. */
public final class QueryCopy {

    /**
     * What was copied.
     *
     * @param rows how many rows
     * @param lastKey the key of the last one; null where there is none
     */
    public record Copied(long rows, String lastKey) {}

    private static final int FETCH = 10_000;
    /** The digits of the most common types, whose drivers do not all say the same. */
    private static final int MOST_DIGITS = 38;

    private final DatabaseAddress address;
    private final HostedSql query;
    private final Map<String, String> hosts;

    /**
     * @param query the query
     * @param hosts the values of its host variables
     */
    public QueryCopy(DatabaseAddress address, HostedSql query, Map<String, String> hosts) {
        this.address = address;
        this.query = query;
        this.hosts = hosts;
    }

    /** The columns that it gives. */
    public List<Column> columns() throws TargetException {
        try (QuestionSession session = QuestionSession.open(address)) {
            return columns(session);
        } catch (SQLException e) {
            throw refused(e, "ask what the query gives");
        }
    }

    /**
     * The layout of a file of its rows.
     *
     * @throws DefinitionException where a column holds what no field can
     */
    public Layout layout(String name) throws TargetException {
        List<Column> columns = columns();
        List<Column> fit = TableLayout.fitting(columns);
        columns.stream().filter(c -> !fit.contains(c)).findFirst().ifPresent(c -> {
            throw new DefinitionException(
                    c.name(),
                    "is " + c.label()
                            + ", which says too little of its values or holds what no field can. Write a CAST in"
                            + " the query, such as CAST(" + c.name() + " AS DECIMAL(12,2)), and name the column");
        });
        return TableLayout.of(columns).withName(name);
    }

    private TargetException refused(SQLException e, String doing) {
        return Dialect.of(address).explain(e, doing);
    }

    private List<Column> columns(QuestionSession session) throws SQLException {
        String none = "SELECT * FROM (" + query.sql() + ") ninepin_rows WHERE 1 = 0";
        try (PreparedStatement s = session.prepare(query, none, hosts);
                ResultSet r = s.executeQuery()) {
            ResultSetMetaData of = r.getMetaData();
            List<Column> columns = new ArrayList<>();
            for (int i = 1; i <= of.getColumnCount(); i++) {
                columns.add(column(of, i));
            }
            return columns;
        }
    }

    private static Column column(ResultSetMetaData of, int i) throws SQLException {
        int precision = of.getPrecision(i);
        boolean known = precision > 0 && precision <= MOST_DIGITS;
        Family family =
                switch (of.getColumnType(i)) {
                    case Types.CHAR, Types.VARCHAR, Types.LONGVARCHAR, Types.NCHAR, Types.NVARCHAR, Types.CLOB ->
                        Family.TEXT;
                    case Types.TINYINT, Types.SMALLINT, Types.INTEGER, Types.BIGINT -> Family.WHOLE;
                    case Types.DECIMAL, Types.NUMERIC -> known ? Family.EXACT : Family.OTHER;
                    case Types.DATE -> Family.DATE;
                    case Types.TIME -> Family.TIME;
                    case Types.TIMESTAMP -> Family.TIMESTAMP;
                    case Types.BIT, Types.BOOLEAN -> precision <= 1 ? Family.BOOLEAN_BIT : Family.OTHER;
                    case Types.REAL, Types.FLOAT, Types.DOUBLE -> Family.FLOATING;
                    default -> Family.OTHER;
                };
        boolean text = family == Family.TEXT && precision > 0 && precision < Integer.MAX_VALUE;
        return new Column(
                of.getColumnLabel(i),
                of.getColumnTypeName(i),
                family,
                text ? precision : 0,
                family == Family.EXACT || family == Family.WHOLE ? precision : 0,
                family == Family.TEXT || family == Family.WHOLE ? 0 : Math.max(0, Math.min(6, of.getScale(i))),
                of.isNullable(i) != ResultSetMetaData.columnNoNulls,
                false,
                false,
                false,
                "");
    }

    /**
     * Writes the rows.
     *
     * @param layout the layout of the file; each field of its first record type is a column of the query
     * @param key the column that puts rows in order, or null
     * @param after the key behind which rows are taken; null for all
     * @param upTo the key of the last row that may be taken; null for all
     * @param most the most rows, for a sample; 0 for all
     * @param file the file to be made; forced to disk
     * @throws DefinitionException where a field is no column, or a value cannot stand in its field
     */
    public Copied write(Layout layout, String key, String after, String upTo, int most, Path file)
            throws TargetException, IOException {
        try (QuestionSession session = QuestionSession.open(address)) {
            List<Column> columns = columns(session);
            int[] places = places(layout, columns);
            int keyPlace = key == null ? -1 : place(key, columns, "pickUp.query.key");
            StringBuilder sql =
                    new StringBuilder("SELECT * FROM (").append(query.sql()).append(") ninepin_rows");
            List<String> bounds = new ArrayList<>();
            for (String sign : List.of(">", "<=")) {
                String bound = sign.equals(">") ? after : upTo;
                if (bound != null) {
                    Column of = columns.get(keyPlace);
                    sql.append(bounds.isEmpty() ? " WHERE " : " AND ")
                            .append(session.quoted(of.name()))
                            .append(' ')
                            .append(sign)
                            .append(' ')
                            .append(session.parameter(of));
                    bounds.add(bound);
                }
            }
            if (key != null) {
                sql.append(" ORDER BY ")
                        .append(session.quoted(columns.get(keyPlace).name()));
            } else {
                // A query inside another has no order of its own.
                sql = new StringBuilder(query.sql());
            }
            try (PreparedStatement s = session.prepare(query, sql.toString(), hosts)) {
                s.setFetchSize(FETCH);
                s.setMaxRows(most);
                for (int b = 0; b < bounds.size(); b++) {
                    s.setString(query.variables().size() + 1 + b, bounds.get(b));
                }
                return write(session, s, layout, columns, places, keyPlace, file);
            }
        } catch (SQLException e) {
            throw refused(e, "read the rows of the query");
        }
    }

    /** The highest value of a column; null where there are no rows. */
    public String highest(String key) throws TargetException {
        try (QuestionSession session = QuestionSession.open(address)) {
            List<Column> columns = columns(session);
            String column = session.quoted(
                    columns.get(place(key, columns, "pickUp.query.key")).name());
            String sql = "SELECT " + column + " FROM (" + query.sql() + ") ninepin_rows WHERE " + column
                    + " IS NOT NULL ORDER BY " + column + " DESC";
            try (PreparedStatement s = session.prepare(query, sql, hosts)) {
                s.setMaxRows(1);
                try (ResultSet r = s.executeQuery()) {
                    return r.next() ? session.text(r, 1) : null;
                }
            }
        } catch (SQLException e) {
            throw refused(e, "see how far the rows of the query go");
        }
    }

    private Copied write(
            QuestionSession session,
            PreparedStatement s,
            Layout layout,
            List<Column> columns,
            int[] places,
            int keyPlace,
            Path file)
            throws SQLException, IOException {
        long rows = 0;
        String last = null;
        try (FileChannel channel = FileChannel.open(
                        file,
                        StandardOpenOption.CREATE,
                        StandardOpenOption.WRITE,
                        StandardOpenOption.TRUNCATE_EXISTING);
                RecordWriter out = Formats.writer(
                        new Forced(channel, new BufferedOutputStream(Channels.newOutputStream(channel))), layout);
                ResultSet r = s.executeQuery()) {
            while (r.next()) {
                List<String> values = new ArrayList<>(places.length);
                for (int place : places) {
                    values.add(session.value(r, place + 1, columns.get(place).family()));
                }
                out.write(0, values);
                rows++;
                if (keyPlace >= 0) {
                    last = session.text(r, keyPlace + 1);
                }
            }
        } catch (UnwritableException e) {
            throw new DefinitionException("row " + (rows + 1), e.getMessage());
        }
        // What was forced to disk as rows becomes the file; one that breaks off here is written anew.
        Transcripts.compose(file, layout, file.resolveSibling(file.getFileName() + ".aside"));
        return new Copied(rows, last);
    }

    /** Forces a file to disk before it is closed. */
    private static final class Forced extends java.io.FilterOutputStream {
        private final FileChannel channel;

        Forced(FileChannel channel, java.io.OutputStream out) {
            super(out);
            this.channel = channel;
        }

        @Override
        public void write(byte[] bytes, int from, int length) throws IOException {
            out.write(bytes, from, length);
        }

        @Override
        public void close() throws IOException {
            if (channel.isOpen()) {
                out.flush();
                channel.force(true);
            }
            super.close();
        }
    }

    private static int[] places(Layout layout, List<Column> columns) {
        return layout.firstType().fields().stream()
                .mapToInt(f -> place(name(f), columns, "layout"))
                .toArray();
    }

    private static String name(Field field) {
        return field.heading();
    }

    private static int place(String name, List<Column> columns, String part) {
        for (int i = 0; i < columns.size(); i++) {
            if (columns.get(i).name().equalsIgnoreCase(name)) {
                return i;
            }
        }
        throw new DefinitionException(
                part,
                "the query gives no column " + name + "; it gives "
                        + String.join(", ", columns.stream().map(Column::name).toList()));
    }

    /** What keeps a layout and a key from being filled by the query; throws where something does. */
    public void require(Layout layout, String key) throws TargetException {
        List<Column> columns = columns();
        places(layout, columns);
        if (key != null) {
            place(key, columns, "pickUp.query.key");
        }
    }
}
