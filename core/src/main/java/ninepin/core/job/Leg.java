package ninepin.core.job;

import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.Mark;
import ninepin.core.run.Limits;
import ninepin.core.run.RefusedByTargets;
import ninepin.core.run.RunAccount;
import ninepin.core.run.RunOutcome;

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

    /** How many rejects it may have, where its deliveries say so; the first that does counts. */
    public Optional<Limits> limits() {
        return parts.stream().map(Delivery::limits).filter(l -> l != null).findFirst();
    }

    /** What people call it. */
    public String label() {
        return to().placeLabel() != null
                ? to().placeLabel()
                : parts.stream().map(p -> p.to().label()).distinct().collect(Collectors.joining(", "));
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
                        .map(l -> RunAccount.place(l.number, l.label(), l.to().sort(), l.called(), parts.get(l.number)))
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
}
