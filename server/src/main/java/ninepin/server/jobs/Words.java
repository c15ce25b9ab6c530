package ninepin.server.jobs;

import java.util.stream.Collectors;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.job.Job;
import ninepin.core.job.PickUp;
import ninepin.server.schedule.Cron;

/** Parts of a job in words, as tables and closed sections show them. */
public final class Words {

    private Words() {}

    public static String pickUp(PickUp p) {
        return p == null
                ? "files given by hand"
                : p.pattern() + " in " + p.root() + (p.folder().isEmpty() ? "" : "/" + p.folder());
    }

    public static String schedule(PickUp p) {
        if (p == null) {
            return "by hand";
        }
        return p.cron() != null ? Cron.words(p.cron()) : every(p.everySeconds());
    }

    private static String every(int seconds) {
        if (seconds % 3600 == 0) {
            return seconds == 3600 ? "every hour" : "every " + seconds / 3600 + " hours";
        }
        if (seconds % 60 == 0) {
            return seconds == 60 ? "every minute" : "every " + seconds / 60 + " minutes";
        }
        return seconds == 1 ? "every second" : "every " + seconds + " seconds";
    }

    public static String deliveries(Job job) {
        return job.loads().isEmpty()
                ? "none yet"
                : job.loads().stream().map(l -> delivery(l.delivery())).collect(Collectors.joining("; "));
    }

    private static String delivery(TableDelivery d) {
        return d.table() + " in " + d.connection() + ", " + d.mode().words()
                + (d.key().isEmpty() ? "" : " by " + String.join(", ", d.key()));
    }
}
