package ninepin.core.deliver;

/** Passes each call on to another connection; subclasses do something before or after. */
public abstract class ForwardingConnection implements LoadConnection {

    /** Loads the rows. */
    protected final LoadConnection inner;

    protected ForwardingConnection(LoadConnection inner) {
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
