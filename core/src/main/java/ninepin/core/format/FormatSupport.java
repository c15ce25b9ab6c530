package ninepin.core.format;

import java.io.IOException;
import java.nio.charset.Charset;
import ninepin.core.layout.Format;
import ninepin.core.source.ByteSource;

/** All that the product has to know of one way to write a file. One for each layout; cheap to make. */
public interface FormatSupport {

    /** The usual ending of such a file's name, with its point. */
    String ending();

    /** The media type of such a file, without parameters. */
    String mediaType();

    /** Whether a record stands inside the text of the record it belongs to. */
    boolean nests();

    /** The charset in which the bytes of single records are kept; in UTF-16 the higher byte first. */
    Charset keptCharset();

    /**
     * What ends a record.
     *
     * @param usual what does where the layout leaves it open
     * @return empty where nothing stands between records
     */
    String recordEnd(String usual);

    /** The same format without what only holds of a file as a whole. */
    Format ofParts();

    /** Rejects as a file of their own format, and back. */
    RejectForm rejects();

    /**
     * What stands around the records of a file.
     *
     * @param head the bytes before the first record, in the charset of kept records
     * @param foot the bytes behind the last one
     * @param charset the charset of the file that it is like
     */
    record Frame(byte[] head, byte[] foot, Charset charset) {}

    /**
     * What has to stand around records so that they are a file like another.
     *
     * @param original the file they came in; null where it is gone, and then the frame is made of the layout
     */
    Frame frame(ByteSource original) throws IOException;
}
