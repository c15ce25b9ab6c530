package ninepin.core.pickup;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** New rows of a query, some of which are committed after others with higher keys. */
class NewRowsTest {

    private static final int LAG = 10;
    private static final int ROWS = 2_000;

    /** Keys are given one by one; each row is committed up to the lag later, so that others come before it. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void every_row_is_taken_once_however_late_within_the_lag_it_was_committed(long seed) {
        Random random = new Random(seed);
        Map<Integer, Integer> committedAt = new TreeMap<>();
        int time = 0;
        for (int key = 1; key <= ROWS; key++) {
            time += random.nextInt(3);
            // A row is in the way of nobody for longer than the lag after a higher key was to be seen.
            committedAt.put(key, time + random.nextInt(LAG));
        }
        List<Integer> taken = new ArrayList<>();
        NewRows known = NewRows.NONE;
        for (int now = 0; now < time + 10 * LAG; now += 1 + random.nextInt(4)) {
            int at = now;
            String upTo = known.upTo(Instant.ofEpochSecond(now), LAG);
            if (upTo == null) {
                String highest = committedAt.entrySet().stream()
                        .filter(e -> e.getValue() <= at)
                        .map(e -> String.valueOf(e.getKey()))
                        .reduce((a, b) -> b)
                        .orElse(null);
                known = known.seeing(highest, Instant.ofEpochSecond(now));
                continue;
            }
            int after = known.taken() == null ? 0 : Integer.parseInt(known.taken());
            List<Integer> part = committedAt.entrySet().stream()
                    .filter(e -> e.getValue() <= at && e.getKey() > after && e.getKey() <= Integer.parseInt(upTo))
                    .map(Map.Entry::getKey)
                    .toList();
            taken.addAll(part);
            known = known.taking(String.valueOf(part.get(part.size() - 1)));
        }
        assertThat(taken).hasSize(ROWS).doesNotHaveDuplicates();
    }

    @Test
    void without_new_rows_nothing_is_waited_for() {
        NewRows known = new NewRows("7", null, null);
        assertThat(known.seeing("7", Instant.EPOCH)).isSameAs(known);
        assertThat(known.seeing(null, Instant.EPOCH)).isSameAs(known);
        assertThat(known.seeing("9", Instant.EPOCH).upTo(Instant.ofEpochSecond(LAG - 1), LAG))
                .isNull();
        assertThat(known.seeing("9", Instant.EPOCH).upTo(Instant.ofEpochSecond(LAG), LAG))
                .isEqualTo("9");
    }
}
