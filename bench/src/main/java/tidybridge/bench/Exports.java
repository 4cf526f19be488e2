package tidybridge.bench;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
import tidybridge.demo.DemoDatabase;

/** All of half a million rows in each format, beside the same rows read through JDBC into bytes; and what slow readers do to others. */
final class Exports {

    private static final String[] FORMATS = {"json", "ndjson", "csv"};
    private static final double SECOND_NANOS = 1e9;
    private static final double TICKS_A_SECOND = 100;
    private static final int SLOW_READERS = 10;
    private static final int OTHER_CALLS = 60;
    private static final int SLOW_BYTES = 1_024;

    private final String service;
    private final long pid;
    private final String jdbc;
    private final String password;
    private final Report report;

    /**
     * Prepares.
     *
     * @param service the base address of the module
     * @param pid of the service
     */
    Exports(String service, long pid, String jdbc, String password, Report report) {
        this.service = service;
        this.pid = pid;
        this.jdbc = jdbc;
        this.password = password;
        this.report = report;
    }

    void measure(int rounds) throws Exception {
        for (String format : FORMATS) {
            format(format, rounds);
        }
        slowReaders();
    }

    private void format(String format, int rounds) throws Exception {
        List<Double> ours = new ArrayList<>();
        List<Double> drains = new ArrayList<>();
        double ourProcessor = 0;
        double drainProcessor = 0;
        double firstByte = Double.MAX_VALUE;
        String address = service + "/passages?limit=all&format=" + format;
        Load.transfer(address);
        for (int round = 1; round <= rounds; round++) {
            report.say("500,000 rows as " + format + ", round " + round + " of " + rounds + " ...");
            long before = Bench.processorTicks(pid);
            Load.Transfer transfer = Load.transfer(address);
            ourProcessor += (Bench.processorTicks(pid) - before) / TICKS_A_SECOND;
            ours.add(1 / transfer.seconds());
            firstByte = Math.min(firstByte, transfer.firstByteSeconds());
            Drain drain = drain();
            drains.add(1 / drain.seconds());
            drainProcessor += drain.processorSeconds();
        }
        report.add(Result.of(
                "500,000 rows as " + format + " (floor: drain)", ours, List.of(), drains, ">= 0.91 x the drain"));
        report.add(new Result(
                "  processor time, inverse", rounds / ourProcessor, 0, rounds / drainProcessor, ">= 0.77 x the drain"));
        report.add(new Result("  first byte, inverse (floor: 50 ms)", 1 / firstByte, 0, 1 / 0.05, ">= 1 x"));
    }

    /** What the rows cost that are read without HTTP. */
    private record Drain(double seconds, double processorSeconds) {}

    private Drain drain() throws SQLException, IOException {
        long pid = ProcessHandle.current().pid();
        try (Connection connection = DriverManager.getConnection(jdbc, DemoDatabase.SOURCE_USER, password);
                PreparedStatement statement = connection.prepareStatement(Queries.PASSAGES)) {
            statement.setFetchSize(500);
            long processor = Bench.processorTicks(pid);
            long start = System.nanoTime();
            Floor.write(statement, OutputStream.nullOutputStream());
            return new Drain(
                    (System.nanoTime() - start) / SECOND_NANOS,
                    (Bench.processorTicks(pid) - processor) / TICKS_A_SECOND);
        }
    }

    /** The slowest of many calls while ten callers read all rows at 1 KB a second. */
    private void slowReaders() throws Exception {
        report.say("ten callers who read 500,000 rows at 1 KB a second ...");
        AtomicBoolean ended = new AtomicBoolean();
        List<Thread> readers = new ArrayList<>();
        for (int i = 0; i < SLOW_READERS; i++) {
            readers.add(Thread.ofVirtual().start(() -> readSlowly(ended)));
        }
        Thread.sleep(1_000);
        double slowest = 0;
        for (int i = 0; i < OTHER_CALLS; i++) {
            slowest = Math.max(
                    slowest, Load.transfer(service + "/berths/" + (1 + i)).seconds());
            slowest = Math.max(
                    slowest, Load.transfer(service + "/passages?limit=25").seconds());
            Thread.sleep(50);
        }
        ended.set(true);
        for (Thread reader : readers) {
            reader.join();
        }
        report.add(
                new Result("slowest call beside ten slow exports, inverse (floor: 1 s)", 1 / slowest, 0, 1, ">= 1 x"));
    }

    /** Reads until it is cut off, or told to end. */
    private void readSlowly(AtomicBoolean ended) {
        URI address = URI.create(service);
        try (Socket socket = new Socket()) {
            socket.setReceiveBufferSize(4 * SLOW_BYTES);
            socket.connect(new InetSocketAddress(address.getHost(), address.getPort()));
            socket.getOutputStream()
                    .write(("GET " + address.getPath() + "/passages?limit=all&format=ndjson HTTP/1.1\r\nHost: "
                                    + address.getAuthority() + "\r\nConnection: close\r\n\r\n")
                            .getBytes(StandardCharsets.US_ASCII));
            InputStream in = socket.getInputStream();
            byte[] some = new byte[SLOW_BYTES];
            while (!ended.get() && in.read(some) >= 0) {
                Thread.sleep(1_000);
            }
        } catch (IOException e) {
            // who reads so slowly is cut off
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
