package ninepin.core.deliver;

import java.util.Optional;

/** Where the rows of one run go. */
public interface Target extends AutoCloseable {

    /** Reads the mark of the run; empty where nothing is committed. Changes nothing, whoever has the run. */
    Optional<Mark> look() throws TargetException;

    /**
     * Takes the run up, once, before the first lane: commits of those who had it before are refused from now on. Makes
     * what is needed for rows and marks, and brings the target to what is committed.
     *
     * @return the mark of the run; empty where nothing is committed
     * @throws TargetException of the kind HELD or FENCED where the run belongs to another process
     */
    Optional<Mark> takeUp(TakeUp as) throws TargetException;

    /** The most lanes that may load at the same time without changing the outcome. */
    int lanes();

    /** A lane of its own for the calling thread. */
    Lane lane() throws TargetException;

    /** What the target is waiting for at this moment, in a sentence; null while it gets on. Asked by any thread. */
    default String waitsFor() {
        return null;
    }

    @Override
    void close();

    /** One connection to the target: rows loaded in it become visible with its commit. Used by one thread. */
    interface Lane extends AutoCloseable {

        /**
         * Loads documents, those the target refuses left out.
         *
         * @throws TargetException when the target is busy or unusable; the lane then has to be rolled back
         */
        Loaded load(Batch batch) throws TargetException;

        /**
         * Does what remains when all documents are loaded, before the last mark.
         *
         * @return what it comes to, beyond what {@link #load} said
         */
        default Loaded finish() throws TargetException {
            return Loaded.NONE;
        }

        /** Writes the mark and commits it together with the rows loaded since the last commit. */
        void commit(Mark mark) throws TargetException;

        /** Forgets the rows loaded since the last commit. */
        void rollback() throws TargetException;

        @Override
        void close();
    }
}
