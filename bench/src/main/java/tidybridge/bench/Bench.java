package tidybridge.bench;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintWriter;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.ToDoubleFunction;
import tidybridge.cli.Tidy;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.DemoSize;
import tidybridge.demo.LocalMariaDb;
import tidybridge.demo.Secrets;
import tidybridge.demo.ServiceProcess;

/**
 * {@code ./tidy bench}: runs the same work against the service, the peer and the floor in turns and prints ratios, because a time
 * alone says more about the machine than about the program. {@code --json} prints them as JSON, {@code --quick} measures shortly.
 */
public final class Bench {

    private static final int ROUNDS = 3;
    private static final int SERVICE_HEAP_MEGABYTES = 128;
    private static final String URL_OPTIONS = "?useServerPrepStmts=true&sslMode=disable";

    private final Path project;
    private final Path folder;
    private final Load load;
    private final boolean json;
    private final List<Result> results = new ArrayList<>();

    private Bench(Path project, boolean quick, boolean json) throws IOException {
        this.project = project;
        this.folder = Files.createDirectories(project.resolve(".tidy").resolve("bench"));
        this.load = new Load(folder, quick ? 2 : 6);
        this.json = json;
    }

    /** A line of the result; rates are per second, so more is better everywhere. */
    private record Result(String what, double service, double peer, double floor, String goal) {}

    public static void main(String[] args) throws Exception {
        if (args.length > 1 && args[1].equals("core")) {
            CoreBench.main(new String[0]);
            return;
        }
        List<String> options = List.of(args);
        new Bench(Path.of(args[0]), options.contains("--quick"), options.contains("--json")).run();
        System.exit(0);
    }

    private void run() throws Exception {
        Secrets secrets = Secrets.in(folder);
        say("Starting MariaDB and loading half a million rows ...");
        try (LocalMariaDb database = LocalMariaDb.start(folder.resolve("mariadb"))) {
            DemoDatabase.createRecords(database, secrets.get("records"));
            DemoDatabase.createSource(database, secrets.get("waterways"), DemoSize.FULL, percent -> {});
            say("Starting the service, the peer and the floor ...");
            String jdbc = "jdbc:mariadb://127.0.0.1:" + database.port() + "/" + DemoDatabase.SOURCE_SCHEMA + URL_OPTIONS;
            int peerPort = freePort();
            int floorPort = freePort();
            try (ServiceProcess service = ServiceProcess.start(
                            project, folder, database.port(), freePort(), SERVICE_HEAP_MEGABYTES, secrets);
                    Contestant peer = peer(peerPort, jdbc, secrets);
                    Contestant floor = floor(floorPort, jdbc, secrets)) {
                publish(service);
                measure(service.address() + "/api/bench/v1", "http://127.0.0.1:" + peerPort, "http://127.0.0.1:" + floorPort);
                measureDrain(service.address() + "/api/bench/v1", "http://127.0.0.1:" + peerPort, jdbc, secrets);
                say("Resident memory of the service after all that: " + residentMegabytes(service.pid()) + " MB");
            }
        }
        print();
    }

    private Contestant peer(int port, String jdbc, Secrets secrets) throws IOException, InterruptedException {
        Map<String, String> environment = Map.of(
                "SERVER_PORT", String.valueOf(port),
                "SERVER_ADDRESS", "127.0.0.1",
                "SPRING_THREADS_VIRTUAL_ENABLED", "true",
                "SPRING_DATASOURCE_URL", jdbc,
                "SPRING_DATASOURCE_USERNAME", DemoDatabase.SOURCE_USER,
                "SPRING_DATASOURCE_PASSWORD", secrets.get("waterways"));
        return Contestant.start("peer", port, folder.resolve("peer.log"), environment, List.of(Peer.class.getName()));
    }

    private Contestant floor(int port, String jdbc, Secrets secrets) throws IOException, InterruptedException {
        return Contestant.start(
                "floor",
                port,
                folder.resolve("floor.log"),
                Map.of("BENCH_PASSWORD", secrets.get("waterways")),
                List.of(Floor.class.getName(), String.valueOf(port), jdbc, DemoDatabase.SOURCE_USER));
    }

    private void publish(ServiceProcess service) {
        String[] command = {
            "publish", project.resolve("bench/workspace").toString(), "--service", service.address(), "--home",
            folder.resolve("home").toString()
        };
        PrintWriter errors = new PrintWriter(System.err, true);
        if (Tidy.run(command, new PrintWriter(OutputStream.nullOutputStream()), errors) != 0) {
            throw new IllegalStateException("the bench's module could not be published");
        }
    }

    private void measure(String service, String peer, String floor) throws Exception {
        say("Warming up ...");
        for (String base : new String[] {service, peer, floor}) {
            load.requestsPerSecond(base + "/berths/%ID%");
            load.requestsPerSecond(base + "/passages?limit=25");
        }
        inTurns("keyed read, requests/s", ">= 2.5 x peer, >= 0.7 x floor", service, peer, floor, "/berths/%ID%");
        inTurns("page of 25, requests/s", ">= 2 x peer", service, peer, floor, "/passages?limit=25");
        deepPage(service, peer);
    }

