package tidybridge.service;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import tidybridge.core.access.Role;
import tidybridge.core.definition.WorkspaceReader;
import tidybridge.core.finding.Findings;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.TestFolder;
import tidybridge.service.access.HashCost;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The whole service on loopback, over a real MariaDB, spoken to through HTTP only. */
final class RunningService implements AutoCloseable {

    static final Path WORKSPACE = Path.of("..", "demo", "workspace");

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final HttpClient HTTP =
            HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();

    private final ConfigurableApplicationContext context;
    private final Path home;
    private final String schema;
    private final int port;

    private RunningService(ConfigurableApplicationContext context, Path home, String schema) {
        this.context = context;
        this.home = home;
        this.schema = schema;
        this.port = Integer.parseInt(String.valueOf(context.getEnvironment().getProperty("local.server.port")));
    }

    /** Starts with empty records, and with parts of a test's own. */
    static RunningService fresh(Class<?>... parts) throws Exception {
        TestDatabase.emptyRecords();
        return start(DemoDatabase.RECORDS_SCHEMA, TestFolder.of("home"), parts);
    }

    /** Starts over the records that are there. */
    static RunningService start() throws Exception {
        return start(DemoDatabase.RECORDS_SCHEMA, TestFolder.of("home"));
    }

    /** Starts with empty records in a schema of its own, in nobody's way. */
    static RunningService apart(String schema) throws Exception {
        TestDatabase.emptyRecords(schema);
        return start(schema, TestFolder.of("home-" + schema));
    }

    /** Starts with empty records and with settings of a test's own. */
    static RunningService with(String... settings) throws Exception {
        String schema = "tidy_records_with";
        TestDatabase.emptyRecords(schema);
        return start(schema, TestFolder.of("home-" + schema), List.of(settings));
    }

    /** Starts another over the same records. */
    RunningService beside() throws Exception {
        return start(schema, TestFolder.of("home-" + schema + "-2"));
    }

    /** Starts one over the records and the home of this one, which has ended. */
    RunningService again() throws Exception {
        return start(schema, home);
    }

    private static RunningService start(String schema, Path folder, Class<?>... parts) throws Exception {
        return start(schema, folder, List.of(), parts);
    }

    private static RunningService start(String schema, Path folder, List<String> more, Class<?>... parts)
            throws Exception {
        Path home = Files.createDirectories(folder);
        Path secret = home.resolve("database.secret");
        Files.writeString(secret, TestDatabase.PASSWORD + "\n");
        Files.writeString(home.resolve("workspace.yaml"), workspace(""));
        List<String> settings =
                new ArrayList<>(List.of("--server.port=0", "--tidy.home=" + home, "--tidy.workspace=" + home));
        // what is counted or stopped at a database must not meet calls that no test has made
        if (more.stream().noneMatch(setting -> setting.startsWith("--tidy.examples="))) {
            settings.add("--tidy.examples=false");
        }
        database(settings, "tidy.records", schema, schema, secret);
        settings.addAll(more);
        ConfigurableApplicationContext context =
                // what still runs at the end of the tests ends with the process
                new SpringApplicationBuilder(Main.class)
                        .sources(parts)
                        .sources(CheapHashes.class)
                        .registerShutdownHook(false)
                        .run(settings.toArray(String[]::new));
        return new RunningService(context, home, schema);
    }

