package ninepin.doors.source;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import ninepin.core.pickup.Settlement;

/**
 * A session at a place that files are taken from. It remembers nothing: what was taken stands in Ninepin's own database. Used by
 * one thread.
 */
public interface Source extends AutoCloseable {

    /** What is there now, in the order in which it is to be taken. */
    List<Item> list() throws SourceException;

    /**
     * Makes a file of an item, whole and forced to disk. Called again for the same item and file where it was broken off at any
     * instant, by another session.
     *
     * @param into the file; its folder may not be there
     * @return empty where there is nothing (any more)
     * @throws SourceException where the source does not give it; nothing was taken
     * @throws IOException where it is not known how much was taken; it is tried again
     */
    Optional<Fetched> fetch(Item item, Path into) throws SourceException, IOException;

    /**
     * Does at the source what is done with an item whose file is safe here, if it still is the version that was fetched. Called
     * again where it was broken off.
     */
    default void settle(Item item, Settlement how) throws SourceException, IOException {
        // Where fetching takes it away, nothing is left to do.
    }

    @Override
    default void close() {}
}
