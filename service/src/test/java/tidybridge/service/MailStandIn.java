package tidybridge.service;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintWriter;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.CopyOnWriteArrayList;

/** Takes mail as a server does (RFC 5321), as far as one who sends needs it, and keeps it. */
final class MailStandIn implements AutoCloseable {

    private final ServerSocket socket = new ServerSocket(0, 10, InetAddress.getLoopbackAddress());
    private final List<String> messages = new CopyOnWriteArrayList<>();
    private volatile String toRecipient = "250 fine";

    MailStandIn() throws IOException {
        Thread.ofVirtual().start(this::serve);
    }

    int port() {
        return socket.getLocalPort();
    }

    /** Every message that came, with its head. */
    List<String> messages() {
        return List.copyOf(messages);
    }

    /** What is said to each recipient from now on. */
    void answer(String line) {
        toRecipient = line;
    }

    private void serve() {
        while (!socket.isClosed()) {
            try {
                Socket connection = socket.accept();
                Thread.ofVirtual().start(() -> talk(connection));
            } catch (IOException e) {
                return;
            }
        }
    }

    private void talk(Socket connection) {
        try (connection;
                BufferedReader in =
                        new BufferedReader(new InputStreamReader(connection.getInputStream(), StandardCharsets.UTF_8));
                PrintWriter out = new PrintWriter(connection.getOutputStream(), true, StandardCharsets.UTF_8)) {
            out.print("220 harbour.marrowby.example\r\n");
            out.flush();
            for (String line = in.readLine(); line != null; line = in.readLine()) {
                String word = line.toUpperCase(Locale.ROOT);
                String answer = "250 fine";
                if (word.startsWith("RCPT")) {
                    answer = toRecipient;
                } else if (word.startsWith("DATA")) {
                    out.print("354 go on\r\n");
                    out.flush();
                    messages.add(read(in));
                } else if (word.startsWith("QUIT")) {
                    answer = "221 bye";
                }
                out.print(answer + "\r\n");
                out.flush();
            }
        } catch (IOException e) {
            // whoever sent hung up
        }
    }

    private static String read(BufferedReader in) throws IOException {
        StringBuilder message = new StringBuilder();
        for (String line = in.readLine(); line != null && !line.equals("."); line = in.readLine()) {
            message.append(line).append('\n');
        }
        return message.toString();
    }

    @Override
    public void close() throws IOException {
        socket.close();
    }
}
