package ninepin.core.record;

import java.io.Closeable;
import java.io.IOException;

/** Reads a file record by record. It borrows its source, which stays open when it is closed. Used by one thread. */
public interface RecordReader extends Closeable {

    /** The most bytes of a record of lines, or of a text of a tree, that are held in memory. */
    int MAX_RECORD_BYTES = 16 << 20;

    /** The most bytes of a record of a tree, with those inside it, that are held in memory. */
    int MAX_TREE_BYTES = 64 << 20;

    /** What {@link #next()} came upon. */
    enum Item {
        /** A record; it may carry a {@link RawRecord#fault()}. */
        RECORD,
        /** A row with nothing in it. */
        BLANK,
        /** The end of the file. */
        END
    }

    /** Goes to the next item. */
    Item next() throws IOException;

    /** The item that {@link #next()} came upon. */
    RawRecord record();

    /** The place at which the item stands, from which reading could begin again. */
    default Position itemStart() {
        return new Position(record().offset(), record().line(), record().number() - 1);
    }

    /** The place behind the last item. */
    Position position();

    /** The byte where the next item starts: that of {@link #position()}, without making an object. */
    long offset();
}
