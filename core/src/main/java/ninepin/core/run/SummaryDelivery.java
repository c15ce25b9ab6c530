package ninepin.core.run;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Refusal;
import ninepin.core.deliver.TargetException;
import ninepin.core.document.DocumentPlan;
import ninepin.core.document.DocumentShaper;
import ninepin.core.document.DocumentStream;
import ninepin.core.document.GroupRows;
import ninepin.core.document.RowSink;

/**
 * Delivers the rows of summaries, together with the last rows of the file and in their transaction. Groups are those of
 * the records that were delivered: as they came by in this execution, or, after a restart and where the target refused
 * some, from a second reading of the file without what the journal says was refused.
 */
final class SummaryDelivery {

    /** Reads the file from its start. */
    @FunctionalInterface
    interface Reading {
        DocumentStream stream(DocumentPlan plan) throws IOException;
    }

    /** The rows cannot be delivered; the message says which and why. */
    static final class Refused extends Exception {
        private static final long serialVersionUID = 1L;

        Refused(String message) {
            super(message);
        }
    }

    private final RunPlan plan;
    private final Reading reading;
    private final Path journal;
    private final StopSignal stop;
    /** Has the groups of all documents so far, as long as the target has refused none of them; else null. */
    private DocumentShaper seen;

    /**
     * @param seen shapes the documents of this execution; null where some were delivered before it
     * @param journal holds what was refused
     */
    SummaryDelivery(RunPlan plan, DocumentShaper seen, Reading reading, Path journal, StopSignal stop) {
        this.plan = plan;
        this.seen = seen;
        this.reading = reading;
        this.journal = journal;
        this.stop = stop;
    }

    boolean isNothing() {
        return plan.documents().summaries().isEmpty();
    }

    /** The target has refused documents that were counted. */
    void refusedSome() {
        seen = null;
    }

    /**
     * Loads the rows.
     *
     * @param committed the bytes of the journal that are committed
     * @param last what is to be added to it with the last rows
     * @return null where a person has asked to stop meanwhile
     */
    Loaded load(LoadConnection connection, long committed, List<JournalEntry> last)
            throws TargetException, IOException, Refused {
        DocumentPlan documents = plan.documents();
        DocumentShaper shaper = seen != null ? seen : readAgain(committed, last);
        if (shaper == null) {
            return null;
        }
        List<Integer> here = documents.here();
        Batch batch = new Batch(here.size());
        List<String> groups = new ArrayList<>();
        for (int d : documents.summaries()) {
            GroupRows made = GroupRows.of(documents, shaper, d, plan.context(), batch.rows(here.indexOf(d)), () -> {
                batch.made(here.indexOf(d));
                batch.endDocument(-1L - batch.documents());
            });
            if (!made.refused().isEmpty()) {
                throw new Refused("A group of a summary has no row: "
                        + made.refused().get(0).message());
            }
            groups.addAll(made.groups());
        }
        Loaded loaded = connection.load(batch);
        if (!loaded.refused().isEmpty()) {
            Refusal first = loaded.refused().get(0);
            throw new Refused("The target refuses " + loaded.refused().size() + " of " + batch.documents()
                    + " rows of summaries, the first of the group " + groups.get(first.document()) + ": "
                    + first.reason());
        }
        return loaded;
    }

    private DocumentShaper readAgain(long committed, List<JournalEntry> last) throws IOException {
        RefusedRecords refused = RefusedRecords.of(journal, committed);
        last.forEach(refused::add);
        DocumentPlan documents = plan.documents().forSummaries();
        try (DocumentStream stream = reading.stream(documents)) {
            DocumentShaper shaper = new DocumentShaper(documents, stream, plan.context());
            if (documents.surveys()) {
                try (DocumentStream first = reading.stream(documents)) {
                    shaper.survey(first, documents, plan.context(), stop::requested);
                }
            }
            RowSink nowhere = RowSink.nowhere(documents.deliveries().size());
            for (DocumentStream.Step step = stream.next(); step != DocumentStream.Step.END; step = stream.next()) {
                if (stop.requested()) {
                    return null;
                }
                if (step == DocumentStream.Step.DOCUMENT) {
                    if (refused.in(stream.document())) {
                        shaper.remember();
                    } else {
                        shaper.settle(nowhere);
                    }
                }
            }
            return shaper;
        }
    }
}
