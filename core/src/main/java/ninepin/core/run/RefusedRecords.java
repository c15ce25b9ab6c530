package ninepin.core.run;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Set;
import ninepin.core.document.OpenDocument;

/** The records of a file that its run refused, by their numbers. */
final class RefusedRecords {

    private final Set<Long> numbers = new HashSet<>();

    /**
     * Reads them from a journal; none where there is no journal.
     *
     * @param length the bytes of it that count
     */
    static RefusedRecords of(Path journal, long length) throws IOException {
        RefusedRecords refused = new RefusedRecords();
        if (Files.exists(journal)) {
            Journal.read(journal, 0, Math.min(Files.size(journal), length), refused::add);
        }
        return refused;
    }

    void add(JournalEntry entry) {
        if (entry.rejected()) {
            numbers.add(entry.record());
        }
    }

    /** Whether one of them stands in a document, which then was refused as a whole. */
    boolean in(OpenDocument document) {
        for (int r = 0; r < document.size(); r++) {
            if (numbers.contains(document.get(r).number())) {
                return true;
            }
        }
        return false;
    }
}
