package ninepin.server.runs;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.TimeUnit;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.TargetException;
import ninepin.core.job.Job;
import ninepin.server.api.Problems;
import ninepin.server.config.Folders;
import ninepin.server.jobs.JobMapper;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.runs.RunMapper.NewRun;
import ninepin.server.runs.RunMapper.RunRow;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** The runs as people and schedules deal with them: accepts files, shows, stops and restarts. */
@Service
public class Runs {

    private final RunMapper mapper;
    private final JobMapper jobs;
    private final Jobs definitions;
    private final SameFile sameFile;
    private final RunQueue queue;
    private final Acceptance acceptance;
    private final ClaimMapper claims;
    private final Clock clock;
    private final Folders folders;

    Runs(
            RunMapper mapper,
            JobMapper jobs,
            Jobs definitions,
            SameFile sameFile,
            RunQueue queue,
            Acceptance acceptance,
            ClaimMapper claims,
            Clock clock,
            Folders folders) {
        this.mapper = mapper;
        this.jobs = jobs;
        this.definitions = definitions;
        this.sameFile = sameFile;
        this.queue = queue;
        this.acceptance = acceptance;
        this.claims = claims;
        this.clock = clock;
        this.folders = folders;
    }

    /**
     * Makes a run of a file that nobody else can take, and starts it as soon as its job is free.
     *
     * @param job the job, which has a live version
     * @param file the whole file, on the file system of its home
     * @param home the home of the file
     * @param name the name under which it came
     * @param by who or what started it
     * @param asked the values given at start
     * @return the number of the run
     */
    public long accept(JobRow job, Path file, FileHome home, String name, String by, Map<String, String> asked)
            throws IOException {
        return accept(new NewRun(), job, file, home, name, by, AskedValues.write(asked));
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
        refuseWhatWasDelivered(parent, job);
        FileHome home = new FileHome(folders.uploads(job.name()));
        Files.createDirectories(home.folder());
        Path part = Files.createTempFile(home.folder(), "rejects", ".part");
        Files.write(part, file);
        NewRun run = new NewRun();
        run.parentRun = parent.id();
        run.onlyLeg = onlyLeg;
        return accept(run, job, part, home, "rejects-of-" + parent.id() + "-" + parent.fileName(), who, parent.asked());
    }

    /** A run that delivered nothing refuses nobody, so its whole file may have gone in with another run meanwhile. */
    private void refuseWhatWasDelivered(RunRow parent, JobRow job) {
        RunRow first = parent;
        while (first.parentRun() != null) {
            first = row(first.parentRun());
        }
        long id = first.id();
        try {
            Job live = definitions.version(job.id(), job.liveVersion()).job();
            sameFile.deliveredElsewhere(first, live, first.fingerprint()).ifPresent(how -> {
                throw Problems.conflict("The file of run " + id + " " + how
                        + " Set these rejects aside: sent again they would arrive twice.");
            });
        } catch (TargetException e) {
            throw Problems.conflict("It cannot be seen whether another run has delivered the file of run " + id + ": "
                    + e.getMessage());
        }
    }

    private long accept(NewRun run, JobRow job, Path file, FileHome home, String name, String by, String asked)
            throws IOException {
        run.version = job.liveVersion();
        run.startedBy = by;
        run.fileName = name;
        run.asked = asked;
        run.jobId = job.id();
        run.runKey = UUID.randomUUID().toString();
        return acceptance.accept(run, file, home.working(run.runKey, name), home, Files.size(file));
    }

    public RunView view(long id) {
        return view(row(id));
    }

