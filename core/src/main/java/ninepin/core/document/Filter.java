package ninepin.core.document;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import ninepin.core.check.SeenKeys;
import ninepin.core.formula.Datum;
import ninepin.core.formula.EvaluationException;
import ninepin.core.formula.Formula;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.shape.Shaper;

/** What is left out on purpose: records of which a condition holds, and second records of a key. */
final class Filter {

    /** A condition that sets records aside. */
    private record Condition(int type, Formula condition, String why, String text) {}

    /** Records of a type of which one is kept for each key. */
    private record Doubles(int type, SeenKeys keys, boolean last, String why) {}

    private final Walk walk;
    private final List<Condition> filters = new ArrayList<>();
    private final List<Doubles> doubles = new ArrayList<>();

    Filter(DocumentPlan plan, Layout layout, Conditions conditions, Walk walk) {
        this.walk = walk;
        for (SetAside aside : plan.setAside()) {
            int type = conditions.type(aside.of(), "setAside.of");
            filters.add(new Condition(type, conditions.condition(type, aside.when()), aside.why(), aside.when()));
        }
        for (Duplicates d : plan.duplicates()) {
            int type = conditions.type(d.of(), "duplicates.of");
            int[] key = d.key().stream()
                    .mapToInt(f -> layout.recordTypes().get(type).indexOf(f))
                    .toArray();
            if (Arrays.stream(key).anyMatch(k -> k < 0)) {
                throw new DefinitionException("duplicates.key", "there is no such field");
            }
            SeenKeys keys =
                    new SeenKeys(key, layout.format().charset().ofValues().charset());
            doubles.add(new Doubles(type, keys, d.keep() == Duplicates.Keep.LAST, d.why()));
        }
    }

    boolean isNothing() {
        return filters.isEmpty() && doubles.isEmpty();
    }

    /** Sets aside what is left out of a document, and remembers the keys of the rest. */
    void apply(OpenDocument document) {
        filter(document);
        for (Doubles d : doubles) {
            walk.each(document, d.type(), entry -> {
                boolean second = d.last()
                        ? d.keys().place(walk.at().values(d.type())) > entry.number()
                        : d.keys().add(walk.at().values(d.type()), entry.number()) != 0;
                if (second) {
                    walk.setAside(document, d.why());
                }
            });
        }
    }

    /** Remembers where the last record of each key stands, so far. */
    void survey(OpenDocument document) {
        filter(document);
        for (Doubles d : doubles) {
            if (d.last()) {
                walk.each(document, d.type(), entry -> d.keys().put(walk.at().values(d.type()), entry.number()));
            }
        }
    }

    /** Takes over what another has surveyed. */
    void takeLast(Filter surveyor) {
        for (int i = 0; i < doubles.size(); i++) {
            if (doubles.get(i).last()) {
                doubles.set(i, surveyor.doubles.get(i));
            }
        }
    }

    private void filter(OpenDocument document) {
        for (Condition f : filters) {
            walk.each(document, f.type(), entry -> {
                try {
                    Datum holds = f.condition().eval(walk.at());
                    if (!holds.isNull() && holds.number() == 1) {
                        walk.setAside(document, f.why());
                    }
                } catch (EvaluationException e) {
                    entry.add(List.of(Shaper.finding(
                            Severity.REJECT, e.code(), entry, null, e.getMessage(), "a value of " + f.text())));
                }
            });
        }
    }
}
