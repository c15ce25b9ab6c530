package ninepin.core.format.lines;

import java.io.IOException;
import ninepin.core.bytes.ByteSource;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.record.ByteOrderMark;
import ninepin.core.record.Fault;
import ninepin.core.record.Opening;
import ninepin.core.record.Position;
import ninepin.core.record.RecordReader;

/** A file of lines that are all records: before the first one a byte order mark may stand, and nothing else. */
public record LineOpening(Layout layout, Position body, Fault fault, Readers readers) implements Opening {

    /** Makes readers of records. */
    @FunctionalInterface
    public interface Readers {
        /**
         * A reader from a place on.
         *
         * @param body where the first record of the file starts
         */
        RecordReader from(ByteSource source, Position from, long body);
    }

    /** Reads the start of a file. */
    public static LineOpening of(ByteSource source, Layout layout, Readers readers) throws IOException {
        byte[] first = source.slice(0, 4);
        FileCharset charset = layout.format().charset();
        int mark = charset == FileCharset.UTF_8 && ByteOrderMark.isUtf8(first) ? 3 : 0;
        return new LineOpening(layout, new Position(mark, 1, 0), ByteOrderMark.wrong(first, charset), readers);
    }

    @Override
    public long[] cuts(ByteSource source, int pieces) throws IOException {
        return LineCuts.of(this, 0, source, pieces);
    }

    @Override
    public RecordReader reader(ByteSource source, Position from) {
        return readers.from(source, from, body.offset());
    }
}
