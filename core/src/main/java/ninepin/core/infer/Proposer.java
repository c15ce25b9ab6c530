package ninepin.core.infer;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.core.source.ByteSource;

/** Proposes a layout from the start of a sample: what kind of file it is, its record types, fields and their types. */
public final class Proposer {

    /** The most bytes of a sample that are looked at. */
    public static final int MOST_BYTES = 4 << 20;
    /** An XML file with more records is a list; what stands around them is not held in memory with all of them. */
    public static final int MOST_OF_DOCUMENT = 500;

    private Proposer() {}

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

    /**
     * Proposes a layout.
     *
     * @param sample a file like the ones that will come
     * @param name the name of the layout, lower case letters, digits and hyphens
     * @param title the name people read
     */
    public static Proposal of(ByteSource sample, String name, String title) throws IOException {
        return of(List.of(sample), name, title);
    }

    /**
     * Proposes one layout for several samples of the same kind. The first says how they are written; the values of all
     * say what the fields are.
     *
     * @param samples files like the ones that will come, at least one
     */
    public static Proposal of(List<ByteSource> samples, String name, String title) throws IOException {
        byte[] bytes = start(samples.get(0));
        if (XmlProposer.looksLikeXml(bytes)) {
            return FileCheckGuess.added(new XmlProposer(samples).propose(name, title), samples.get(0));
        }
        List<Proposal.Guess> guesses = new ArrayList<>();
        FileCharset charset = CharsetGuess.of(bytes, guesses);
        SampleLines lines = SampleLines.of(bytes, charset, isWhole(samples.get(0)));
        guesses.add(new Proposal.Guess(
                "line ends",
                lines.lineEnd(),
                lines.mixed() ? Proposal.Sureness.LIKELY : Proposal.Sureness.SURE,
                lines.mixed() ? "Other line ends are among them; any is read." : "All lines end so."));
        for (ByteSource more : samples.subList(1, samples.size())) {
            lines = lines.and(SampleLines.of(start(more), charset, isWhole(more)));
        }
        if (samples.size() > 1) {
            guesses.add(new Proposal.Guess(
                    "samples",
                    samples.size() + " files",
                    Proposal.Sureness.SURE,
                    "The first says how they are written, the values of all what the fields are."));
        }
        if (samples.stream().anyMatch(s -> !isWhole(s))) {
            guesses.add(new Proposal.Guess(
                    SampleLines.LOOKED_AT,
                    "the first " + (MOST_BYTES >> 20) + " MiB",
                    Proposal.Sureness.UNSURE,
                    "What stands behind them may hold longer or other values; the bench tells."));
        }
        if (lines.lines().size() >= SampleLines.MOST_LINES) {
            SampleLines.sayLookedAt(lines.lines().size(), guesses);
        }
        SampleLines all = lines;
        Proposal proposal = DelimiterGuess.of(all)
                .map(d -> DelimitedProposer.propose(name, title, charset, all, d, guesses))
                .orElseGet(() -> FixedProposer.propose(name, title, charset, all, guesses));
        return FileCheckGuess.added(proposal, samples.get(0));
    }

    private static byte[] start(ByteSource sample) throws IOException {
        return sample.slice(0, (int) Math.min(sample.size(), MOST_BYTES));
    }

    /** Whether a sample is all of its file; one of the most bytes that are looked at may have been cut there. */
    static boolean isWhole(ByteSource sample) {
        return sample.size() < MOST_BYTES;
    }

    /** A layout with types whose fields are known, and the profiles of the fields. */
    static Proposal proposal(Layout layout, List<Proposal.Guess> guesses, List<List<FieldGuess>> fieldsOfTypes) {
        List<RecordType> types = new ArrayList<>();
        List<Proposal.FieldProfile> profiles = new ArrayList<>();
        for (int t = 0; t < layout.recordTypes().size(); t++) {
            RecordType type = layout.recordTypes().get(t);
            types.add(type.withFields(
                    fieldsOfTypes.get(t).stream().map(FieldGuess::field).toList()));
            fieldsOfTypes.get(t).forEach(f -> profiles.add(f.profile(type.name())));
        }
        return new Proposal(layout.withTypes(types), guesses, profiles);
    }
}
