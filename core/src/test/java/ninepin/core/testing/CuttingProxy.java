package ninepin.core.testing;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.concurrent.atomic.AtomicInteger;

/** Stands between a client and a database on loopback, and drops the connection in the middle of a commit. */
public final class CuttingProxy implements AutoCloseable {

    /** When a connection is dropped. */
    public enum Cut {
        /** The server never hears of the commit. */
        BEFORE_THE_COMMIT,
        /** The server has committed, and the client never hears of it. */
        BEFORE_THE_ANSWER
    }

    private final Cut cut;
    private final AtomicInteger commitsToGo;
    private final Passage passage;

    /**
     * @param behind the port of the database
     * @param commits the commit that is cut, counted from 1
     */
    public CuttingProxy(int behind, Cut cut, int commits) throws IOException {
        this.cut = cut;
        this.commitsToGo = new AtomicInteger(commits);
        this.passage = new Passage(behind, "cutting proxy", Connection::new);
    }

    public int port() {
        return passage.port();
    }

    /** Whether it has cut. */
    public boolean hasCut() {
        return commitsToGo.get() <= 0;
    }

    private final class Connection implements Passage.Judge {

        private volatile boolean mute;

        @Override
        public Passage.Verdict of(boolean fromClient, byte[] bytes, int length) {
            if (fromClient && isCommit(bytes, length) && commitsToGo.decrementAndGet() == 0) {
                if (cut == Cut.BEFORE_THE_COMMIT) {
                    return Passage.Verdict.DROP;
                }
                mute = true;
            }
            // The server has answered, so it has committed.
            return !fromClient && mute ? Passage.Verdict.DROP : Passage.Verdict.PASS;
        }
    }

    private static boolean isCommit(byte[] bytes, int length) {
        return length < 200
                && new String(bytes, 0, length, StandardCharsets.ISO_8859_1)
                        .toUpperCase(Locale.ROOT)
                        .contains("COMMIT");
    }

    @Override
    public void close() {
        passage.close();
    }
}
