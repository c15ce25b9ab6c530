package ninepin.core.deliver;

import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;

/** The layout of the file that a table is written to, so that what is looked into is read in one way. */
public final class TableLayout {

    private static final int MOST_CHARACTERS = 65_535;

    private TableLayout() {}

    /** The columns of a table that a look-up can compare and add: those that hold values a field can have. */
    public static List<Column> columns(TableDescription table) {
        return fitting(table.columns());
    }

    /** Those of some columns that hold values a field can have. */
    public static List<Column> fitting(List<Column> columns) {
        return columns.stream()
                .filter(c -> type(c).isPresent() && !c.name().contains("."))
                .toList();
    }

    /**
     * The layout of a file of some columns.
     *
     * @param columns the columns, each of which a look-up can add
     */
    public static Layout of(List<Column> columns) {
        Delimited format = new Delimited(FileCharset.UTF_8, ",", '"', true, 0, BlankRows.SKIP, null, null);
        List<Field> fields = columns.stream()
                .map(c -> Field.under(c.name(), type(c).orElseThrow()))
                .toList();
        return new Layout("look-up", null, format, List.of(new RecordType("row", fields)));
    }

    /** The type of a field that holds what a column holds. */
    static Optional<DataType> type(Column column) {
        String fraction = column.scale() == 0 ? "" : "." + "S".repeat(column.scale());
        return switch (column.family()) {
            case TEXT, CHOICE ->
                Optional.of(new DataType.CharacterVarying(
                        column.length() <= 0 ? MOST_CHARACTERS : (int) Math.min(column.length(), MOST_CHARACTERS)));
            case WHOLE, YEAR ->
                Optional.of(
                        column.precision() >= 18
                                ? new DataType.Decimal(20, 0, '.', null)
                                : new DataType.IntegerNumber());
            case EXACT -> Optional.of(new DataType.Decimal(column.precision(), column.scale(), '.', null));
            case BOOLEAN_BIT -> Optional.of(new DataType.Bool(List.of("1"), List.of("0")));
            case DATE -> Optional.of(new DataType.Date("yyyy-MM-dd"));
            case TIME -> Optional.of(new DataType.Time("HH:mm:ss" + fraction));
            case TIMESTAMP -> Optional.of(new DataType.Timestamp("yyyy-MM-dd HH:mm:ss" + fraction));
            case FLOATING, BINARY, OTHER -> Optional.empty();
        };
    }
}
