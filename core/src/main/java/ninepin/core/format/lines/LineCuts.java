package ninepin.core.format.lines;

import java.io.IOException;
import java.util.Arrays;
import ninepin.core.bytes.ByteSource;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.record.Opening;
import ninepin.core.record.Position;
import ninepin.core.record.RawRecord;
import ninepin.core.record.RecordReader;

/** Cuts files of lines or blocks where a record that belongs to no other begins. */
public final class LineCuts {

    /** How far behind the wanted place a record that begins a document is looked for. */
    private static final int MOST_RECORDS = 10_000;

    private LineCuts() {}

    /**
     * The places, in order; fewer than asked for where no record begins a document.
     *
     * @param opening of a file whose readers are {@link LineReader}s
     * @param block the bytes of a block, or 0 for lines
     */
    public static long[] of(Opening opening, int block, ByteSource source, int pieces) throws IOException {
        Layout layout = opening.layout();
        if (layout.format().charset() == FileCharset.UTF_16) {
            return new long[0];
        }
        long body = opening.body().offset();
        long[] cuts = new long[pieces - 1];
        int found = 0;
        for (int i = 1; i < pieces; i++) {
            long at = near(opening, block, source, body + (source.size() - body) / pieces * i);
            if (at > (found == 0 ? body : cuts[found - 1])) {
                cuts[found++] = at;
            }
        }
        return Arrays.copyOf(cuts, found);
    }

    /** The first record from a place on that begins a document as far as can be seen from there; or -1. */
    private static long near(Opening opening, int block, ByteSource source, long wanted) throws IOException {
        Layout layout = opening.layout();
        long start = wanted;
        if (block > 0) {
            start -= (start - opening.body().offset()) % block;
        }
        RecordReader reader = opening.reader(source, new Position(start, 1, 1));
        if (block == 0) {
            ((LineReader) reader).passLine();
        }
        for (int i = 0; i < MOST_RECORDS; i++) {
            RecordReader.Item item = reader.next();
            RawRecord r = reader.record();
            if (item == RecordReader.Item.END) {
                return -1;
            }
            if (item == RecordReader.Item.RECORD
                    && r.fault() == null
                    && r.type() >= 0
                    && layout.parentIndex(r.type()) < 0) {
                return r.offset();
            }
        }
        return -1;
    }
}
