package ninepin.core.infer;

import java.util.Collection;

/** What there is to say of files whose records stand inside each other. */
public final class TreeGuess {

    /** A file with more records is a list; what stands around them is not held in memory with all of them. */
    public static final int MOST_OF_DOCUMENT = 500;

    private TreeGuess() {}

    /** Says that a file is one document, because its outermost element is a record type. */
    public static Proposal.Guess oneDocument(String outermost) {
        return new Proposal.Guess(
                "documents",
                "one for each file",
                Proposal.Sureness.LIKELY,
                outermost
                        + " has values of its own, so that a file is one document, which is held in memory. Of files of"
                        + " many megabytes leave " + outermost + " out on the layout's page.");
    }

    /**
     * Says what is left out of a file that lists records.
     *
     * @param values the paths of the values that stand once around the records
     * @param outermost the path of the outermost element
     */
    public static Proposal.Guess aroundList(Collection<String> values, String outermost) {
        return new Proposal.Guess(
                "left out",
                String.join(", ", values),
                Proposal.Sureness.UNSURE,
                "The file is a list of records, and these stand once around them. A record type for " + outermost
                        + " on the layout's page takes them, and makes the file one document, which is held in memory.");
    }
}
