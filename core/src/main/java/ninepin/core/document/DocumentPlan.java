package ninepin.core.document;

import java.util.List;
import java.util.stream.IntStream;
import ninepin.core.layout.Layout;

/**
 * All that is to be done with the records of a file before their rows are delivered.
 *
 * @param file the layout of the file, with all checks
 * @param gathering how records become documents; null where the layout's own record types make them
 * @param setAside what is left out
 * @param duplicates whose second records are left out
 * @param checks what has to hold across a document
 * @param lanes the ways that documents can take
 * @param deliveries what is made of the records of each type
 */
public record DocumentPlan(
        Layout file,
        Gathering gathering,
        List<SetAside> setAside,
        List<Duplicates> duplicates,
        List<DocumentCheck> checks,
        Lanes lanes,
        List<PlannedDelivery> deliveries) {

    public DocumentPlan {
        setAside = setAside == null ? List.of() : List.copyOf(setAside);
        duplicates = duplicates == null ? List.of() : List.copyOf(duplicates);
        checks = checks == null ? List.of() : List.copyOf(checks);
        lanes = lanes == null ? Lanes.NONE : lanes;
        deliveries = List.copyOf(deliveries);
    }

    /** Records and rows alone. */
    public DocumentPlan(Layout file, List<PlannedDelivery> deliveries) {
        this(file, null, List.of(), List.of(), List.of(), Lanes.NONE, deliveries);
    }

    /** The layout of the documents, which rules, conditions and checks speak of. */
    public Layout shaped() {
        return gathering == null ? file : gathering.of(file);
    }

    /** The same for some of the deliveries: the others are made, but not delivered. */
    public DocumentPlan only(List<Integer> here) {
        List<PlannedDelivery> some = IntStream.range(0, deliveries.size())
                .mapToObj(d -> deliveries.get(d).withElsewhere(!here.contains(d)))
                .toList();
        return new DocumentPlan(file, gathering, setAside, duplicates, checks, lanes, some);
    }

    /** The deliveries whose rows are delivered, in order. */
    public List<Integer> here() {
        return IntStream.range(0, deliveries.size())
                .filter(d -> !deliveries.get(d).elsewhere())
                .boxed()
                .toList();
    }

    /** The deliveries that have a summary and are delivered. */
    public List<Integer> summaries() {
        return here().stream().filter(d -> deliveries.get(d).summary() != null).toList();
    }

    /** The same without the rules of deliveries that have no summary. */
    public DocumentPlan forSummaries() {
        List<PlannedDelivery> bare = deliveries.stream()
                .map(d -> d.summary() != null
                        ? d
                        : new PlannedDelivery(null, d.type(), d.lane(), List.of(), null, d.elsewhere()))
                .toList();
        return new DocumentPlan(file, gathering, setAside, duplicates, checks, lanes, bare);
    }

    /** Whether documents have several records. */
    public boolean several() {
        return gathering != null || file.nested();
    }

    /** Whether something has to be known of the records before a restart that the layout's checks do not know. */
    public boolean remembers() {
        return gathering != null || !duplicates.isEmpty();
    }

    /** Whether the file has to be read to its end to know which records are left out. */
    public boolean surveys() {
        return duplicates.stream().anyMatch(d -> d.keep() == Duplicates.Keep.LAST);
    }
}
