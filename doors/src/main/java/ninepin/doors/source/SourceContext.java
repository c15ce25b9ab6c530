package ninepin.doors.source;

import java.time.Clock;
import ninepin.core.deliver.Places;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.pickup.NewRows;
import ninepin.core.shape.RunFacts;

/**
 * What a source may know of who opens it.
 *
 * @param job the job that takes
 * @param layout the layout of what it takes
 * @param facts what is known of the run to be; its file name is that of what has none of its own
 * @param places where the names of connections and root folders lead
 * @param progress how far the source has been taken, for those that keep count
 */
public record SourceContext(Job job, Layout layout, RunFacts facts, Places places, Progress progress, Clock clock) {

    /** How far a source has been taken. What {@link Fetched#reached} says is kept with the run that is made of it. */
    public interface Progress {
        NewRows known();

        /** Keeps what was seen and not taken. */
        void see(NewRows now);
    }

    /** Keeps no count: each look is the first. */
    public static final Progress FIRST_LOOK = new Progress() {
        @Override
        public NewRows known() {
            return NewRows.NONE;
        }

        @Override
        public void see(NewRows now) {
            // Nothing is kept.
        }
    };
}
