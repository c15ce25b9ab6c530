package ninepin.server.jobs;

import java.util.stream.Collectors;
import ninepin.core.destination.Destinations;
import ninepin.core.job.Job;
import ninepin.core.pickup.PickUp;
import ninepin.doors.Sources;
import ninepin.server.schedule.Cron;

/** Parts of a job in words, as tables and closed sections show them. */
public final class Words {

    private Words() {}

    public static String pickUp(PickUp p) {
        return p == null ? "files given by hand" : Sources.of(p.from()).words();
    }

    public static String schedule(PickUp p) {
        if (p == null) {
            return "by hand";
        }
        String cron = p.schedule().cron();
        return cron != null ? Cron.words(cron) : every(p.schedule().everySeconds());
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
        return job.legs().isEmpty()
                ? "none yet"
                : job.legs().stream()
                        .flatMap(leg -> Destinations.of(job, leg).words().stream())
                        .collect(Collectors.joining("; "));
    }
}
