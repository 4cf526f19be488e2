package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.modelcontextprotocol.client.McpClient;
import io.modelcontextprotocol.client.McpSyncClient;
import io.modelcontextprotocol.client.transport.HttpClientStreamableHttpTransport;
import io.modelcontextprotocol.spec.McpSchema;
import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ThreadLocalRandom;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Assistants use modules as tools: driven by the protocol's own client library, and by hand where that would never send such a thing. */
class AssistantsTest {

    @RegisterExtension
    static final Situation ANSWERS = new Situation("answers");

    @RegisterExtension
    static final Situation STORES = new Situation("stores");

    @RegisterExtension
    static final Situation ROUTINES = new Situation("routines");

    @RegisterExtension
    static final Situation DOORS = new Situation("doors");

    private static final JsonMapper JSON = JsonMapper.shared();

    private static RunningService service;
    private static Callers callers;

    private final List<McpSyncClient> open = new ArrayList<>();

    @BeforeAll
    static void start() throws Exception {
        service = SharedService.get();
        service.publishDemo();
        callers = new Callers(service);
    }

    @AfterEach
    void leave() {
        open.forEach(McpSyncClient::close);
    }

    /** @param secret empty for none */
    private McpSyncClient assistant(String module, String secret) {
        var transport = HttpClientStreamableHttpTransport.builder(service.address())
                .endpoint("/mcp/" + module)
                .httpRequestCustomizer((request, method, address, body, context) -> {
                    if (!secret.isEmpty()) {
                        request.setHeader("Authorization", "Bearer " + secret);
                    }
                })
                .build();
        McpSyncClient client =
                McpClient.sync(transport).requestTimeout(Duration.ofSeconds(20)).build();
        open.add(client);
        return client;
    }

    private static McpSchema.CallToolResult use(McpSyncClient client, String tool, Map<String, Object> arguments) {
        return client.callTool(new McpSchema.CallToolRequest(tool, arguments));
    }

    private static String text(McpSchema.CallToolResult result, int index) {
        return ((McpSchema.TextContent) result.content().get(index)).text();
    }

    private static JsonNode json(McpSchema.CallToolResult result) {
        return JSON.readTree(text(result, 0));
    }

    private static List<String> names(McpSyncClient client) {
        return client.listTools().tools().stream().map(McpSchema.Tool::name).toList();
    }

    private static String tool(McpSyncClient client, String title) {
        return client.listTools().tools().stream()
                .filter(tool -> tool.title().equals(title))
                .findFirst()
                .orElseThrow()
                .name();
    }

    private HttpResponse<String> message(String module, String body, String... headers) throws Exception {
        List<String> all = new ArrayList<>(List.of("Content-Type", "application/json"));
        all.addAll(List.of(headers));
        return service.send("POST", "/mcp/" + module, body, all.toArray(String[]::new));
    }

    private static String asked(String method, String parameters) {
        return "{\"jsonrpc\": \"2.0\", \"id\": 7, \"method\": \"" + method + "\", \"params\": " + parameters + "}";
    }

    @Test
    void aStrangerFindsWhatIsPublicAndUsesIt() throws Exception {
        McpSyncClient client = assistant("moorings/v1", "");
        McpSchema.InitializeResult greeting = client.initialize();
        assertThat(greeting.serverInfo().name()).isEqualTo("moorings/v1");
        assertThat(greeting.serverInfo().version()).isEqualTo("1.2.0");
        assertThat(greeting.instructions())
                .contains("Berths and bookings", service.address() + "/reference/moorings/v1");
        client.ping();
        assertThat(client.listTools().tools())
                .allSatisfy(
                        tool -> assertThat(tool.annotations().readOnlyHint()).isTrue())
                .extracting(McpSchema.Tool::title)
                .contains("Berths free for a whole stay", "One berth")
                .doesNotContain("One booking with its berth, vessel and skipper");
        String berths = tool(client, "Berths free for a whole stay");
        Map<String, Object> asked = new LinkedHashMap<>(Map.of("from", "2031-05-01", "until", "2031-05-04"));
        asked.putAll(Map.of("nightly_rate", Map.of("lte", 20), "sort", "-nightly_rate", "limit", 3));
        McpSchema.CallToolResult page = use(client, berths, asked);
        assertThat(page.isError()).as(text(page, 0)).isFalse();
        JsonNode called = service.json(
                "/api/moorings/v1/berths?from=2031-05-01&until=2031-05-04&sort=-nightly_rate&nightly_rate%5Blte%5D=20&limit=3");
        assertThat(json(page)).isEqualTo(called);
        assertThat(JSON.<JsonNode>valueToTree(page.structuredContent())).isEqualTo(called);
        asked.put("after", called.path("page").path("after").asString());
        JsonNode next = json(use(client, berths, asked));
        assertThat(next.path("data").path(0)).isNotEqualTo(called.path("data").path(0));
    }

