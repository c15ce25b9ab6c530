package ninepin.core.format.xml;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.SplicedSource;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Xml;
import ninepin.core.record.Fault;
import ninepin.core.record.Opening;
import ninepin.core.record.Piece;
import ninepin.core.record.Position;
import ninepin.core.record.RecordReader;

/**
 * An XML file. Its records are found while it is read; only its encoding is known beforehand.
 *
 * @param layout the layout
 * @param charset the encoding of its bytes
 * @param fault what keeps the file from being read, or null
 */
record XmlOpening(Layout layout, Charset charset, Fault fault) implements Opening {

    static XmlOpening of(ByteSource source, Layout layout) throws IOException {
        if (source.size() == 0) {
            Fault empty = new Fault(
                    "FIL-01",
                    -1,
                    0,
                    0,
                    "an empty file (0 bytes)",
                    "an XML document",
                    "Ask the sender for the file again.");
            return new XmlOpening(layout, StandardCharsets.UTF_8, empty);
        }
        try {
            return new XmlOpening(layout, XmlText.charset(source), null);
        } catch (XmlText.Unreadable e) {
            return new XmlOpening(layout, StandardCharsets.UTF_8, e.fault);
        }
    }

    @Override
    public Position body() {
        return Position.START;
    }

    @Override
    public RecordReader reader(ByteSource source, Position from) throws IOException {
        return new XmlReader(source, layout, from, false);
    }

    @Override
    public long[] cuts(ByteSource source, int pieces) throws IOException {
        boolean hangsOnSiblings = !((Xml) layout.format()).schema().isEmpty()
                || XmlPlaces.of(layout).countsAnywhere();
        return hangsOnSiblings ? new long[0] : XmlCuts.of(this, source, pieces);
    }

    @Override
    public Piece piece(ByteSource source, long from, boolean last) throws IOException {
        if (from == body().offset()) {
            return new Piece(new XmlReader(source, layout, Position.START, !last), 0);
        }
        long prologue = XmlCuts.prologue(this, source);
        ByteSource spliced = new SplicedSource(source, prologue, from);
        return new Piece(new XmlReader(spliced, layout, new Position(0, 1, 1), !last), from - prologue);
    }
}
