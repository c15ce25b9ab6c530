package ninepin.core.shape;

import java.util.ArrayList;
import java.util.List;
import ninepin.core.check.Finding;
import ninepin.core.formula.EvaluationException;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.Notices;
import ninepin.core.formula.RecordContext;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.layout.Shown;
import ninepin.core.record.Placed;

/** Writes rows of the target from typed records, one rule for each target field. */
public final class Shaper {

    private final ColumnWriter[] writers;
    private final List<Rule> rules;
    private final List<String> targets;
    private final Notices notices = new Notices();

    /**
     * @param layout the layout whose records are shaped
     * @param type the index of the record type that gives the rows
     * @param rules the rules, in the order of the target fields
     * @param context what rules can take beside the records
     */
    public Shaper(Layout layout, int type, List<Rule> rules, ShapingContext context) {
        FormulaScope scope = new FormulaScope(layout, type, context.surroundings(), notices);
        Writers all = new Writers(context, scope);
        this.rules = rules.stream().filter(Rule::fills).toList();
        this.writers = this.rules.stream().map(all::of).toArray(ColumnWriter[]::new);
        this.targets = this.rules.stream().map(Rule::target).toList();
    }

    /** The target fields of a row, in order. */
    public List<String> targets() {
        return targets;
    }

    /** The fields that a rule reads. */
    public List<FormulaScope.Place> reads(int rule) {
        return writers[rule].reads();
    }

    /**
     * Adds the row for a record.
     *
     * @param at the record and those around it
     * @return what there is to say: one finding for each rule that has no value, in which case there is no row, and notes
     */
    public List<Finding> shape(Placed record, RecordContext at, RowBuffer out) {
        List<Finding> findings = List.of();
        boolean refused = false;
        for (int i = 0; i < writers.length; i++) {
            try {
                writers[i].write(record, at, out);
            } catch (EvaluationException e) {
                findings = findings.isEmpty() ? new ArrayList<>() : findings;
                findings.add(finding(e, i, record, at));
                refused = true;
            }
            if (!notices.isEmpty()) {
                findings = findings.isEmpty() ? new ArrayList<>() : findings;
                for (Notices.Notice n : notices.take()) {
                    findings.add(finding(Severity.NOTE, n.code(), record, targets.get(i), n.found(), n.expected()));
                }
            }
        }
        if (refused) {
            out.dropRow();
        } else {
            out.endRow();
        }
        return findings;
    }

    private Finding finding(EvaluationException e, int rule, Placed record, RecordContext at) {
        List<String> with = new ArrayList<>();
        for (FormulaScope.Place place : writers[rule].reads()) {
            String text = at.text(place);
            with.add(place.shown() + " " + (text == null ? "NULL" : Shown.quoted(text)));
        }
        String expected = rules.get(rule).take() instanceof Origin.OfFormula of && e.to() > e.from()
                ? "a value of " + of.formula().substring(e.from(), e.to())
                : rules.get(rule).take() instanceof Origin.OfCode of && e.code().startsWith("COD")
                        ? "a value of the code list " + of.list()
                        : "that " + rules.get(rule).sentence();
        String found = e.getMessage() + (with.isEmpty() ? "" : ", with " + String.join(", ", with));
        return finding(Severity.REJECT, e.code(), record, targets.get(rule), found, expected);
    }

    /** A finding about a whole record. */
    public static Finding finding(
            Severity severity, String code, Placed record, String target, String found, String expected) {
        return new Finding(
                severity,
                code,
                record.locator(),
                record.number(),
                null,
                target,
                record.offset(),
                (int) Math.min(record.fullLength(), 1 << 20),
                found,
                expected,
                null);
    }
}
