package ninepin.core.deliver.application;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import ninepin.core.deliver.KeptLines;

/** What an application has answered to the documents it took. */
public final class Answers {

    /**
     * What is kept of an answer.
     *
     * @param record the number of the document's first record
     * @param values the values that are kept, by name
     */
    public record Kept(long record, Map<String, String> values) {}

    private Answers() {}

    /** Reads what was kept, from one byte to another, both between lines. */
    public static List<Kept> read(Path path, long from, long to) throws IOException {
        return KeptLines.read(path, Kept.class, from, to);
    }
}
