package ninepin.server.cli;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.concurrent.TimeUnit;
import ninepin.core.testing.SmallDisk;

/** A load by the command that is started again whenever it has ended otherwise than by being through. */
final class Restarted extends Thread {

    private static final int WITH_REJECTS = 1;
    /** A command that comes no further is told by a limit that no storm reaches. */
    private static final int MOST_STARTS = 2_000;

    private final CommandLoad load;
    private volatile Process process;
    private volatile int starts;
    private volatile boolean through;
    private volatile boolean reports;

    Restarted(CommandLoad load) {
        super("restarted");
        this.load = load;
        setDaemon(true);
        start();
    }

    @Override
    public void run() {
        try {
            while (!through && starts < MOST_STARTS) {
                process = load.start();
                starts++;
                reports = process.waitFor() == WITH_REJECTS;
                through = reports || load.lastProgress().contains("was delivered before");
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    void kill() {
        if (process != null) {
            process.destroyForcibly();
        }
    }

    void freeze(int millis) throws IOException, InterruptedException {
        if (process != null) {
            SmallDisk.shell("kill -STOP " + process.pid());
            TimeUnit.MILLISECONDS.sleep(millis);
            SmallDisk.shell("kill -CONT " + process.pid());
        }
    }

    boolean isThrough() {
        return through;
    }

    /** Whether the last start has delivered something, and so reports the whole. */
    boolean reports() {
        return reports;
    }

    int starts() {
        return starts;
    }

    /** Waits until it is through. */
    void awaitEnd() throws InterruptedException {
        join();
        if (!through) {
            throw new IllegalStateException("It came no further: " + load.lastProgress());
        }
    }
}
