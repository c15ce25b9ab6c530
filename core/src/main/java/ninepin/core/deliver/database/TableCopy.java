package ninepin.core.deliver.database;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;
import ninepin.core.deliver.TableLayout;
import ninepin.core.deliver.TargetException;
import ninepin.core.format.Formats;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUp;
import ninepin.core.lookup.LookUpException;
import ninepin.core.lookup.LookUpTable;
import ninepin.core.record.RecordWriter;
import ninepin.core.value.UnwritableException;

/** Writes the columns of a table that a look-up needs to a file, in a transaction that cannot write. */
public final class TableCopy {

    private static final int SECONDS = 120;
    private static final int FETCH = 10_000;

    private TableCopy() {}

    /**
     * Copies a table.
     *
     * @param lookUp says which columns
     * @param file the file to be made
     * @return the layout of the file
     * @throws LookUpException where the table or a column is not there or holds what no field can
     */
    public static Layout write(DatabaseAddress database, LookUp lookUp, Path file)
            throws TargetException, LookUpException, IOException {
        String table = ((LookUp.InTable) lookUp.from()).table();
        Dialect dialect = Dialect.of(database);
        try (ConnectionWatch watch = new ConnectionWatch(dialect, database, () -> false);
                Connection c = watch.open(Dialect.Use.QUESTIONS)) {
            TableDescription described = dialect.catalog(c)
                    .describe(table)
                    .orElseThrow(() -> new LookUpException("There is no table " + table + "."));
            List<Column> columns = columns(lookUp, described);
            Layout layout = TableLayout.of(columns);
            copy(dialect, c, dialect.sql(TableName.parse(table), described), table, columns, layout, file);
            return layout;
        } catch (SQLException e) {
            throw dialect.explain(e, "read the table " + table);
        }
    }

    private static List<Column> columns(LookUp lookUp, TableDescription table) throws LookUpException {
        List<Column> all = TableLayout.columns(table);
        if (lookUp.take().isEmpty()) {
            return all;
        }
        List<Column> columns = new ArrayList<>();
        List<String> names = new ArrayList<>(lookUp.take());
        lookUp.key().forEach(k -> names.add(k.column()));
        for (String name : names) {
            Column column = all.stream()
                    .filter(c -> c.name().equalsIgnoreCase(name))
                    .findFirst()
                    .orElseThrow(() -> new LookUpException(
                            "The table " + table.name() + " has no column " + name + " that a look-up can read."));
            if (!columns.contains(column)) {
                columns.add(column);
            }
        }
        return columns;
    }

    private static void copy(
            Dialect dialect, Connection c, String table, String name, List<Column> columns, Layout layout, Path file)
            throws SQLException, IOException, LookUpException {
        String names = dialect.listed(columns.stream().map(Column::name).toList());
        dialect.beginQuestions(c);
        try (Statement s = c.createStatement();
                RecordWriter out = Formats.writer(new BufferedOutputStream(Files.newOutputStream(file)), layout)) {
            s.setQueryTimeout(SECONDS);
            s.setFetchSize(FETCH);
            s.setLargeMaxRows(LookUpTable.MOST_VALUES + 1L);
            long most = LookUpTable.MOST_VALUES + 1L;
            try (ResultSet r = s.executeQuery(dialect.limited("SELECT " + names + " FROM " + table, most))) {
                while (r.next()) {
                    List<String> values = new ArrayList<>(columns.size());
                    for (int i = 0; i < columns.size(); i++) {
                        values.add(value(dialect, r, i + 1, columns.get(i).family()));
                    }
                    out.write(0, values);
                }
            }
        } catch (UnwritableException | UncheckedIOException e) {
            throw new LookUpException("The table " + name + ": " + e.getMessage());
        }
    }

    /** A value as {@link ninepin.core.value.Value#text} gives it. */
    static String value(Dialect dialect, ResultSet r, int column, Family family) throws SQLException {
        String text = dialect.text(r, column);
        if (text == null) {
            return null;
        }
        return switch (family) {
            case BOOLEAN_BIT -> Boolean.toString(r.getBoolean(column));
            case TIMESTAMP -> text.replace(' ', 'T');
            default -> text;
        };
    }
}
