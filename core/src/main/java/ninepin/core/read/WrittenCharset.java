package ninepin.core.read;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Format;
import ninepin.core.layout.Xml;
import ninepin.core.source.ByteSource;

/** The charset that the bytes of a file are in, which for some kinds of files only the file itself tells. */
public final class WrittenCharset {

    private static final int DECLARATION = 200;

    private WrittenCharset() {}

    /** The charset: of XML by its declaration, of UTF-16 by its mark with the order of bytes, else by the layout. */
    public static Charset of(ByteSource source, Format format) throws IOException {
        if (format instanceof Xml) {
            try {
                return XmlText.charset(source.slice(0, DECLARATION));
            } catch (XmlText.Unreadable e) {
                return StandardCharsets.UTF_8;
            }
        }
        if (format.charset() == FileCharset.UTF_16) {
            byte[] first = source.slice(0, 1);
            boolean lowerFirst = first.length > 0 && first[0] == (byte) 0xff;
            return lowerFirst ? StandardCharsets.UTF_16LE : StandardCharsets.UTF_16BE;
        }
        return format.charset().charset();
    }

    /** Whether a charset has two bytes for a unit. */
    static boolean wide(Charset charset) {
        return charset.equals(StandardCharsets.UTF_16LE) || charset.equals(StandardCharsets.UTF_16BE);
    }
}
