package ninepin.server.runs;

import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Puts on record what has happened already and so has to be kept: again and again until Ninepin's own database takes it, however
 * long it is away or full.
 */
@Component
class Records {

    private static final Logger LOG = LoggerFactory.getLogger(Records.class);
    private static final long FIRST_MILLIS = 250;
    private static final long MOST_MILLIS = 10_000;
    private static final long NAP_MILLIS = 100;

    /** The application ended before it could be put on record; the next one finds out by itself. */
    static final class GivenUp extends RuntimeException {
        private static final long serialVersionUID = 1L;

        GivenUp(RuntimeException last) {
            super(last);
        }
    }

    /**
     * Does something until it succeeds.
     *
     * @param what it is, for the log
     * @param ending whether the application is ending, which gives up
     */
    void until(String what, Runnable recording, BooleanSupplier ending) {
        for (long wait = FIRST_MILLIS; ; wait = Math.min(MOST_MILLIS, wait * 2)) {
            try {
                recording.run();
                return;
            } catch (RuntimeException e) {
                LOG.warn("Could not record {}; it is tried again: {}", what, e.toString());
                if (!pause(wait, ending)) {
                    throw new GivenUp(e);
                }
            }
        }
    }

    private static boolean pause(long millis, BooleanSupplier ending) {
        long until = System.nanoTime() + TimeUnit.MILLISECONDS.toNanos(millis);
        while (System.nanoTime() < until) {
            if (ending.getAsBoolean()) {
                return false;
            }
            try {
                TimeUnit.MILLISECONDS.sleep(NAP_MILLIS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return false;
            }
        }
        return true;
    }
}
