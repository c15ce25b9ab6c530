package ninepin.core.deliver;

import java.util.Optional;

/** Where the rows of one run go. */
public interface Target extends AutoCloseable {

    /** Reads the mark of the run; empty where nothing is committed. Changes nothing, whoever has the run. */
    Optional<Mark> look() throws TargetException;

    /**
     * Takes the run up, once, before the first connection: commits of those who had it before are refused from now on. Makes
     * what is needed for rows and marks, and brings the target to what is committed.
     *
     * @return the mark of the run; empty where nothing is committed
     * @throws TargetException of the kind HELD or FENCED where the run belongs to another process
     */
    Optional<Mark> takeUp(TakeUp as) throws TargetException;

    /** How many connections may load at the same time without changing the outcome. */
    int maxConnections();

    /** Opens a connection for the calling thread. */
    LoadConnection connect() throws TargetException;

    /** What the target is waiting for at this moment, in a sentence; null while it gets on. Asked by any thread. */
    default String waitsFor() {
        return null;
    }

    @Override
    void close();
}
