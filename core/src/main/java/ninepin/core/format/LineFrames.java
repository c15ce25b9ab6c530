package ninepin.core.format;

import java.io.IOException;
import java.nio.charset.Charset;
import ninepin.core.format.FormatSupport.Frame;
import ninepin.core.layout.Layout;
import ninepin.core.read.Opening;
import ninepin.core.read.WrittenCharset;
import ninepin.core.source.ByteSource;

/** The frames of files whose records follow each other behind a head of their own. */
final class LineFrames {

    private static final int MOST_HEAD = 1 << 20;

    private LineFrames() {}

    /**
     * A frame with the head of another file.
     *
     * @param kept the charset in which records are kept
     */
    static Frame like(ByteSource original, Layout layout, byte[] foot, Charset kept) throws IOException {
        Charset charset = WrittenCharset.of(original, layout.format());
        long body = Opening.of(original, layout).body().offset();
        byte[] head = original.slice(0, (int) Math.min(MOST_HEAD, body));
        return new Frame(charset.equals(kept) ? head : new String(head, charset).getBytes(kept), foot, charset);
    }
}
