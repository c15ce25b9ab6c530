package ninepin.server.runs;

import java.time.Instant;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.Tally;
import ninepin.core.job.Definitions;
import ninepin.core.run.RunAccount;
import ninepin.server.runs.RunMapper.RunRow;

/**
 * A run as screens show it.
 *
 * @param offset how many bytes of the file are behind the last commit
 * @param perSecond records a second since it was last started, 0 when it is not running
 * @param secondsLeft a guess at the seconds left, -1 when there is none
 * @param parentRun the run whose rejects it has, or null
 * @param resumeAt when it is tried again by itself, of one that waits for its surroundings; else null
 * @param undoes the run that it takes back, or null
 * @param open records that some of its places have taken and others have not come to yet
 * @param gathering how far the file is sorted before anything is delivered, in per cent; -1 where it is not
 * @param waitsFor what a run that is under way waits for, in a sentence, such as an application that does not answer; else null
 */
public record RunView(
        long id,
        String job,
        String title,
        int version,
        RunState state,
        boolean restartable,
        String startedBy,
        String fileName,
        long fileSize,
        String fingerprint,
        Instant createdAt,
        Instant startedAt,
        Instant endedAt,
        long busyMillis,
        int restarts,
        String code,
        String message,
        long offset,
        long commits,
        Tally tally,
        long open,
        Shares shares,
        boolean balances,
        long perSecond,
        long secondsLeft,
        int gathering,
        String waitsFor,
        Long parentRun,
        Instant resumeAt,
        Long undoes) {

    static RunView of(RunRow r, LiveRun live) {
        // Of several places the account is made where the rejects of all are known, each second.
        boolean known = live != null && live.hasOnePlace();
        Tally tally = known ? live.tally() : tally(r);
        long open = known ? 0 : r.openRecords();
        return new RunView(
                r.id(),
                r.jobName(),
                r.jobTitle(),
                r.version(),
                // That its file is still being moved is nobody's concern.
                r.state(),
                r.state().restartable(),
                r.startedBy(),
                r.fileName(),
                r.fileSize(),
                r.fingerprint(),
                r.createdAt(),
                r.startedAt(),
                r.endedAt(),
                r.busyMillis() + (live == null ? 0 : live.millis()),
                r.restarts(),
                r.code(),
                r.message(),
                live != null ? live.offset() : r.nextOffset(),
                known ? live.commits() : r.commits(),
                tally,
                open,
                known ? live.seen().shares() : shares(r),
                RunAccount.balances(tally, open, r.state() == RunState.FINISHED),
                live == null ? 0 : live.perSecond(),
                live == null ? -1 : live.secondsLeft(r.fileSize()),
                live == null ? -1 : live.gathering(),
                live == null ? null : live.waitsFor(),
                r.parentRun(),
                r.state() == RunState.PAUSED ? r.resumeAt() : null,
                r.undoes());
    }

    static Shares shares(RunRow r) {
        return r.shares() == null ? Shares.NONE : Definitions.mapper().readValue(r.shares(), Shares.class);
    }

    static Tally tally(RunRow r) {
        return new Tally(
                r.recordsRead(),
                r.delivered(),
                r.added(),
                r.changed(),
                r.unchanged(),
                r.rejected(),
                r.setAside(),
                r.blank(),
                r.notes(),
                r.withoutRows(),
                r.removed());
    }
}
