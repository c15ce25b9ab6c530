package ninepin.server.pickup;

import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileTime;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/** Knows since when a file has kept its size and time. What it saw is forgotten with the application, on purpose. */
final class ReadyWatch {

    private record Seen(long size, FileTime time, long sinceNanos) {}

    private final Map<Path, Seen> seen = new ConcurrentHashMap<>();

    /** Whether a file has not changed for so many seconds, as far as was watched. */
    boolean ready(Path file, BasicFileAttributes now, int seconds) {
        long nanos = System.nanoTime();
        Seen before = seen.get(file);
        if (before == null || before.size() != now.size() || !before.time().equals(now.lastModifiedTime())) {
            seen.put(file, new Seen(now.size(), now.lastModifiedTime(), nanos));
            return seconds == 0;
        }
        return nanos - before.sinceNanos() >= seconds * 1_000_000_000L;
    }

    void forget(Path file) {
        seen.remove(file);
    }
}
