package ninepin.doors.source;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import ninepin.core.job.Shortcoming;

/** All that the product has to know of one kind of source. One for each {@link ninepin.core.pickup.From}; cheap to make. */
public interface SourceSupport {

    /** What is taken, in words that follow "takes". */
    String words();

    /**
     * What tells this place from others. An item of it is claimed by one job; a place that gives the same item to each job that
     * asks names the job.
     */
    String place(String job);

    /** What it is reached through, of which only so many are fetched at once: a connection, or a root folder. */
    String through();

    /** What keeps it from giving anything, and what the author of the job should know. */
    List<Shortcoming> check(SourceContext context);

    /** Begins a session. */
    Source open(SourceContext context) throws SourceException;

    /**
     * The folder beside which files of it are worked on, so that fetching can be a move; empty where that may be anywhere.
     */
    default Optional<Path> beside(SourceContext context) throws SourceException {
        return Optional.empty();
    }
}
