package ninepin.core.destination.support;

import java.nio.file.Path;
import java.util.function.BooleanSupplier;
import java.util.function.Function;
import java.util.function.IntConsumer;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.RowCounts;
import ninepin.core.run.RunPlan;

/**
 * What a run has delivered to one place, and can be taken back.
 *
 * @param places where names lead
 * @param key what the run is known by in its target
 * @param files where it keeps what a target without transactions needs kept
 * @param rows what became of its rows, by the label of a delivery
 */
public record PastDelivery(Places places, String key, Path files, Function<String, RowCounts> rows) {

    /**
     * How it is taken back.
     *
     * @param ownKey what the run that takes back is known by
     * @param plan makes the rows once more
     * @param file the file that they are made of
     * @param breaksOff whether to break off
     * @param percent told now and then how far it is
     */
    public record Undoing(String ownKey, RunPlan plan, Path file, BooleanSupplier breaksOff, IntConsumer percent) {}
}
