package ninepin.core.shape;

import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import ninepin.core.check.Finding;
import ninepin.core.formula.Formula;
import ninepin.core.formula.FormulaException;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.Misfit;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.read.RawRecord;
import ninepin.core.read.Shown;
import ninepin.core.read.Value;

/** Writes rows of the target from typed records, one rule for each target field. */
public final class Shaper {

    private final Charset charset;
    private final ColumnWriter[] writers;
    private final List<Rule> rules;
    private final List<String> targets;

    /**
     * @param layout the layout whose records are shaped
     * @param type the index of the record type that gives the rows
     * @param rules the rules, in the order of the target fields
     * @param facts what the run knows about itself
     */
    public Shaper(Layout layout, int type, List<Rule> rules, RunFacts facts) {
        this.charset = layout.format().charset().ofValues().charset();
        this.writers =
                rules.stream().map(rule -> writer(layout, type, rule, facts)).toArray(ColumnWriter[]::new);
        this.rules = List.copyOf(rules);
        this.targets = rules.stream().map(Rule::target).toList();
    }

    /** The target fields of a row, in order. */
    public List<String> targets() {
        return targets;
    }

    /** Whether there are records of which no row can be made. */
    public boolean canRefuse() {
        return Arrays.stream(writers).anyMatch(FormulaWriter.class::isInstance);
    }

    /**
     * Adds the row for a record.
     *
     * @param values the typed values of each record type's latest record
     * @return why there is no row, one finding for each rule that has no value; empty where there is one
     */
    public List<Finding> shape(RawRecord record, Value[][] values, RowBuffer out) {
        List<Finding> misfits = List.of();
        for (int i = 0; i < writers.length; i++) {
            try {
                writers[i].write(record, values, out);
            } catch (Misfit e) {
                misfits = misfits.isEmpty() ? new ArrayList<>() : misfits;
                misfits.add(misfit(e, i, record, values));
            }
        }
        if (misfits.isEmpty()) {
            out.endRow();
        } else {
            out.dropRow();
        }
        return misfits;
    }

    private Finding misfit(Misfit e, int rule, RawRecord record, Value[][] values) {
        List<String> with = new ArrayList<>();
        for (FormulaScope.Place place :
                ((FormulaWriter) writers[rule]).formula().fields()) {
            String text = values[place.recordType()][place.field()].text(charset);
            with.add(place.shown() + " " + (text == null ? "NULL" : Shown.quoted(text)));
        }
        String part = ((Origin.OfFormula) rules.get(rule).take()).formula().substring(e.from(), e.to());
        return new Finding(
                Severity.REJECT,
                e.code(),
                record.line(),
                record.number(),
                null,
                targets.get(rule),
                0,
                0,
                record.offset(),
                (int) Math.min(record.fullLength(), 1 << 20),
                e.getMessage() + (with.isEmpty() ? "" : ", with " + String.join(", ", with)),
                "a value of " + part,
                null);
    }

    /** Reads a formula of a rule for records of a type; what is asked at start and not answered is NULL. */
    public static Formula formula(Origin.OfFormula take, Layout layout, int type, RunFacts facts) {
        Map<String, String> hosts = new HashMap<>();
        Formula.hosts(take.formula()).forEach(name -> hosts.put(name, null));
        hosts.putAll(facts.asked());
        return Formula.of(take.formula(), new FormulaScope(layout, type, hosts, facts.today()));
    }

    private static ColumnWriter writer(Layout layout, int type, Rule rule, RunFacts facts) {
        Origin take = rule.take();
        if (take instanceof Origin.OfField of) {
            Layout.FieldPlace place = layout.place(type, of.field())
                    .orElseThrow(() ->
                            new DefinitionException("shaping." + rule.target(), "there is no field " + of.field()));
            return new ValueWriter(place, rule, layout.format().charset().ofValues());
        }
        if (take instanceof Origin.OfFormula of) {
            try {
                return new FormulaWriter(formula(of, layout, type, facts), rule);
            } catch (FormulaException e) {
                throw new DefinitionException("shaping." + rule.target() + ".take.formula", e.getMessage());
            }
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