    RunView view(RunRow row) {
        return RunView.of(row, row.state() == RunState.RUNNING ? queue.live(row.id()) : null);
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

    /** Stops a run that waits, or asks one that is under way to stop at its next commit. */
    public void stop(long id, String who) {
        RunRow row = row(id);
        if (mapper.requestStop(id) > 0) {
            LiveRun run = queue.live(id);
            if (run != null) {
                run.stop();
            }
            return;
        }
        String message = row.commits() == 0 ? "Stopped before it started." : "Stopped. Restart to go on from here.";
        int stopped = mapper.end(id, row.epoch(), RunChange.STOP, clock.instant(), null, message, null, 0);
        if (stopped == 0) {
            throw Problems.conflict("Run " + id + " is not under way.");
        }
        if (row.takesBack()) {
            mapper.keep(row.undoes());
        }
        mapper.event(id, clock.instant(), "stopped", "Stopped by " + who, row.recordsRead());
        queue.dispatch();
    }

    /**
     * Restarts a run from its mark, or tries one at once that waits for its surroundings.
     *
     * @param withLive whether it goes on with the job's live version instead of its own
     */
    @Transactional
    public RunView restart(long id, boolean withLive, String who) {
        RunRow row = row(id);
        if (row.state() == RunState.PAUSED && mapper.resumeNow(id) > 0) {
            mapper.event(id, clock.instant(), "restart", "Tried again by " + who, row.recordsRead());
            dispatchSoon();
            return view(id);
        }
        if (!row.state().restartable()) {
            throw Problems.conflict("Run " + id + " is " + row.state().words() + " and cannot be restarted.");
        }
        JobRow job = jobs.byId(row.jobId()).orElseThrow();
        int version = withLive && job.liveVersion() != null ? job.liveVersion() : row.version();
        boolean overLimit = "LIM-01".equals(row.code());
        Tally accepted = overLimit
                ? account(row.haltedRead(), row.haltedRejected(), row.haltedNotes())
                : account(row.acceptedRead(), row.acceptedRejected(), row.acceptedNotes());
        int taken = mapper.requeue(id, version, backToWorking(row), accepted, RunChange.RESTART);
        if (taken == 0) {
            throw Problems.conflict("Run " + id + " was restarted by somebody else just now.");
        }
        if (row.takesBack()
                && mapper.takeBack(row.undoes(), RunChange.TAKE_BACK) == 0
                && row(row.undoes()).state() != RunState.TAKING_BACK) {
            throw Problems.conflict(
                    "Run " + row.undoes() + " is " + row(row.undoes()).state().words() + " and cannot be taken back.");
        }
        mapper.event(
                id,
                clock.instant(),
                "restart",
                "Restarted by " + who + (version != row.version() ? " with version " + version : ""),
                row.recordsRead());
        dispatchSoon();
        return view(id);
    }

    private void dispatchSoon() {
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCommit() {
                queue.dispatchSoon();
            }
        });
    }

    private static Tally account(long read, long rejected, long notes) {
        return new Tally(read, 0, 0, 0, 0, rejected, 0, 0, notes);
    }

    /** The file of a run, to be read again. */
    public static Path requireFile(RunRow row) {
        return row.keptFile()
                .orElseThrow(() -> Problems.conflict(
                        row.takesBack()
                                ? "Run " + row.id() + " takes back run " + row.undoes() + " and has no file of its own."
                                : "The file of run " + row.id() + " is not kept any more."));
    }

    /** Where the file of a run is to be moved; null where it is there, or the run has none. */
    private static String backToWorking(RunRow row) {
        if (row.takesBack()) {
            return null;
        }
        if (row.keptFile().isEmpty()) {
            throw Problems.conflict("The file of run " + row.id() + " is not where it was put any more ("
                    + row.filePath() + "), so it cannot be restarted.");
        }
        Path working = new FileHome(Path.of(row.fileHome())).working(row.runKey(), row.fileName());
        return row.file().equals(working) ? null : working.toString();
    }

    /** Waits until no run is waiting or under way and every file is where it belongs; for the demo's past. */
    public void awaitQuiet() {
        while (!queue.isIdle()
                || !claims.open().isEmpty()
                || !mapper.inState(RunState.WAITING).isEmpty()
                || !mapper.inState(RunState.RUNNING).isEmpty()
                || !mapper.moving().isEmpty()) {
            try {
                TimeUnit.MILLISECONDS.sleep(10);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return;
            }
        }
    }
}
