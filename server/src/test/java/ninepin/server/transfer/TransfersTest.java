package ninepin.server.transfer;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import ninepin.server.config.NinepinSettings;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.springframework.util.unit.DataSize;

/** Files are transferred so many at once through one connection, and for one job one after the other. */
@Timeout(30)
class TransfersTest {

    private static final int AT_ONCE = 2;

    private final Transfers transfers = new Transfers(new NinepinSettings(
            "test",
            Path.of("data"),
            Path.of("drivers"),
            Map.of(),
            Set.of(),
            Map.of(),
            1,
            AT_ONCE,
            1,
            DataSize.ofMegabytes(1),
            "",
            true,
            false));
    private final CountDownLatch go = new CountDownLatch(1);

    @AfterEach
    void end() throws InterruptedException {
        go.countDown();
        transfers.close(null);
    }

    private void await(CountDownLatch latch) {
        try {
            assertThat(latch.await(20, TimeUnit.SECONDS)).isTrue();
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    @Test
    void through_one_connection_go_so_many_at_once_and_another_does_not_wait_for_them() {
        AtomicInteger begun = new AtomicInteger();
        for (int n = 0; n < 5; n++) {
            transfers.soon("job " + n, "slow", "look", () -> {
                begun.incrementAndGet();
                await(go);
            });
        }
        assertThat(transfers.now("other", "quick", () -> 7)).isEqualTo(7);
        assertThat(begun.get()).isLessThanOrEqualTo(AT_ONCE);
        go.countDown();
        transfers.now("job 4", "slow", begun::get);
        // The one before it has been given a thread, and may not have begun.
        transfers.now("job 3", "slow", begun::get);
        assertThat(begun.get()).isEqualTo(5);
    }

    @Test
    void for_one_job_all_is_done_in_its_order() {
        List<Integer> done = new CopyOnWriteArrayList<>();
        for (int n = 0; n < 100; n++) {
            int number = n;
            transfers.soon("job", "through " + n % 3, "kind " + n, () -> done.add(number));
        }
        transfers.now("job", "through", () -> done.add(100));
        assertThat(done).hasSize(101).isSorted();
    }

    @Test
    void what_waits_already_is_not_asked_for_twice() {
        AtomicInteger looks = new AtomicInteger();
        transfers.soon("job", "through", "hold", () -> await(go));
        for (int n = 0; n < 50; n++) {
            transfers.soon("job", "through", "look", looks::incrementAndGet);
        }
        go.countDown();
        transfers.now("job", "through", () -> 0);
        assertThat(looks).hasValue(1);
        transfers.soon("job", "through", "look", looks::incrementAndGet);
        transfers.now("job", "through", () -> 0);
        assertThat(looks).hasValue(2);
    }

    @Test
    void what_fails_is_told_to_who_waits_and_keeps_nobody_from_their_turn() {
        transfers.soon("job", "through", "look", () -> {
            throw new IllegalStateException("broken");
        });
        assertThatThrownBy(() -> transfers.now("job", "through", () -> {
                    throw new IllegalArgumentException("no such folder");
                }))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessage("no such folder");
        assertThat(transfers.now("job", "through", () -> 1)).isEqualTo(1);
    }
}
