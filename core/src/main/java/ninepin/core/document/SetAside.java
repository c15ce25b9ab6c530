package ninepin.core.document;

import ninepin.core.layout.DefinitionException;

/**
 * Records that are left out on purpose.
 *
 * @param of the record type; null for the one that documents hang on, whose records take all
 *     below them along
 * @param when the condition, a formula
 * @param reason why, in words of the tally; null for the condition itself
 */
public record SetAside(String of, String when, String reason) {

    public SetAside {
        of = of == null || of.isBlank() ? null : of;
        if (when == null || when.isBlank()) {
            throw new DefinitionException("setAside.when", "says which records are set aside");
        }
        reason = reason == null || reason.isBlank() ? null : reason.strip();
    }

    /** Why, in words. */
    public String why() {
        return reason != null ? reason : when.strip().replaceAll("\\s+", " ");
    }
}
