package ninepin.server.runs;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.LocalDate;
import java.util.UUID;
import java.util.concurrent.Executor;
import java.util.concurrent.Executors;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.runs.RunMapper.NewRun;
import ninepin.server.runs.RunMapper.RunRow;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Makes runs of files. A run is on record before its file is moved, so no file is ever claimed that no run knows of; what was
 * broken off in between is gone on with.
 */
@Component
class Claims {

    private static final Logger LOG = LoggerFactory.getLogger(Claims.class);

    private final RunMapper mapper;
    private final FileMoves moves;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private final Executor afterwards = Executors.newSingleThreadExecutor(task -> {
        Thread thread = new Thread(task, "claims");
        thread.setDaemon(true);
        return thread;
    });

    Claims(RunMapper mapper, FileMoves moves, TransactionTemplate transaction, Clock clock) {
        this.mapper = mapper;
        this.moves = moves;
        this.transaction = transaction;
        this.clock = clock;
    }

    /**
     * Makes a run of a file.
     *
     * @param run what is known of it already
     * @param file the whole file, on the file system of its home
     * @param then told when the run waits for its turn, which is later where a transaction is open
     * @return the number of the run
     */
    long claim(NewRun run, JobRow job, Path file, FileHome home, Runnable then) throws IOException {
        run.runKey = UUID.randomUUID().toString();
        run.jobId = job.id();
        run.filePath = file.toString();
        run.fileHome = home.folder().toString();
        run.fileSize = Files.size(file);
        run.today = LocalDate.ofInstant(clock.instant(), clock.getZone());
        run.createdAt = clock.instant();
        transaction.executeWithoutResult(status -> {
            mapper.add(run);
            mapper.moveTo(run.id, home.working(run.id, run.fileName).toString());
        });
        if (TransactionSynchronizationManager.isSynchronizationActive()) {
            TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
                @Override
                public void afterCommit() {
                    // Still on the thread, and the transaction's connection is still bound to it.
                    afterwards.execute(() -> settle(run.id, then));
                }
            });
        } else {
            settle(run.id, then);
        }
        return run.id;
    }

    private void settle(long run, Runnable then) {
        try {
            if (settle(run)) {
                then.run();
            }
        } catch (RuntimeException e) {
            LOG.warn("The claim of run {} is gone on with later: {}", run, e.toString());
        }
    }

    /** Goes on with all claims that were broken off, but for those that are just being made. */
    void settleAll() {
        for (RunRow row : mapper.inState(RunState.CLAIMING)) {
            settle(row.id());
        }
    }

    /** Moves the file of a run; false where that is not done yet, or the file is gone. */
    private synchronized boolean settle(long run) {
        RunRow row = mapper.find(run).orElse(null);
        if (row == null || row.state() != RunState.CLAIMING) {
            return false;
        }
        try {
            moves.settle(run);
            return mapper.change(run, RunChange.CLAIMED) > 0;
        } catch (NoSuchFileException e) {
            LOG.warn("{} went away before it could be claimed.", row.fileName());
            mapper.forget(run);
        } catch (IOException e) {
            LOG.warn("{} cannot be claimed now and is tried again: {}", row.fileName(), e.toString());
        }
        return false;
    }
}
