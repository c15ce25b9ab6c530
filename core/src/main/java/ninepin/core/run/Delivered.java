package ninepin.core.run;

import java.io.IOException;
import java.nio.file.Path;
import ninepin.core.bytes.FileSource;
import ninepin.core.check.RecordChecker;
import ninepin.core.deliver.Mark;
import ninepin.core.document.DocumentFile;
import ninepin.core.document.DocumentShaper;
import ninepin.core.document.DocumentStream;
import ninepin.core.document.OpenDocument;
import ninepin.core.document.RowSink;
import ninepin.core.format.Formats;
import ninepin.core.record.Opening;

/**
 * Reads the file of a run again and makes the same of it, as far as the run has come: what it delivered, and, on the way,
 * what became of every record. Nothing is kept of a run for this but its file, its journal and its mark.
 */
public final class Delivered {

    /** Told of each document with its rows. */
    @FunctionalInterface
    public interface Visitor {

        /**
         * Takes a document; its rows stand in the sink.
         *
         * @param refused whether it was refused, by a check or by the target
         * @return whether to go on
         */
        boolean document(OpenDocument document, DocumentShaper shaper, boolean refused) throws IOException, VisitFailed;
    }

    /** What ends a visit. */
    public static final class VisitFailed extends Exception {
        private static final long serialVersionUID = 1L;

        public VisitFailed(Exception cause) {
            super(cause.getMessage(), cause);
        }
    }

    private final RunPlan plan;
    private final Path file;
    private final Path journal;
    private final Mark mark;

    /**
     * @param plan what the run had to do
     * @param mark how far it has come
     */
    public Delivered(RunPlan plan, Path file, Path journal, Mark mark) {
        this.plan = plan;
        this.file = file;
        this.journal = journal;
        this.mark = mark;
    }

    /**
     * Visits the documents of the file from its start.
     *
     * @param rows where their rows go; the visitor clears it
     */
    public void visit(RowSink rows, Visitor visitor) throws IOException, InterruptedException, VisitFailed {
        RefusedRecords refused = RefusedRecords.of(journal, mark.journalLength());
        try (FileSource source = FileSource.open(file)) {
            Opening opening = Formats.open(source, plan.layout());
            if (opening.fault() != null) {
                return;
            }
            try (DocumentFile ordered = DocumentFile.of(source, opening, plan.documents(), percent -> {});
                    DocumentStream stream = stream(ordered, opening)) {
                DocumentShaper shaper = new DocumentShaper(plan.documents(), stream, plan.context());
                if (plan.documents().surveys()) {
                    try (DocumentStream first = stream(ordered, opening)) {
                        shaper.survey(first, plan.documents(), plan.context(), () -> false);
                    }
                }
                visit(stream, shaper, refused, rows, visitor);
            }
        }
    }

    private DocumentStream stream(DocumentFile ordered, Opening opening) throws IOException {
        RecordChecker checker = new RecordChecker(plan.layout(), opening, plan.today());
        return new DocumentStream(ordered.reader(opening.body()), checker, plan.documents());
    }

    private void visit(
            DocumentStream stream, DocumentShaper shaper, RefusedRecords refused, RowSink rows, Visitor visitor)
            throws IOException, VisitFailed {
        DocumentStream.Step step;
        while ((step = stream.next()) != DocumentStream.Step.END && step != DocumentStream.Step.HALT) {
            if (stream.after().records() > mark.position().records()) {
                return;
            }
            if (step == DocumentStream.Step.DOCUMENT) {
                shaper.settle(rows);
                boolean isRefused = shaper.refused() || refused.in(stream.document());
                if (!visitor.document(stream.document(), shaper, isRefused)) {
                    return;
                }
            }
        }
    }
}
