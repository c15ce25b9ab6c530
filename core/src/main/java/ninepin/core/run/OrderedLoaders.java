package ninepin.core.run;

import java.io.IOException;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.TimeUnit;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;

/**
 * Loads chunks side by side, each loader with a thread and a connection of its own, and commits them in the order of the file. So there is
 * one mark, and the outcome is that of a single loader.
 *
 * <p>A chunk that has to wait for a row of a later one (the same key in both) would wait for ever, since the later one
 * commits after it. Such a loader is told that it is busy; when its turn comes, the loaders behind it roll back and load
 * again after it.
 */
final class OrderedLoaders {

    private static final int ATTEMPTS = 5;
    private static final long PAUSE_MILLIS = 200;

    private final Target target;
    private final BlockingQueue<Chunk> full;
    private final BlockingQueue<Chunk> free;
    private final Committer committer;
    private final boolean whole;
    private final boolean[] holding;

    private long next;
    private boolean giveWay;
    private boolean over;
    private Ending ending;

    OrderedLoaders(
            Target target,
            int loaders,
            boolean whole,
            BlockingQueue<Chunk> full,
            BlockingQueue<Chunk> free,
            Committer committer) {
        this.target = target;
        this.full = full;
        this.free = free;
        this.committer = committer;
        this.whole = whole;
        this.holding = new boolean[loaders];
    }

    /** Loads and commits until the last chunk or the first trouble. Returns why it ended. */
    Ending run() throws InterruptedException {
        Thread[] threads = new Thread[holding.length];
        for (int i = 0; i < threads.length; i++) {
            int loader = i;
            threads[i] = new Thread(() -> work(loader), Thread.currentThread().getName() + " loader " + (i + 1));
            threads[i].start();
        }
        for (Thread thread : threads) {
            thread.join();
        }
        return ending;
    }

    private void work(int me) {
        try (LoadConnection connection = target.connect()) {
            Chunk chunk;
            while ((chunk = take()) != null) {
                boolean more = deliver(me, connection, chunk);
                if (!more) {
                    return;
                }
                free.add(chunk);
            }
        } catch (TargetException e) {
            end(Ending.of(e));
        } catch (IOException e) {
            end(Ending.interruption(
                    "FIL-04", "Could not write the journal of rejects: " + e.getMessage() + ". Make room."));
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            end(Ending.interruption("RUN-01", "The run was interrupted after its last commit."));
        } catch (RuntimeException | OutOfMemoryError e) {
            end(Ending.failure("RUN-02", "Delivery broke off: " + e));
        } finally {
            leave(me);
        }
    }

    private Chunk take() throws InterruptedException {
        while (!isOver()) {
            Chunk chunk = full.poll(50, TimeUnit.MILLISECONDS);
            if (chunk != null) {
                return chunk;
            }
        }
        return null;
    }

    /** Loads and commits a chunk; false when the run is over. */
    private boolean deliver(int me, LoadConnection connection, Chunk chunk)
            throws TargetException, IOException, InterruptedException {
        Loaded loaded = begin(me, chunk) ? tryLoad(me, connection, chunk) : null;
        loaded = awaitTurn(me, connection, chunk, loaded);
        if (isOver()) {
            return false;
        }
        if (loaded == null) {
            loaded = loadAlone(me, connection, chunk);
        }
        Ending last = committer.commit(connection, chunk, loaded);
        synchronized (this) {
            holding[me] = false;
            giveWay = false;
            next++;
            if (last != null) {
                over = true;
                ending = last;
            }
            notifyAll();
            return !over;
        }
    }

    private synchronized boolean begin(int me, Chunk chunk) {
        boolean may = !giveWay || chunk.sequence == next;
        holding[me] = may;
        return may;
    }

    /** Loads; null when another transaction is in the way, with everything rolled back. */
    private Loaded tryLoad(int me, LoadConnection connection, Chunk chunk) throws TargetException {
        try {
            return connection.load(chunk.batch);
        } catch (TargetException e) {
            // To roll back would lose the parts of a whole file that were loaded before.
            if (whole || e.kind() != TargetException.Kind.BUSY) {
                throw e;
            }
            release(me, connection);
            return null;
        }
    }

    private void release(int me, LoadConnection connection) throws TargetException {
        connection.rollback();
        synchronized (this) {
            holding[me] = false;
            notifyAll();
        }
    }

    /** Waits until all earlier chunks are committed, giving way to them when asked. */
    private Loaded awaitTurn(int me, LoadConnection connection, Chunk chunk, Loaded loadedSoFar)
            throws TargetException, InterruptedException {
        Loaded loaded = loadedSoFar;
        while (true) {
            synchronized (this) {
                while (!over && next != chunk.sequence && !(giveWay && loaded != null)) {
                    wait();
                }
                if (over || next == chunk.sequence) {
                    return loaded;
                }
            }
            release(me, connection);
            loaded = null;
        }
    }

    /** Loads with no other loader of this run in the way; other users of the database are given a little time. */
    private Loaded loadAlone(int me, LoadConnection connection, Chunk chunk)
            throws TargetException, InterruptedException {
        synchronized (this) {
            giveWay = true;
            notifyAll();
            while (!over && othersHold(me)) {
                wait();
            }
            holding[me] = true;
        }
        for (int attempt = 1; ; attempt++) {
            try {
                return connection.load(chunk.batch);
            } catch (TargetException e) {
                if (e.kind() != TargetException.Kind.BUSY || attempt == ATTEMPTS) {
                    throw e;
                }
                connection.rollback();
                Thread.sleep(PAUSE_MILLIS * attempt);
            }
        }
    }

    private boolean othersHold(int me) {
        for (int i = 0; i < holding.length; i++) {
            if (i != me && holding[i]) {
                return true;
            }
        }
        return false;
    }

    private synchronized boolean isOver() {
        return over;
    }

    private synchronized void end(Ending why) {
        if (!over) {
            over = true;
            ending = why;
        }
        notifyAll();
    }

    private synchronized void leave(int me) {
        holding[me] = false;
        notifyAll();
    }
}
