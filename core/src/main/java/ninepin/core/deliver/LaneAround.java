package ninepin.core.deliver;

/** A lane that does something more around another. */
public abstract class LaneAround implements Target.Lane {

    /** The lane that has the rows. */
    protected final Target.Lane inner;

    protected LaneAround(Target.Lane inner) {
        this.inner = inner;
    }

    @Override
    public Loaded load(Batch batch) throws TargetException {
        return inner.load(batch);
    }

    @Override
    public Loaded finish() throws TargetException {
        return inner.finish();
    }

    @Override
    public void commit(Mark mark) throws TargetException {
        inner.commit(mark);
    }

    @Override
    public void rollback() throws TargetException {
        inner.rollback();
    }

    @Override
    public void close() {
        inner.close();
    }
}
