package ninepin.server.runs;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import ninepin.core.deliver.Mark;
import ninepin.core.job.Definitions;
import ninepin.server.api.Problems;
import ninepin.server.config.Folders;
import ninepin.server.config.NinepinSettings;
import ninepin.server.jobs.JobMapper;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.runs.RunMapper.NewRun;
import ninepin.server.runs.RunMapper.RunRow;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * The runs: accepts files, keeps one run of a job under way at a time in the order they came, stops and restarts. The
 * account of a run always comes from its mark.
 */
@Service
public class Runs {

    private static final Logger LOG = LoggerFactory.getLogger(Runs.class);

    private final RunMapper mapper;
    private final JobMapper jobs;
    private final Jobs jobService;
    private final RunExecution execution;
    private final Clock clock;
    private final Folders folders;
    private final ExecutorService threads;
    private final Map<Long, LiveRun> live = new ConcurrentHashMap<>();
    private final Map<Long, Long> busyJobs = new ConcurrentHashMap<>();
    private volatile boolean closing;

    Runs(
            RunMapper mapper,
            JobMapper jobs,
            Jobs jobService,
            RunExecution execution,
            Clock clock,
            Folders folders,
            NinepinSettings settings) {
        this.folders = folders;
        this.mapper = mapper;
        this.jobs = jobs;
        this.jobService = jobService;
        this.execution = execution;
        this.clock = clock;
        AtomicInteger number = new AtomicInteger();
        this.threads = Executors.newFixedThreadPool(
                settings.runsAtOnce(), r -> new Thread(r, "run-" + number.incrementAndGet()));
    }

    /**
     * Makes a run of a claimed file and starts it as soon as its job is free.
     *
     * @param job the job, which has a live version
     * @param claimed the file in the working folder of its home
     * @param home the home of the file
     * @param name the name under which it was picked up
     * @param by who or what started it
     * @param asked the values given at start
     * @return the number of the run
     */
    public long accept(JobRow job, Path claimed, FileHome home, String name, String by, Map<String, String> asked)
            throws IOException {
        return accept(
                new NewRun(), job, claimed, home, name, by, Definitions.mapper().writeValueAsString(asked));
    }

    /**
     * Runs records that another run has refused, as a run of its own that belongs to it.
     *
     * @param file the records, corrected or not, as a file in their layout
     * @param onlyLeg the place whose target refused them; null where they go to all places of the job
     * @return the number of the run
     */
    public long resubmit(RunRow parent, byte[] file, Integer onlyLeg, String who) throws IOException {
        JobRow job = jobs.byId(parent.jobId()).orElseThrow();
        if (job.liveVersion() == null) {
            throw Problems.conflict("Put the job live before its rejects are sent again.");
        }
        FileHome home = new FileHome(folders.uploads(job.name()));
        Files.createDirectories(home.folder());
        Path part = Files.createTempFile(home.folder(), "rejects", ".part");
        Files.write(part, file);
        String name = "rejects-of-" + parent.id() + "-" + parent.fileName();
        Path claimed = home.move(part, "working", name);
        NewRun run = new NewRun();
        run.parentRun = parent.id();
        run.onlyLeg = onlyLeg;
        return accept(run, job, claimed, home, name, who, parent.asked());
    }

    private long accept(NewRun run, JobRow job, Path claimed, FileHome home, String name, String by, String asked)
            throws IOException {
        run.runKey = UUID.randomUUID().toString();
        run.jobId = job.id();
        run.version = job.liveVersion();
        run.startedBy = by;
        run.fileName = name;
        run.filePath = claimed.toString();
        run.fileHome = home.folder().toString();
        run.fileSize = Files.size(claimed);
        run.asked = asked;
        run.today = LocalDate.ofInstant(clock.instant(), clock.getZone());
        run.createdAt = clock.instant();
        mapper.add(run);
        dispatchSoon(job.id());
        return run.id;
    }

