package ninepin.server.runs;

import java.nio.file.Path;
import java.time.Clock;
import java.time.LocalDate;
import ninepin.server.runs.RunMapper.NewRun;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** Makes runs of files that are safe on this machine's disk. */
@Component
class Acceptance {

    private final RunMapper mapper;
    private final RunQueue queue;
    private final Clock clock;

    Acceptance(RunMapper mapper, RunQueue queue, Clock clock) {
        this.mapper = mapper;
        this.queue = queue;
        this.clock = clock;
    }

    /**
     * Makes a run, which waits for its turn from the end of the open transaction on.
     *
     * @param run what is known of it already, its key included
     * @param file the whole file
     * @param movingTo where it is worked on, if that is elsewhere; else null
     * @param size its bytes
     * @return the number of the run
     */
    long accept(NewRun run, Path file, Path movingTo, FileHome home, long size) {
        run.filePath = file.toString();
        run.movingTo = movingTo == null ? null : movingTo.toString();
        run.fileHome = home.folder().toString();
        run.fileSize = size;
        run.today = LocalDate.ofInstant(clock.instant(), clock.getZone());
        run.createdAt = clock.instant();
        mapper.add(run);
        if (TransactionSynchronizationManager.isSynchronizationActive()) {
            TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
                @Override
                public void afterCompletion(int status) {
                    queue.dispatchSoon();
                }
            });
        } else {
            queue.dispatch();
        }
        return run.id;
    }
}
