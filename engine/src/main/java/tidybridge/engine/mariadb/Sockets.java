package tidybridge.engine.mariadb;

import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;
import javax.net.SocketFactory;

/**
 * Makes the driver's sockets, and remembers the last one of each thread. The driver closes a connection that waits for a server only after
 * it has asked that server to stop, which a server that does not answer never does. Thread-safe; made by the driver.
 */
public final class Sockets extends SocketFactory {

    private static final ThreadLocal<Socket> LAST = new ThreadLocal<>();

    /** The socket of the connection that this thread opened last; it is forgotten with this call. */
    static Socket last() {
        Socket last = LAST.get();
        LAST.remove();
        return last;
    }

    @Override
    public Socket createSocket() {
        Socket socket = new Socket();
        LAST.set(socket);
        return socket;
    }

    @Override
    public Socket createSocket(String host, int port) throws IOException {
        return new Socket(host, port);
    }

    @Override
    public Socket createSocket(String host, int port, InetAddress local, int localPort) throws IOException {
        return new Socket(host, port, local, localPort);
    }

    @Override
    public Socket createSocket(InetAddress host, int port) throws IOException {
        return new Socket(host, port);
    }

    @Override
    public Socket createSocket(InetAddress host, int port, InetAddress local, int localPort) throws IOException {
        return new Socket(host, port, local, localPort);
    }
}
