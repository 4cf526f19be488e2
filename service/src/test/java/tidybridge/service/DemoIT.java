package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import tidybridge.demo.Until;

/** {@code ./tidy demo} as people start it, in a state folder of its own. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class DemoIT {

    private static final Path LAUNCHER = Path.of("..", "tidy").toAbsolutePath().normalize();
    private static final Path STATE = Path.of("target", "demo-state").toAbsolutePath();
    private static final HttpClient HTTP = HttpClient.newHttpClient();

    private static int port;
    private static String history;

    private record Ended(int code, String output) {}

    @BeforeAll
    static void choosePort() throws Exception {
        ServiceArchive.make();
        try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            port = socket.getLocalPort();
        }
    }

    @AfterAll
    static void stop() throws Exception {
        tidy("stop");
    }

    private static void surround(ProcessBuilder builder) {
        builder.environment().put("TIDY_BUILT", "1");
        builder.environment().put("TIDY_STATE", STATE.toString());
        // what runs for a minute is sooner there without the second compiler
        builder.environment().put("TIDY_JVM", "-XX:TieredStopAtLevel=1");
        builder.environment().put("TIDY_PORT", String.valueOf(port));
    }

    private static Ended tidy(String... words) throws Exception {
        List<String> command = new ArrayList<>(List.of(LAUNCHER.toString()));
        command.addAll(List.of(words));
        ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true);
        surround(builder);
        Path output = Files.createTempFile("tidy", ".out");
        Process process = builder.redirectOutput(output.toFile()).start();
        assertThat(process.waitFor(5, TimeUnit.MINUTES)).isTrue();
        Ended ended = new Ended(process.exitValue(), Files.readString(output));
        Files.delete(output);
        return ended;
    }

    private static HttpResponse<String> get(String address) throws Exception {
        return HTTP.send(HttpRequest.newBuilder(URI.create(address)).build(), HttpResponse.BodyHandlers.ofString());
    }

    private static String find(String text, String pattern) {
        Matcher matcher = Pattern.compile(pattern).matcher(text);
        assertThat(matcher.find()).as("%s in %s", pattern, text).isTrue();
        return matcher.group(1);
    }

    /** Processes that were started with a path in the state folder on their command line. */
    private static List<String> processesOfTheDemo() {
        return ProcessHandle.allProcesses()
                .filter(process -> commandLine(process).contains(STATE.toString()))
                .map(DemoIT::commandLine)
                .toList();
    }

    private static String commandLine(ProcessHandle process) {
        try {
            return Files.readString(Path.of("/proc", String.valueOf(process.pid()), "cmdline"))
                    .replace('\0', ' ');
        } catch (IOException e) {
            return "";
        }
    }

    @Test
    @Order(1)
    void aTakenPortIsOneSentenceAndLeavesNothingBehind() throws Exception {
        try (ServerSocket taken = new ServerSocket(port, 1, InetAddress.getByName("127.0.0.1"))) {
            assertThat(taken.isBound()).isTrue();
            Ended ended = tidy("demo", "--background");
            assertThat(ended.code()).isNotZero();
            assertThat(ended.output().strip())
                    .isEqualTo("tidy: Port " + port
                            + " is taken by another program; stop it, or choose another with TIDY_PORT=" + (port + 1)
                            + ".");
        }
        assertThat(processesOfTheDemo()).isEmpty();
    }

    @Test
    @Order(2)
    void aFreshStartEndsWithLinesThatWork() throws Exception {
        Ended started = tidy("demo", "--background", "--fresh");
        assertThat(started.code()).as(started.output()).isZero();
        HttpResponse<String> call = get(find(started.output(), "A call +curl '([^']+)'"));
        assertThat(call.statusCode()).isEqualTo(200);
        assertThat(call.body()).startsWith("{\"data\":[{\"id\":");
        assertThat(get(find(started.output(), "Reference +curl '([^']+)'")).body())
                .startsWith("openapi: 3.1.0");
        HttpResponse<String> console = get(find(started.output(), "Console +(\\S+)"));
        assertThat(console.body()).contains("<div id=\"root\"></div>");
        assertThat(tidy("modules").output()).contains("moorings/v1", "passages/v1", "tolls/v1");
        history = tidy("history", "moorings/v1").output();
    }

    @Test
    @Order(3)
    void aSecondDemoOfTheSameCheckoutIsRefused() throws Exception {
        assertThat(tidy("demo", "--background").output().strip())
                .isEqualTo("tidy: The demo of this checkout runs already; type './tidy stop' to end it.");
    }

    @Test
    @Order(4)
    void stopEndsEverythingItStarted() throws Exception {
        assertThat(processesOfTheDemo()).hasSize(3);
        assertThat(tidy("stop").output()).isEqualTo("The demo is stopped.\n");
        assertThat(processesOfTheDemo()).isEmpty();
        assertThat(tidy("stop").output()).isEqualTo("No demo of this checkout is running.\n");
    }

    @Test
    @Order(5)
    void aSecondStartKeepsWhatWasPublished() throws Exception {
        Ended started = tidy("demo", "--background");
        assertThat(started.code()).as(started.output()).isZero();
        assertThat(tidy("history", "moorings/v1").output()).isEqualTo(history);
        assertThat(Files.readString(Path.of("/proc", processOfTheService(), "maps")))
                .as("a cache that does not fit would be passed over silently")
                .contains("service.aot");
        assertThat(get("http://127.0.0.1:" + port + "/api/passages/v1/passages/1")
                        .statusCode())
                .isEqualTo(200);
    }

    private static String processOfTheService() throws IOException {
        return Files.readString(STATE.resolve("demo/service.pid"));
    }

    /** On the demo's heap of 256 MB: four of the first kind at once, or eighty of the second, left a dead process behind. */
    @Test
    @Order(6)
    void aSmallHeapSurvivesWhateverIsSent() throws Exception {
        String before = processOfTheService();
        String objects = "{\"note\":[" + "{},".repeat(1_398_000) + "{}]}";
        try (ExecutorService callers = Executors.newVirtualThreadPerTaskExecutor()) {
            List<Future<Integer>> sent = new ArrayList<>();
            for (int i = 0; i < 20; i++) {
                sent.add(callers.submit(() -> HTTP.send(
                                HttpRequest.newBuilder(
                                                URI.create("http://127.0.0.1:" + port + "/api/moorings/v1/bookings"))
                                        .header("Content-Type", "application/json")
                                        .header("Authorization", "Bearer " + key("quay-display"))
                                        .POST(HttpRequest.BodyPublishers.ofString(objects))
                                        .build(),
                                HttpResponse.BodyHandlers.ofString())
                        .statusCode()));
            }
            for (Future<Integer> status : sent) {
                assertThat(status.get()).isIn(400, 503);
            }
        }
        List<Wire> unfinished = new ArrayList<>();
        try (ExecutorService callers = Executors.newVirtualThreadPerTaskExecutor()) {
            for (int i = 0; i < 80; i++) {
                Wire wire = new Wire(port);
                unfinished.add(wire);
                callers.submit(() -> wire.send(
                        "POST /api/moorings/v1/berths/search HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\n"
                                + "Content-Length: 4000000\r\n\r\n" + " ".repeat(3_900_000)));
            }
            assertThat(get("http://127.0.0.1:" + port + "/api/passages/v1/passages/1")
                            .statusCode())
                    .isEqualTo(200);
            for (Wire wire : unfinished) {
                assertThat(wire.answer()).startsWith("HTTP/1.1 ").containsAnyOf("body-slow", "/problems/busy");
            }
        } finally {
            for (Wire wire : unfinished) {
                wire.close();
            }
        }
        assertThat(processOfTheService()).as("the same process goes on").isEqualTo(before);
        assertThat(get("http://127.0.0.1:" + port + "/api/passages/v1/passages/1")
                        .statusCode())
                .isEqualTo(200);
        assertThat(Files.readString(STATE.resolve("demo/service.log"))).doesNotContain("Exception", "OutOfMemory");
    }

    /** What the demo made for one of its applications. */
    private static String key(String client) throws IOException {
        return Files.readString(STATE.resolve("demo/keys").resolve(client)).strip();
    }

    /** Keys of requests, and what was answered to them before the node died; an empty text for no answer. */
    private record Sent(Map<Integer, String> answers) {}

    private static HttpResponse<String> pass(int number) throws Exception {
        LocalDateTime at = LocalDateTime.of(2040, 1, 1, 0, 0).plusMinutes(number);
        String body =
                "{\"lockId\":3,\"registration\":\"MW-10084\",\"direction\":\"up\",\"passedAt\":\"" + at + ":00\"}";
        return HTTP.send(
                HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/passages/v1/passages"))
                        .header("Content-Type", "application/json")
                        .header("Authorization", "Bearer " + key("lock-tablet"))
                        .header("Idempotency-Key", "passage-" + number)
                        .POST(HttpRequest.BodyPublishers.ofString(body))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    /** Writes on several threads until the service is gone. */
    private static Sent writeUntilKilled() throws Exception {
        Map<Integer, String> answers = new ConcurrentHashMap<>();
        AtomicInteger next = new AtomicInteger();
        List<Future<?>> writers = new ArrayList<>();
        try (ExecutorService threads = Executors.newFixedThreadPool(8)) {
            for (int i = 0; i < 8; i++) {
                writers.add(threads.submit(() -> {
                    for (boolean there = true; there; ) {
                        int number = next.getAndIncrement();
                        answers.put(number, "");
                        try {
                            HttpResponse<String> answer = pass(number);
                            assertThat(answer.statusCode()).as(answer.body()).isEqualTo(201);
                            answers.put(number, answer.body());
                        } catch (IOException e) {
                            there = false;
                        }
                    }
                    return null;
                }));
            }
            Until.holds(() -> answers.size() >= 300 || writers.stream().anyMatch(Future::isDone));
            long pid = Long.parseLong(
                    Files.readString(STATE.resolve("demo/service.pid")).strip());
            ProcessHandle.of(pid).orElseThrow().destroyForcibly();
        }
        for (Future<?> writer : writers) {
            writer.get();
        }
        return new Sent(answers);
    }

    @Test
    @Order(7)
    void aNodeKilledUnderWriteLoadLosesNothingAndDoublesNothing() throws Exception {
        Sent sent = writeUntilKilled();
        assertThat(sent.answers().values()).as("cut off").contains("");
        Until.holds(() -> processesOfTheDemo().isEmpty());
        assertThat(tidy("demo", "--background").code()).isZero();
        for (Map.Entry<Integer, String> one : sent.answers().entrySet()) {
            HttpResponse<String> again = Until.seen(() -> pass(one.getKey()), answer -> answer.statusCode() != 409);
            assertThat(again.statusCode()).as(again.body()).isEqualTo(201);
            if (!one.getValue().isEmpty()) {
                assertThat(again.body()).as("acknowledged before").isEqualTo(one.getValue());
            }
        }
        String page = get("http://127.0.0.1:" + port
                        + "/api/passages/v1/passages?vessel=MW-10084&since=2040-01-01T00:00:00&limit=1000")
                .body();
        assertThat(page.split("\"passed_at\"", -1))
                .as("rows, one for each key")
                .hasSize(sent.answers().size() + 1);
    }

    /** The next start is one in the foreground. */
    @Test
    @Order(8)
    void aKilledDemoIsTidiedUpByTheNextStartAndControlCStopsEverythingQuietly() throws Exception {
        long pid =
                Long.parseLong(Files.readString(STATE.resolve("demo/demo.pid")).strip());
        ProcessHandle demo = ProcessHandle.of(pid).orElseThrow();
        demo.destroyForcibly();
        demo.onExit().join();
        assertThat(processesOfTheDemo()).as("left behind").hasSize(2);
        Path output = Files.createTempFile("tidy", ".out");
        ProcessBuilder builder =
                // what runs in the background has the signal ignored, and hands that on to what it starts
                new ProcessBuilder("env", "--default-signal=INT", "setsid", "--wait", LAUNCHER.toString(), "demo")
                        .redirectErrorStream(true);
        surround(builder);
        Process foreground = builder.redirectOutput(output.toFile()).start();
        Until.holds(() -> Files.readString(output).contains("To stop") || !foreground.isAlive());
        assertThat(foreground.isAlive()).as(Files.readString(output)).isTrue();
        assertThat(processesOfTheDemo()).hasSize(3);
        String group = Files.readString(STATE.resolve("demo/demo.pid")).strip();
        // a terminal sends the signal to every process of the foreground group, not to the first alone
        assertThat(new ProcessBuilder("kill", "-INT", "--", "-" + group).start().waitFor())
                .isZero();
        foreground.onExit().join();
        assertThat(processesOfTheDemo()).isEmpty();
        assertThat(Files.readString(output)).doesNotContain("tidy:").doesNotContain("Exception");
    }

    @Test
    @Order(9)
    void aBrokenDataDirectoryIsOneSentenceAndLeavesNothingBehind() throws Exception {
        Path log = STATE.resolve("demo/mariadb/data/ibdata1");
        Files.writeString(log, "this is no tablespace");
        Ended ended = tidy("demo", "--background");
        assertThat(ended.code()).isNotZero();
        assertThat(ended.output()).contains("tidy: MariaDB stopped while starting; ");
        assertThat(processesOfTheDemo()).isEmpty();
    }
}
