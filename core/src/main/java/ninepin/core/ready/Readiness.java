package ninepin.core.ready;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ninepin.core.deliver.TableDescription;
import ninepin.core.destination.Destinations;
import ninepin.core.document.Lanes;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.shape.Origin;
import ninepin.core.shape.ShapingContext;
import ninepin.core.usable.Usable;

/** Checks a job whole, against its layout and the real target tables, before it may run. */
public final class Readiness {

    private final Job job;
    private final Layout layout;
    private ShapingContext context;
    private Layout shaped;
    private final List<Shortcoming> found = new ArrayList<>();

    private Readiness(Job job, Layout layout, ShapingContext context) {
        this.job = job;
        this.layout = layout;
        this.context = context;
    }

    /**
     * Everything that keeps the job from running, and what its author should know.
     *
     * @param context what rules can take, with the code lists that the job names as far as they are there
     * @param tables for each delivery the target table as the real database describes it; empty when it is not there
     */
    public static List<Shortcoming> check(
            Job job, Layout layout, ShapingContext context, List<Optional<TableDescription>> tables) {
        Readiness readiness = new Readiness(job, layout, context);
        readiness.checkPickUp();
        readiness.checkChecks();
        readiness.checkDocuments();
        readiness.checkDeliveries(tables);
        return readiness.found;
    }

    /** Whether a job with these shortcomings may run. */
    public static boolean mayRun(List<Shortcoming> shortcomings) {
        return shortcomings.stream().noneMatch(Shortcoming::blocks);
    }

    private void checkPickUp() {
        List<String> missing = job.missingAskedValues(Map.of());
        if (job.pickUp() != null && !missing.isEmpty()) {
            blocks(
                    1,
                    missing.get(0),
                    "JOB-01",
                    "The schedule cannot answer what is asked at start: give " + String.join(", ", missing)
                            + " a value.");
        }
    }

    private void checkChecks() {
        try {
            job.withChecks(layout);
        } catch (DefinitionException e) {
            blocks(3, e.part(), "JOB-02", e.getMessage());
        }
    }

    private void checkDocuments() {
        Usable.FollowedDocuments followed = Usable.documents(
                job.ofDocuments(),
                layout,
                context,
                u -> blocks(u.section(), u.subject(), "JOB-27", u.subject() + ": " + u.why()));
        shaped = followed.documents().shaped(layout);
        context = followed.context();
        for (Lanes.Lane lane : job.ofDocuments().ways().lanes()) {
            if (job.deliveries().stream()
                    .noneMatch(d -> d.lane() == null || d.lane().equals(lane.name()))) {
                found.add(new Shortcoming(
                        false,
                        4,
                        -1,
                        lane.name(),
                        "JOB-28",
                        "The lane " + lane.name() + " has no delivery: its documents are set aside."));
            }
        }
    }

    private void checkDeliveries(List<Optional<TableDescription>> tables) {
        if (job.deliveries().isEmpty()) {
            blocks(5, null, "JOB-06", "There is no delivery yet: choose a connection and a table.");
        }
        if (job.connection() == null && job.rules().stream().anyMatch(r -> r.take() instanceof Origin.Drawn)) {
            blocks(
                    4,
                    null,
                    "JOB-35",
                    "A rule draws numbers from a sequence, which stands in a database; no delivery goes to one.");
        }
        for (Leg leg : job.legs()) {
            checkLeg(leg, tables);
        }
        for (int d = 0; d < job.deliveries().size(); d++) {
            Delivery delivery = job.deliveries().get(d);
            int type = delivery.type(shaped);
            if (delivery.lane() != null && job.ofDocuments().ways().indexOf(delivery.lane()) < 0) {
                found.add(new Shortcoming(
                        true,
                        5,
                        d,
                        delivery.lane(),
                        "JOB-29",
                        "The delivery takes the lane " + delivery.lane() + ", which is not there."));
            }
            if (type < 0) {
                found.add(new Shortcoming(
                        true,
                        5,
                        d,
                        delivery.of(),
                        "JOB-25",
                        "The delivery takes records of type " + delivery.of() + ", which the layout " + layout.name()
                                + " does not have."));
                continue;
            }
            List<Shortcoming> own = new ArrayList<>();
            String problem = delivery.summary() == null ? null : Usable.summaryProblem(delivery, shaped, type, context);
            if (problem != null) {
                own.add(new Shortcoming(true, 4, d, delivery.of(), "JOB-31", "The summary: " + problem));
            } else if (delivery.summary() != null) {
                Layout groups = delivery.summary().layout(shaped, type, context);
                own.addAll(
                        new DeliveryReadiness(job, groups, context.with(LookUpTables.NONE), d, 0).check(tables.get(d)));
            } else {
                own.addAll(new DeliveryReadiness(job, shaped, context, d, type).check(tables.get(d)));
            }
            own.forEach(s -> found.add(job.deliveries().size() > 1 ? s.of(delivery) : s));
        }
    }

    private void checkLeg(Leg leg, List<Optional<TableDescription>> described) {
        found.addAll(Destinations.of(job, leg).check(shaped, described));
        if (leg.to().takesEachDocument() && job.commit() != Job.Commit.PARTS) {
            found.add(new Shortcoming(
                    false,
                    5,
                    -1,
                    leg.label(),
                    "JOB-37",
                    leg.label() + " takes each document as it is sent; that the file becomes visible whole holds for"
                            + " tables alone."));
        }
    }

    private void blocks(int section, String subject, String code, String message) {
        found.add(new Shortcoming(true, section, -1, subject, code, message));
    }
}