    @Test
    void aRefusalSaysWhatToDo() {
        McpSyncClient client = assistant("moorings/v1", "");
        client.initialize();
        String berths = tool(client, "Berths free for a whole stay");
        McpSchema.CallToolResult missing = use(client, berths, Map.of("from", "2031-05-01"));
        assertThat(missing.isError()).isTrue();
        assertThat(json(missing).path("status").asInt()).isEqualTo(400);
        assertThat(text(missing, 0)).contains("until", "requestId");
        McpSchema.CallToolResult strange = use(client, berths, Map.of("form", "2031-05-01"));
        assertThat(strange.isError()).isTrue();
        assertThat(text(strange, 0)).startsWith("The tool takes no 'form'; it takes from, until,");
        assertThatThrownBy(() -> use(client, "nothing-like-it", Map.of())).hasMessageContaining("no tool of that name");
    }

    /** Every read of modules that were not made for it, with the examples of their texts: what a tool gives is what the call gives. */
    @ParameterizedTest
    @ValueSource(
            strings = {"moorings/v1", "passages/v1", "tolls/v1", "answers/v1", "stores/v1", "routines/v1", "doors/v1"})
    void whatAToolGivesIsWhatTheCallGives(String module) throws Exception {
        McpSyncClient client = assistant(module, service.token());
        client.initialize();
        JsonNode paths = RunningService.json(
                        service.send("GET", "/api/" + module + "/openapi.json", "", service.signed()))
                .path("paths");
        int compared = 0;
        for (McpSchema.Tool tool : client.listTools().tools()) {
            JsonNode input = JSON.valueToTree(tool.inputSchema());
            assertThat(input.toString()).doesNotContain("$ref");
            String path = paths.propertyNames().stream()
                    .filter(name -> paths.path(name)
                            .path("get")
                            .path("operationId")
                            .asString("")
                            .equals(tool.name()))
                    .findFirst()
                    .orElse(null);
            if (path == null) {
                continue;
            }
            Map<String, Object> arguments = new LinkedHashMap<>();
            List<String> query = new ArrayList<>();
            for (JsonNode parameter : paths.path(path).path("get").path("parameters")) {
                String name = parameter.path("name").asString();
                JsonNode example = parameter.path("example");
                boolean taken =
                        !example.isMissingNode() && input.path("properties").has(name);
                if (taken && parameter.path("in").asString().equals("path")) {
                    arguments.put(name, JSON.treeToValue(example, Object.class));
                    path = path.replace("{" + name + "}", encoded(example));
                } else if (taken && parameter.path("in").asString().equals("query")) {
                    arguments.put(name, JSON.treeToValue(example, Object.class));
                    for (JsonNode item : example.isArray() ? example : List.of(example)) {
                        query.add(name + "=" + encoded(item));
                    }
                }
            }
            String address = "/api/" + module + path + (query.isEmpty() ? "" : "?" + String.join("&", query));
            HttpResponse<String> called =
                    service.send("GET", address, "", service.signed("Accept", "application/json"));
            McpSchema.CallToolResult used = use(client, tool.name(), arguments);
            assertThat(used.isError()).as(address).isEqualTo(called.statusCode() >= 400);
            if (called.statusCode() == 200) {
                assertThat(withoutRequest(text(used, 0))).as(address).isEqualTo(withoutRequest(called.body()));
            }
            compared++;
        }
        assertThat(compared > 0 || module.equals("routines/v1"))
                .as(client.listTools().toString())
                .isTrue();
    }

