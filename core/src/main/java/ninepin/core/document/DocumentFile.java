package ninepin.core.document;

import java.io.Closeable;
import java.io.IOException;
import java.util.function.IntConsumer;
import ninepin.core.bytes.ByteSource;
import ninepin.core.record.Opening;
import ninepin.core.record.Position;
import ninepin.core.record.RecordReader;

/** A file whose records are read in the order in which they make documents: its own, or gathered by their key. */
public interface DocumentFile extends Closeable {

    /**
     * A reader from a place on.
     *
     * @param start the start of the body, or a place that a stream of documents told
     */
    RecordReader reader(Position start) throws IOException;

    @Override
    void close() throws IOException;

    /**
     * Makes ready what a plan asks for.
     *
     * @param file the file, which is not closed
     * @param percent told how far gathering has come, from 0 to 100
     */
    static DocumentFile of(ByteSource file, Opening opening, DocumentPlan plan, IntConsumer percent)
            throws IOException {
        if (plan.gathering() != null && plan.gathering().anywhere() && opening.fault() == null) {
            return GatheredFile.of(file, opening, plan, percent);
        }
        return new DocumentFile() {
            @Override
            public RecordReader reader(Position start) throws IOException {
                return opening.reader(file, start);
            }

            @Override
            public void close() {
                // The file belongs to the caller.
            }
        };
    }
}
