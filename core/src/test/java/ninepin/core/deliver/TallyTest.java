package ninepin.core.deliver;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The figures of an account, and what they are made of. */
class TallyTest {

    @ParameterizedTest(
            name = "read {0}: {1} delivered in {2} rows, {3} rejected, {4} set aside, {5} without rows, {6} elsewhere")
    @CsvSource({
        // read, delivered, rows, rejected, set aside, without rows, elsewhere | balances
        "0, 0, 0, 0, 0, 0, 0, true",
        "5, 5, 5, 0, 0, 0, 0, true",
        "5, 5, 9, 0, 0, 0, 0, true",
        "5, 5, 4, 0, 0, 0, 0, false",
        "5, 4, 4, 1, 0, 0, 0, true",
        "5, 4, 4, 0, 1, 0, 0, true",
        "5, 4, 4, 0, 0, 1, 0, true",
        "5, 4, 4, 0, 0, 0, 1, true",
        "5, 1, 1, 1, 1, 1, 1, true",
        "5, 4, 4, 0, 0, 0, 0, false",
        "5, 4, 4, 1, 1, 0, 0, false",
        "4, 5, 5, 0, 0, 0, 0, false",
    })
    void a_tally_balances_where_every_record_read_is_accounted_for_once(
            long read, long delivered, long rows, long rejected, long aside, long without, long elsewhere, boolean is) {
        Tally tally = new Tally(read, delivered, rows, 0, 0, rejected, aside, 3, 2, without, 0, elsewhere);
        assertThat(tally.balances()).isEqualTo(is);
        Tally changed = new Tally(read, delivered, 0, rows, 0, rejected, aside, 0, 0, without, 0, elsewhere);
        assertThat(changed.balances()).as("whatever became of the rows").isEqualTo(is);
        Tally removed = new Tally(read, delivered, 0, 0, 0, rejected, aside, 0, 0, without, rows, elsewhere);
        assertThat(removed.balances()).isEqualTo(is);
    }

    @Test
    void tallies_add_up_figure_by_figure() {
        Tally one = new Tally(1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12);
        Tally sum = one.plus(one).plus(Tally.ZERO);
        assertThat(sum).isEqualTo(new Tally(2, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24));
        assertThat(sum.allRows()).isEqualTo(new RowCounts(6, 8, 10, 22));
        assertThat(sum.rows()).isEqualTo(46);
        assertThat(Tally.rows(new RowCounts(1, 2, 3, 4))).isEqualTo(new Tally(0, 0, 1, 2, 3, 0, 0, 0, 0, 0, 4));
    }

    @Test
    void what_gave_way_counts_as_removed_and_not_as_taken() {
        Loaded loaded = new Loaded(List.of(RowCounts.added(5), new RowCounts(0, 2, 1, 0)), List.of(9L, 0L), List.of());
        assertThat(loaded.rows()).as("of the file").isEqualTo(8);
        assertThat(loaded.of(0)).isEqualTo(new RowCounts(5, 0, 0, 9));
        assertThat(loaded.of(1)).isEqualTo(new RowCounts(0, 2, 1, 0));
        assertThat(loaded.of(7)).as("of which nothing is said").isEqualTo(RowCounts.NONE);
        assertThat(loaded.all()).isEqualTo(new RowCounts(5, 2, 1, 9));
        assertThat(Loaded.NONE.all()).isEqualTo(RowCounts.NONE);
    }

    @Test
    void shares_add_up_by_lane_by_reason_and_by_delivery() {
        Shares one = new Shares(
                Map.of("late", new Shares.Lane(1, 3)),
                Map.of("not wanted", 2L),
                Map.of(0, new Shares.DeliveryShare(3, RowCounts.added(3), 1)));
        Shares other = new Shares(
                Map.of("late", new Shares.Lane(2, 2), "early", new Shares.Lane(1, 1)),
                Map.of("twice", 1L),
                Map.of(
                        0,
                        new Shares.DeliveryShare(1, RowCounts.removed(1), 0),
                        2,
                        new Shares.DeliveryShare(4, RowCounts.NONE, 0)));
        Shares sum = one.plus(other);
        assertThat(sum.lanes())
                .containsEntry("late", new Shares.Lane(3, 5))
                .containsEntry("early", new Shares.Lane(1, 1));
        assertThat(sum.setAside()).containsExactly(Map.entry("not wanted", 2L), Map.entry("twice", 1L));
        assertThat(sum.deliveries())
                .containsEntry(0, new Shares.DeliveryShare(4, new RowCounts(3, 0, 0, 1), 1))
                .containsEntry(2, new Shares.DeliveryShare(4, RowCounts.NONE, 0));
        assertThat(one.plus(Shares.NONE)).isEqualTo(one);
        assertThat(Shares.NONE.none()).isTrue();
        // Of several places the lanes and reasons are those of one, and each has deliveries of its own.
        assertThat(one.withDeliveriesOf(other).lanes()).isEqualTo(one.lanes());
        assertThat(one.withDeliveriesOf(other).deliveries()).isEqualTo(sum.deliveries());
    }
}
