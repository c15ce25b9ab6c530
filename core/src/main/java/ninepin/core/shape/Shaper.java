package ninepin.core.shape;

import java.util.List;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.read.RawRecord;
import ninepin.core.read.Value;

/** Writes rows of the target from typed records, one rule for each target field. */
public final class Shaper {

    private final ColumnWriter[] writers;
    private final List<String> targets;

    /**
     * @param layout the layout whose records are shaped
     * @param type the index of the record type that gives the rows
     * @param rules the rules, in the order of the target fields
     * @param facts what the run knows about itself
     */
    public Shaper(Layout layout, int type, List<Rule> rules, RunFacts facts) {
        this.writers =
                rules.stream().map(rule -> writer(layout, type, rule, facts)).toArray(ColumnWriter[]::new);
        this.targets = rules.stream().map(Rule::target).toList();
    }

    /** The target fields of a row, in order. */
    public List<String> targets() {
        return targets;
    }

    /**
     * Adds the row for a record.
     *
     * @param values the typed values of each record type's latest record
     */
    public void shape(RawRecord record, Value[][] values, RowBuffer out) {
        for (ColumnWriter writer : writers) {
            writer.write(record, values, out);
        }
        out.endRow();
    }

    private static ColumnWriter writer(Layout layout, int type, Rule rule, RunFacts facts) {
        Origin take = rule.take();
        if (take instanceof Origin.OfField of) {
            Layout.FieldPlace place = layout.place(type, of.field())
                    .orElseThrow(() ->
                            new DefinitionException("shaping." + rule.target(), "there is no field " + of.field()));
            return new ValueWriter(place, rule, layout.format().charset().ofValues());
        }
        if (take instanceof Origin.Constant constant) {
            return ValueWriter.fixed(constant.value(), rule);
        }
        if (take instanceof Origin.Asked asked) {
            return ValueWriter.fixed(facts.asked().get(asked.name()), rule);
        }
        switch (((Origin.OfRun) take).fact()) {
            case TODAY:
                return ValueWriter.fixed(facts.today().toString(), rule);
            case RUN_NUMBER:
                return ValueWriter.fixed(Long.toString(facts.runNumber()), rule);
            case FILE_NAME:
                return ValueWriter.fixed(facts.fileName(), rule);
            default:
                return (record, values, out) -> {
                    out.digits(record.line());
                    out.endField();
                };
        }
    }
}
