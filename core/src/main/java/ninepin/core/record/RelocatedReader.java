package ninepin.core.record;

import java.io.IOException;

/** Reads a file whose items stand in another order than where they came from, and tells of each where that was. */
public final class RelocatedReader implements RecordReader {

    /** The places that items came from, in the order in which they are read. */
    public interface Origins extends java.io.Closeable {

        /** Goes to the next item. */
        void next() throws IOException;

        /** The number of the record there. */
        long number();

        long line();

        long offset();
    }

    private final RecordReader copy;
    private final Origins origins;
    private Position start;
    private long copyNumber;
    private long copyLine;
    private long copyOffset;
    private boolean moved;

    /**
     * @param copy reads the items in their new order
     * @param origins stands before the item that is read next
     */
    public RelocatedReader(RecordReader copy, Origins origins) {
        this.copy = copy;
        this.origins = origins;
        this.start = copy.position();
    }

    @Override
    public Item next() throws IOException {
        restore();
        Item item = copy.next();
        if (item == Item.END) {
            return item;
        }
        origins.next();
        RawRecord record = copy.record();
        copyNumber = record.number;
        copyLine = record.line;
        copyOffset = record.offset;
        start = new Position(copyOffset, copyLine, copyNumber - 1);
        record.number = item == Item.BLANK ? 0 : origins.number();
        record.line = origins.line();
        record.offset = origins.offset();
        moved = true;
        return item;
    }

    /** Readers may go on from what they wrote into their record. */
    private void restore() {
        if (moved) {
            RawRecord record = copy.record();
            record.number = copyNumber;
            record.line = copyLine;
            record.offset = copyOffset;
            moved = false;
        }
    }

    @Override
    public RawRecord record() {
        return copy.record();
    }

    @Override
    public Position itemStart() {
        return start;
    }

    @Override
    public Position position() {
        return copy.position();
    }

    @Override
    public long offset() {
        return copy.offset();
    }

    @Override
    public void close() throws IOException {
        try (origins) {
            copy.close();
        }
    }
}
