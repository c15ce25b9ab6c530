package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import ninepin.core.deliver.Mark;
import ninepin.core.run.Legs.WhenOneFails;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What the legs of a run do when the second of three fails. */
class LegsTest {

    @ParameterizedTest
    @CsvSource({
        "false, STOP,  FINISHED FAILED -",
        "false, GO_ON, FINISHED FAILED FINISHED",
        "true,  STOP,  STOPPED FAILED STOPPED",
        "true,  GO_ON, FINISHED FAILED FINISHED"
    })
    void the_others_stop_or_go_on(boolean sideBySide, WhenOneFails whenOneFails, String expected) throws Exception {
        Legs legs = new Legs(3, new ExecutionMode(sideBySide, whenOneFails));
        List<Integer> begun = Collections.synchronizedList(new ArrayList<>());

        List<RunOutcome> outcomes = legs.execute(number -> {
            begun.add(number);
            if (number == 1) {
                return outcome(RunOutcome.State.FAILED);
            }
            // Side by side the others are under way until they are asked to stop, or for a moment.
            for (int i = 0; sideBySide && i < 200 && !legs.stop(number).requested(); i++) {
                sleep();
                if (whenOneFails == WhenOneFails.GO_ON && i == 5) {
                    break;
                }
            }
            return outcome(legs.stop(number).requested() ? RunOutcome.State.STOPPED : RunOutcome.State.FINISHED);
        });

        assertThat(outcomes.stream().map(o -> o == null ? "-" : o.state().name()))
                .containsExactly(expected.strip().split(" "));
        assertThat(begun).hasSize(expected.contains("-") ? 2 : 3).contains(0, 1);
    }

    private static void sleep() {
        try {
            Thread.sleep(10);
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    private static RunOutcome outcome(RunOutcome.State state) {
        Mark none = Mark.none("");
        return new RunOutcome(state, none, none, null, null, null, false);
    }
}
