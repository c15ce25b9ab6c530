package ninepin.core.job;

import java.io.IOException;
import java.util.List;
import ninepin.core.check.RecordChecker;
import ninepin.core.formula.Datum;
import ninepin.core.formula.Formula;
import ninepin.core.formula.FormulaException;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.Misfit;
import ninepin.core.layout.Layout;
import ninepin.core.read.Opening;
import ninepin.core.read.RawRecord;
import ninepin.core.read.RecordReader;
import ninepin.core.read.Value;
import ninepin.core.source.ByteSource;

/**
 * What there is to say of a formula while it is written.
 *
 * @param type the type of its values, such as {@code NUMERIC(8,2)}; null where it cannot be evaluated
 * @param problem why it cannot, or why it has no value for the record; null where it has
 * @param from the first character that the problem is about, from 0
 * @param to the character after its last
 * @param record the number of the record that it was tried on, or 0 where the sample has none of the type
 * @param value its value there; null for NULL and where it has none
 * @param names what it can name
 */
public record FormulaProbe(
        String type, String problem, int from, int to, long record, String value, List<Named> names) {

    /**
     * A field that a formula can name.
     *
     * @param name as the formula writes it
     * @param type the type of its values
     * @param value its value in the record; null for NULL
     */
    public record Named(String name, String type, String value) {}

    /**
     * Tries a formula on a record of a sample.
     *
     * @param sample the sample, or null where there is none
     * @param layout its layout
     * @param scope what the formula can name
     * @param type the index of the record type that gives the rows
     * @param wanted the number of the record; the first one of the type from there on is taken
     */
    public static FormulaProbe of(
            String text, ByteSource sample, Layout layout, FormulaScope scope, int type, long wanted)
            throws IOException {
        Value[][] row = null;
        long record = 0;
        Opening opening = sample == null ? null : Opening.of(sample, layout);
        if (opening != null && opening.fault() == null) {
            RecordChecker checker = new RecordChecker(layout, opening, java.time.LocalDate.EPOCH);
            record = find(opening.reader(sample, opening.body()), checker, type, wanted);
            row = record == 0 ? null : checker.values();
        }
        List<Named> names = names(scope, row, layout);
        String kind = null;
        try {
            Formula formula = Formula.of(text, scope);
            kind = formula.type().label();
            Datum d = row == null ? null : formula.eval(row);
            String value = d == null || d.isNull() ? null : d.written(formula.type());
            return new FormulaProbe(kind, null, 0, 0, record, value, names);
        } catch (FormulaException e) {
            return new FormulaProbe(null, e.getMessage(), e.from(), e.to(), record, null, names);
        } catch (Misfit e) {
            return new FormulaProbe(
                    kind, "No value here: " + e.getMessage() + ".", e.from(), e.to(), record, null, names);
        }
    }

    /** Reads up to a record of a type; its number, or 0 where there is none. */
    private static long find(RecordReader reader, RecordChecker checker, int type, long wanted) throws IOException {
        RecordReader.Item item;
        while ((item = reader.next()) != RecordReader.Item.END) {
            RawRecord r = reader.record();
            if (item == RecordReader.Item.BLANK) {
                continue;
            }
            if (r.number() > Previewer.MOST_RECORDS) {
                return 0;
            }
            checker.check(r);
            if (r.fault() == null && r.type() == type && r.number() >= wanted) {
                return r.number();
            }
        }
        return 0;
    }

    private static List<Named> names(FormulaScope scope, Value[][] row, Layout layout) {
        return scope.places().stream()
                .map(p -> new Named(
                        p.shown(),
                        p.type().label(),
                        row == null
                                ? null
                                : row[p.recordType()][p.field()].text(
                                        layout.format().charset().ofValues().charset())))
                .toList();
    }
}
