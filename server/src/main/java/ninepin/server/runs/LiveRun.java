package ninepin.server.runs;

import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Tally;
import ninepin.core.run.Legs;
import ninepin.core.run.RunListener;

/** A run that is under way in this process. */
final class LiveRun implements RunListener {

    private final long begun = System.nanoTime();
    private final long epoch;
    /** How far the first leg has been looked at, which is more than is committed while a file is delivered whole. */
    private volatile Mark seen;

    private volatile Mark from = Mark.none("");
    private volatile Mark mark = Mark.none("");
    private volatile int gathering = -1;
    private volatile boolean keepsLegs;
    private volatile Mark[] others = new Mark[0];
    private Legs legs;
    private volatile boolean stopRequested;
    private volatile boolean handedOver;

    /**
     * @param epoch the number under which it was taken up
     * @param known how far it is known to have come, for the screens until its target tells
     */
    LiveRun(long epoch, Mark known) {
        this.epoch = epoch;
        this.from = known;
        this.mark = known;
        this.seen = known;
    }

    long epoch() {
        return epoch;
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
        if (stopRequested || handedOver) {
            legs.stop();
        }
    }

    /** A person wants it to stop at the next commit. */
    synchronized void stop() {
        stopRequested = true;
        if (legs != null) {
            legs.stop();
        }
    }

    /** The application is ending, or has lost the run: it breaks off at the next commit, and another process goes on. */
    synchronized void handOver() {
        handedOver = true;
        if (legs != null) {
            legs.stop();
        }
    }

    /** Whether a person has asked it to stop. */
    boolean stopRequested() {
        return stopRequested;
    }

    /** Whether another process is to go on with it. */
    boolean handedOver() {
        return handedOver;
    }

    /** Whether it is to break off, for whatever reason. */
    boolean breaksOff() {
        return stopRequested || handedOver;
    }

    /** Whether it has committed something since it was taken up. */
    boolean gotOn() {
        boolean any = mark.commits() > from.commits();
        for (Mark other : others) {
            any |= other != null && other.commits() > 0;
        }
        return any;
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
            seen = at;
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
        seen = startedFrom;
    }

    @Override
    public void committed(Mark newMark) {
        mark = newMark;
        seen = newMark;
    }

    @Override
    public void loaded(Mark newMark) {
        seen = newMark;
    }

    /** How far its first leg has come on the screens. */
    Mark seen() {
        return seen;
    }

    Tally tally() {
        return seen.tally();
    }

    long offset() {
        return seen.position().offset();
    }

    long commits() {
        return mark.commits();
    }

    long millis() {
        return (System.nanoTime() - begun) / 1_000_000;
    }

    long perSecond() {
        return (seen.tally().read() - from.tally().read()) * 1000 / Math.max(1, millis());
    }

    long secondsLeft(long size) {
        long done = seen.position().offset() - from.position().offset();
        return done <= 0 ? -1 : (size - seen.position().offset()) * millis() / done / 1000;
    }
}
