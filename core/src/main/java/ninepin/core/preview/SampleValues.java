package ninepin.core.preview;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import ninepin.core.bytes.ByteSource;
import ninepin.core.check.RecordChecker;
import ninepin.core.document.DocumentPlan;
import ninepin.core.document.DocumentStream;
import ninepin.core.format.Formats;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.LookedUp;
import ninepin.core.formula.Notices;
import ninepin.core.layout.Layout;
import ninepin.core.record.Opening;
import ninepin.core.record.Placed;
import ninepin.core.shape.ShapingContext;

/** The values that the fields of a record type have in a sample, by the name that a rule has for the field. */
final class SampleValues {

    private SampleValues() {}

    /**
     * Reads the values.
     *
     * @param sample the sample, or null where there is none
     * @param type the index of the record type in the layout of the documents
     * @param most the most records that are looked at
     */
    static Map<String, List<String>> of(
            ByteSource sample, DocumentPlan plan, int type, ShapingContext context, int most) throws IOException {
        Map<String, List<String>> values = new TreeMap<>();
        Layout shaped = plan.shaped();
        Opening opening = sample == null ? null : Formats.open(sample, plan.file());
        if (opening == null || opening.fault() != null) {
            return values;
        }
        RecordChecker checker =
                new RecordChecker(plan.file(), opening, context.facts().today());
        DocumentStream stream = new DocumentStream(opening.reader(sample, opening.body()), checker, plan);
        stream.recordContext().lookUp(LookedUp.all(shaped, context.surroundings()));
        List<FormulaScope.Place> places =
                new FormulaScope(shaped, type, context.surroundings(), new Notices()).places();
        long next = 1;
        int seen = 0;
        while (seen < most) {
            DocumentStream.Step step = stream.next();
            if (step == DocumentStream.Step.END || step == DocumentStream.Step.HALT) {
                break;
            }
            Placed record = step == DocumentStream.Step.DOCUMENT ? stream.standAt(type, next) : null;
            while (record != null && seen < most) {
                seen++;
                for (FormulaScope.Place place : places) {
                    String text = stream.recordContext().text(place);
                    if (text != null) {
                        values.computeIfAbsent(place.taken(type), n -> new ArrayList<>())
                                .add(text);
                    }
                }
                next = record.number() + 1;
                record = stream.several() ? stream.standAt(type, next) : null;
            }
            next = stream.after().records() + 1;
        }
        return values;
    }
}