    /** Starts it when what has made it is on record, which may be a transaction that is still open. */
    private void dispatchSoon(long jobId) {
        if (!TransactionSynchronizationManager.isSynchronizationActive()) {
            dispatch(jobId);
            return;
        }
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCommit() {
                // Still on the thread, but no longer in the transaction.
                threads.execute(() -> dispatch(jobId));
            }
        });
    }

    /** Starts the oldest waiting run of a job when none is under way. */
    void dispatch(long jobId) {
        if (closing) {
            return;
        }
        synchronized (busyJobs) {
            if (busyJobs.containsKey(jobId)) {
                return;
            }
            mapper.nextWaiting(jobId).ifPresent(next -> {
                busyJobs.put(jobId, next.id());
                threads.execute(() -> execute(next));
            });
        }
    }

    private void execute(RunRow run) {
        // For the screens until its target tells; nothing is to be copied from the journal up to it, which may begin
        // anew.
        LiveRun mine = new LiveRun(new Mark(
                new ninepin.core.read.Position(run.nextOffset(), 0, run.recordsRead()),
                RunView.tally(run),
                RunView.shares(run),
                run.commits(),
                0,
                "",
                false));
        live.put(run.id(), mine);
        try {
            execution.execute(run, mine);
        } catch (RuntimeException e) {
            LOG.error("Run {} broke off", run.id(), e);
            mapper.end(
                    run.id(),
                    RunState.FAILED,
                    clock.instant(),
                    "RUN-03",
                    "Ninepin itself failed: " + e.getMessage() + ". Restart to go on from the last commit.",
                    run.filePath(),
                    mine.millis());
        } finally {
            live.remove(run.id());
            synchronized (busyJobs) {
                busyJobs.remove(run.jobId());
            }
            dispatch(run.jobId());
        }
    }

    /** Copies the account and the findings of runs under way for the screens. */
    @Scheduled(fixedDelay = 1000)
    void keepAccounts() {
        live.forEach((id, run) -> {
            try {
                execution.account(id, run);
                mapper.underWay(id, run.millis());
            } catch (RuntimeException e) {
                LOG.warn("The account of run {} could not be brought up to date; it will be at its end", id, e);
            }
        });
    }

    public RunView view(long id) {
        RunRow row = row(id);
        return view(row);
    }

    RunView view(RunRow row) {
        return RunView.of(row, live.get(row.id()));
    }

    /** Where a run keeps what it has refused and noted, of one of its places. */
    public Path journal(long id, int leg) {
        return LegAccounts.journal(folders, id, leg);
    }

    /** The latest runs that have delivered something. */
    public List<RunRow> delivered(int most) {
        return mapper.delivered(most);
    }

    public RunRow row(long id) {
        return mapper.find(id).orElseThrow(() -> Problems.notFound("There is no run " + id + "."));
    }

    /** Asks a run to stop at its next commit. */
    public void stop(long id) {
        LiveRun run = live.get(id);
        if (run != null) {
            run.stop();
            return;
        }
        RunRow row = row(id);
        if (row.state() != RunState.WAITING) {
            throw Problems.conflict("Run " + id + " is not under way.");
        }
        mapper.end(id, RunState.STOPPED, clock.instant(), null, "Stopped before it started.", row.filePath(), 0);
    }

    /**
     * Restarts a run from its mark.
     *
     * @param withLive whether it goes on with the job's live version instead of its own
     */
    public RunView restart(long id, boolean withLive, String who) {
        RunRow row = row(id);
        if (!row.state().restartable()) {
            throw Problems.conflict(
                    "Run " + id + " is " + row.state().name().toLowerCase() + " and cannot be restarted.");
        }
        JobRow job = jobs.byId(row.jobId()).orElseThrow();
        int version = withLive && job.liveVersion() != null ? job.liveVersion() : row.version();
        boolean overLimit = "LIM-01".equals(row.code());
        Path path = backToWorking(row);
        int taken = mapper.requeue(
                id,
                version,
                path.toString(),
                overLimit ? row.haltedRead() : row.acceptedRead(),
                overLimit ? row.haltedRejected() : row.acceptedRejected(),
                overLimit ? row.haltedNotes() : row.acceptedNotes());
        if (taken == 0) {
            throw Problems.conflict("Run " + id + " was restarted by somebody else just now.");
        }
        mapper.event(
                id,
                clock.instant(),
                "restart",
                "Restarted by " + who + (version != row.version() ? " with version " + version : ""),
                row.recordsRead());
        dispatch(row.jobId());
        return view(id);
    }

    private Path backToWorking(RunRow row) {
        Path path = Path.of(row.filePath());
        FileHome home = new FileHome(Path.of(row.fileHome()));
        if (path.startsWith(home.working())) {
            return path;
        }
        try {
            return home.move(path, "working", row.fileName());
        } catch (IOException e) {
            throw Problems.conflict("The file of run " + row.id() + " is not in "
                    + path.getParent().getFileName() + " any more, so it cannot be restarted.");
        }
    }

    /** Does something with a run that is over while no run of its job is under way. */
    <T> T whileQuiet(RunRow row, Callable<T> what) throws Exception {
        synchronized (busyJobs) {
            if (busyJobs.putIfAbsent(row.jobId(), row.id()) != null) {
                throw Problems.conflict("Another run of the job is under way. Wait for its end.");
            }
        }
        try {
            return what.call();
        } finally {
            synchronized (busyJobs) {
                busyJobs.remove(row.jobId());
            }
            dispatch(row.jobId());
        }
    }

    /** Finds what was under way when the application died, and restarts or offers it. */
    void recover() {
        for (RunRow row : mapper.inState(RunState.RUNNING)) {
            Jobs.Definition definition = jobService.version(row.jobId(), row.version());
            boolean restart = definition.job().afterCrash() == ninepin.core.job.Job.AfterCrash.RESTART;
            mapper.interrupt(
                    row.id(),
                    clock.instant(),
                    "The application ended while this run was under way. Restart to go on from the last commit.");
            execution.recallMark(row);
            mapper.event(
                    row.id(),
                    clock.instant(),
                    "interrupted",
                    "Found as it was when the application ended",
                    row(row.id()).recordsRead());
            LOG.info(
                    "Run {} was under way when the application ended; {}.",
                    row.id(),
                    restart ? "restarting it" : "it is offered for restart");
            if (restart) {
                restart(row.id(), false, "the application's start");
            }
        }
        for (JobRow job : jobs.all()) {
            adoptOrphans(job);
            dispatch(job.id());
        }
    }

    /** Files that were claimed when the application died, before their run was on record. */
    private void adoptOrphans(JobRow job) {
        if (job.liveVersion() == null) {
            return;
        }
        List<String> known = mapper.filesUnderWay(job.id());
        execution.homeOf(jobService.version(job.id(), job.liveVersion()).job()).ifPresent(home -> {
            try (var files =
                    Files.exists(home.working()) ? Files.list(home.working()) : java.util.stream.Stream.<Path>empty()) {
                for (Path file : (Iterable<Path>) files::iterator) {
                    if (!known.contains(file.toString()) && Files.size(file) > 0) {
                        LOG.info("{} was claimed but has no run; it gets one now.", file.getFileName());
                        accept(job, file, home, file.getFileName().toString(), "schedule", Map.of());
                    }
                }
            } catch (IOException e) {
                LOG.warn("The working folder of {} could not be looked at: {}", job.name(), e.toString());
            }
        });
    }

    /** Waits until no run is waiting or under way; for the demo's past. */
    public void awaitQuiet() {
        while (!busyJobs.isEmpty() || !mapper.inState(RunState.WAITING).isEmpty()) {
            try {
                TimeUnit.MILLISECONDS.sleep(10);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return;
            }
        }
    }

    @EventListener
    void close(ContextClosedEvent event) throws InterruptedException {
        closing = true;
        live.values().forEach(LiveRun::stop);
        threads.shutdown();
        threads.awaitTermination(20, TimeUnit.SECONDS);
    }
}
