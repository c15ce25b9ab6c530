package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.Predicate;
import java.util.stream.IntStream;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.Tally;
import ninepin.core.run.RunAccount.Called;
import ninepin.core.run.RunAccount.Part;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The account of several places is held against a list of every single record and what each place made of it. */
class RunAccountTest {

    /** What becomes of a record: refused by a check, set aside, for some of the places, or for none. */
    private record Known(boolean badByCheck, boolean aside, boolean[] rowsFor, boolean[] refusedBy) {

        static Known any(Random random, int places) {
            boolean[] rowsFor = new boolean[places];
            boolean[] refusedBy = new boolean[places];
            for (int p = 0; p < places; p++) {
                rowsFor[p] = random.nextInt(3) > 0;
                // A record that makes no rows for a place is refused there with the document that it stands in.
                refusedBy[p] = random.nextInt(8) == 0;
            }
            return new Known(random.nextInt(10) == 0, random.nextInt(10) == 0, rowsFor, refusedBy);
        }

        boolean rowsAnywhere() {
            return IntStream.range(0, rowsFor.length).anyMatch(p -> rowsFor[p]);
        }

        boolean refusedAnywhere() {
            return IntStream.range(0, refusedBy.length).anyMatch(p -> refusedBy[p]);
        }

        Fate fate() {
            return aside ? Fate.SET_ASIDE : rowsAnywhere() ? Fate.ROWS : Fate.WITHOUT_ROWS;
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3, 5})
    void all_places_together_are_what_became_of_every_record(int places) {
        for (int seed = 0; seed < 300; seed++) {
            List<Known> records = records(seed, places);
            RunAccount account = account(records, places, new int[] {records.size()}, true);

            assertThat(account.tally().read()).as("read, seed %s", seed).isEqualTo(records.size());
            assertThat(account.tally().rejected())
                    .as("rejected, seed %s", seed)
                    .isEqualTo(count(records, r -> r.badByCheck || r.refusedAnywhere()));
            assertThat(account.tally().setAside())
                    .as("set aside, seed %s", seed)
                    .isEqualTo(count(records, r -> good(r) && r.aside));
            assertThat(account.tally().withoutRows())
                    .as("without rows, seed %s", seed)
                    .isEqualTo(count(records, r -> good(r) && !r.aside && !r.rowsAnywhere()));
            assertThat(account.tally().delivered())
                    .as("delivered, seed %s", seed)
                    .isEqualTo(count(records, r -> good(r) && !r.aside && r.rowsAnywhere()));
            assertThat(account.open()).as("open, seed %s", seed).isZero();
            assertThat(account.balances()).as("balances, seed %s", seed).isTrue();
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {2, 3})
    void while_places_are_not_as_far_as_others_it_balances_and_counts_nothing_as_delivered_that_is_not(int places) {
        for (int seed = 0; seed < 300; seed++) {
            List<Known> records = records(seed, places);
            Random random = new Random(seed);
            int[] upTo = IntStream.range(0, places)
                    .map(p -> random.nextInt(records.size() + 1))
                    .toArray();
            int least = IntStream.of(upTo).min().orElseThrow();
            RunAccount account = account(records, places, upTo, false);

            assertThat(account.balances()).as("balances, seed %s", seed).isTrue();
            assertThat(account.tally().read())
                    .isEqualTo(IntStream.of(upTo).max().orElseThrow());
            assertThat(account.tally().delivered())
                    .as("delivered, seed %s", seed)
                    .isLessThanOrEqualTo(
                            count(records.subList(0, least), r -> good(r) && !r.aside && r.rowsAnywhere()));
        }
    }

    @Test
    void records_that_are_open_when_all_places_are_complete_do_not_balance() {
        Part all = new Part(new Tally(5, 5, 5, 0, 0, 0, 0, 0, 0), Shares.NONE, true);
        Part lost = new Part(new Tally(5, 4, 4, 0, 0, 0, 1, 0, 0), Shares.NONE, true);

        assertThat(RunAccount.of(List.of(), List.of(all, all), RefusedByTargets.NONE)
                        .balances())
                .isTrue();
        assertThat(RunAccount.of(List.of(), List.of(all, lost), RefusedByTargets.NONE)
                        .balances())
                .isFalse();
    }

    @Test
    void each_delivery_of_each_place_keeps_its_own_account() {
        Part tables = new Part(
                new Tally(3, 3, 4, 1, 0, 0, 0, 0, 0),
                new Shares(
                        Map.of(),
                        Map.of(),
                        Map.of(
                                0, new Shares.DeliveryShare(3, new RowCounts(2, 1, 0, 0), 0),
                                2, new Shares.DeliveryShare(2, RowCounts.added(2), 1))),
                true);

        assertThat(RunAccount.place(
                                0,
                                "farm, tank",
                                "tables",
                                List.of(new Called(0, "farm"), new Called(2, "tank"), new Called(3, "herd")),
                                tables)
                        .deliveries())
                .containsExactly(
                        new RunAccount.DeliveryAccount(0, "farm", 3, new RowCounts(2, 1, 0, 0), 0),
                        new RunAccount.DeliveryAccount(2, "tank", 2, RowCounts.added(2), 1),
                        new RunAccount.DeliveryAccount(3, "herd", 0, RowCounts.NONE, 0));
    }

    private static boolean good(Known record) {
        return !record.badByCheck && !record.refusedAnywhere();
    }

    private static long count(List<Known> records, Predicate<Known> of) {
        return records.stream().filter(of).count();
    }

    private static List<Known> records(int seed, int places) {
        Random random = new Random(seed);
        return IntStream.range(0, 1 + random.nextInt(60))
                .mapToObj(i -> Known.any(random, places))
                .toList();
    }

    /** The account of places that have come so far, the last of the numbers standing for all further ones. */
    private static RunAccount account(List<Known> records, int places, int[] upTo, boolean complete) {
        RefusedByTargets.Gathering refused = new RefusedByTargets.Gathering(places);
        List<Part> parts = new ArrayList<>();
        for (int p = 0; p < places; p++) {
            Tally tally = Tally.ZERO;
            for (int n = 0; n < upTo[Math.min(p, upTo.length - 1)]; n++) {
                Known record = records.get(n);
                tally = tally.plus(tally(record, p));
                if (!record.badByCheck && record.refusedBy[p]) {
                    refused.add(p, refusal(n + 1, record.fate()));
                }
            }
            parts.add(new Part(tally, Shares.NONE, complete));
        }
        return RunAccount.of(List.of(), parts, refused.all());
    }

    private static Tally tally(Known record, int place) {
        boolean rejected = record.badByCheck || record.refusedBy[place];
        boolean aside = !rejected && record.aside;
        boolean delivered = !rejected && !aside && record.rowsFor[place];
        boolean elsewhere = !rejected && !aside && !delivered && record.rowsAnywhere();
        boolean without = !rejected && !aside && !delivered && !elsewhere;
        return new Tally(
                1,
                one(delivered),
                one(delivered),
                0,
                0,
                one(rejected),
                one(aside),
                0,
                0,
                one(without),
                0,
                one(elsewhere));
    }

    private static long one(boolean is) {
        return is ? 1 : 0;
    }

    private static JournalEntry refusal(long record, Fate fate) {
        return new JournalEntry(true, record, record, 0, 1, new byte[0], List.of(), record, true, fate);
    }
}