    private void inTurns(String what, String goal, String service, String peer, String floor, String path)
            throws Exception {
        List<Double> ours = new ArrayList<>();
        List<Double> theirs = new ArrayList<>();
        List<Double> least = new ArrayList<>();
        for (int round = 1; round <= ROUNDS; round++) {
            say(what + ", round " + round + " of " + ROUNDS + " ...");
            ours.add(load.requestsPerSecond(service + path));
            theirs.add(load.requestsPerSecond(peer + path));
            least.add(load.requestsPerSecond(floor + path));
        }
        results.add(new Result(what, median(ours), median(theirs), median(least), goal));
    }

    /** The service continues after a row; the peer counts to it. */
    private void deepPage(String service, String peer) throws Exception {
        say("page at row 450,000 ...");
        String next = nextOf(service + "/passages?limit=450000");
        String deep = service.substring(0, service.indexOf("/api")) + next.replaceFirst("limit=\\d+", "limit=25");
        List<Double> first = new ArrayList<>();
        List<Double> later = new ArrayList<>();
        for (int round = 0; round < ROUNDS; round++) {
            first.add(load.requestsPerSecond(service + "/passages?limit=25"));
            later.add(load.requestsPerSecond(deep));
        }
        double offset = 1 / best(address -> seconds(address), peer + "/passages?limit=25&offset=450000");
        results.add(new Result("page at row 450,000, requests/s", median(later), offset, 0, ">= 0.91 x the first page"));
        results.add(new Result("  the first page in the same minute", median(first), 0, 0, ""));
    }

    private void measureDrain(String service, String peer, String jdbc, Secrets secrets) throws Exception {
        say("500,000 rows ...");
        String all = service + "/passages?limit=500000";
        double drain = Double.MAX_VALUE;
        double ours = Double.MAX_VALUE;
        double firstByte = Double.MAX_VALUE;
        for (int round = 0; round < ROUNDS; round++) {
            drain = Math.min(drain, drainSeconds(jdbc, secrets));
            Load.Transfer transfer = Load.transfer(all);
            ours = Math.min(ours, transfer.seconds());
            firstByte = Math.min(firstByte, transfer.firstByteSeconds());
        }
        double theirs = best(address -> seconds(address), peer + "/passages?limit=500000");
        results.add(new Result("500,000 rows as JSON, times/s", 1 / ours, 1 / theirs, 1 / drain, ">= 0.77 x JDBC drain"));
        say("500,000 rows: first byte after " + Math.round(firstByte * 1000) + " ms (goal: under 50), all after "
                + Math.round(ours * 1000) + " ms, JDBC drain " + Math.round(drain * 1000) + " ms");
    }

    private static double drainSeconds(String jdbc, Secrets secrets) throws SQLException, IOException {
        try (Connection connection =
                        DriverManager.getConnection(jdbc, DemoDatabase.SOURCE_USER, secrets.get("waterways"));
                PreparedStatement statement = connection.prepareStatement(Queries.PASSAGES)) {
            statement.setFetchSize(500);
            long start = System.nanoTime();
            Floor.write(statement, OutputStream.nullOutputStream());
            return (System.nanoTime() - start) / 1e9;
        }
    }

    private static double seconds(String address) {
        try {
            return Load.transfer(address).seconds();
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
    }

    private static double best(ToDoubleFunction<String> seconds, String address) {
        double best = Double.MAX_VALUE;
        for (int round = 0; round < ROUNDS; round++) {
            best = Math.min(best, seconds.applyAsDouble(address));
        }
        return best;
    }

    private static String nextOf(String address) throws IOException, InterruptedException {
        HttpRequest request = HttpRequest.newBuilder(URI.create(address)).build();
        String body = HttpClient.newHttpClient()
                .send(request, HttpResponse.BodyHandlers.ofString())
                .body();
        int start = body.lastIndexOf("\"next\":\"") + "\"next\":\"".length();
        return body.substring(start, body.indexOf('"', start));
    }

    private static long residentMegabytes(long pid) throws IOException {
        for (String line : Files.readAllLines(Path.of("/proc", String.valueOf(pid), "status"))) {
            if (line.startsWith("VmRSS:")) {
                return Long.parseLong(line.replaceAll("\\D", "")) / 1024;
            }
        }
        return 0;
    }

    private static double median(List<Double> values) {
        return values.stream().sorted().skip(values.size() / 2).findFirst().orElseThrow();
    }

    private static int freePort() throws IOException {
        try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            return socket.getLocalPort();
        }
    }

    private void say(String line) {
        (json ? System.err : System.out).println(line);
    }

    private void print() {
        if (json) {
            List<String> lines = results.stream()
                    .map(r -> "{\"what\": \"%s\", \"service\": %.2f, \"peer\": %.2f, \"floor\": %.2f}"
                            .formatted(r.what().strip(), r.service(), r.peer(), r.floor()))
                    .toList();
            System.out.println("[" + String.join(",\n ", lines) + "]");
            return;
        }
        System.out.printf("%n%-38s %10s %10s %10s %8s %8s  %s%n", "", "service", "peer", "floor", "x peer", "x floor", "goal");
        for (Result r : results) {
            System.out.printf(
                    "%-38s %10.1f %10s %10s %8s %8s  %s%n",
                    r.what(), r.service(), number(r.peer()), number(r.floor()), ratio(r.service(), r.peer()), ratio(r.service(), r.floor()), r.goal());
        }
    }

    private static String number(double value) {
        return value == 0 ? "" : "%.1f".formatted(value);
    }

    private static String ratio(double ours, double theirs) {
        return theirs == 0 ? "" : "%.2f".formatted(ours / theirs);
    }
}
