package ninepin.core.job;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import ninepin.core.deliver.Destination;
import ninepin.core.document.Summary;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.run.Limits;
import ninepin.core.shape.Rule;

/**
 * One delivery of a job: which records give its rows, how they are shaped, and where they go.
 *
 * @param of the name of the record type; null for the first one of the layout
 * @param lane the name of the lane whose documents it takes; null for all documents
 * @param summary what it takes of the records instead of themselves: groups of them with totals; or null
 * @param to the place, or null while that is not decided
 * @param shaping one rule for each target field
 * @param limits how many rejects its place may have, in place of what the job says; or null
 */
public record Delivery(String of, String lane, Summary summary, Destination to, List<Rule> shaping, Limits limits) {

    /** A delivery that goes by the limits of its job. */
    public Delivery(String of, String lane, Summary summary, Destination to, List<Rule> shaping) {
        this(of, lane, summary, to, shaping, null);
    }

    public Delivery {
        of = of == null || of.isBlank() ? null : of;
        lane = lane == null || lane.isBlank() ? null : lane;
        limits = Limits.NONE.equals(limits) ? null : limits;
        shaping = shaping == null ? List.of() : List.copyOf(shaping);
        Set<String> targets = new HashSet<>();
        for (Rule rule : shaping) {
            if (!targets.add(rule.target().toLowerCase())) {
                throw new DefinitionException("shaping." + rule.target(), "has a second rule");
            }
        }
    }

    /** The same with another place. */
    public Delivery to(Destination other) {
        return new Delivery(of, lane, summary, other, shaping, limits);
    }

    /** The table that it fills, by which rules of other deliveries know its rows; null where it fills none. */
    public String table() {
        return to == null || !to.fillsTable() ? null : to.table();
    }

    /** The index of its record type in a layout, or -1. */
    public int type(Layout layout) {
        return of == null ? 0 : layout.typeIndex(of);
    }

    /** Of all documents. */
    public Delivery(String of, Destination to, List<Rule> shaping) {
        this(of, null, null, to, shaping);
    }

    /** The target fields of its rows, in order. */
    public List<String> columns() {
        return shaping.stream().filter(Rule::fills).map(Rule::target).toList();
    }
}
