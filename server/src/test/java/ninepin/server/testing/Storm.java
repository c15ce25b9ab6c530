package ninepin.server.testing;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;

/**
 * Events that strike at random instants. The seed is printed, and {@code -Dninepin.storm.seed=N} draws the same events again.
 * A storm ends with its budget: three minutes in the ordinary run, or so many events with {@code -Dninepin.storm.events=N}.
 */
public final class Storm {

    /** Does something to what is under way, and waits until it is over. */
    @FunctionalInterface
    public interface Strike {
        void strike(Random random) throws Exception;
    }

    private record Event(String name, int weight, Strike strike) {}

    /** One in so many events comes with another close behind it. */
    private static final int PAIRS = 5;
    /** About as many events come in the ordinary run. */
    private static final int EVENTS = 20;
    /** A long storm tells how far it is after so many. */
    private static final int TOLD = 25;

    private final String name;
    private final long seed;
    private final Random random;
    private final Duration budget;
    private final int most;
    private final List<Event> events = new ArrayList<>();
    private final Map<String, Integer> struck = new TreeMap<>();

    /** How many times the ordinary work there has to be for a storm of so many events. */
    public static int times() {
        return Math.max(1, Integer.getInteger("ninepin.storm.events", 0) / EVENTS);
    }

    /**
     * @param budget how long it lasts in the ordinary run
     */
    public Storm(String name, Duration budget) {
        this.name = name;
        this.seed = Long.getLong("ninepin.storm.seed", System.nanoTime() & 0xffff_ffffL);
        this.random = new Random(seed);
        this.most = Integer.getInteger("ninepin.storm.events", 0);
        this.budget = most > 0 ? Duration.ofHours(6) : budget;
        System.out.printf("storm %s: seed %d%n", name, seed);
    }

    /**
     * Adds an event.
     *
     * @param weight how often it comes beside the others
     */
    public Storm event(String what, int weight, Strike strike) {
        events.add(new Event(what, weight, strike));
        return this;
    }

    /**
     * Lets the storm rage.
     *
     * @param over whether there is nothing left to strike
     * @param pauseMillis the longest pause between two events
     */
    public void rage(BooleanSupplier over, int pauseMillis) throws Exception {
        long until = System.nanoTime() + budget.toNanos();
        int count = 0;
        int told = 0;
        while (System.nanoTime() < until && !over.getAsBoolean() && (most == 0 || count < most)) {
            TimeUnit.MILLISECONDS.sleep(random.nextInt(pauseMillis));
            Event first = draw();
            boolean pair = random.nextInt(PAIRS) == 0;
            Event second = pair ? draw() : null;
            int apart = random.nextInt(800);
            Random own = new Random(random.nextLong());
            Random other = new Random(random.nextLong());
            CompletableFuture<Void> close =
                    second == null ? null : CompletableFuture.runAsync(() -> strike(second, apart, other));
            strike(first, 0, own);
            count++;
            if (close != null) {
                close.get(15, TimeUnit.MINUTES);
                count++;
            }
            if (most > 0 && count / TOLD > told) {
                told = count / TOLD;
                System.out.printf("storm %s: %d events so far%n", name, count);
            }
        }
        System.out.printf("storm %s: %d events with seed %d: %s%n", name, count, seed, struck);
    }

    private Event draw() {
        int at = random.nextInt(events.stream().mapToInt(Event::weight).sum());
        for (Event event : events) {
            at -= event.weight();
            if (at < 0) {
                return event;
            }
        }
        throw new IllegalStateException();
    }

    private void strike(Event event, int waitMillis, Random own) {
        try {
            TimeUnit.MILLISECONDS.sleep(waitMillis);
            synchronized (struck) {
                struck.merge(event.name(), 1, Integer::sum);
            }
            long begun = System.nanoTime();
            event.strike().strike(own);
            long seconds = TimeUnit.NANOSECONDS.toSeconds(System.nanoTime() - begun);
            if (seconds >= 60) {
                System.out.printf("storm %s: %s took %d s%n", name, event.name(), seconds);
            }
        } catch (Exception e) {
            throw new IllegalStateException("storm " + name + " (seed " + seed + "): " + event.name(), e);
        }
    }
}
