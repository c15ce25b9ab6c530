package ninepin.core.run;

import java.util.List;
import ninepin.core.shape.Rule;

/**
 * What one delivery makes of the records of one type.
 *
 * @param type the index of the record type
 * @param rules one rule for each target field
 */
public record PlannedDelivery(int type, List<Rule> rules) {

    public PlannedDelivery {
        rules = List.copyOf(rules);
    }

    /** The target fields of its rows, in order. */
    public List<String> columns() {
        return rules.stream().map(Rule::target).toList();
    }
}
