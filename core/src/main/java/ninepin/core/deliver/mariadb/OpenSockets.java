package ninepin.core.deliver.mariadb;

import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;
import java.sql.Connection;
import java.util.Collections;
import java.util.Map;
import java.util.WeakHashMap;
import javax.net.SocketFactory;

/**
 * Makes the sockets of connections and remembers them. The driver's own way of giving a connection up waits for the thread
 * that reads from it, which on a silent server is for ever; a socket that is closed ends the reading at once.
 */
public final class OpenSockets extends SocketFactory {

    /** The driver makes the socket on the thread that asks for the connection. */
    private static final ThreadLocal<Socket> LAST = new ThreadLocal<>();

    private static final Map<Connection, Socket> OF = Collections.synchronizedMap(new WeakHashMap<>());

    /** Remembers that the socket which this thread made last is that of a connection. */
    static void keep(Connection connection) {
        Socket socket = LAST.get();
        LAST.remove();
        if (socket != null) {
            OF.put(connection, socket);
        }
    }

    /** Closes the socket of a connection. */
    static void close(Connection connection) throws IOException {
        Socket socket = OF.remove(connection);
        if (socket != null) {
            socket.close();
        }
    }

    @Override
    public Socket createSocket() {
        Socket socket = new Socket();
        LAST.set(socket);
        return socket;
    }

    @Override
    public Socket createSocket(String host, int port) throws IOException {
        throw new IOException("Sockets are connected by the driver");
    }

    @Override
    public Socket createSocket(String host, int port, InetAddress localHost, int localPort) throws IOException {
        return createSocket(host, port);
    }

    @Override
    public Socket createSocket(InetAddress host, int port) throws IOException {
        return createSocket(host.getHostAddress(), port);
    }

    @Override
    public Socket createSocket(InetAddress address, int port, InetAddress localAddress, int localPort)
            throws IOException {
        return createSocket(address.getHostAddress(), port);
    }
}
