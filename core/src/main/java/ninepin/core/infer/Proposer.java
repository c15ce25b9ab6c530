package ninepin.core.infer;

import java.io.IOException;
import java.util.Optional;

/** Proposes a layout in one format. */
public interface Proposer {

    /** A layout for samples that look as if they were written in the format; empty where they do not. */
    Optional<Proposal> propose(Samples samples) throws IOException;
}
