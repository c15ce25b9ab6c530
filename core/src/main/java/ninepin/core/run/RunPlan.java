package ninepin.core.run;

import java.time.LocalDate;
import ninepin.core.deliver.Tally;
import ninepin.core.document.DocumentPlan;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.Layout;
import ninepin.core.shape.ShapingContext;

/**
 * All that a run needs to know but for its file and its target.
 *
 * @param documents what is made of the file; the target takes its deliveries in this order
 * @param context what rules can take beside the records
 * @param limits how many rejects it may have
 * @param accepted the account at which a person last said to go on in spite of the limits; counts from there
 * @param whole whether nothing becomes visible in the target before the file is complete: one transaction for all of it
 * @param chunkRows the most rows of a chunk
 */
public record RunPlan(
        DocumentPlan documents, ShapingContext context, Limits limits, Tally accepted, boolean whole, int chunkRows) {

    /** The usual size of a chunk; what commits cost is then lost in the noise. */
    public static final int CHUNK_ROWS = 10_000;

    public RunPlan {
        limits = limits == null ? Limits.NONE : limits;
        accepted = accepted == null ? Tally.ZERO : accepted;
        if (chunkRows < 1) {
            throw new IllegalArgumentException("a chunk has at least one row");
        }
    }

    /** The same plan with chunks of another size. */
    public RunPlan withChunkRows(int rows) {
        return new RunPlan(documents, context, limits, accepted, whole, rows);
    }

    /** The layout of the file, with the checks of layout and job. */
    public Layout layout() {
        return documents.file();
    }

    /** The day on which the run first started. */
    LocalDate today() {
        return context.facts().today();
    }

    /** Whether each blank row is noted. */
    boolean notesBlankRows() {
        return layout().format().blankRows() == BlankRows.NOTE;
    }

    /** The limit that the account exceeds, in words, or null. */
    String exceeded(Tally tally) {
        return limits.exceeded(tally, accepted);
    }
}
