package ninepin.server.runs;

import java.util.Arrays;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Stream;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.run.Legs;
import ninepin.core.run.RunListener;

/** A run that is under way in this process. */
final class LiveRun {

    /** How far one of its places has come. */
    private final class Place implements RunListener {
        private volatile Mark from;
        private volatile Mark mark;
        /** How far the file has been looked at, which is more than is committed while it is delivered whole. */
        private volatile Mark seen;

        private volatile Target target;

        @Override
        public void gathering(int percent) {
            LiveRun.this.gathering(percent);
        }

        @Override
        public void started(Mark startedFrom, long size) {
            LiveRun.this.gathering(-1);
            from = startedFrom;
            ended(startedFrom);
        }

        @Override
        public void committed(Mark newMark) {
            ended(newMark);
        }

        @Override
        public void loaded(Mark newMark) {
            seen = newMark;
        }

        void ended(Mark at) {
            mark = at;
            seen = at;
        }

        boolean gotOn() {
            return from != null && mark.commits() > from.commits();
        }
    }

    private final long begun = System.nanoTime();
    private final long epoch;
    private final Mark known;
    private volatile Place[] places = {};
    private volatile int gathering = -1;
    private Legs legs;
    private volatile boolean stopRequested;
    private volatile boolean handedOver;

    /**
     * @param epoch the number under which it was taken up
     * @param known how far it is known to have come, for the screens until its targets tell
     */
    LiveRun(long epoch, Mark known) {
        this.epoch = epoch;
        this.known = known;
    }

    long epoch() {
        return epoch;
    }

    /** Its places begin. */
    synchronized void begin(Legs newLegs, int count) {
        places = Stream.generate(Place::new).limit(count).toArray(Place[]::new);
        legs = newLegs;
        if (breaksOff()) {
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
        return Arrays.stream(places).anyMatch(Place::gotOn);
    }

    /** How many places it delivers to. */
    int legs() {
        return places.length;
    }

    /** Whether its account is that of one place, which is known here to the moment. */
    boolean hasOnePlace() {
        return places.length == 1;
    }

    /** How far a place has come; null while that is not known. */
    Mark mark(int leg) {
        return places[leg].mark;
    }

    /** A place is done with, maybe because it had been complete before. */
    void ended(int leg, Mark at) {
        places[leg].ended(at);
    }

    /** What listens to a place, while it is delivered to its target. */
    RunListener leg(int number, Target target) {
        places[number].target = target;
        return places[number];
    }

    /** What a place is waiting for, in a sentence; null while all of them get on. */
    String waitsFor() {
        return Arrays.stream(places)
                .map(p -> p.target)
                .filter(Objects::nonNull)
                .map(Target::waitsFor)
                .filter(Objects::nonNull)
                .findFirst()
                .orElse(null);
    }

    /** How far the file is sorted, in per cent; -1 where it is not being sorted. */
    int gathering() {
        return gathering;
    }

    void gathering(int percent) {
        gathering = percent;
    }

    /** How far the first place has come on the screens. */
    Mark seen() {
        Mark seen = places.length == 0 ? null : places[0].seen;
        return seen == null ? known : seen;
    }

    Tally tally() {
        return seen().tally();
    }

    /** The records that the place which is ahead has read. */
    long read() {
        return Arrays.stream(places)
                .map(p -> p.seen)
                .filter(Objects::nonNull)
                .mapToLong(m -> m.tally().read())
                .max()
                .orElse(known.tally().read());
    }

    /** The bytes of the file that are behind its places; of several, on the average. */
    long offset() {
        return places.length == 0 ? known.position().offset() : mean(p -> p.seen);
    }

    long commits() {
        Mark mark = places.length == 0 ? null : places[0].mark;
        return mark == null ? known.commits() : mark.commits();
    }

    long millis() {
        return (System.nanoTime() - begun) / 1_000_000;
    }

    long perSecond() {
        long read = 0;
        for (Place place : places) {
            Mark from = place.from;
            Mark seen = place.seen;
            read += from == null ? 0 : seen.tally().read() - from.tally().read();
        }
        return read * 1000 / Math.max(1, millis()) / Math.max(1, places.length);
    }

    long secondsLeft(long size) {
        long at = offset();
        long done = at - mean(p -> p.from);
        return places.length == 0 || done <= 0 ? -1 : (size - at) * millis() / done / 1000;
    }

    private long mean(Function<Place, Mark> of) {
        return (long) Arrays.stream(places)
                .map(of)
                .mapToLong(m -> m == null ? 0 : m.position().offset())
                .average()
                .orElse(0);
    }
}
