package ninepin.core.testing;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Stands before a database and, after so many of its answers, lets nothing through any more, in either direction: connections
 * are taken and kept, and nobody ever hears anything.
 */
public final class SilencingProxy implements AutoCloseable {

    private final ServerSocket server;
    private final int behind;
    private final AtomicInteger answersToGo;

    /**
     * @param behind the port of the database
     * @param answers the pieces of what the database sends that are let through
     */
    public SilencingProxy(int behind, int answers) throws IOException {
        this.server = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
        this.behind = behind;
        this.answersToGo = new AtomicInteger(answers);
        daemon(this::accept);
    }

    public int port() {
        return server.getLocalPort();
    }

    /** Whether it has fallen silent. */
    public boolean isSilent() {
        return answersToGo.get() <= 0;
    }

    private static void daemon(Runnable work) {
        Thread thread = new Thread(work, "silencing proxy");
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
                daemon(() -> pass(client, database, false));
                daemon(() -> pass(database, client, true));
            }
        } catch (IOException e) {
            // The proxy was closed.
        }
    }

    private void pass(Socket from, Socket to, boolean answers) {
        byte[] buffer = new byte[1 << 16];
        try (from;
                to) {
            InputStream in = from.getInputStream();
            OutputStream out = to.getOutputStream();
            int n;
            while ((n = in.read(buffer)) >= 0) {
                boolean through = answers ? answersToGo.getAndDecrement() > 0 : !isSilent();
                if (through) {
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
