package ninepin.core.run;

import java.util.List;
import java.util.stream.IntStream;
import ninepin.core.deliver.Tally;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Layout;
import ninepin.core.shape.RunFacts;

/**
 * All that a run needs to know but for its file and its target.
 *
 * @param layout the layout, with the checks of layout and job
 * @param deliveries what is made of the records of each type; the target takes them in this order
 * @param facts what the run knows about itself
 * @param limits how many rejects it may have
 * @param accepted the account at which a person last said to go on in spite of the limits; counts from there
 * @param chunkRows the most rows of a chunk
 */
public record RunPlan(
        Layout layout, List<PlannedDelivery> deliveries, RunFacts facts, Limits limits, Tally accepted, int chunkRows) {

    /** The usual size of a chunk; what commits cost is then lost in the noise. */
    public static final int CHUNK_ROWS = 10_000;

    public RunPlan {
        deliveries = List.copyOf(deliveries);
        limits = limits == null ? Limits.NONE : limits;
        accepted = accepted == null ? Tally.ZERO : accepted;
        if (chunkRows < 1) {
            throw new IllegalArgumentException("a chunk has at least one row");
        }
    }

    /** The same plan with chunks of another size. */
    public RunPlan withChunkRows(int rows) {
        return new RunPlan(layout, deliveries, facts, limits, accepted, rows);
    }

    /** For each record type the indexes of the deliveries that make rows of it. */
    int[][] deliveriesOfTypes() {
        return IntStream.range(0, layout.recordTypes().size())
                .mapToObj(type -> IntStream.range(0, deliveries.size())
                        .filter(d -> deliveries.get(d).type() == type)
                        .toArray())
                .toArray(int[][]::new);
    }

    /** Whether each blank row is noted. */
    boolean notesBlankRows() {
        return layout.format().blankRows() == Delimited.BlankRows.NOTE;
    }

    /** The limit that the account exceeds, in words, or null. */
    String exceeded(Tally tally) {
        return limits.exceeded(tally.rejected() - accepted.rejected(), tally.read() - accepted.read());
    }
}
