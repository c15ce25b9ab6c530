package ninepin.core.testing;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.function.Supplier;

/** Passes on what clients and a server on loopback send each other, as far as a judge lets it through. */
final class Passage implements AutoCloseable {

    /** What becomes of a piece. */
    enum Verdict {
        PASS,
        /** It is swallowed, and the connection stays. */
        SWALLOW,
        /** It is swallowed, and the connection is dropped. */
        DROP
    }

    /** Judges the pieces of one connection. */
    interface Judge {

        /** @param bytes of which the first {@code length} count */
        Verdict of(boolean fromClient, byte[] bytes, int length);
    }

    private final ServerSocket server;
    private final int behind;
    private final String name;
    private final Supplier<Judge> judges;

    /**
     * @param behind the port of the server
     * @param judges gives each connection its judge
     */
    Passage(int behind, String name, Supplier<Judge> judges) throws IOException {
        this.server = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
        this.behind = behind;
        this.name = name;
        this.judges = judges;
        daemon(this::accept);
    }

    int port() {
        return server.getLocalPort();
    }

    private void daemon(Runnable work) {
        Thread thread = new Thread(work, name);
        thread.setDaemon(true);
        thread.start();
    }

    private void accept() {
        try {
            while (true) {
                Socket client = server.accept();
                Socket behindIt = new Socket(InetAddress.getLoopbackAddress(), behind);
                client.setTcpNoDelay(true);
                behindIt.setTcpNoDelay(true);
                Judge judge = judges.get();
                daemon(() -> pass(client, behindIt, true, judge));
                daemon(() -> pass(behindIt, client, false, judge));
            }
        } catch (IOException e) {
            // The passage was closed.
        }
    }

    private static void pass(Socket from, Socket to, boolean fromClient, Judge judge) {
        byte[] buffer = new byte[1 << 16];
        try (from;
                to) {
            InputStream in = from.getInputStream();
            OutputStream out = to.getOutputStream();
            int n;
            while ((n = in.read(buffer)) >= 0) {
                Verdict verdict = judge.of(fromClient, buffer, n);
                if (verdict == Verdict.DROP) {
                    return;
                }
                if (verdict == Verdict.PASS) {
                    out.write(buffer, 0, n);
                    out.flush();
                }
            }
        } catch (IOException e) {
            // The other side is gone.
        }
    }

    @Override
    public void close() {
        try {
            server.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
