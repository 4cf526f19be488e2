package tidybridge.service;

import java.io.IOException;
import java.io.InputStream;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;

/** A connection of its own to a service, for requests that no HTTP library would send. */
final class Wire implements AutoCloseable {

    private final Socket socket;

    Wire(int port) throws IOException {
        socket = new Socket("127.0.0.1", port);
        socket.setSoTimeout((int) Duration.ofSeconds(30).toMillis());
    }

    /** As a slow reader has it: what is not read soon stays with the service. */
    static Wire narrow(int port) throws IOException {
        Socket socket = new Socket();
        socket.setReceiveBufferSize(4 * 1024);
        socket.connect(new InetSocketAddress("127.0.0.1", port));
        return new Wire(socket);
    }

    private Wire(Socket socket) throws IOException {
        this.socket = socket;
        socket.setSoTimeout((int) Duration.ofSeconds(30).toMillis());
    }

    /** Sends text, each char a byte; false when the service does not take it any more. */
    boolean send(String text) {
        try {
            socket.getOutputStream().write(text.getBytes(StandardCharsets.ISO_8859_1));
            return true;
        } catch (IOException e) {
            return false;
        }
    }

    /** What comes until the service closes, or until there is a whole answer of a known length. */
    String answer() {
        StringBuilder all = new StringBuilder();
        byte[] some = new byte[64 * 1024];
        try {
            InputStream in = socket.getInputStream();
            for (int read = in.read(some); read >= 0; read = in.read(some)) {
                all.append(new String(some, 0, read, StandardCharsets.ISO_8859_1));
                if (isWhole(all)) {
                    break;
                }
            }
        } catch (IOException e) {
            all.append("(").append(e.getMessage()).append(")");
        }
        return all.toString();
    }

    /** What has come once there are so many bytes. */
    String some(int bytes) throws IOException {
        StringBuilder begun = new StringBuilder();
        byte[] some = new byte[bytes];
        InputStream in = socket.getInputStream();
        for (int read = 0; read >= 0 && begun.length() < bytes; read = in.read(some)) {
            begun.append(new String(some, 0, read, StandardCharsets.ISO_8859_1));
        }
        return begun.toString();
    }

    /** The body of an answer that came in chunks (RFC 9112, 7.1), put together, as far as it has come. */
    static String body(String answer) {
        StringBuilder body = new StringBuilder(answer.length());
        int at = answer.indexOf("\r\n\r\n") + 4;
        int end = answer.indexOf("\r\n", at);
        while (end >= 0) {
            int size = Integer.parseInt(answer.substring(at, end), 16);
            if (size == 0) {
                break;
            }
            body.append(answer, end + 2, Math.min(end + 2 + size, answer.length()));
            at = end + 2 + size + 2;
            end = at < answer.length() ? answer.indexOf("\r\n", at) : -1;
        }
        return body.toString();
    }

    private static boolean isWhole(CharSequence text) {
        String answer = text.toString();
        int end = answer.indexOf("\r\n\r\n");
        int length = answer.indexOf("Content-Length: ");
        if (end < 0 || length < 0 || length > end) {
            return false;
        }
        int size = Integer.parseInt(answer.substring(length + 16, answer.indexOf("\r\n", length)));
        return answer.length() >= end + 4 + size;
    }

    /** Closes the connection so that the other side is told at once. */
    void hangUp() throws IOException {
        socket.setSoLinger(true, 0);
        socket.close();
    }

    /** Reads a few bytes; negative at the end. */
    int read(int bytes) throws IOException {
        return socket.getInputStream().read(new byte[bytes]);
    }

    @Override
    public void close() throws IOException {
        socket.close();
    }
}
