package ninepin.server.runs;

import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import ninepin.core.deliver.Mark;
import ninepin.core.record.Position;
import ninepin.server.api.OwnDatabase;
import ninepin.server.config.NinepinSettings;
import ninepin.server.config.Node;
import ninepin.server.runs.RunMapper.RunRow;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Takes runs up when their turn comes, one of a job at a time, executes them and puts their ends on record. What is on record
 * decides; what is alive here is only what this process works on.
 */
@Component
class RunQueue {

    private static final Logger LOG = LoggerFactory.getLogger(RunQueue.class);
    /** How long a run stays with an owner that is not heard of. */
    static final int LEASE_SECONDS = 30;

    private static final int MOST_PAUSE_SECONDS = 300;
    private static final int CLOSING_SECONDS = 20;

    private final RunMapper mapper;
    private final RunExecution execution;
    private final TakeBack takeBack;
    private final FileMoves moves;
    private final Records records;
    private final Node node;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private final int firstPause;
    private final ExecutorService threads;
    private final Semaphore free;
    private final Map<Long, LiveRun> live = new ConcurrentHashMap<>();
    private final Object takingUp = new Object();
    private volatile boolean open;
    private volatile boolean closing;

    RunQueue(
            RunMapper mapper,
            RunExecution execution,
            TakeBack takeBack,
            FileMoves moves,
            Records records,
            Node node,
            TransactionTemplate transaction,
            Clock clock,
            NinepinSettings settings) {
        this.mapper = mapper;
        this.execution = execution;
        this.takeBack = takeBack;
        this.moves = moves;
        this.records = records;
        this.node = node;
        this.transaction = transaction;
        this.clock = clock;
        this.firstPause = settings.pauseSeconds();
        this.free = new Semaphore(settings.runsAtOnce());
        AtomicInteger number = new AtomicInteger();
        this.threads = Executors.newCachedThreadPool(r -> new Thread(r, "run-" + number.incrementAndGet()));
    }

    /** Begins to take runs up; what an earlier process has left is reconciled by then. */
    void open() {
        open = true;
        dispatch();
    }

    /** The run as this process works on it; null where it does not. */
    LiveRun live(long id) {
        return live.get(id);
    }

    /** Takes up what has its turn, as long as there is room for it. */
    void dispatch() {
        if (!open || closing) {
            return;
        }
        try {
            for (long job : mapper.jobsWithWork()) {
                if (!free.tryAcquire()) {
                    return;
                }
                if (!takeUp(job)) {
                    free.release();
                }
            }
        } catch (RuntimeException e) {
            LOG.warn("Waiting runs cannot be taken up now: {}", e.toString());
        }
    }

    /** The same on another thread, for one that a transaction is bound to still. */
    void dispatchSoon() {
        if (!closing) {
            threads.execute(this::dispatch);
        }
    }

    /** Takes up the next run of a job, where none of it is under way; false where there is none. */
    private boolean takeUp(long job) {
        // So that a run which is on record as this process's own is also among those it works on.
        synchronized (takingUp) {
            Optional<RunRow> taken;
            try {
                taken = transaction.execute(status -> next(job));
            } catch (RuntimeException e) {
                LOG.warn("No run of job {} could be taken up: {}", job, e.toString());
                return false;
            }
            if (taken.isEmpty()) {
                return false;
            }
            RunRow row = taken.get();
            LiveRun mine = new LiveRun(row.epoch(), known(row));
            live.put(row.id(), mine);
            threads.execute(() -> execute(row, mine));
            return true;
        }
    }

    private Optional<RunRow> next(long job) {
        if (mapper.lockJob(job).isEmpty() || mapper.holdUp(job) > 0) {
            return Optional.empty();
        }
        return mapper.next(job)
                .filter(row -> mapper.takeUp(
                                row.id(), row.epoch(), node.owner(), LEASE_SECONDS, clock.instant(), RunChange.TAKE_UP)
                        > 0)
                .flatMap(row -> mapper.find(row.id()));
    }

    /** For the screens until its target tells; nothing is copied from the journal up to it, which may begin anew. */
    private static Mark known(RunRow row) {
        return new Mark(
                new Position(row.nextOffset(), 0, row.recordsRead()),
                RunView.tally(row),
                RunView.shares(row),
                row.commits(),
                0,
                "",
                false);
    }

    private void execute(RunRow row, LiveRun mine) {
        try {
            RunEnd end = ended(row, mine);
            records.until("the end of run " + row.id(), () -> record(row, mine, end), () -> closing);
        } catch (Records.GivenUp e) {
            LOG.warn("The end of run {} is not on record; the next start finds out how far it has come.", row.id());
        } finally {
            live.remove(row.id());
            free.release();
            dispatch();
        }
        settleMove(row.id());
    }