    /** Some tell the name of the request, which is another one each time. */
    private static String withoutRequest(String body) {
        return body.replaceAll("[0-9a-f]{32}", "");
    }

    private static String encoded(JsonNode value) {
        return URLEncoder.encode(value.asString(), StandardCharsets.UTF_8).replace("+", "%20");
    }

    @Test
    void whoHoldsMoreFindsMoreAndFieldsStayMasked() throws Exception {
        McpSyncClient books = assistant("moorings/v1", callers.holding("moorings.book"));
        books.initialize();
        assertThat(names(books)).noneMatch(name -> name.startsWith("rehearse_"));
        McpSchema.Tool book = books.listTools().tools().stream()
                .filter(tool -> tool.title().equals("Book a berth for some nights"))
                .findFirst()
                .orElseThrow();
        assertThat(book.annotations().readOnlyHint()).isFalse();
        assertThat(book.annotations().destructiveHint()).isTrue();
        assertThat(books.listTools().tools())
                .extracting(McpSchema.Tool::title)
                .as("only what the text offers changes anything")
                .doesNotContain("Remove bookings that came to nothing, for good");
        String read = tool(books, "One booking with its berth, vessel and skipper");
        String masked = json(use(books, read, Map.of("bookingId", 12)))
                .path("skipper")
                .path("email")
                .asString();
        McpSyncClient knows = assistant("moorings/v1", callers.holding("moorings.book", "moorings.contacts"));
        knows.initialize();
        String whole = json(use(knows, read, Map.of("bookingId", 12)))
                .path("skipper")
                .path("email")
                .asString();
        assertThat(masked).contains("*").isNotEqualTo(whole);
    }

    @Test
    void aChangeIsRehearsedMadeReadAndGuarded() throws Exception {
        McpSyncClient client = assistant("moorings/v1", callers.holding("moorings.*", "tidy.rehearse"));
        client.initialize();
        String book = tool(client, "Book a berth for some nights");
        String year = String.valueOf(2100 + ThreadLocalRandom.current().nextInt(6000));
        Map<String, Object> stay = Map.of(
                "body", Map.of("berthId", 17, "vesselId", 42, "from", year + "-05-01", "until", year + "-05-04"));
        McpSchema.CallToolResult rehearsed = use(client, "rehearse_" + book, stay);
        assertThat(rehearsed.isError()).as(text(rehearsed, 0)).isFalse();
        assertThat(json(rehearsed).path("undone").asBoolean()).isTrue();
        assertThat(json(rehearsed).path("answer").path("status").asInt()).isEqualTo(201);
        assertThat(json(rehearsed).path("tables").path(0).path("inserted").asInt())
                .isEqualTo(1);
        assertThat(text(rehearsed, 0)).doesNotContain("\"rows\"");
        assertThat(service.desk("/desk/audit?limit=5").body()).contains("rehearse", "undone");

        McpSchema.CallToolResult made = use(client, book, stay);
        assertThat(made.isError()).as(text(made, 0)).isFalse();
        int id = json(made).path("id").asInt();
        assertThat(text(made, 1)).contains("Location: /api/moorings/v1/bookings/" + id);
        McpSchema.CallToolResult again = use(client, "rehearse_" + book, stay);
        assertThat(again.isError()).isTrue();
        assertThat(json(again).path("answer").path("status").asInt()).isEqualTo(409);

        McpSchema.CallToolResult read =
                use(client, tool(client, "One booking with its berth, vessel and skipper"), Map.of("bookingId", id));
        String tag = text(read, 1).replaceFirst("(?s).*ETag: ([^;]*).*", "$1");
        String change = tool(client, "Change the nights, the state or the note of a booking");
        Map<String, Object> note = Map.of("bookingId", id, "If-Match", tag, "body", Map.of("note", "By an assistant"));
        McpSchema.CallToolResult changed = use(client, change, note);
        assertThat(changed.isError()).as(text(changed, 0)).isFalse();
        assertThat(json(changed).path("note").asString()).isEqualTo("By an assistant");
        McpSchema.CallToolResult late = use(client, change, note);
        assertThat(late.isError()).isTrue();
        assertThat(json(late).path("status").asInt()).isEqualTo(412);
    }

