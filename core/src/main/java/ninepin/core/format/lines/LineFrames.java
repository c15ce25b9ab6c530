package ninepin.core.format.lines;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.Bytes;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Format;
import ninepin.core.record.FormatSupport;
import ninepin.core.record.FormatSupport.Frame;

/** What files have in common whose records follow each other behind a head of their own. */
public final class LineFrames {

    private static final int MOST_HEAD = 1 << 20;

    private LineFrames() {}

    /** A frame with the head of another file. */
    public static Frame like(ByteSource original, FormatSupport format, byte[] foot) throws IOException {
        Charset charset = format.charset(original);
        long body = format.open(original).body().offset();
        byte[] head = original.slice(0, (int) Math.min(MOST_HEAD, body));
        return new Frame(Bytes.transcribed(head, charset, format.keptCharset()), foot, charset);
    }

    /** The charset of a file: of UTF-16 by its mark with the order of bytes, else as the layout says. */
    public static Charset charset(ByteSource source, Format format) throws IOException {
        if (format.charset() != FileCharset.UTF_16) {
            return format.charset().charset();
        }
        byte[] first = source.slice(0, 1);
        boolean lowerFirst = first.length > 0 && first[0] == (byte) 0xff;
        return lowerFirst ? StandardCharsets.UTF_16LE : StandardCharsets.UTF_16BE;
    }

    /** What keeps its records from being put into another order. */
    public static Optional<String> unsortable(Format format) {
        return format.charset() == FileCharset.UTF_16 ? Optional.of("a file in UTF-16") : Optional.empty();
    }
}
