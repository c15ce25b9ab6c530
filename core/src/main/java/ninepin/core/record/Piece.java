package ninepin.core.record;

import java.io.Closeable;
import java.io.IOException;

/**
 * A stretch of a file that is read by itself, from a cut on. Whether the cut before it was rightly made only the reader
 * of the piece before can tell: it comes to a record that begins a document at just that byte.
 *
 * @param reader reads its records, and those behind it
 * @param shift what the reader's offsets lack to be those of the file
 */
public record Piece(RecordReader reader, long shift) implements Closeable {

    /** The byte of the file where the reader's item starts. */
    public long offset() {
        return reader.record().offset() + shift;
    }

    @Override
    public void close() throws IOException {
        reader.close();
    }
}
