package ninepin.core.run;

import ninepin.core.deliver.Mark;

/** Told how a run comes along, on the run's own threads. Must not block for long and must not fail. */
public interface RunListener {

    /** A listener that does nothing. */
    RunListener NONE = new RunListener() {};

    /**
     * The run starts, or goes on from a mark.
     *
     * @param from the mark it goes on from
     * @param size the bytes of the file
     */
    default void started(Mark from, long size) {}

    /**
     * The file is being sorted before anything is delivered.
     *
     * @param percent how far that has come
     */
    default void gathering(int percent) {}

    /** Rows were loaded that are not committed yet, because the file is delivered whole. */
    default void loaded(Mark mark) {}

    /** Rows and mark were committed. */
    default void committed(Mark mark) {}
}
