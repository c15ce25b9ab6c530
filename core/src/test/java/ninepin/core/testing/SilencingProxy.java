package ninepin.core.testing;

import java.io.IOException;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Stands before a database and, after so many of its answers, lets nothing through any more, in either direction: connections
 * are taken and kept, and nobody ever hears anything.
 */
public final class SilencingProxy implements AutoCloseable {

    private final AtomicInteger answersToGo;
    private final Passage passage;

    /**
     * @param behind the port of the database
     * @param answers the pieces of what the database sends that are let through
     */
    public SilencingProxy(int behind, int answers) throws IOException {
        this.answersToGo = new AtomicInteger(answers);
        this.passage = new Passage(behind, "silencing proxy", () -> this::judge);
    }

    public int port() {
        return passage.port();
    }

    /** Whether it has fallen silent. */
    public boolean isSilent() {
        return answersToGo.get() <= 0;
    }

    private Passage.Verdict judge(boolean fromClient, byte[] bytes, int length) {
        boolean through = fromClient ? !isSilent() : answersToGo.getAndDecrement() > 0;
        return through ? Passage.Verdict.PASS : Passage.Verdict.SWALLOW;
    }

    @Override
    public void close() {
        passage.close();
    }
}
