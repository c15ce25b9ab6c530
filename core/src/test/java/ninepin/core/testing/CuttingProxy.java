package ninepin.core.testing;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.concurrent.atomic.AtomicInteger;

/** Stands between a client and a database on loopback, and drops the connection in the middle of a commit. */
public final class CuttingProxy implements AutoCloseable {

    /** When a connection is dropped. */
    public enum Cut {
        /** The server never hears of the commit. */
        BEFORE_THE_COMMIT,
        /** The server has committed, and the client never hears of it. */
        BEFORE_THE_ANSWER
    }

    private final ServerSocket server;
    private final int behind;
    private final Cut cut;
    private final AtomicInteger commitsToGo;

    /**
     * @param behind the port of the database
     * @param commits the commit that is cut, counted from 1
     */
    public CuttingProxy(int behind, Cut cut, int commits) throws IOException {
        this.server = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
        this.behind = behind;
        this.cut = cut;
        this.commitsToGo = new AtomicInteger(commits);
        daemon(this::accept);
    }

    public int port() {
        return server.getLocalPort();
    }

    /** Whether it has cut. */
    public boolean hasCut() {
        return commitsToGo.get() <= 0;
    }

    private static void daemon(Runnable work) {
        Thread thread = new Thread(work, "cutting proxy");
        thread.setDaemon(true);
        thread.start();
    }

    private void accept() {
        try {
            while (true) {
                Socket client = server.accept();
                Socket database = new Socket(InetAddress.getLoopbackAddress(), behind);
                client.setTcpNoDelay(true);
                database.setTcpNoDelay(true);
                boolean[] mute = {false};
                daemon(() -> pass(client, database, true, mute));
                daemon(() -> pass(database, client, false, mute));
            }
        } catch (IOException e) {
            // The proxy was closed.
        }
    }

    private void pass(Socket from, Socket to, boolean fromClient, boolean[] mute) {
        byte[] buffer = new byte[1 << 16];
        try (from;
                to) {
            InputStream in = from.getInputStream();
            OutputStream out = to.getOutputStream();
            int n;
            while ((n = in.read(buffer)) >= 0) {
                if (fromClient && isCommit(buffer, n) && commitsToGo.decrementAndGet() == 0) {
                    if (cut == Cut.BEFORE_THE_COMMIT) {
                        return;
                    }
                    mute[0] = true;
                }
                if (!fromClient && mute[0]) {
                    // The server has answered, so it has committed.
                    return;
                }
                out.write(buffer, 0, n);
                out.flush();
            }
        } catch (IOException e) {
            // The other side is gone.
        }
    }

    private static boolean isCommit(byte[] bytes, int length) {
        return length < 200
                && new String(bytes, 0, length, StandardCharsets.ISO_8859_1)
                        .toUpperCase(Locale.ROOT)
                        .contains("COMMIT");
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
