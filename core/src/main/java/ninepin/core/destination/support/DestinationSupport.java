package ninepin.core.destination.support;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TakenBack;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.job.Delivery;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.Layout;
import ninepin.core.shape.RunFacts;

/** All that the product has to know of one kind of place that rows go to. One for each leg of a job; cheap to make. */
public interface DestinationSupport {

    /** What is delivered, in words; one phrase for each part. */
    List<String> words();

    /** Opens the place for a run. */
    Target open(TargetContext context) throws TargetException;

    /** Opens it so that nothing is delivered. */
    Target rehearsal(Places places, RunFacts facts) throws TargetException;

    /** What rules of a delivery may fill; empty where it is not there. */
    Optional<TableDescription> describe(Destination to, Places places) throws TargetException;

    /** Whether what rules may fill stands elsewhere, and can be changed there by others. */
    boolean isDescribedElsewhere();

    /**
     * What keeps the deliveries of the leg from being made together.
     *
     * @param shaped the layout of the documents
     * @param described what each delivery of the job may fill
     */
    List<Shortcoming> check(Layout shaped, List<Optional<TableDescription>> described);

    /**
     * What the place itself cannot do of what the job wants of it; asks it nothing.
     *
     * @param facts what is known of a run, for host variables
     */
    default List<Shortcoming> check(RunFacts facts, Places places) {
        return List.of();
    }

    /**
     * What keeps one delivery from being made, apart from its rules.
     *
     * @param number its index in the job
     * @param described what it may fill
     */
    Head check(Delivery delivery, int number, Optional<TableDescription> described);

    /**
     * What was found of a delivery apart from its rules.
     *
     * @param found what stands in the way
     * @param fields what its rules fill; null where there is no use in looking at them
     * @param adds whether rows are new, so that whatever must have a value needs a rule
     * @param why what is said of a field that must have a value and has none
     */
    record Head(List<Shortcoming> found, TableDescription fields, boolean adds, String why) {
        public Head {
            found = List.copyOf(found);
        }
    }

    /** Whether something may have arrived that no mark tells of. */
    default boolean mayHaveSent(Path files) {
        return false;
    }

    /** By which columns a row of a delivery is known there; none where rows cannot be found again. */
    default List<String> keyOf(Delivery delivery, TableDescription described) {
        return List.of();
    }

    /** Why what a run has delivered cannot be taken back; none where it can. */
    List<String> obstacles(PastDelivery of) throws TargetException;

    /** What is counted there: a row, or a file. */
    default String unit() {
        return "row";
    }

    /** The order in which places are taken back: those with transactions first. */
    default int turn() {
        return 1;
    }

    /**
     * Takes back what a run has delivered; what an earlier try has done is not done again.
     *
     * @return empty where it was broken off, and nothing is taken back
     */
    Optional<List<TakenBack>> takeBack(PastDelivery of, PastDelivery.Undoing how)
            throws TargetException, IOException, InterruptedException;
}
