package ninepin.core.deliver;

/** One connection to the target: rows loaded in it become visible with its commit. Used by one thread. */
public interface LoadConnection extends AutoCloseable {

    /**
     * Loads documents, those the target refuses left out.
     *
     * @throws TargetException when the target is busy or unusable; the connection then has to be rolled back
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
