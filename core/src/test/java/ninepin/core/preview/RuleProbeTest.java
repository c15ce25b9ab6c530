package ninepin.core.preview;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import ninepin.core.bytes.MemorySource;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.Quality;
import org.junit.jupiter.api.Test;

class RuleProbeTest {

    @Test
    void a_condition_of_which_nothing_is_typed_yet_is_told_and_breaks_nothing() throws IOException {
        MemorySource sample = new MemorySource((Quality.HEADER + Quality.line(1)).getBytes(Quality.CHARSET));
        ShapingContext context =
                ShapingContext.of(new RunFacts(0, "quality.csv", LocalDate.of(2026, 11, 23), Map.of()));

        RuleProbe probe = RuleProbe.ofDelivery(
                sample,
                Quality.layout(),
                Quality.job(Mode.ADD, null),
                context,
                0,
                1,
                List.of(new RuleProbe.Asked(null, null, null), new RuleProbe.Asked(null, "1 = 1", null)));

        assertThat(probe.conditions().get(0).said().problem()).isNotBlank();
        assertThat(probe.conditions().get(1).said().problem()).isNull();
    }
}
