package ninepin.core.destination.application;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.ApplicationDelivery;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TakenBack;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.application.ApplicationRehearsal;
import ninepin.core.deliver.application.ApplicationTarget;
import ninepin.core.deliver.application.OpenApi;
import ninepin.core.deliver.application.RetryPolicy;
import ninepin.core.destination.support.DestinationSupport;
import ninepin.core.destination.support.PastDelivery;
import ninepin.core.destination.support.TargetContext;
import ninepin.core.job.Delivery;
import ninepin.core.job.Leg;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.Layout;
import ninepin.core.shape.RunFacts;

/** One operation of an application: each document is a request. */
public record ApplicationSupport(Leg leg) implements DestinationSupport {

    private ApplicationDelivery to() {
        return (ApplicationDelivery) leg.to();
    }

    private List<ApplicationTarget.Load> loads() {
        return leg.parts().stream()
                .map(p -> new ApplicationTarget.Load((ApplicationDelivery) p.to(), p.columns()))
                .toList();
    }

    @Override
    public List<String> words() {
        return List.of("each document to " + to().connection() + ", " + to().method() + " " + to().path());
    }

    @Override
    public Target open(TargetContext at) {
        return new ApplicationTarget(
                at.places().application(to().connection()),
                loads(),
                at.key(),
                at.files(),
                RetryPolicy.USUAL,
                at.stop()::requested);
    }

    @Override
    public Target rehearsal(Places places, RunFacts facts) {
        return new ApplicationRehearsal(places.application(to().connection()), loads());
    }

    @Override
    public Optional<TableDescription> describe(Destination of, Places places) {
        ApplicationDelivery a = (ApplicationDelivery) of;
        return OpenApi.read(places.application(a.connection()).description())
                .operation(a.method(), a.path())
                .flatMap(o -> o.table(a.part()));
    }

    @Override
    public boolean isDescribedElsewhere() {
        return true;
    }

    /** A request has one body; several rows can stand in it only where they stand in lists. */
    @Override
    public List<Shortcoming> check(Layout shaped, List<Optional<TableDescription>> described) {
        List<Shortcoming> found = new ArrayList<>();
        List<String> parts = new ArrayList<>();
        for (Delivery delivery : leg.parts()) {
            ApplicationDelivery of = (ApplicationDelivery) delivery.to();
            String part = of.part() == null ? "" : of.part();
            if (parts.contains(part) && delivery.lane() == null) {
                found.add(Shortcoming.ofPlace(
                        of.path(),
                        "JOB-36",
                        "Two deliveries fill " + (part.isEmpty() ? "the body" : "the list " + part) + " of "
                                + of.label() + "; one request has it once."));
            }
            parts.add(part);
        }
        if (!parts.contains("")) {
            found.add(Shortcoming.ofPlace(
                    leg.place(), "JOB-36", "No delivery fills the body of " + leg.label() + " itself."));
        }
        return found;
    }

    @Override
    public Head check(Delivery delivery, int number, Optional<TableDescription> described) {
        ApplicationDelivery of = (ApplicationDelivery) delivery.to();
        List<Shortcoming> found = new ArrayList<>();
        if (described.isEmpty()) {
            found.add(new Shortcoming(
                    true, 5, number, of.path(), "JOB-07", of.connection() + " describes no " + of.label() + "."));
            return new Head(found, null, true, "");
        }
        if (delivery.summary() != null) {
            found.add(new Shortcoming(
                    true, 5, number, of.path(), "JOB-34", "Groups are delivered to tables, not to an application."));
        }
        return new Head(found, described.get(), true, "");
    }

    @Override
    public boolean mayHaveSent(Path files) {
        return ApplicationTarget.mayHaveSent(files);
    }

    @Override
    public List<String> obstacles(PastDelivery of) {
        return List.of("What was sent to " + to().connection()
                + " is not taken back from here; sent again by a restart, it is taken once.");
    }

    @Override
    public Optional<List<TakenBack>> takeBack(PastDelivery of, PastDelivery.Undoing how) {
        return Optional.of(List.of());
    }
}
