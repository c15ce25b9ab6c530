package ninepin.core.document;

import java.util.List;
import ninepin.core.shape.Rule;

/**
 * What one delivery makes of the records of one type.
 *
 * @param type the index of the record type
 * @param lane the index of the lane whose documents it takes, or -1 for all
 * @param rules one rule for each target field
 */
public record PlannedDelivery(int type, int lane, List<Rule> rules) {

    public PlannedDelivery {
        rules = List.copyOf(rules);
    }

    /** A delivery of all documents. */
    public PlannedDelivery(int type, List<Rule> rules) {
        this(type, -1, rules);
    }

    /** Whether it takes the documents of some lanes. */
    boolean takes(long laneBits) {
        return lane < 0 || (laneBits >> lane & 1) == 1;
    }
}