    private RunEnd ended(RunRow row, LiveRun mine) {
        try {
            begin(row);
            RunEnd end = row.takesBack() ? takeBack.execute(row, mine) : execution.execute(row, mine);
            return end.asked(mine.stopRequested() || stopOnRecord(row.id()), mine.handedOver());
        } catch (Records.GivenUp e) {
            throw e;
        } catch (RuntimeException e) {
            if (OwnDatabase.isAway(e)) {
                LOG.warn("Ninepin's own database failed while run {} was under way: {}", row.id(), e.toString());
                return RunEnd.of(
                                RunChange.PAUSE,
                                "RUN-06",
                                OwnDatabase.words(e) + " This run goes on from its last commit.")
                        .asked(mine.stopRequested(), mine.handedOver());
            }
            LOG.error("Run {} broke off", row.id(), e);
            return RunEnd.of(
                    RunChange.FAIL,
                    "RUN-03",
                    "Ninepin itself failed: " + e.getMessage() + ". Restart to go on from the last commit.");
        }
    }

    private void begin(RunRow row) {
        mapper.underWayAgain(row.id(), row.epoch());
        if (row.epoch() == 1) {
            mapper.event(
                    row.id(),
                    clock.instant(),
                    "start",
                    "Started by " + row.startedBy() + " with version " + row.version(),
                    0);
        } else if (!mapper.lastEvent(row.id()).filter("restart"::equals).isPresent()) {
            String from = row.commits() > 0 ? "from the last commit" : "from the beginning";
            mapper.event(row.id(), clock.instant(), "went on", "Goes on " + from, row.recordsRead());
        }
    }

    private boolean stopOnRecord(long id) {
        return mapper.find(id).map(RunRow::stopRequested).orElse(false);
    }

    /** Puts the end of an execution on record, with where the file goes; another may have the run by now. */
    private void record(RunRow row, LiveRun mine, RunEnd end) {
        transaction.executeWithoutResult(status -> {
            if (end.halted() != null) {
                mapper.halted(row.id(), end.halted());
            }
            boolean taken = end.change() == RunChange.PAUSE ? pause(row, mine, end) : end(row, mine, end);
            if (!taken) {
                LOG.warn("Run {} has been taken over by another process.", row.id());
                return;
            }
            String text = text(end);
            if (text != null) {
                mapper.event(row.id(), clock.instant(), kind(end.change()), text, mine.read());
            }
        });
    }

    private boolean pause(RunRow row, LiveRun mine, RunEnd end) {
        return mapper.pause(
                        row.id(),
                        row.epoch(),
                        end.change(),
                        end.code(),
                        end.message(),
                        mine.gotOn(),
                        firstPause,
                        MOST_PAUSE_SECONDS,
                        mine.millis())
                > 0;
    }

    private boolean end(RunRow row, LiveRun mine, RunEnd end) {
        boolean goes = end.folder() != null && !row.takesBack();
        String movingTo = goes
                ? new FileHome(Path.of(row.fileHome()))
                        .free(end.folder(), row.fileName())
                        .toString()
                : null;
        if (row.takesBack()) {
            takeBack.ended(row, end.change());
        }
        return mapper.end(
                        row.id(),
                        row.epoch(),
                        end.change(),
                        clock.instant(),
                        end.code(),
                        end.message(),
                        movingTo,
                        mine.millis())
                > 0;
    }

    private static String kind(RunChange change) {
        return change == RunChange.HAND_OVER
                ? "handed over"
                : change.to().name().toLowerCase();
    }

    private static String text(RunEnd end) {
        if (end.change() == RunChange.HAND_OVER) {
            return "The application was stopped; the run goes on when it is back";
        }
        return end.message() == null ? "Finished" : RunExecution.shortened(end.message());
    }

    private void settleMove(long run) {
        try {
            moves.settle(run);
        } catch (java.io.IOException | RuntimeException e) {
            // Looked after while all is reconciled.
            LOG.debug("The file of run {} is moved later: {}", run, e.toString());
        }
    }

    /** Renews the lease, and lets go what is another's by now. */
    void renew() {
        mapper.renew(node.owner(), LEASE_SECONDS);
        List<Long> owned = mapper.owned(node.owner());
        live.forEach((id, run) -> {
            if (!owned.contains(id)) {
                run.handOver();
            }
        });
    }

    /** Runs that are on record as this process's own and that it does not work on. */
    List<Long> lost() {
        synchronized (takingUp) {
            return mapper.owned(node.owner()).stream()
                    .filter(id -> !live.containsKey(id))
                    .toList();
        }
    }

    /** Copies the account and the findings of runs under way for the screens, and takes notice of stops asked elsewhere. */
    @Scheduled(fixedDelay = 1000)
    void keepAccounts() {
        live.forEach((id, run) -> {
            try {
                if (stopOnRecord(id)) {
                    run.stop();
                }
                execution.account(id, run);
                mapper.underWay(id, run.epoch(), run.millis());
            } catch (RuntimeException e) {
                LOG.warn(
                        "The account of run {} could not be brought up to date; it will be at its end: {}",
                        id,
                        e.toString());
            }
        });
    }

    boolean isIdle() {
        return live.isEmpty();
    }

    @EventListener
    void close(ContextClosedEvent event) throws InterruptedException {
        closing = true;
        live.values().forEach(LiveRun::handOver);
        threads.shutdown();
        threads.awaitTermination(CLOSING_SECONDS, TimeUnit.SECONDS);
    }
}
