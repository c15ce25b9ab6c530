package ninepin.core.format.lines;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.Bytes;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Format;
import ninepin.core.layout.Layout;
import ninepin.core.record.FormatSupport;
import ninepin.core.record.RecordWriter;
import ninepin.core.record.WriteStyle;

/** What formats have in common whose records follow each other behind a head; each says otherwise where it is otherwise. */
public abstract class LineSupport implements FormatSupport {

    private static final int MOST_HEAD = 1 << 20;

    protected final Layout layout;

    protected LineSupport(Layout layout) {
        this.layout = layout;
    }

    /** The charset of the file: of UTF-16 by its mark with the order of bytes, else as the layout says. */
    @Override
    public final Charset charset(ByteSource source) throws IOException {
        if (layout.format().charset() != FileCharset.UTF_16) {
            return layout.format().charset().charset();
        }
        byte[] first = source.slice(0, 1);
        boolean lowerFirst = first.length > 0 && first[0] == (byte) 0xff;
        return lowerFirst ? StandardCharsets.UTF_16LE : StandardCharsets.UTF_16BE;
    }

    /** A file that is gone on with is written as one that begins, where nothing stands before the first record. */
    @Override
    public RecordWriter onward(OutputStream out, WriteStyle style, String state) throws IOException {
        return writer(out, style);
    }

    @Override
    public String mediaType() {
        return "text/plain";
    }

    @Override
    public Optional<String> unsortable() {
        return layout.format().charset() == FileCharset.UTF_16 ? Optional.of("a file in UTF-16") : Optional.empty();
    }

    @Override
    public final Charset keptCharset() {
        Charset own = layout.format().charset().charset();
        return own.equals(StandardCharsets.UTF_16) ? StandardCharsets.UTF_16BE : own;
    }

    @Override
    public String recordEnd(String usual) {
        return usual;
    }

    @Override
    public Format ofParts() {
        return layout.format();
    }

    @Override
    public final Frame frame(ByteSource original) throws IOException {
        if (original == null) {
            return new Frame(headOfLayout(), foot(), keptCharset());
        }
        Charset charset = charset(original);
        long body = open(original).body().offset();
        byte[] head = original.slice(0, (int) Math.min(MOST_HEAD, body));
        return new Frame(Bytes.transcribed(head, charset, keptCharset()), foot(), charset);
    }

    /** The bytes before the first record where no file is there to take them from. */
    protected byte[] headOfLayout() {
        return new byte[0];
    }

    /** The bytes behind the last record. */
    protected byte[] foot() {
        return new byte[0];
    }
}
