package ninepin.core.deliver.file;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ninepin.core.check.OutgoingCheck;
import ninepin.core.deliver.FileDelivery.Stands;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCheck;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Layout.FieldPlace;
import ninepin.core.layout.RecordType;

/** Makes the values of a record out of a row. */
final class RecordMaker {

    /** A value that does not go into its field; says which and why. */
    static final class Unfit extends RuntimeException {
        private static final long serialVersionUID = 1L;

        private final String field;

        Unfit(String field, String message) {
            super(message, null, false, false);
            this.field = field;
        }

        String field() {
            return field;
        }
    }

    private final int type;
    private final Stands stands;
    private final List<Field> fields;
    private final OutgoingCheck[] checks;
    /** For each field where its value stands in a row, or -1. */
    private final int[] places;

    private RecordMaker(int type, Stands stands, RecordType of, List<String> columns) {
        this.type = type;
        this.stands = stands;
        this.fields = of.fields();
        this.checks = fields.stream().map(OutgoingCheck::new).toArray(OutgoingCheck[]::new);
        this.places = fields.stream().mapToInt(f -> columns.indexOf(f.name())).toArray();
    }

    /** For the rows of a delivery. */
    static RecordMaker of(FileLoad load) {
        return new RecordMaker(
                load.delivery().type(),
                load.delivery().stands(),
                load.delivery().recordType(),
                load.columns());
    }

    /** For a record that no row is needed for. */
    static RecordMaker ofItself(Layout layout, int type) {
        return new RecordMaker(type, Stands.LAST, layout.recordTypes().get(type), List.of());
    }

    /** The record types that no delivery gives and that say only what has been counted, such as a trailer. */
    static List<Integer> madeByItself(Layout layout, List<RecordMaker> makers) {
        return IntStream.range(0, layout.recordTypes().size())
                .filter(t -> makers.stream().noneMatch(m -> m.type == t))
                .filter(t -> counted(layout).anyMatch(p -> p.type() == t))
                .boxed()
                .toList();
    }

    /** The fields whose values the file itself gives. */
    static Stream<FieldPlace> counted(Layout layout) {
        return layout.fileChecks().stream()
                .flatMap(c -> c instanceof FileCheck.Count count
                        ? Stream.of(count.field())
                        : c instanceof FileCheck.Total total ? Stream.of(total.field()) : Stream.<String>empty())
                .flatMap(f -> layout.place(0, f).stream());
    }

    int type() {
        return type;
    }

    Stands stands() {
        return stands;
    }

    /** Where a field's value stands in a row, or -1. */
    int place(String field) {
        for (int f = 0; f < fields.size(); f++) {
            if (fields.get(f).name().equals(field)) {
                return places[f];
            }
        }
        return -1;
    }

    /**
     * The values of a record as a writer takes them.
     *
     * @param row the values of the row; null for NULL
     * @param otherwise what a field that no rule fills is given by the file itself; null where it gives nothing
     * @throws Unfit where a value breaches what the layout says
     */
    List<String> values(List<String> row, IntFunction<String> otherwise) {
        String[] values = new String[fields.size()];
        for (int f = 0; f < values.length; f++) {
            values[f] = places[f] < 0 ? otherwise.apply(f) : plain(fields.get(f).type(), row.get(places[f]));
            require(f, values[f]);
        }
        return new ArrayList<>(Arrays.asList(values));
    }

    /** Makes sure that what a row gives can stand in its fields. */
    void requireFits(List<String> row) {
        for (int f = 0; f < places.length; f++) {
            if (places[f] >= 0) {
                require(f, plain(fields.get(f).type(), row.get(places[f])));
            }
        }
    }

    private void require(int field, String value) {
        String expected = checks[field].problem(value);
        if (expected != null) {
            throw new Unfit(
                    fields.get(field).name(),
                    (value == null ? "nothing" : "\"" + value + "\"") + " where the layout asks for " + expected);
        }
    }

    /** What a row writes as databases do, as {@link ninepin.core.value.Value#text} does. */
    private static String plain(DataType type, String value) {
        if (value == null) {
            return null;
        }
        if (type instanceof DataType.Bool) {
            return value.equals("1") ? "true" : value.equals("0") ? "false" : value;
        }
        if (type instanceof DataType.Timestamp) {
            return value.length() == 10 ? value + "T00:00:00" : value.replace(' ', 'T');
        }
        boolean number = type instanceof DataType.Decimal || type instanceof DataType.IntegerNumber;
        return number ? value.strip() : value;
    }
}
