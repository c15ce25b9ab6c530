package ninepin.core.destination;

import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.ApplicationDelivery;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.FileDelivery;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TargetException;
import ninepin.core.destination.application.ApplicationSupport;
import ninepin.core.destination.files.FilesSupport;
import ninepin.core.destination.support.DestinationSupport;
import ninepin.core.destination.support.WritesFiles;
import ninepin.core.destination.tables.TablesSupport;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.job.Shortcoming;
import ninepin.core.shape.RunFacts;

/** The kinds of places that rows go to. */
public final class Destinations {

    private Destinations() {}

    /** All that is known of the place of a leg. */
    public static DestinationSupport of(Job job, Leg leg) {
        Destination to = leg.to();
        if (to instanceof ApplicationDelivery) {
            return new ApplicationSupport(leg);
        }
        if (to instanceof FileDelivery) {
            return new FilesSupport(job, leg);
        }
        return new TablesSupport(job, leg);
    }

    /** The same of one delivery, which is decided. */
    public static DestinationSupport of(Job job, Delivery delivery) {
        return of(job, new Leg(0, delivery.to().place(), List.of(0), List.of(delivery)));
    }

    /** The same where it writes files. */
    public static Optional<WritesFiles> files(Job job, Leg leg) {
        return of(job, leg) instanceof WritesFiles files ? Optional.of(files) : Optional.empty();
    }

    /** What the places of a job cannot do of what it wants of them. */
    public static List<Shortcoming> check(Job job, RunFacts facts, Places places) {
        return job.legs().stream()
                .flatMap(leg -> of(job, leg).check(facts, places).stream())
                .toList();
    }

    /** What rules may fill; empty where it is not there. */
    public static Optional<TableDescription> describe(Destination to, Places places) throws TargetException {
        return of(null, new Delivery(null, to, List.of())).describe(to, places);
    }
}
