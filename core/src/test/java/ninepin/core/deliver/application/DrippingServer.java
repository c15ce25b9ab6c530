package ninepin.core.deliver.application;

import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;

/** An application whose answers begin at once and never end: a byte now and then. */
final class DrippingServer implements AutoCloseable {

    private static final int BETWEEN_MILLIS = 50;

    private final ServerSocket socket;

    DrippingServer() throws IOException {
        socket = new ServerSocket(0, 10, InetAddress.getLoopbackAddress());
        Thread thread = new Thread(this::serve, "dripping server");
        thread.setDaemon(true);
        thread.start();
    }

    private void serve() {
        while (!socket.isClosed()) {
            try {
                Socket connection = socket.accept();
                Thread thread = new Thread(() -> drip(connection), "dripping");
                thread.setDaemon(true);
                thread.start();
            } catch (IOException e) {
                return;
            }
        }
    }

    private static void drip(Socket connection) {
        try (connection) {
            OutputStream out = connection.getOutputStream();
            out.write("HTTP/1.1 200 OK\r\nContent-Type: application/json\r\nContent-Length: 1000000\r\n\r\n["
                    .getBytes(StandardCharsets.US_ASCII));
            while (true) {
                out.write(' ');
                out.flush();
                Thread.sleep(BETWEEN_MILLIS);
            }
        } catch (IOException | InterruptedException e) {
            // The other side has had enough.
        }
    }

    String address() {
        return "http://127.0.0.1:" + socket.getLocalPort() + "/api";
    }

    @Override
    public void close() throws IOException {
        socket.close();
    }
}
