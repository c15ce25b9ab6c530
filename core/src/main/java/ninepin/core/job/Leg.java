package ninepin.core.job;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import ninepin.core.deliver.ApplicationDelivery;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.FileDelivery;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.application.ApplicationTarget;
import ninepin.core.deliver.file.FileLoad;
import ninepin.core.run.Limits;
import ninepin.core.run.RefusedByTargets;
import ninepin.core.run.RunAccount;
import ninepin.core.run.RunOutcome;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;

/**
 * The deliveries of a job that go to one place, and so are made together, with one mark and one account: tables of one
 * database, one operation of an application, or files of one folder and name. A job with several places has several legs, each of which reads the file
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

    /** What kind of place a leg goes to. */
    public enum Kind {
        TABLES,
        APPLICATION,
        FILES;

        @Override
        public String toString() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** What kind of place it goes to. */
    public Kind kind() {
        return to() instanceof ApplicationDelivery
                ? Kind.APPLICATION
                : to() instanceof FileDelivery ? Kind.FILES : Kind.TABLES;
    }

    /** How many rejects it may have, where its deliveries say so; the first that does counts. */
    public Optional<Limits> limits() {
        return parts.stream().map(Delivery::limits).filter(l -> l != null).findFirst();
    }

    /** What people call it. */
    public String label() {
        return switch (kind()) {
            case APPLICATION -> to().connection() + " " + ((ApplicationDelivery) to()).path();
            case FILES -> ((FileDelivery) to()).file().name();
            case TABLES -> parts.stream().map(p -> p.to().label()).distinct().collect(Collectors.joining(", "));
        };
    }

    /** What people call its deliveries. */
    public List<RunAccount.Called> called() {
        return IntStream.range(0, parts.size())
                .mapToObj(i -> new RunAccount.Called(
                        deliveries.get(i), parts.get(i).to().label()))
                .toList();
    }

    /**
     * The account of a run whose places ended so.
     *
     * @param outcomes those of the legs, in order; null of one that did not begin
     * @param refused what their targets have refused
     */
    public static RunAccount account(List<Leg> legs, List<RunOutcome> outcomes, RefusedByTargets refused) {
        List<RunAccount.Part> parts = outcomes.stream().map(Leg::part).toList();
        return RunAccount.of(
                legs.stream()
                        .map(l -> RunAccount.place(
                                l.number, l.label(), l.kind().toString(), l.called(), parts.get(l.number)))
                        .toList(),
                parts,
                refused);
    }

    private static RunAccount.Part part(RunOutcome outcome) {
        if (outcome == null || outcome.mark().commits() == 0) {
            return RunAccount.Part.NONE;
        }
        Mark mark = outcome.mark();
        return new RunAccount.Part(mark.tally(), mark.shares(), mark.complete());
    }

    /** Its tables, in order. */
    public List<TableLoad> tables() {
        return parts.stream()
                .map(p -> new TableLoad((TableDelivery) p.to(), p.columns(), parents(p)))
                .toList();
    }

    /** The fields of a delivery's rows that take the key of a row of another table of the leg. */
    private List<TableLoad.ParentKey> parents(Delivery delivery) {
        List<TableLoad.ParentKey> all = new ArrayList<>();
        List<Rule> filling = delivery.shaping().stream().filter(Rule::fills).toList();
        for (int field = 0; field < filling.size(); field++) {
            if (filling.get(field).take() instanceof Origin.OfKey of) {
                for (int load = 0; load < parts.size(); load++) {
                    if (((TableDelivery) parts.get(load).to()).table().equals(of.table())) {
                        all.add(new TableLoad.ParentKey(field, load));
                        break;
                    }
                }
            }
        }
        return all;
    }

    /** What it sends to an application, in order. */
    public List<ApplicationTarget.Load> requests() {
        return parts.stream()
                .map(p -> new ApplicationTarget.Load((ApplicationDelivery) p.to(), p.columns()))
                .toList();
    }

    /** What it writes to files, in order. */
    public List<FileLoad> records() {
        return parts.stream()
                .map(p -> new FileLoad((FileDelivery) p.to(), p.columns()))
                .toList();
    }
}
