package ninepin.server.runs;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import ninepin.core.job.Job;
import ninepin.server.config.Node;
import ninepin.server.jobs.Jobs;
import ninepin.server.runs.RunMapper.RunRow;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Keeps what is on record and what is alive reconciled, all the time and not only at the start: renews the lease of runs under
 * way, takes over those whose owner is gone, and goes on with moves that were broken off.
 */
@Component
class RunKeeper {

    private static final Logger LOG = LoggerFactory.getLogger(RunKeeper.class);
    private static final int RENEW_SECONDS = 10;
    private static final int LOOK_SECONDS = 2;

    private final RunMapper mapper;
    private final RunQueue queue;
    private final RunExecution execution;
    private final FileMoves moves;
    private final Jobs jobs;
    private final Node node;
    private final java.time.Clock clock;
    private final ScheduledExecutorService timer =
            Executors.newScheduledThreadPool(2, task -> daemon(task, "run keeper"));
    private final ExecutorService recalls = Executors.newCachedThreadPool(task -> daemon(task, "recall"));
    private final Set<Long> recalling = new HashSet<>();

    RunKeeper(
            RunMapper mapper,
            RunQueue queue,
            RunExecution execution,
            FileMoves moves,
            Jobs jobs,
            Node node,
            java.time.Clock clock) {
        this.mapper = mapper;
        this.queue = queue;
        this.execution = execution;
        this.moves = moves;
        this.jobs = jobs;
        this.node = node;
        this.clock = clock;
    }

    private static Thread daemon(Runnable task, String name) {
        Thread thread = new Thread(task, name);
        thread.setDaemon(true);
        return thread;
    }

    /** Puts in order what an earlier process has left, and goes on doing so. */
    void start() {
        reconcile();
        queue.open();
        timer.scheduleWithFixedDelay(
                safely("renew leases", queue::renew), RENEW_SECONDS, RENEW_SECONDS, TimeUnit.SECONDS);
        timer.scheduleWithFixedDelay(this::reconcile, LOOK_SECONDS, LOOK_SECONDS, TimeUnit.SECONDS);
    }

    /** Each part by itself, so that trouble with one keeps none of the others from being looked after. */
    private void reconcile() {
        safely("take over runs", this::takeOver).run();
        safely("go on with moves", moves::settleAll).run();
        safely("take up runs", queue::dispatch).run();
    }

    private static Runnable safely(String what, Runnable doing) {
        return () -> {
            try {
                doing.run();
            } catch (RuntimeException e) {
                LOG.warn("Could not {} now: {}", what, e.toString());
            }
        };
    }

    private void takeOver() {
        List<Long> lost = queue.lost();
        for (RunRow row : mapper.inState(RunState.RUNNING)) {
            boolean foreign = row.owner() == null || !row.owner().equals(node.owner());
            if (lost.contains(row.id()) || node.isGone(row.owner()) || foreign && row.leaseOver()) {
                safely("take over run " + row.id(), () -> takeOver(row)).run();
            }
        }
    }

    /** Takes over a run whose owner is gone: the next process goes on with it, or a person is asked. */
    private void takeOver(RunRow row) {
        if (row.stopRequested()) {
            end(row, RunChange.STOP, "stopped", "Stopped on request. Restart to go on from here.");
        } else if (row.takesBack() || node.endedInOrder(row.owner()) || restarts(row)) {
            end(row, RunChange.RECOVER, "recovered", null);
            LOG.info("Run {} was under way when its process ended; it goes on.", row.id());
        } else {
            recallThenInterrupt(row);
        }
    }

    private boolean restarts(RunRow row) {
        try {
            return jobs.version(row.jobId(), row.version()).job().afterCrash() == Job.AfterCrash.RESTART;
        } catch (ninepin.core.layout.DefinitionException e) {
            // Taken up, it says what is the matter with its definition.
            return true;
        }
    }

    private void end(RunRow row, RunChange change, String kind, String message) {
        int ended = mapper.end(row.id(), row.epoch(), change, clock.instant(), null, message, null, 0);
        if (ended > 0) {
            mapper.restoreMillis(row.id());
            String text = message == null ? "The process that had it ended; it goes on from the last commit" : message;
            mapper.event(row.id(), clock.instant(), kind, text, row.recordsRead());
        }
    }

    /** A person who is asked sees how far it came, which the targets tell, each in its time. */
    private void recallThenInterrupt(RunRow row) {
        synchronized (recalling) {
            if (!recalling.add(row.id())) {
                return;
            }
        }
        recalls.execute(() -> {
            try {
                execution.recallMark(row);
                end(
                        row,
                        RunChange.INTERRUPT,
                        "interrupted",
                        "The application ended while this run was under way. Restart to go on from the last commit.");
            } catch (RuntimeException e) {
                LOG.warn("Run {} cannot be looked after now: {}", row.id(), e.toString());
            } finally {
                synchronized (recalling) {
                    recalling.remove(row.id());
                }
            }
        });
    }

    @EventListener
    void close(ContextClosedEvent event) {
        timer.shutdownNow();
        recalls.shutdownNow();
    }
}
