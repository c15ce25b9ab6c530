package ninepin.core.document;

import java.util.List;
import java.util.stream.IntStream;
import ninepin.core.layout.Layout;

/**
 * What a job says of its documents.
 *
 * @param gather how records become documents; null where the layout's own record types make them
 * @param setAside what is left out
 * @param duplicates whose second records are left out
 * @param checks what has to hold across a document
 * @param lanes the ways that documents can take, or null
 */
public record Documents(
        Gathering gather,
        List<SetAside> setAside,
        List<Duplicates> duplicates,
        List<DocumentCheck> checks,
        Lanes lanes) {

    /** Records as the layout has them, all of them, one way. */
    public static final Documents PLAIN = new Documents(null, null, null, null, null);

    public Documents {
        setAside = setAside == null ? List.of() : List.copyOf(setAside);
        duplicates = duplicates == null ? List.of() : List.copyOf(duplicates);
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
     * The record type that documents hang on: the first that others belong to and that belongs to none. Where records
     * stand for themselves, the first one.
     *
     * @param shaped the layout of the documents
     */
    public static int headType(Layout shaped) {
        return IntStream.range(0, shaped.recordTypes().size())
                .filter(t -> shaped.parentIndex(t) < 0
                        && shaped.recordTypes().stream()
                                .anyMatch(
                                        c -> shaped.recordTypes().get(t).name().equals(c.parent())))
                .findFirst()
                .orElse(0);
    }

    /** With what is made of the records of a file. */
    public DocumentPlan plan(Layout file, List<PlannedDelivery> deliveries) {
        return new DocumentPlan(file, gather, setAside, duplicates, checks, ways(), deliveries);
    }
}
