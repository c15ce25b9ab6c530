package ninepin.server.follow;

import java.util.ArrayList;
import java.util.List;
import ninepin.core.document.DocumentShaper;
import ninepin.core.document.OpenDocument;
import ninepin.core.document.RowSink;
import ninepin.core.run.Delivered;
import ninepin.core.shape.RowBuffer;

/**
 * Looks for one document among those of a run, and keeps what was made of it: the one that a record or line stands in, or
 * the one that made a row with a key.
 */
final class Trace implements RowSink, Delivered.Visitor {

    /** A row of the document. */
    record Row(int delivery, int record, List<String> values) {}

    /** A record of the document. */
    record Place(long number, long line, long offset, long length, String aside) {}

    /** What is looked for; says yes at the first document that is it, and maybe where it may be. */
    interface Sought {
        enum Answer {
            NO,
            MAYBE,
            YES,
            PASSED
        }

        Answer of(OpenDocument document, List<Row> rows);
    }

    private final Sought sought;
    private final RowBuffer[] buffers;
    private final List<Row> rows = new ArrayList<>();

    private boolean found;
    private boolean refused;
    private List<Row> foundRows = List.of();
    private List<Place> places = List.of();

    Trace(int deliveries, Sought sought) {
        this.sought = sought;
        this.buffers = new RowBuffer[deliveries];
        for (int d = 0; d < deliveries; d++) {
            buffers[d] = new RowBuffer();
        }
    }

    @Override
    public RowBuffer rows(int delivery) {
        return buffers[delivery];
    }

    @Override
    public void made(int delivery, int record) {
        rows.add(new Row(delivery, record, buffers[delivery].row(0)));
        buffers[delivery].clear();
    }

    @Override
    public boolean document(OpenDocument document, DocumentShaper shaper, boolean isRefused) {
        Sought.Answer answer = sought.of(document, rows);
        if (answer == Sought.Answer.YES || answer == Sought.Answer.MAYBE) {
            found = true;
            refused = isRefused;
            foundRows = List.copyOf(rows);
            places = new ArrayList<>();
            for (int r = 0; r < document.size(); r++) {
                OpenDocument.Entry e = document.get(r);
                places.add(new Place(e.number(), e.line(), e.offset(), e.fullLength(), e.aside()));
            }
        }
        rows.clear();
        return answer == Sought.Answer.NO || answer == Sought.Answer.MAYBE;
    }

    boolean found() {
        return found;
    }

    boolean refused() {
        return refused;
    }

    List<Row> foundRows() {
        return foundRows;
    }

    List<Place> places() {
        return places;
    }
}
