package tidybridge.core.sample;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.File;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import tools.jackson.databind.json.JsonMapper;

/** What is copied from a reference is run, and what arrives is what was meant. */
class CodeLanguageTest {

    private static final String NASTY = "it's \"new\" \\n \\\\ $HOME ${x} `y` %s \"\"\" <?php ä \u2028 end";

    private static HttpServer server;
    private static String origin;
    private static volatile String arrived = "";

    @TempDir
    private Path folder;

    @BeforeAll
    static void listen() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/", CodeLanguageTest::answer);
        server.start();
        origin = "http://127.0.0.1:" + server.getAddress().getPort();
    }

    @AfterAll
    static void stop() {
        server.stop(0);
    }

    private static void answer(HttpExchange exchange) throws IOException {
        String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
        arrived = exchange.getRequestMethod() + " " + exchange.getRequestURI() + "\n"
                + exchange.getRequestHeaders().getFirst("Authorization") + "\n"
                + exchange.getRequestHeaders().getFirst("X-Quay") + "\n" + body;
        byte[] said = "understood".getBytes(StandardCharsets.UTF_8);
        exchange.sendResponseHeaders(200, said.length);
        exchange.getResponseBody().write(said);
        exchange.close();
    }

    private static List<SampleCall> calls() {
        Map<String, String> headers = new LinkedHashMap<>();
        headers.put("X-Quay", "'north' $1 \"pier\"");
        headers.put("Content-Type", "application/json");
        String object = JsonLines.of(JsonMapper.shared()
                .createObjectNode()
                .put("note", NASTY + "\nand more\t")
                .put("tonnes", 12));
        return List.of(
                new SampleCall("GET", "/api/quays/v1/cranes?name=a%27b&x=%24y", Map.of(), null, false),
                new SampleCall("POST", "/api/quays/v1/cranes", headers, object, true),
                new SampleCall(
                        "PUT",
                        "/api/quays/v1/cranes/1",
                        Map.of("Content-Type", "application/x-www-form-urlencoded"),
                        "name=it%27s&x=$y",
                        true));
    }

    /** How a language runs a file; empty where it has no toolchain of its own. */
    private List<String> command(CodeLanguage language, Path file) {
        return switch (language) {
            case CURL -> List.of("sh", file.toString());
            case JAVA ->
                // compiling one file is cheaper without the second compiler
                List.of(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-XX:TieredStopAtLevel=1",
                        file.toString());
            case JAVASCRIPT -> List.of("node", file.toString());
            case PYTHON -> List.of("python3", file.toString());
            case GO -> List.of("go", "run", file.toString());
            case PHP -> List.of("php", file.toString());
            case KOTLIN ->
                List.of(
                        "sh",
                        "-c",
                        "kotlinc Call.kt -include-runtime -d k.jar && " + System.getProperty("java.home")
                                + "/bin/java -cp k.jar CallKt");
            case CSHARP, HTTP -> List.of();
        };
    }

    private static String fileName(CodeLanguage language) {
        return switch (language) {
            case CURL -> "call.sh";
            case JAVA -> "Call.java";
            case JAVASCRIPT -> "call.mjs";
            case PYTHON -> "call.py";
            case GO -> "call.go";
            case PHP -> "call.php";
            case KOTLIN -> "Call.kt";
            case CSHARP -> "Call.cs";
            case HTTP -> "call.http";
        };
    }

    private static String tool(CodeLanguage language) {
        return switch (language) {
            case CURL -> "curl";
            case JAVA, JAVASCRIPT -> "node";
            case PYTHON -> "python3";
            case GO -> "go";
            case PHP -> "php";
            case KOTLIN -> "kotlinc";
            case CSHARP, HTTP -> "";
        };
    }

    private static boolean isAtHand(String tool) {
        return Stream.of(System.getenv("PATH").split(File.pathSeparator))
                .anyMatch(place -> Files.isExecutable(Path.of(place, tool)));
    }

    @ParameterizedTest
    @EnumSource(
            value = CodeLanguage.class,
            mode = EnumSource.Mode.EXCLUDE,
            names = {"HTTP", "CSHARP"})
    void whatIsCopiedCallsWhatWasMeant(CodeLanguage language) throws Exception {
        assumeTrue(isAtHand(tool(language)), tool(language) + " is not on this machine");
        if (language == CodeLanguage.KOTLIN) {
            assumeTrue(run(language, "fun main() = println(1)").startsWith("1"), "kotlinc does not run with this Java");
        }
        for (SampleCall call : calls()) {
            arrived = "";
            String said = run(language, language.write(call, origin));
            assertThat(said).as(language.write(call, origin)).contains("understood");
            String[] lines = arrived.split("\n", 4);
            assertThat(lines[0]).isEqualTo(call.method() + " " + call.path());
            assertThat(lines[1]).isEqualTo(call.secret() ? "Bearer k-1" : "null");
            assertThat(lines[2]).isEqualTo(String.valueOf(call.headers().get("X-Quay")));
            if (language == CodeLanguage.JAVASCRIPT && call.method().equals("POST")) {
                var mapper = JsonMapper.shared();
                assertThat(mapper.readTree(lines[3])).isEqualTo(mapper.readTree(call.body()));
            } else {
                assertThat(lines[3]).isEqualTo(call.body() == null ? "" : call.body());
            }
        }
    }

    /** What a program writes. */
    private String run(CodeLanguage language, String code) throws Exception {
        Path file = folder.resolve(fileName(language));
        Files.writeString(file, code);
        Path output = folder.resolve("output");
        ProcessBuilder run = new ProcessBuilder(command(language, file))
                .directory(folder.toFile())
                .redirectErrorStream(true)
                .redirectOutput(output.toFile());
        run.environment().put("BRIDGE_KEY", "k-1");
        run.environment().put("GOCACHE", folder.resolve("go").toString());
        if (language == CodeLanguage.KOTLIN) {
            // it chooses a Java of its own
            run.environment().remove("JAVA_HOME");
        }
        Process process = run.start();
        assertThat(process.waitFor(180, TimeUnit.SECONDS)).isTrue();
        return Files.readString(output).replaceAll("OpenJDK .* warning: .*\\R", "");
    }

    @ParameterizedTest
    @EnumSource(CodeLanguage.class)
    void noCodeHasTheKeyItself(CodeLanguage language) {
        for (SampleCall call : calls()) {
            String code = language.write(call, origin);
            assertThat(code).contains(origin + call.path());
            assertThat(code.contains("Authorization")).isEqualTo(call.secret());
        }
    }
}
