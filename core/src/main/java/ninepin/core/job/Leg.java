package ninepin.core.job;

import java.util.List;
import java.util.stream.Collectors;
import ninepin.core.deliver.ApplicationDelivery;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.application.ApplicationTarget;

/**
 * The deliveries of a job that go to one place, and so are made together, with one mark and one account: tables of one
 * database, or one operation of an application. A job with several places has several legs, each of which reads the file
 * for itself.
 *
 * @param number its number among the legs of the job, from 0
 * @param place what tells the place from others
 * @param deliveries the indexes of its deliveries in the job
 * @param parts the deliveries themselves
 */
public record Leg(int number, String place, List<Integer> deliveries, List<Delivery> parts) {

    public Leg {
        deliveries = List.copyOf(deliveries);
        parts = List.copyOf(parts);
    }

    /** Where it goes, of the first of its deliveries. */
    public Destination to() {
        return parts.get(0).to();
    }

    /** Whether it goes to an application. */
    public boolean toApplication() {
        return to() instanceof ApplicationDelivery;
    }

    /** What people call it. */
    public String label() {
        return to() instanceof ApplicationDelivery a
                ? a.connection() + " " + a.path()
                : parts.stream().map(p -> p.to().label()).distinct().collect(Collectors.joining(", "));
    }

    /** Its tables, in order. */
    public List<TableLoad> tables() {
        return parts.stream()
                .map(p -> new TableLoad((TableDelivery) p.to(), p.columns()))
                .toList();
    }

    /** What it sends to an application, in order. */
    public List<ApplicationTarget.Load> requests() {
        return parts.stream()
                .map(p -> new ApplicationTarget.Load((ApplicationDelivery) p.to(), p.columns()))
                .toList();
    }
}
