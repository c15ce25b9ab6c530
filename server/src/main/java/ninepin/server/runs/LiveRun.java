package ninepin.server.runs;

import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Tally;
import ninepin.core.run.RunListener;
import ninepin.core.run.StopSignal;

/** A run that is under way in this process. */
final class LiveRun implements RunListener {

    final StopSignal stop = new StopSignal();
    private final long begun = System.nanoTime();
    private volatile Mark from = Mark.none("");
    private volatile Mark mark = Mark.none("");
    private volatile int gathering = -1;

    LiveRun(Mark known) {
        this.from = known;
        this.mark = known;
    }

    @Override
    public void gathering(int percent) {
        gathering = percent;
    }

    /** How far the file is sorted, in per cent; -1 where it is not being sorted. */
    int gathering() {
        return gathering;
    }

    @Override
    public void started(Mark startedFrom, long size) {
        gathering = -1;
        from = startedFrom;
        mark = startedFrom;
    }

    @Override
    public void committed(Mark newMark) {
        mark = newMark;
    }

    Mark mark() {
        return mark;
    }

    Tally tally() {
        return mark.tally();
    }

    long offset() {
        return mark.position().offset();
    }

    long commits() {
        return mark.commits();
    }

    long millis() {
        return (System.nanoTime() - begun) / 1_000_000;
    }

    long perSecond() {
        return (mark.tally().read() - from.tally().read()) * 1000 / Math.max(1, millis());
    }

    long secondsLeft(long size) {
        long done = mark.position().offset() - from.position().offset();
        return done <= 0 ? -1 : (size - mark.position().offset()) * millis() / done / 1000;
    }
}
