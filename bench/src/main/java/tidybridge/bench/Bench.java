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
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import tidybridge.cli.Tidy;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.DemoSize;
import tidybridge.demo.LocalMariaDb;
import tidybridge.demo.Secrets;
import tidybridge.demo.ServiceProcess;

/**
 * {@code ./tidy bench}: runs the same work against the service, the peer and the floor in turns and prints ratios, because a time
 * alone says more about the machine than about the program. {@code --json} prints them as JSON, {@code --quick} measures within
 * minutes,
 * {@code worst} the worst requests there are, {@code start} how soon a service answers after its start, {@code checks} only the checking of a large workspace, {@code access} only what it costs to
 * prove who calls, {@code filters} only callers' conditions, {@code exports} only whole collections.
 */
public final class Bench {

    private static final String NEW_PASSAGE =
            "{\"lockId\":3,\"vesselId\":42,\"passedAt\":\"2025-05-01T09:30:00\",\"direction\":\"up\"}";
    private static final String NEW_NOTE = "{\"note\":\"Dog on board\"}";
    private static final double MICROS_A_TICK = 10_000;
    private static final int SERVICE_HEAP_MEGABYTES = 128;
    private static final String PREPARED_ON_SERVER = "?useServerPrepStmts=true";

    private final Path project;
    private final Path folder;
    private final Load load;
    private final int rounds;
    private final int drainRounds;
    private final int checkRounds;
    private final int warmUps;
    private final Report report;
    private final Part part;
    private long servicePid;
    private long peerPid;
    private long floorPid;

    /** What is measured. */
    private enum Part {
        ALL,
        CHECKS,
        ACCESS,
        FILTERS,
        EXPORTS
    }

    private Bench(Path project, boolean quick, boolean json, Part part) throws IOException {
        this.project = project;
        this.folder = Files.createDirectories(project.resolve(".tidy").resolve("bench"));
        this.load = new Load(folder, 1);
        this.rounds = quick ? 4 : 20;
        this.drainRounds = quick ? 2 : 3;
        this.checkRounds = quick ? 2 : 5;
        this.warmUps = quick ? 5 : 10;
        this.report = new Report(json);
        this.part = part;
    }

    public static void main(String[] args) throws Exception {
        if (args.length > 1 && args[1].equals("core")) {
            CoreBench.main(new String[0]);
            return;
        }
        if (args.length > 1 && args[1].equals("start")) {
            new Start(Path.of(args[0])).run();
            System.exit(0);
        }
        if (args.length > 1 && args[1].equals("worst")) {
            new Worst(Path.of(args[0])).run();
            System.exit(0);
        }
        List<String> options = List.of(args);
        Part part = options.contains("checks")
                ? Part.CHECKS
                : options.contains("access")
                        ? Part.ACCESS
                        : options.contains("filters")
                                ? Part.FILTERS
                                : options.contains("exports") ? Part.EXPORTS : Part.ALL;

        new Bench(Path.of(args[0]), options.contains("--quick"), options.contains("--json"), part).run();
        System.exit(0);
    }

    private void run() throws Exception {
        Secrets secrets = Secrets.in(folder);
        report.say("Starting MariaDB and loading half a million rows ...");
        try (LocalMariaDb database = LocalMariaDb.start(folder.resolve("mariadb"))) {
            DemoDatabase.createRecords(database, secrets.get("records"), secrets.get("records-owner"));
            DemoDatabase.createSource(database, secrets.get("waterways"), DemoSize.FULL, percent -> {});
            createProcedure(database);
            report.say("Starting the service, the peer and the floor ...");
            String jdbc = "jdbc:mariadb://127.0.0.1:" + database.port() + "/" + DemoDatabase.SOURCE_SCHEMA;
            int peerPort = freePort();
            int floorPort = freePort();
            try (ServiceProcess service = ServiceProcess.start(
                            project,
                            project.resolve("demo/workspace"),
                            folder,
                            database.port(),
                            freePort(),
                            SERVICE_HEAP_MEGABYTES,
                            secrets,
                            Map.of());
                    Contestant peer = peer(peerPort, jdbc, secrets);
                    Contestant floor = floor(floorPort, jdbc + PREPARED_ON_SERVER, secrets)) {
                servicePid = service.pid();
                peerPid = peer.pid();
                floorPid = floor.pid();
                publish(service, project.resolve("bench/workspace"), folder.resolve("home"));
                if (part == Part.ALL || part == Part.CHECKS) {
                    measureChecks(service, jdbc + PREPARED_ON_SERVER, secrets);
                }
                if (part == Part.ALL || part == Part.FILTERS) {
                    filteredPage(service.address() + "/api/bench/v1");
                }
                if (part == Part.ALL || part == Part.ACCESS) {
                    new Access(service, folder.resolve("home"), load, report).measure(rounds, warmUps);
                }
                if (part == Part.ALL || part == Part.EXPORTS) {
                    new Exports(
                                    service.address() + "/api/bench/v1",
                                    service.pid(),
                                    jdbc + PREPARED_ON_SERVER,
                                    secrets.get("waterways"),
                                    report)
                            .measure(drainRounds);
                }
                if (part != Part.ALL) {
                    report.end();
                    return;
                }
                measure(
                        service.address() + "/api/bench/v1",
                        "http://127.0.0.1:" + peerPort,
                        "http://127.0.0.1:" + floorPort);
                measureDrain(
                        service.address() + "/api/bench/v1",
                        "http://127.0.0.1:" + peerPort,
                        jdbc + PREPARED_ON_SERVER,
                        secrets);
                report.say(
                        "Resident memory of the service after all that: " + residentMegabytes(service.pid()) + " MB");
            }
        }
        report.end();
    }

