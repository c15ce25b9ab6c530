package ninepin.server.pickup;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import ninepin.doors.source.Item;

/** Knows since when an item has kept its version. What it saw is forgotten with the application, on purpose. */
final class ReadyWatch {

    private record Known(String job, String item) {}

    private record Seen(String version, long sinceNanos) {}

    private final Map<Known, Seen> seen = new ConcurrentHashMap<>();

    /** Whether an item has not changed for so many seconds, as far as was watched. */
    boolean ready(String job, Item item, int seconds) {
        long nanos = System.nanoTime();
        Known known = new Known(job, item.id());
        Seen before = seen.get(known);
        if (before == null || !before.version().equals(item.version())) {
            seen.put(known, new Seen(item.version(), nanos));
            return seconds == 0;
        }
        return nanos - before.sinceNanos() >= seconds * 1_000_000_000L;
    }

    void forget(String job, Item item) {
        seen.remove(new Known(job, item.id()));
    }
}