    private static void publish(String yaml, String file, String sql) throws Exception {
        HttpResponse<String> published = service.publish(yaml, Map.of(file, sql));
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
    }

    @Test
    void quotasCountToolsAsCalls() throws Exception {
        String name = Callers.fresh("tides");
        String yaml = """
                module: %s
                version: 1.0.0
                title: Tides
                source: waterways
                public: true
                accept: { open-to-everybody: a test }
                routes:
                  /one:
                    get: { about: One, id: one, sql: one.sql, answer: value, quota: { calls: 2, per: 10m } }
                """.formatted(name);
        publish(yaml, "one.sql", "select 1 as n\n");
        McpSyncClient client = assistant(name + "/v1", callers.holding());
        client.initialize();
        assertThat(use(client, "one", Map.of()).isError()).isFalse();
        assertThat(use(client, "one", Map.of()).isError()).isFalse();
        McpSchema.CallToolResult third = use(client, "one", Map.of());
        assertThat(third.isError()).isTrue();
        assertThat(json(third).path("status").asInt()).isEqualTo(429);
        assertThat(text(third, 1)).contains("Retry-After");
    }

    /** What is larger than an assistant can read is refused in words, and what a message may cost is bounded. */
    @Test
    void answersAndMessagesHaveASize() throws Exception {
        String name = Callers.fresh("tides");
        String yaml = """
                module: %s
                version: 1.0.0
                title: Tides
                source: waterways
                public: true
                accept: { open-to-everybody: a test }
                routes:
                  /much:
                    get: { about: Much, id: much, sql: much.sql, answer: value, parameters: { n: { in: query, type: integer, required: true, example: 9 } } }
                """.formatted(name);
        publish(yaml, "much.sql", "select repeat('\"', :n) as much\n");
        McpSyncClient client = assistant(name + "/v1", "");
        client.initialize();
        assertThat(json(use(client, "much", Map.of("n", 200_000))).path("value").asString())
                .hasSize(200_000);
        McpSchema.CallToolResult large = use(client, "much", Map.of("n", 400_000));
        assertThat(large.isError()).isTrue();
        assertThat(text(large, 0)).contains("larger than 512 KiB");

        String many = "{\"a\": [" + "{},".repeat(90_000) + "{}]}";
        HttpResponse<String> tooLarge = message(name + "/v1", asked("tools/call", many));
        assertThat(tooLarge.statusCode()).as(tooLarge.body()).isEqualTo(413);
        String deep = "[".repeat(100_000);
        assertThat(message(name + "/v1", deep).statusCode()).isEqualTo(400);
        HttpResponse<String> full = message(
                name + "/v1",
                asked("tools/call", "{\"name\": \"much\", \"arguments\": {\"x\": [" + "{},".repeat(60_000) + "{}]}}"));
        assertThat(full.statusCode()).isEqualTo(200);
        assertThat(full.body()).contains("takes no 'x'");
    }

    @Test
    void aCredentialIsAskedForWhereOneIsNeeded() throws Exception {
        HttpResponse<String> closed = message("tolls/v1", asked("tools/list", "{}"));
        assertThat(closed.statusCode()).isEqualTo(401);
        assertThat(closed.headers().firstValue("WWW-Authenticate").orElseThrow())
                .startsWith("Bearer");
        McpSyncClient all = assistant("moorings/v1", service.token());
        all.initialize();
        String read = tool(all, "One booking with its berth, vessel and skipper");
        String call = asked("tools/call", "{\"name\": \"" + read + "\", \"arguments\": {\"bookingId\": 12}}");
        assertThat(message("moorings/v1", call).statusCode()).isEqualTo(401);
        assertThat(message("moorings/v1", call, "Authorization", "Bearer no-such-key")
                        .statusCode())
                .isEqualTo(401);
        HttpResponse<String> poor =
                message("moorings/v1", call, "Authorization", "Bearer " + callers.holding("tolls.read"));
        assertThat(poor.statusCode()).isEqualTo(200);
        assertThat(poor.body()).contains("\"isError\":true", "moorings.book");
        String person = callers.person("MaraHolt12", callers.role("moorings.book"));
        String cookie = callers.cookie(person, "MaraHolt12");
        assertThat(message("moorings/v1", call, "Cookie", cookie, "Sec-Fetch-Site", "same-origin")
                        .statusCode())
                .as("a cookie counts for nothing here")
                .isEqualTo(401);
        assertThat(message("moorings/v1", asked("tools/call", "{\"name\": \"rehearse_" + read + "\"}"))
                        .body())
                .contains("-32602");
        assertThat(message("no-such-module/v1", asked("tools/list", "{}")).statusCode())
                .isEqualTo(404);
        assertThat(message("moorings/v1/more", asked("tools/list", "{}")).statusCode())
                .isEqualTo(404);
    }