    private static void createProcedure(LocalMariaDb database) throws SQLException {
        try (Connection connection = database.connect(DemoDatabase.SOURCE_SCHEMA);
                Statement statement = connection.createStatement()) {
            for (String sql : Queries.PROCEDURE) {
                statement.execute(sql);
            }
        }
    }

    private Contestant peer(int port, String jdbc, Secrets secrets) throws IOException, InterruptedException {
        Map<String, String> environment = Map.of(
                "SERVER_PORT",
                String.valueOf(port),
                "SERVER_ADDRESS",
                "127.0.0.1",
                "SPRING_THREADS_VIRTUAL_ENABLED",
                "true",
                "SPRING_DATASOURCE_URL",
                jdbc,
                "SPRING_DATASOURCE_USERNAME",
                DemoDatabase.SOURCE_USER,
                "SPRING_DATASOURCE_PASSWORD",
                secrets.get("waterways"));
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

    /** Makes the modules of a workspace live. */
    static void publish(ServiceProcess service, Path workspace, Path home) {
        String[] command = {
            "publish", "--folder", workspace.toString(), "--service", service.address(), "--home", home.toString()
        };
        PrintWriter errors = new PrintWriter(System.err, true);
        if (Tidy.run(command, new PrintWriter(OutputStream.nullOutputStream()), errors) != 0) {
            throw new IllegalStateException("what is measured could not be published");
        }
    }

    /** Beside the checks of a thousand operations, preparing their statements once. */
    private void measureChecks(ServiceProcess service, String jdbc, Secrets secrets) throws Exception {
        Checks checks = new Checks(service.address(), folder.resolve("home"));
        List<Double> ours = new ArrayList<>();
        List<Double> least = new ArrayList<>();
        for (int round = 1; round <= checkRounds; round++) {
            double seconds = checks.seconds();
            report.say("checking " + Checks.OPERATIONS + " operations, round " + round + " of " + checkRounds + ": "
                    + Math.round(seconds * 1000) + " ms");
            ours.add(1 / seconds);
            least.add(1 / Checks.preparingSeconds(jdbc, DemoDatabase.SOURCE_USER, secrets.get("waterways")));
        }
        report.add(Result.of(
                "check 1,000 operations (floor: prepare)", ours, List.of(), least, "under 3 s, >= 0.33 a second"));
    }

    private void measure(String service, String peer, String floor) throws Exception {
        report.say("Warming up ...");
        for (int i = 0; i < warmUps; i++) {
            for (String base : new String[] {service, peer, floor}) {
                load.requestsPerSecond(base + "/berths/%ID%");
                load.requestsPerSecond(base + "/passages?limit=25");
            }
        }
        inTurns("keyed read", ">= 2.5 x peer, >= 0.7 x floor", service, peer, floor, "/berths/%ID%");
        inTurns("page of 25", ">= 2 x peer", service, peer, floor, "/passages?limit=25");
        deepPage(service, peer);
        writesInTurns("insert by POST", service, peer, "POST", "/passages", NEW_PASSAGE);
        writesInTurns("the same by a procedure", service, peer, "POST", "/passages/called", NEW_PASSAGE);
        writesInTurns("change by PATCH, then read", service, peer, "PATCH", "/bookings/2%ID%", NEW_NOTE);
    }

    /** Writes have no floor: what a commit takes, the database alone decides. */
    private void writesInTurns(String what, String service, String peer, String method, String path, String body)
            throws Exception {
        List<Double> ours = new ArrayList<>();
        List<Double> theirs = new ArrayList<>();
        for (String base : new String[] {service, peer}) {
            load.requestsPerSecond(method, base + path, body);
        }
        for (int round = 1; round <= rounds; round++) {
            sayEachTenth(what, round);
            ours.add(load.requestsPerSecond(method, service + path, body));
            theirs.add(load.requestsPerSecond(method, peer + path, body));
        }
        report.add(Result.of(what, ours, theirs, List.of(), ">= 1 x peer"));
    }

    private void inTurns(String what, String goal, String service, String peer, String floor, String path)
            throws Exception {
        List<Double> ours = new ArrayList<>();
        List<Double> theirs = new ArrayList<>();
        List<Double> least = new ArrayList<>();
        double[] micros = new double[3];
        for (int round = 1; round <= rounds; round++) {
            sayEachTenth(what, round);
            ours.add(turn(service + path, servicePid, micros, 0));
            theirs.add(turn(peer + path, peerPid, micros, 1));
            least.add(turn(floor + path, floorPid, micros, 2));
        }
        report.add(Result.of(what, ours, theirs, least, goal));
        report.add(new Result(
                "  CPU time of a request, inverse",
                rounds * 1e6 / micros[0],
                rounds * 1e6 / micros[1],
                rounds * 1e6 / micros[2],
                ""));
    }

    /** A turn of load; adds the processor time that a request took of the contestant's own process, in microseconds. */
    private double turn(String address, long pid, double[] micros, int contestant) throws Exception {
        long before = processorTicks(pid);
        double rate = load.requestsPerSecond(address);
        micros[contestant] += (processorTicks(pid) - before) * MICROS_A_TICK / rate;
        return rate;
    }

    /** What a process has used of the processors yet, in hundredths of a second. */
    static long processorTicks(long pid) throws IOException {
        String[] fields =
                Files.readString(Path.of("/proc", String.valueOf(pid), "stat")).split(" ");
        return Long.parseLong(fields[13]) + Long.parseLong(fields[14]);
    }

    /** The service continues after a row, the peer counts to it; beside both, the service's own first page. */
    private void deepPage(String service, String peer) throws Exception {
        String next = nextOf(service + "/passages?limit=450000");
        String deep = service.substring(0, service.indexOf("/api")) + next.replaceFirst("limit=\\d+", "limit=25");
        List<Double> later = new ArrayList<>();
        List<Double> first = new ArrayList<>();
        List<Double> counted = new ArrayList<>();
        load.requestsPerSecond(deep);
        for (int round = 1; round <= rounds; round++) {
            sayEachTenth("page at row 450,000", round);
            later.add(load.requestsPerSecond(deep));
            first.add(load.requestsPerSecond(service + "/passages?limit=25"));
            counted.add(
                    1 / Load.transfer(peer + "/passages?limit=25&offset=450000").seconds());
        }
        report.add(Result.of("page at row 450,000 (floor: page 1)", later, counted, first, ">= 0.91 x the first page"));
    }

    /** A caller's conditions and sort, beside the same written into the statement. */
    private void filteredPage(String service) throws Exception {
        String since = "2031-01-01T00:00:00";
        String filtered =
                service + "/passages/filtered?limit=25&lock_id%5Beq%5D=3&sort=-passed_at&passed_at%5Bgte%5D=" + since;
        String byHand = service + "/passages/by-hand?limit=25&lock=3&since=" + since;
        List<Double> ours = new ArrayList<>();
        List<Double> written = new ArrayList<>();
        for (int i = 0; i < warmUps; i++) {
            load.requestsPerSecond(filtered);
            load.requestsPerSecond(byHand);
        }
        for (int round = 1; round <= rounds; round++) {
            sayEachTenth("filtered, sorted page", round);
            ours.add(load.requestsPerSecond(filtered));
            written.add(load.requestsPerSecond(byHand));
        }
        report.add(Result.of("filtered, sorted page (floor: by hand)", ours, List.of(), written, ">= 0.9 x by hand"));
    }

    private void measureDrain(String service, String peer, String jdbc, Secrets secrets) throws Exception {
        List<Double> ours = new ArrayList<>();
        List<Double> theirs = new ArrayList<>();
        List<Double> drains = new ArrayList<>();
        for (int round = 1; round <= drainRounds; round++) {
            report.say("500,000 rows, round " + round + " of " + drainRounds + " ...");
            Load.Transfer transfer = Load.transfer(service + "/passages?limit=500000");
            ours.add(1 / transfer.seconds());
            drains.add(1 / drainSeconds(jdbc, secrets));
            theirs.add(1 / Load.transfer(peer + "/passages?limit=500000").seconds());
        }
        report.add(Result.of("500,000 rows (floor: JDBC drain)", ours, theirs, drains, ">= 0.77 x the drain"));
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

    private static String nextOf(String address) throws IOException, InterruptedException {
        HttpRequest request = HttpRequest.newBuilder(URI.create(address)).build();
        String body = HttpClient.newHttpClient()
                .send(request, HttpResponse.BodyHandlers.ofString())
                .body();
        int start = body.lastIndexOf("\"next\":\"") + "\"next\":\"".length();
        return body.substring(start, body.indexOf('"', start));
    }

    static long residentMegabytes(long pid) throws IOException {
        for (String line : Files.readAllLines(Path.of("/proc", String.valueOf(pid), "status"))) {
            if (line.startsWith("VmRSS:")) {
                return Long.parseLong(line.replaceAll("\\D", "")) / 1024;
            }
        }
        return 0;
    }

    static int freePort() throws IOException {
        try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            return socket.getLocalPort();
        }
    }

    private void sayEachTenth(String what, int round) {
        if (round % 10 == 1) {
            report.say(what + ", round " + round + " of " + rounds + " ...");
        }
    }
}
