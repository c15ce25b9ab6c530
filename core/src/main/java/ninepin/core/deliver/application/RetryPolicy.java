package ninepin.core.deliver.application;

import java.time.Duration;
import java.util.concurrent.ThreadLocalRandom;

/**
 * How long an application is waited for.
 *
 * @param tries how often a request is sent at most
 * @param first the wait before it is sent again; each further one is twice as long
 * @param most the longest wait, also where the application asks for more
 * @param answer how long an answer may take
 */
public record RetryPolicy(int tries, Duration first, Duration most, Duration answer) {

    /** About two minutes in all. */
    public static final RetryPolicy USUAL =
            new RetryPolicy(13, Duration.ofMillis(100), Duration.ofSeconds(30), Duration.ofSeconds(60));

    /**
     * The wait before a request is sent again, a little of it by chance, so that those who wait do not come back together.
     *
     * @param sent how often it was sent so far
     * @param asked how long the application has asked to wait, or null
     */
    Duration wait(int sent, Duration asked) {
        long grown = first.toMillis() << Math.min(20, sent - 1);
        long millis = Math.min(most.toMillis(), grown);
        long wanted = asked == null ? 0 : Math.min(most.toMillis(), asked.toMillis());
        return Duration.ofMillis(
                Math.max(wanted, millis / 2 + ThreadLocalRandom.current().nextLong(millis / 2 + 1)));
    }
}