    /**
     * One with a source of its own beside the usual ones.
     *
     * @param schema its name, and that of the source
     * @param privileges what the source's user may do there, {@code select, insert}
     */
    static RunningService withSource(String schema, String privileges) throws Exception {
        TestDatabase.execute(
                "", "grant " + privileges + " on " + schema + ".* to " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'");
        RunningService service = with();
        Files.writeString(service.home().resolve("workspace.yaml"), workspace("""
                  %s:
                    host: 127.0.0.1
                    port: %d
                    schema: %s
                    user: %s
                    secret: { file: database.secret }
                    read-only: false
                """.formatted(
                        schema, TestDatabase.server().port(), schema, DemoDatabase.SOURCE_USER)));
        HttpResponse<String> reloaded = service.post("/desk/sources/reload", Map.of());
        if (reloaded.statusCode() != 200) {
            throw new IllegalStateException(reloaded.body());
        }
        return service;
    }

    /** The text that defines the source all tests use, with more below it. */
    static String workspace(String more) {
        return """
                workspace: Tests
                sources:
                  waterways:
                    about: The demo's own data
                    host: 127.0.0.1
                    port: %d
                    schema: %s
                    user: %s
                    secret: { file: database.secret }
                    read-only: false
                """.formatted(TestDatabase.server().port(), DemoDatabase.SOURCE_SCHEMA, DemoDatabase.SOURCE_USER) + more;
    }

    /** Passwords are guessed by nobody here, and are checked some thousand times. */
    @Configuration(proxyBeanMethods = false)
    static class CheapHashes {
        @Bean
        HashCost cost() {
            return new HashCost(64, 1);
        }
    }

    private static void database(List<String> settings, String prefix, String schema, String user, Path secret) {
        settings.add("--" + prefix + ".host=127.0.0.1");
        settings.add("--" + prefix + ".port=" + TestDatabase.server().port());
        settings.add("--" + prefix + ".schema=" + schema);
        settings.add("--" + prefix + ".user=" + user);
        settings.add("--" + prefix + ".secret-file=" + secret);
    }

    int port() {
        return port;
    }

    String address() {
        return "http://127.0.0.1:" + port();
    }

    Path home() {
        return home.toAbsolutePath();
    }

    String token() throws Exception {
        return Files.readString(home.resolve("administrator.token")).strip();
    }

    ConfigurableApplicationContext context() {
        return context;
    }

    HttpRequest.Builder request(String path) {
        return HttpRequest.newBuilder(URI.create(address() + path));
    }

    static HttpResponse<String> send(HttpRequest.Builder request) throws Exception {
        return HTTP.send(request.build(), HttpResponse.BodyHandlers.ofString(StandardCharsets.UTF_8));
    }

    /** Sends a body, of JSON unless a header says otherwise; the headers are names and values in turn. */
    HttpResponse<String> send(String method, String path, String body, String... headers) throws Exception {
        HttpRequest.Builder request = request(path)
                .method(
                        method,
                        body.isEmpty()
                                ? HttpRequest.BodyPublishers.noBody()
                                : HttpRequest.BodyPublishers.ofString(body));
        if (!body.isEmpty()) {
            request.header("Content-Type", "application/json");
        }
        for (int i = 0; i < headers.length; i += 2) {
            request.setHeader(headers[i], headers[i + 1]);
        }
        return send(request);
    }

    HttpResponse<String> get(String path) throws Exception {
        return send(request(path));
    }

    JsonNode json(String path) throws Exception {
        return json(get(path));
    }

    static JsonNode json(HttpResponse<String> response) {
        return JSON.readTree(response.body());
    }

    /** Header fields, with those that show who the administrator is. */
    String[] signed(String... headers) throws Exception {
        List<String> all = new ArrayList<>(List.of(headers));
        all.addAll(List.of("Authorization", "Bearer " + token()));
        return all.toArray(String[]::new);
    }

    HttpResponse<String> desk(String path) throws Exception {
        return send(request(path).header("Authorization", "Bearer " + token()));
    }

    HttpResponse<String> post(String path, Object body) throws Exception {
        return send(request(path)
                .header("Authorization", "Bearer " + token())
                .header("Content-Type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofString(JSON.writeValueAsString(body))));
    }

    /** Publishes one module from its text. */
    HttpResponse<String> publish(String yaml, Map<String, String> statements) throws Exception {
        return publish(yaml, statements, Map.of());
    }

    /** Publishes one module although it breaks what its callers were promised. */
    HttpResponse<String> publishBreaking(String yaml, Map<String, String> statements, String reason) throws Exception {
        return publish(yaml, statements, Map.of("breaking", reason));
    }

    private HttpResponse<String> publish(String yaml, Map<String, String> statements, Map<String, String> words)
            throws Exception {
        Map<String, String> files = new LinkedHashMap<>(statements);
        files.put("module.yaml", yaml);
        Map<String, Object> request = new LinkedHashMap<>(words);
        request.put("by", "tests");
        request.put("modules", List.of(Map.of("folder", "modules/test", "files", files)));
        return post("/desk/releases", request);
    }

    /** Publishes the demo's workspace, unless all of it is live already. */
    void publishDemo() throws Exception {
        String live = desk("/desk/modules").body();
        if (Stream.of("moorings", "passages", "tolls").allMatch(module -> isLive(module, live))) {
            return;
        }
        List<Map<String, Object>> modules = new ArrayList<>();
        for (String module : new String[] {"moorings", "passages", "tolls"}) {
            Path folder = WORKSPACE.resolve("modules").resolve(module).resolve("v1");
            Map<String, String> files = new LinkedHashMap<>();
            try (var paths = Files.walk(folder).filter(Files::isRegularFile)) {
                for (Path file : paths.sorted().toList()) {
                    files.put(folder.relativize(file).toString(), Files.readString(file));
                }
            }
            modules.add(Map.of("folder", "modules/" + module + "/v1", "files", files));
        }
        List<Role> roles =
                WorkspaceReader.read(WORKSPACE, new Findings()).orElseThrow().roles();
        HttpResponse<String> response =
                post("/desk/releases", Map.of("by", "tests", "workspace", "Demo", "roles", roles, "modules", modules));
        if (response.statusCode() != 200) {
            throw new AssertionError("the demo could not be published: " + response.body());
        }
    }

    private static boolean isLive(String module, String live) {
        try {
            String text = Files.readString(
                    WORKSPACE.resolve("modules").resolve(module).resolve("v1").resolve("module.yaml"));
            String version = text.replaceFirst("(?s).*?\nversion: (\\S+)\n.*", "$1");
            return JSON.readTree(live)
                    .path("modules")
                    .valueStream()
                    .anyMatch(one -> one.path("name").asString().equals(module)
                            && one.path("version").asString().equals(version)
                            && one.path("served").asBoolean());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Override
    public void close() {
        context.close();
    }
}
