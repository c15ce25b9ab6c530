package ninepin.core.deliver;

/** Keeps nothing: rows are judged or gathered, and no mark is written. */
public interface TrialConnection extends LoadConnection {

    @Override
    default void commit(Mark mark) throws TargetException {
        // Nothing is kept.
    }

    @Override
    default void rollback() throws TargetException {
        // Nothing was sent.
    }

    @Override
    default void close() {
        // Nothing is open.
    }
}
