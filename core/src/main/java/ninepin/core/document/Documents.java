package ninepin.core.document;

import java.util.List;
import java.util.stream.Stream;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUp;

/**
 * What a job says of its documents.
 *
 * @param gather how records become documents; null where the layout's own record types make them
 * @param setAside what is left out
 * @param duplicates whose second records are left out
 * @param lookUps what is added to records from elsewhere
 * @param checks what has to hold across a document
 * @param lanes the ways that documents can take, or null
 */
public record Documents(
        Gathering gather,
        List<SetAside> setAside,
        List<Duplicates> duplicates,
        List<LookUp> lookUps,
        List<DocumentCheck> checks,
        Lanes lanes) {

    /** Records as the layout has them, all of them, one way. */
    public static final Documents PLAIN = new Documents(null, null, null, null, null, null);

    public Documents {
        setAside = setAside == null ? List.of() : List.copyOf(setAside);
        duplicates = duplicates == null ? List.of() : List.copyOf(duplicates);
        lookUps = lookUps == null ? List.of() : List.copyOf(lookUps);
        checks = checks == null ? List.of() : List.copyOf(checks);
        lanes = lanes == null || lanes.lanes().isEmpty() ? null : lanes;
    }

    /** The ways that documents can take. */
    public Lanes ways() {
        return lanes == null ? Lanes.NONE : lanes;
    }

    /** The layout that rules, conditions and checks speak of. */
    public Layout shaped(Layout file) {
        return gather == null ? file : gather.of(file);
    }

    /**
     * A formula of a job that is no rule.
     *
     * @param of the record type from which it is seen; null for the one that documents hang on
     * @param text the formula
     */
    public record Seen(String of, String text) {}

    /** The formulas of conditions, checks, lanes and keys. */
    public List<Seen> formulas() {
        return Stream.of(
                        setAside.stream().map(a -> new Seen(a.of(), a.when())),
                        lookUps.stream().flatMap(l -> l.key().stream().map(k -> new Seen(l.of(), k.is()))),
                        checks.stream().map(c -> new Seen(null, c.condition())),
                        ways().lanes().stream().filter(l -> l.when() != null).map(l -> new Seen(null, l.when())))
                .flatMap(s -> s)
                .toList();
    }

    /** With what is made of the records of a file. */
    public DocumentPlan plan(Layout file, List<PlannedDelivery> deliveries) {
        return new DocumentPlan(file, gather, setAside, duplicates, checks, ways(), deliveries);
    }
}
