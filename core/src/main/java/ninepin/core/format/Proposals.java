package ninepin.core.format;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.MemorySource;
import ninepin.core.infer.Proposal;
import ninepin.core.infer.Proposer;
import ninepin.core.infer.Samples;

/** Proposes a layout from the start of a sample: what kind of file it is, its record types, fields and their types. */
public final class Proposals {

    private Proposals() {}

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
     * Proposes one layout for several samples of the same kind.
     *
     * @param samples files like the ones that will come, at least one
     */
    public static Proposal of(List<ByteSource> samples, String name, String title) throws IOException {
        Samples looked = new Samples(samples, name, title);
        for (Proposer proposer : Formats.PROPOSERS) {
            Optional<Proposal> proposal = proposer.propose(looked);
            if (proposal.isPresent()) {
                ByteSource first = samples.get(0);
                boolean transcribed =
                        Formats.of(proposal.get().layout()).transcription().isPresent();
                return FileCheckGuess.added(
                        proposal.get(),
                        transcribed
                                ? new MemorySource(Transcripts.text(
                                        first.slice(0, (int) first.size()),
                                        proposal.get().layout()))
                                : first);
            }
        }
        throw new IllegalStateException("The last proposer takes any file.");
    }
}
