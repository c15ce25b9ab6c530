package ninepin.server.jobs;

import java.util.stream.Collectors;
import java.util.stream.Stream;
import ninepin.core.deliver.ApplicationDelivery;
import ninepin.core.deliver.FileDelivery;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.pickup.From;
import ninepin.core.pickup.PickUp;
import ninepin.server.schedule.Cron;

/** Parts of a job in words, as tables and closed sections show them. */
public final class Words {

    private Words() {}

    public static String pickUp(PickUp p) {
        if (p != null && p.query() != null) {
            return "rows of a query in " + p.query().connection() + (p.query().onlyNew() ? ", the new ones" : "");
        }
        if (p == null) {
            return "files given by hand";
        }
        From.Folder from = p.folder();
        return from.pattern() + " in " + from.root() + (from.folder().isEmpty() ? "" : "/" + from.folder());
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
                : job.legs().stream().flatMap(Words::leg).collect(Collectors.joining("; "));
    }

    private static Stream<String> leg(Leg leg) {
        return switch (leg.kind()) {
            case TABLES -> leg.tables().stream().map(t -> delivery(t.delivery()));
            case APPLICATION -> {
                ApplicationDelivery to = (ApplicationDelivery) leg.to();
                yield Stream.of("each document to " + to.connection() + ", " + to.method() + " " + to.path());
            }
            case FILES -> {
                FileDelivery.OutFile file = ((FileDelivery) leg.to()).file();
                yield Stream.of("files " + file.name() + " in " + file.root() + "/" + file.folder());
            }
        };
    }

    private static String delivery(TableDelivery d) {
        return d.table() + " in " + d.connection() + ", " + d.mode().words()
                + (d.key().isEmpty() ? "" : " by " + String.join(", ", d.key()));
    }
}
