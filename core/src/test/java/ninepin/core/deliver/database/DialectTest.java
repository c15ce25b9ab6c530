package ninepin.core.deliver.database;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowable;

import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.time.Duration;
import java.time.Instant;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.DatabaseKind;
import ninepin.core.deliver.TargetException;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class DialectTest {

    /** The port of another service that waits to be spoken to, or of a server that hangs. */
    @ParameterizedTest
    @EnumSource(mode = EnumSource.Mode.EXCLUDE, names = "OTHER")
    void what_takes_a_connection_and_says_nothing_is_given_up(DatabaseKind kind) throws Exception {
        Queue<Socket> taken = new ConcurrentLinkedQueue<>();
        try (ServerSocket silent = new ServerSocket(0, 5, InetAddress.getLoopbackAddress())) {
            Thread taking = new Thread(() -> {
                try {
                    while (true) {
                        taken.add(silent.accept());
                    }
                } catch (java.io.IOException e) {
                    // The test is over.
                }
            });
            taking.start();
            DatabaseAddress address =
                    new DatabaseAddress(kind, "127.0.0.1", silent.getLocalPort(), "warehouse", "clerk", "secret");
            Instant begun = Instant.now();
            Throwable told = catchThrowable(() -> Dialect.of(address).connect(address, Dialect.Use.QUESTIONS));
            assertThat(told).isInstanceOf(TargetException.class).hasMessageContaining("connect to");
            assertThat(((TargetException) told).code()).isEqualTo("DBS-01");
            assertThat(told.getMessage()).doesNotContain("secret");
            assertThat(Duration.between(begun, Instant.now())).isLessThan(Duration.ofSeconds(40));
            assertThat(taken).isNotEmpty();
        } finally {
            for (Socket socket : taken) {
                socket.close();
            }
        }
    }
}
