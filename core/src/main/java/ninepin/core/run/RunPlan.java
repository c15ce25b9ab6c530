package ninepin.core.run;

import java.util.List;
import ninepin.core.deliver.Tally;
import ninepin.core.layout.Layout;
import ninepin.core.shape.Rule;
import ninepin.core.shape.RunFacts;

/**
 * All that a run needs to know but for its file and its target.
 *
 * @param layout the layout, with the checks of layout and job
 * @param rules one rule for each target field
 * @param facts what the run knows about itself
 * @param limits how many rejects it may have
 * @param accepted the account at which a person last said to go on in spite of the limits; counts from there
 * @param chunkRows the most rows of a chunk
 */
public record RunPlan(Layout layout, List<Rule> rules, RunFacts facts, Limits limits, Tally accepted, int chunkRows) {

    /** The usual size of a chunk; what commits cost is then lost in the noise. */
    public static final int CHUNK_ROWS = 10_000;

    public RunPlan {
        rules = List.copyOf(rules);
        limits = limits == null ? Limits.NONE : limits;
        accepted = accepted == null ? Tally.ZERO : accepted;
        if (chunkRows < 1) {
            throw new IllegalArgumentException("a chunk has at least one row");
        }
    }

    /** The same plan with chunks of another size. */
    public RunPlan withChunkRows(int rows) {
        return new RunPlan(layout, rules, facts, limits, accepted, rows);
    }

    /** The limit that the account exceeds, in words, or null. */
    String exceeded(Tally tally) {
        return limits.exceeded(tally.rejected() - accepted.rejected(), tally.read() - accepted.read());
    }
}
