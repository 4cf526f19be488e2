package tidybridge.bench;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.Executors;

/** As little as can be between a query and its caller: JDBC with statements prepared once, and the JDK's own HTTP server. */
public final class Floor {

    private static final int CONNECTIONS = 10;
    private static final int READ_AHEAD_ROWS = 500;

    private final BlockingQueue<Prepared> free = new ArrayBlockingQueue<>(CONNECTIONS);

    private record Prepared(PreparedStatement berth, PreparedStatement page, PreparedStatement all) {}

    private Floor(String url, String user, String password) throws SQLException {
        for (int i = 0; i < CONNECTIONS; i++) {
            Connection connection = DriverManager.getConnection(url, user, password);
            PreparedStatement all = connection.prepareStatement(Queries.PASSAGES);
            all.setFetchSize(READ_AHEAD_ROWS);
            free.add(new Prepared(
                    connection.prepareStatement(Queries.BERTH + "?"),
                    connection.prepareStatement(Queries.PASSAGES + " limit ?"),
                    all));
        }
    }

    /** The arguments are port, JDBC address and user; the password comes from the environment. */
    public static void main(String[] args) throws IOException, SQLException {
        Floor floor = new Floor(args[1], args[2], System.getenv("BENCH_PASSWORD"));
        HttpServer server = HttpServer.create(new InetSocketAddress("127.0.0.1", Integer.parseInt(args[0])), 0);
        server.setExecutor(Executors.newVirtualThreadPerTaskExecutor());
        server.createContext("/", floor::answer);
        server.start();
    }

    private void answer(HttpExchange exchange) throws IOException {
        try (exchange) {
            Prepared prepared = free.take();
            try {
                String path = exchange.getRequestURI().getPath();
                if (path.startsWith("/berths/")) {
                    prepared.berth().setLong(1, Long.parseLong(path.substring("/berths/".length())));
                    send(exchange, prepared.berth());
                } else if (exchange.getRequestURI().getQuery() == null) {
                    stream(exchange, prepared.all());
                } else {
                    prepared.page().setInt(1, 25);
                    send(exchange, prepared.page());
                }
            } finally {
                free.add(prepared);
            }
        } catch (SQLException e) {
            throw new IOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private static void send(HttpExchange exchange, PreparedStatement statement) throws SQLException, IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream(4_096);
        write(statement, bytes);
        exchange.getResponseHeaders().set("Content-Type", "application/json");
        exchange.sendResponseHeaders(200, bytes.size());
        bytes.writeTo(exchange.getResponseBody());
    }

    private static void stream(HttpExchange exchange, PreparedStatement statement) throws SQLException, IOException {
        exchange.getResponseHeaders().set("Content-Type", "application/json");
        exchange.sendResponseHeaders(200, 0);
        try (OutputStream out = new BufferedOutputStream(exchange.getResponseBody(), 32 * 1024)) {
            write(statement, out);
        }
    }

    /** Rows as JSON, texts without a thought for escapes: the least that could be sent. */
    static long write(PreparedStatement statement, OutputStream out) throws SQLException, IOException {
        long bytes = 0;
        StringBuilder row = new StringBuilder(256);
        try (ResultSet rows = statement.executeQuery()) {
            int columns = rows.getMetaData().getColumnCount();
            String[] names = new String[columns];
            for (int i = 0; i < columns; i++) {
                names[i] = (i == 0 ? "{\"" : ",\"") + rows.getMetaData().getColumnLabel(i + 1) + "\":\"";
            }
            while (rows.next()) {
                row.setLength(0);
                for (int i = 0; i < columns; i++) {
                    row.append(names[i]).append(rows.getString(i + 1)).append('"');
                }
                byte[] utf8 = row.append("}\n").toString().getBytes(StandardCharsets.UTF_8);
                out.write(utf8);
                bytes += utf8.length;
            }
        }
        return bytes;
    }
}
