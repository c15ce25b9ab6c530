package ninepin.core.deliver;

/** A lane of which nothing is kept: rows are judged or gathered, and no mark is written. */
public interface TrialLane extends Target.Lane {

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
