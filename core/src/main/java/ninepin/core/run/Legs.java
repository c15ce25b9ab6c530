package ninepin.core.run;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.Function;

/**
 * The legs of one run: what goes to one place each, with a mark of its own. They are run one after another or side by
 * side, and what the others do when one does not finish is the job's choice. A leg that was complete before does nothing.
 */
public final class Legs {

    /** What the others do when a leg does not finish. */
    public enum WhenOneFails {
        /** They stop at their next commit; those that have not begun do not begin. */
        STOP,
        /** They go on to their end, and the one that failed is restarted alone. */
        GO_ON;

        @Override
        public String toString() {
            return name().toLowerCase().replace('_', '-');
        }
    }

    private final ExecutionMode mode;
    private final List<StopSignal> stops = new ArrayList<>();

    /**
     * @param legs how many there are
     */
    public Legs(int legs, ExecutionMode mode) {
        this.mode = mode;
        for (int i = 0; i < legs; i++) {
            stops.add(new StopSignal());
        }
    }

    /** Asks a leg to stop at its next commit. */
    public StopSignal stop(int leg) {
        return stops.get(leg);
    }

    /** Asks all of them to stop. */
    public void stop() {
        stops.forEach(StopSignal::request);
    }

    /**
     * Runs them.
     *
     * @param leg runs one, by its number; must not fail otherwise than by its outcome
     * @return their outcomes in order; null for those that did not begin
     */
    public List<RunOutcome> execute(Function<Integer, RunOutcome> leg) throws InterruptedException {
        return mode.sideBySide() && stops.size() > 1 ? atOnce(leg) : inTurn(leg);
    }

    private List<RunOutcome> inTurn(Function<Integer, RunOutcome> leg) {
        List<RunOutcome> outcomes = new ArrayList<>();
        for (int i = 0; i < stops.size(); i++) {
            outcomes.add(stops.get(i).requested() && i > 0 ? null : one(i, leg));
        }
        return outcomes;
    }

    private List<RunOutcome> atOnce(Function<Integer, RunOutcome> leg) throws InterruptedException {
        String name = Thread.currentThread().getName();
        ExecutorService threads = Executors.newFixedThreadPool(stops.size());
        try {
            List<Future<RunOutcome>> later = new ArrayList<>();
            for (int i = 0; i < stops.size(); i++) {
                int number = i;
                later.add(threads.submit(() -> {
                    Thread.currentThread().setName(name + " leg " + (number + 1));
                    return one(number, leg);
                }));
            }
            List<RunOutcome> outcomes = new ArrayList<>();
            for (Future<RunOutcome> outcome : later) {
                outcomes.add(outcome.get());
            }
            return outcomes;
        } catch (ExecutionException e) {
            if (e.getCause() instanceof RuntimeException own) {
                throw own;
            }
            throw new IllegalStateException("A leg of the run broke off", e.getCause());
        } finally {
            threads.shutdown();
        }
    }

    private RunOutcome one(int number, Function<Integer, RunOutcome> leg) {
        RunOutcome outcome = null;
        try {
            outcome = leg.apply(number);
            return outcome;
        } finally {
            boolean finished = outcome != null && outcome.state() == RunOutcome.State.FINISHED;
            if (!finished && mode.whenOneFails() == WhenOneFails.STOP) {
                stop();
            }
        }
    }
}
