package tidybridge.service;

import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.CopyOnWriteArrayList;

/** Is called as whoever wants to be told something, and keeps what came. */
final class WebhookStandIn implements AutoCloseable {

    /** A call; the names of its fields are in lower case. */
    record Call(String method, String path, Map<String, String> fields, String body) {}

    private final HttpServer server;
    private final List<Call> calls = new CopyOnWriteArrayList<>();
    private volatile int status = 204;

    WebhookStandIn() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/", exchange -> {
            Map<String, String> fields = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);
            exchange.getRequestHeaders().forEach((name, values) -> fields.put(name, String.join(", ", values)));
            String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
            calls.add(new Call(
                    exchange.getRequestMethod(), exchange.getRequestURI().toString(), fields, body));
            exchange.sendResponseHeaders(status, -1);
            exchange.close();
        });
        server.start();
    }

    String address() {
        return "http://127.0.0.1:" + server.getAddress().getPort() + "/told?by=bridge";
    }

    List<Call> calls() {
        return List.copyOf(calls);
    }

    /** What is answered from now on. */
    void answer(int next) {
        status = next;
    }

    @Override
    public void close() {
        server.stop(0);
    }
}
