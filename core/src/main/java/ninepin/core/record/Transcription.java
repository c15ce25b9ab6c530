package ninepin.core.record;

import java.io.IOException;
import java.nio.file.Path;

/**
 * How files of a format whose records are no stretches of their bytes become text and back. The text has a record a line; it is what is
 * read, shown, kept of rejects and gone on with. The same file always gives the same text, and the same text the same file.
 */
public interface Transcription {

    /** What tells the text of a file from that which another layout has made of it; fit for the name of a file, mostly empty. */
    String key();

    /**
     * Whether a file is such a text already, as files of records are that were taken out of others.
     *
     * @param first the first bytes of the file, {@link #FIRST_BYTES} where it has so many
     */
    boolean isText(byte[] first);

    /** So many bytes tell whether a file is text. */
    int FIRST_BYTES = 64;

    /**
     * Writes a file as text. What is wrong with the file stands in the text, and is told when that is opened.
     *
     * @param to the text; its folder takes files that are needed meanwhile
     * @throws IOException where a file cannot be read or written
     */
    void transcribe(Path file, Path to) throws IOException;

    /**
     * Makes a file of text that a {@link RecordWriter} or a {@link RejectForm} has written.
     *
     * @param text the text, from its start
     * @param to the file, made anew
     */
    void compose(Path text, Path to) throws IOException;
}
