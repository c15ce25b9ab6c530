package ninepin.core.format.fixedlength;

import java.io.IOException;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.lines.LineCuts;
import ninepin.core.format.lines.LineOpening;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Layout;
import ninepin.core.record.Fault;
import ninepin.core.record.Opening;
import ninepin.core.record.Position;
import ninepin.core.record.RecordReader;
import ninepin.core.record.ValueForm;

/**
 * What stands before the first record of a fixed-length file: a byte order mark, records to skip.
 *
 * @param layout the layout
 * @param body where the first record starts
 * @param fault what keeps the file from being read, or null
 */
record FixedOpening(Layout layout, Position body, Fault fault) implements Opening {

    static FixedOpening of(ByteSource source, Layout layout) throws IOException {
        FixedLength format = (FixedLength) layout.format();
        LineOpening start =
                LineOpening.of(source, layout, (s, from, body) -> new FixedLengthReader(s, layout, from, body));
        Position at = start.body();
        if (start.fault() == null && format.skipLines() > 0) {
            FixedLengthReader reader = new FixedLengthReader(source, layout, at, at.offset());
            for (int i = 0; i < format.skipLines() && reader.passRecord(); i++) {
                at = new Position(reader.offset(), reader.position().line(), 0);
            }
        }
        return new FixedOpening(layout, at, start.fault());
    }

    @Override
    public ValueForm values() {
        return ValueForm.PADDED;
    }

    @Override
    public long[] cuts(ByteSource source, int pieces) throws IOException {
        Integer block = ((FixedLength) layout.format()).blockSize();
        return LineCuts.of(this, block == null ? 0 : block, source, pieces);
    }

    @Override
    public RecordReader reader(ByteSource source, Position from) {
        return new FixedLengthReader(source, layout, from, body.offset());
    }
}