    @Test
    void theTransportIsKept() throws Exception {
        HttpResponse<String> stream = service.send("GET", "/mcp/moorings/v1", "", "Accept", "text/event-stream");
        assertThat(stream.statusCode()).isEqualTo(405);
        assertThat(stream.headers().firstValue("Allow")).contains("POST");
        HttpResponse<String> notified =
                message("moorings/v1", "{\"jsonrpc\": \"2.0\", \"method\": \"notifications/initialized\"}");
        assertThat(notified.statusCode()).isEqualTo(202);
        assertThat(notified.body()).isEmpty();
        assertThat(message("moorings/v1", "{\"jsonrpc\": \"2.0\", \"id\": 1, \"result\": {}}")
                        .statusCode())
                .isEqualTo(202);
        assertThat(message("moorings/v1", asked("prompts/list", "{}")).body()).contains("-32601", "\"id\":7");
        assertThat(message("moorings/v1", asked("tools/list", "{\"cursor\": \"999\"}"))
                        .body())
                .contains("-32602");
        for (String wrong : List.of(
                "[]",
                "[{\"jsonrpc\": \"2.0\", \"id\": 1, \"method\": \"ping\"}]",
                "{\"id\": 1, \"method\": \"ping\"}",
                "{\"jsonrpc\": \"2.0\", \"id\": null, \"method\": \"ping\"}",
                "{\"jsonrpc\": \"2.0\", \"id\": {}, \"method\": \"ping\"}",
                "{\"jsonrpc\": \"2.0\", \"id\": 1, \"id\": 2, \"method\": \"ping\"}",
                "{\"jsonrpc\": \"2.0\", \"id\": 1, \"method\": \"ping\", \"params\": [1]}",
                "{\"jsonrpc\": \"2.0\", \"id\": 1, \"method\": \"ping\"} {}",
                "",
                "no json")) {
            HttpResponse<String> answer = message("moorings/v1", wrong);
            assertThat(answer.statusCode()).as(wrong).isEqualTo(400);
            assertThat(JSON.readTree(answer.body()).path("error").path("code").asInt())
                    .as(wrong)
                    .isIn(-32_700, -32_600);
        }
        String ping = asked("ping", "{}");
        assertThat(message("moorings/v1", ping, "MCP-Protocol-Version", "2025-06-18")
                        .statusCode())
                .isEqualTo(200);
        assertThat(message("moorings/v1", ping, "MCP-Protocol-Version", "1999-01-01")
                        .statusCode())
                .isEqualTo(400);
        assertThat(message("moorings/v1", ping, "Origin", "https://elsewhere.example")
                        .statusCode())
                .isEqualTo(403);
        assertThat(message("moorings/v1", ping, "Origin", service.address()).statusCode())
                .isEqualTo(200);
        assertThat(service.send("POST", "/mcp/moorings/v1", ping, "Content-Type", "text/plain")
                        .statusCode())
                .isEqualTo(415);
        JsonNode older = JSON.readTree(message(
                        "moorings/v1",
                        asked("initialize", "{\"protocolVersion\": \"2024-11-05\", \"capabilities\": {}}"))
                .body());
        assertThat(older.path("result").path("protocolVersion").asString()).isEqualTo("2025-11-25");
    }
}
