package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.io.TempDir;
import tidybridge.cli.Tidy;
import tidybridge.demo.Balancer;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.DemoSize;
import tidybridge.demo.LocalMariaDb;
import tidybridge.demo.Secrets;
import tidybridge.demo.ServiceProcess;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Three nodes as processes behind a proxy are killed, stopped, started and replaced while callers read and write. With
 * {@code -Drolling.from=FOLDER} they run from the build of another checkout at first, and are replaced by this one.
 */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class NodesIT {

    private static final Path PROJECT = Path.of("..").toAbsolutePath().normalize();
    private static final Path BEFORE = Path.of(System.getProperty("rolling.from", PROJECT.toString()));
    private static final int NODES = 3;
    private static final int HEAP_MEGABYTES = 160;

    /** A node that runs for a minute is sooner there without the second compiler. */
    private static final String QUICK = "-XX:TieredStopAtLevel=1";

    private static final HttpClient HTTP = HttpClient.newHttpClient();

    @TempDir
    static Path folder;

    private static Secrets secrets;
    private static LocalMariaDb database;
    private static Balancer balancer;
    private static final ServiceProcess[] RUNNING = new ServiceProcess[NODES];
    private static final int[] PORTS = new int[NODES];
    private static NodesLoad load;

    @BeforeAll
    static void start() throws Exception {
        secrets = Secrets.in(folder);
        database = TestDatabase.start("nodes");
        DemoDatabase.createRecords(database, secrets.get("records"), secrets.get("records-owner"));
        DemoDatabase.createSource(database, secrets.get("waterways"), DemoSize.SMALL, percent -> {});
        ServiceArchive.make();
        for (int i = 0; i < NODES; i++) {
            PORTS[i] = freePort();
            RUNNING[i] = node(i, BEFORE);
        }
        DemoDatabase.shareOutcomes(database);
        List<Integer> ports = new ArrayList<>();
        for (int port : PORTS) {
            ports.add(port);
        }
        balancer = Balancer.start(folder, freePort(), ports);
        awaitReady(balancer.address());
        // as a build from before knows them; the demo's own texts may say more by now
        tidy("publish", "--folder", BEFORE.resolve("demo/workspace").toString());
        tidy(
                "client",
                "set",
                "lock-tablet",
                "--owner",
                "Locks",
                "--contact",
                "locks@marrowby.example",
                "--give",
                "lock-keeper");
        String key = tidy("client", "add-credential", "lock-tablet", "first").strip();
        load = new NodesLoad(balancer.address(), key);
    }

    @AfterAll
    static void stop() throws Exception {
        load.close();
        balancer.close();
        for (ServiceProcess node : RUNNING) {
            node.tellToEnd();
        }
        for (ServiceProcess node : RUNNING) {
            node.close();
        }
        database.close();
    }

    private static int freePort() throws Exception {
        try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            return socket.getLocalPort();
        }
    }

    private static ServiceProcess node(int i, Path program) throws Exception {
        Path where = Files.createDirectories(folder.resolve("node-" + (i + 1)));
        return ServiceProcess.start(
                program,
                PROJECT.resolve("demo/workspace"),
                where,
                database.port(),
                PORTS[i],
                HEAP_MEGABYTES,
                secrets,
                Map.of(
                        "TIDY_HOME",
                        folder.resolve("home").toString(),
                        "TIDY_NODE",
                        "node-" + (i + 1),
                        "TIDY_PROXIES",
                        "127.0.0.1",
                        "TIDY_LEAVENOTICE",
                        "1500ms",
                        "JAVA_TOOL_OPTIONS",
                        QUICK));
    }

    private static String tidy(String... words) {
        return tidyAt(balancer.address(), words);
    }

    private static String tidyAt(String address, String... words) {
        List<String> all = new ArrayList<>(List.of(words));
        all.addAll(
                List.of("--service", address, "--home", folder.resolve("home").toString()));
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        assertThat(Tidy.run(all.toArray(String[]::new), new PrintWriter(out), new PrintWriter(err)))
                .as(out + "\n" + err)
                .isZero();
        return out.toString();
    }

    private static HttpResponse<String> get(String address) throws Exception {
        return HTTP.send(
                HttpRequest.newBuilder(URI.create(address))
                        .timeout(Duration.ofSeconds(10))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    /** A build from before may not know the address, and answers something else. */
    private static void awaitReady(String address) throws Exception {
        Until.seen(() -> get(address + "/ready").statusCode(), status -> status != 503);
    }

    private static List<JsonNode> nodes(int port) {
        return JsonMapper.shared()
                .readTree(tidyAt("http://127.0.0.1:" + port, "nodes", "--json"))
                .path("nodes")
                .valueStream()
                .toList();
    }

    private static List<Long> changes(int port) {
        return nodes(port).stream()
                .map(node -> node.path("liveChange").asLong())
                .distinct()
                .toList();
    }

    private static List<String> states(int port) {
        return nodes(port).stream()
                .map(node ->
                        node.path("name").asString() + " " + node.path("state").asString())
                .toList();
    }

    /** Each node tells, and looks, every two seconds: one may know already what the next does not. So each is waited for by itself. */
    private static <T> void awaitAt(int port, Function<Integer, T> look, Predicate<T> expected) throws Exception {
        try {
            Until.seen(() -> look.apply(port), expected);
        } catch (AssertionError e) {
            throw new AssertionError(e.getMessage() + "\n" + logs(), e);
        }
    }

    private static void awaitStates(List<Integer> asked, String... expected) throws Exception {
        for (int i : asked) {
            awaitAt(PORTS[i], NodesIT::states, List.of(expected)::equals);
        }
    }

    /** How often the proxy has found that a node answers, or does not. */
    private static long told(int node, String state) {
        try (Stream<String> lines = Files.lines(folder.resolve("balancer.log"))) {
            String words = "nodes/node-" + (node + 1) + " is " + state;
            return lines.filter(line -> line.contains(words)).count();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Does something to a node, and goes on once the proxy sends it no more requests. */
    private static void untilDown(int node, TestDatabase.ThrowingRunnable deed) throws Exception {
        long before = told(node, "DOWN");
        deed.run();
        Until.holds(() -> told(node, "DOWN") > before);
    }

    /** The same for one that gets requests again. */
    private static void untilUp(int node, TestDatabase.ThrowingRunnable deed) throws Exception {
        long before = told(node, "UP");
        deed.run();
        Until.holds(() -> told(node, "UP") > before);
    }

    /** What the nodes wrote last, for whoever finds that one of them is not where it should be. */
    private static String logs() {
        StringBuilder logs = new StringBuilder();
        for (int i = 1; i <= NODES; i++) {
            try {
                List<String> lines = Files.readAllLines(folder.resolve("node-" + i + "/service.log"));
                logs.append("node-").append(i).append(":\n");
                lines.subList(Math.max(0, lines.size() - 20), lines.size())
                        .forEach(line -> logs.append("  ").append(line).append('\n'));
            } catch (IOException e) {
                logs.append("node-").append(i).append(" has no log\n");
            }
        }
        return logs.toString();
    }

    private static void signal(ServiceProcess node, String signal) throws Exception {
        assertThat(new ProcessBuilder("kill", "-" + signal, String.valueOf(node.pid()))
                        .start()
                        .waitFor())
                .isZero();
    }

    /** Those of a build from before are replaced first, and with none of its own kind beside it a node need not understand it. */
    @Test
    @Order(1)
    void nodesAreReplacedWithoutOneFailedRequest() throws Exception {
        load.goOn();
        for (int each = 0; each < NODES; each++) {
            int i = each;
            untilDown(i, RUNNING[i]::close);
            untilUp(i, () -> RUNNING[i] = node(i, PROJECT));
        }
        load.goOn();
        assertThat(load.failed()).as(NodesIT::logs).isEmpty();
        awaitStates(List.of(0, 1, 2), "node-1 serving", "node-2 serving", "node-3 serving");
    }

    @Test
    @Order(2)
    void aNodeThatIsKilledTakesNoMoreThanWhatItHadUnderWay() throws Exception {
        load.forget();
        untilDown(0, RUNNING[0]::kill);
        load.goOn();
        assertThat(load.failed()).as(NodesIT::logs).hasSizeLessThanOrEqualTo(NodesLoad.CALLERS);
        load.forget();
        awaitStates(List.of(1, 2), "node-1 silent", "node-2 serving", "node-3 serving");
        untilUp(0, () -> RUNNING[0] = node(0, PROJECT));
        load.goOn();
        assertThat(load.failed()).as(NodesIT::logs).isEmpty();
    }

    /** It keeps its connections and answers none; when it goes on, it ends what it had. */
    @Test
    @Order(3)
    void aNodeThatHangsHoldsUpNoMoreThanWhatItHadUnderWay() throws Exception {
        load.forget();
        try {
            // those who called it wait for it; whoever comes is sent to the others
            untilDown(1, () -> signal(RUNNING[1], "STOP"));
            for (int i = 0; i < 60; i++) {
                assertThat(get(balancer.address() + "/api/moorings/v1/berths/17")
                                .statusCode())
                        .isEqualTo(200);
            }
        } finally {
            untilUp(1, () -> signal(RUNNING[1], "CONT"));
        }
        load.goOn();
        assertThat(load.failed()).as(NodesIT::logs).hasSizeLessThanOrEqualTo(NodesLoad.CALLERS);
        load.forget();
        load.goOn();
        assertThat(load.failed()).as(NodesIT::logs).isEmpty();
    }

    @Test
    @Order(4)
    void aReleaseIsLiveOnAllNodes() throws Exception {
        load.forget();
        Path module = Files.createDirectories(folder.resolve("work/modules/tides/v1"));
        Files.writeString(
                folder.resolve("work/workspace.yaml"), "workspace: Test\nsources:\n  waterways: { kind: mariadb }\n");
        Files.writeString(module.resolve("tide.sql"), "select 1 as tide");
        Files.writeString(module.resolve("module.yaml"), """
                module: tides
                version: 1.0.0
                title: Tides
                source: waterways
                public: true
                accept: { open-to-everybody: a test }
                routes:
                  /tide: { get: { about: The tide, sql: tide.sql, answer: value } }
                """);
        tidy("publish", "--folder", folder.resolve("work").toString());
        for (int port : PORTS) {
            Until.seen(
                    () -> get("http://127.0.0.1:" + port + "/api/tides/v1/tide").statusCode(), status -> status == 200);
        }
        for (int i = 0; i < 2 * NODES; i++) {
            assertThat(tidy("modules"))
                    .as("whichever node answers the management API")
                    .contains("tides/v1");
        }
        for (int port : PORTS) {
            awaitAt(port, NodesIT::changes, equallyFar -> equallyFar.size() == 1);
        }
        assertThat(load.failed()).as(NodesIT::logs).isEmpty();
    }

    /** A sign-in, a link and what was just given work on whichever node comes next. */
    @Test
    @Order(5)
    void whatOneNodeGaveOutWorksOnTheOthers() throws Exception {
        for (int i = 0; i < 2 * NODES; i++) {
            String name = "keeper-" + i;
            tidy(
                    "client",
                    "set",
                    name,
                    "--owner",
                    "Locks",
                    "--contact",
                    "locks@marrowby.example",
                    "--give",
                    "toll-clerk");
            String key = tidy("client", "add-credential", name, "first").strip();
            HttpResponse<String> toll = HTTP.send(
                    HttpRequest.newBuilder(
                                    URI.create(balancer.address() + "/api/tolls/v1/vessels/MW-10000/locks/3/toll"))
                            .header("Authorization", "Bearer " + key)
                            .build(),
                    HttpResponse.BodyHandlers.ofString());
            assertThat(toll.statusCode()).as(toll.body()).isEqualTo(200);
        }
        String next = balancer.address() + "/api/passages/v1/passages?limit=5";
        for (int i = 0; i < 2 * NODES; i++) {
            HttpResponse<String> page = get(next);
            assertThat(page.statusCode()).as(page.body()).isEqualTo(200);
            next = balancer.address() + "/api/passages/v1/passages?limit=5&after="
                    + JsonMapper.shared()
                            .readTree(page.body())
                            .path("page")
                            .path("next")
                            .asString()
                            .replaceFirst("(?s).*after=", "");
        }
    }

    @Test
    @Order(6)
    void noWriteIsLostAndNoneIsDoubled() throws Exception {
        load.end();
        assertThat(load.written()).hasSizeGreaterThan(50);
        List<String> there = new ArrayList<>();
        try (Connection connection = database.connect(DemoDatabase.SOURCE_SCHEMA);
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery(
                        "select date_format(passed_at, '%Y-%m-%dT%H:%i:%s') from lock_passage where passed_at >= '2040-01-01' order by 1")) {
            while (rows.next()) {
                there.add(rows.getString(1));
            }
        }
        assertThat(there).containsExactlyElementsOf(load.written());
    }
}
