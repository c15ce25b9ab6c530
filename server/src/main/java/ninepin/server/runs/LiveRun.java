package ninepin.server.runs;

import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Tally;
import ninepin.core.run.Legs;
import ninepin.core.run.RunListener;

/** A run that is under way in this process. */
final class LiveRun implements RunListener {

    private final long begun = System.nanoTime();
    private volatile Mark from = Mark.none("");
    private volatile Mark mark = Mark.none("");
    private volatile int gathering = -1;
    private volatile boolean keepsLegs;
    private volatile Mark[] others = new Mark[0];
    private Legs legs;
    private boolean stopRequested;

    LiveRun(Mark known) {
        this.from = known;
        this.mark = known;
    }

    /**
     * Its legs begin; the first one's account is the run's own.
     *
     * @param keeps whether the run keeps an account of each
     */
    synchronized void begin(Legs newLegs, int count, boolean keeps) {
        others = new Mark[count - 1];
        keepsLegs = keeps;
        legs = newLegs;
        if (stopRequested) {
            legs.stop();
        }
    }

    /** Asks all of it to stop at the next commit. */
    synchronized void stop() {
        stopRequested = true;
        if (legs != null) {
            legs.stop();
        }
    }

    boolean keepsLegs() {
        return keepsLegs;
    }

    /** How many legs have begun. */
    int legs() {
        return others.length + 1;
    }

    /** How far a leg has come; null while that is not known. */
    Mark mark(int leg) {
        return leg == 0 ? mark : others[leg - 1];
    }

    /** A leg is over, maybe because it had been complete before. */
    void ended(int leg, Mark at) {
        if (leg == 0) {
            mark = at;
        } else {
            others[leg - 1] = at;
        }
    }

    /** What listens to a leg. */
    RunListener leg(int number) {
        if (number == 0) {
            return this;
        }
        Mark[] marks = others;
        return new RunListener() {
            @Override
            public void started(Mark startedFrom, long size) {
                marks[number - 1] = startedFrom;
            }

            @Override
            public void committed(Mark newMark) {
                marks[number - 1] = newMark;
            }
        };
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
