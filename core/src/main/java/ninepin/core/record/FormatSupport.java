package ninepin.core.record;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.file.Path;
import java.util.Optional;
import ninepin.core.bytes.ByteSource;
import ninepin.core.layout.Format;

/** All that the product has to know of one way to write a file. One for each layout; cheap to make. */
public interface FormatSupport {

    /** Opens a file, or the text that it has been transcribed to. Reads its start only. */
    Opening open(ByteSource source) throws IOException;

    /**
     * Begins a file.
     *
     * @param out where the bytes go; closed with the writer
     */
    RecordWriter writer(OutputStream out, WriteStyle style) throws IOException;

    /**
     * Goes on with a file that was begun: nothing is written before the next record.
     *
     * @param out where the bytes go; closed with the writer
     * @param state what {@link RecordWriter#state} gave behind the record written last
     */
    RecordWriter onward(OutputStream out, WriteStyle style, String state) throws IOException;

    /** The charset that the bytes of a file are in, which for some only the file itself tells. */
    Charset charset(ByteSource source) throws IOException;

    /** The bytes of a block where the file is made of blocks and not of lines; else 0. */
    default int blockSize() {
        return 0;
    }

    /** What ends a record where its layout leaves it open. */
    String USUAL_END = "\r\n";

    /** The usual ending of such a file's name, with its point. */
    String ending();

    /** The media type of such a file, without parameters. */
    String mediaType();

    /** Whether a record stands inside the text of the record it belongs to. */
    default boolean nests() {
        return false;
    }

    /** Whether a record is a row of columns, each of which is shown even where no field stands in it. */
    default boolean hasColumns() {
        return false;
    }

    /** What such a file is where its records cannot be put into another order beforehand; empty where they can. */
    Optional<String> unsortable();

    /** What a file that was written breaches first of the schema in its layout; empty where it is valid or there is no schema. */
    default Optional<String> breach(Path written) throws IOException {
        return Optional.empty();
    }

    /** How a file becomes the text that is opened, and written text a file; empty where the file itself is opened and written. */
    default Optional<Transcription> transcription() {
        return Optional.empty();
    }

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
