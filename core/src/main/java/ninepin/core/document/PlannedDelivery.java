package ninepin.core.document;

import java.util.List;
import ninepin.core.layout.Layout;
import ninepin.core.shape.Rule;

/**
 * What one delivery makes of the records of one type.
 *
 * @param name what other deliveries know its rows by: the name of their table; null where nobody refers to them
 * @param type the index of the record type
 * @param lane the index of the lane whose documents it takes, or -1 for all
 * @param rules one rule for each target field
 * @param summary what it takes of the records instead of themselves, or null
 * @param elsewhere whether its rows are made, so that they can refuse a document, but go to a place that this plan does
 *     not deliver to
 */
public record PlannedDelivery(String name, int type, int lane, List<Rule> rules, Summary summary, boolean elsewhere) {

    public PlannedDelivery {
        rules = List.copyOf(rules);
    }

    /** A delivery of all documents. */
    public PlannedDelivery(int type, List<Rule> rules) {
        this(null, type, -1, rules, null, false);
    }

    /** A delivery whose rows go where the plan delivers to. */
    public PlannedDelivery(String name, int type, int lane, List<Rule> rules, Summary summary) {
        this(name, type, lane, rules, summary, false);
    }

    PlannedDelivery withElsewhere(boolean other) {
        return new PlannedDelivery(name, type, lane, rules, summary, other);
    }

    /** What is made of the groups of its summary: a plan of its own, in which they are the records. */
    DocumentPlan ofGroups(Layout groups) {
        return new DocumentPlan(groups, List.of(new PlannedDelivery(0, rules)));
    }

    /** Whether it takes the documents of some lanes. */
    boolean takes(long laneBits) {
        return lane < 0 || (laneBits >> lane & 1) == 1;
    }
}
