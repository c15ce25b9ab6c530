package ninepin.core.document;

import java.util.List;
import java.util.Locale;
import ninepin.core.layout.DefinitionException;

/**
 * Records whose key stands more than once are set aside but for one.
 *
 * @param of the record type; null for the one that documents hang on
 * @param key the fields of the key; a record with a NULL in it has no key
 * @param keep which one is kept
 */
public record Duplicates(String of, List<String> key, Keep keep) {

    /** Which of the records with one key is kept. */
    public enum Keep {
        FIRST,
        /** The file is read to its end first. */
        LAST;

        @Override
        public String toString() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    public Duplicates {
        of = of == null || of.isBlank() ? null : of;
        key = key == null ? List.of() : List.copyOf(key);
        if (key.isEmpty()) {
            throw new DefinitionException("duplicates.key", "names at least one field");
        }
        keep = keep == null ? Keep.FIRST : keep;
    }

    /** Why a record is set aside, in words. */
    public String why() {
        return "same " + String.join(", ", key) + (keep == Keep.FIRST ? " as one before" : " as one behind");
    }
}
