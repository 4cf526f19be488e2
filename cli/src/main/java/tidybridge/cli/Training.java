package tidybridge.cli;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintWriter;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/**
 * Runs the usual commands against a stand-in service, while the virtual machine notes which classes they need. The launcher does so once
 * after a build; what was noted makes every later command start quickly.
 */
public final class Training {

    private static final String PAGE = """
            {"data": [{"berthId": 1, "basin": "Heron Pool", "nightlyRate": 12.50}], "page": {"limit": 1, "next": "/api/moorings/v1/berths?after=x"}}""";
    private static final String ROW = """
            {"berthId": 1, "basin": "Heron Pool", "nightlyRate": 12.50}""";
    private static final String MODULES = """
            {"modules": [{"name": "moorings", "major": 1, "version": "1.0.0", "access": "open", "needs": [], "served": true, "title": "Moorings",
              "operations": [{"method": "GET", "path": "/berths", "about": "Berths"}]}]}""";
    private static final String PROBLEM = """
            {"title": "Bad input", "status": 400, "errors": [{"detail": "'from' is missing."}]}""";

    private Training() {}

    /** Takes the folder of a workspace. */
    public static void main(String[] args) throws IOException {
        HttpServer server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/", Training::answer);
        server.start();
        Path home = Files.createTempDirectory("tidy-training");
        Files.writeString(home.resolve("administrator.token"), "none");
        String address = "http://127.0.0.1:" + server.getAddress().getPort();
        List<List<String>> commands = List.of(
                List.of("--version"),
                List.of("--help"),
                List.of("check", "--folder", args[0]),
                List.of("modules", "--service", address, "--home", home.toString()),
                List.of(
                        "call",
                        "GET",
                        "moorings/v1/berths",
                        "limit=1",
                        "--service",
                        address,
                        "--home",
                        home.toString()),
                List.of("call", "GET", "moorings/v1/berths/1", "--service", address, "--home", home.toString()),
                List.of("call", "GET", "moorings/v1/wrong", "--service", address, "--home", home.toString()));
        PrintWriter nowhere = new PrintWriter(OutputStream.nullOutputStream(), false, StandardCharsets.UTF_8);
        try {
            for (List<String> command : commands) {
                Tidy.run(command.toArray(String[]::new), nowhere, nowhere);
            }
        } finally {
            server.stop(0);
            Files.delete(home.resolve("administrator.token"));
            Files.delete(home);
        }
    }

    private static void answer(HttpExchange exchange) throws IOException {
        String path = exchange.getRequestURI().getPath();
        boolean wrong = path.endsWith("/wrong");
        String body = path.equals("/desk/modules") ? MODULES : wrong ? PROBLEM : path.endsWith("/1") ? ROW : PAGE;
        byte[] bytes = body.getBytes(StandardCharsets.UTF_8);
        exchange.getResponseHeaders().add("Content-Type", "application/json");
        exchange.sendResponseHeaders(wrong ? 400 : 200, bytes.length);
        exchange.getResponseBody().write(bytes);
        exchange.close();
    }
}
