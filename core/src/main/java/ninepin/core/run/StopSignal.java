package ninepin.core.run;

/** A request to stop at the next commit. Set by any thread, once. */
public final class StopSignal {

    private volatile boolean requested;

    public void request() {
        requested = true;
    }

    public boolean requested() {
        return requested;
    }
}
