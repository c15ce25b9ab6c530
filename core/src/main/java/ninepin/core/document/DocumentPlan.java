package ninepin.core.document;

import java.util.List;
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
