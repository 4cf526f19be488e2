package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import com.networknt.schema.InputFormat;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.net.Socket;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.snakeyaml.engine.v2.api.Load;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class DeskTest {

    private static final String YAML = """
            module: berths
            version: 1.0.0
            title: Berths
            source: waterways
            routes:
              /{id}:
                get:
                  about: One berth
                  sql: berth.sql
                  answer: row
                  parameters: { id: { in: path, type: integer } }
            """;
    private static final Map<String, String> SQL = Map.of("berth.sql", "select id, berth_no from berth where id = :id");

    @RegisterExtension
    static final DemoService DEMO = new DemoService();

    private static HttpResponse<String> signIn(String body, String origin) throws Exception {
        return RunningService.send(DEMO.running()
                .request("/desk/sessions")
                .header("Content-Type", "application/json")
                .header("Origin", origin)
                .POST(HttpRequest.BodyPublishers.ofString(body)));
    }

    private static String cookie(HttpResponse<String> response) {
        return response.headers().firstValue("Set-Cookie").orElseThrow().replaceFirst(";.*", "");
    }

    @Test
    void theTokenIsKeptForItsOwnerOnly() throws Exception {
        assertThat(PosixFilePermissions.toString(
                        Files.getPosixFilePermissions(DEMO.running().home().resolve("administrator.token"))))
                .isEqualTo("rw-------");
    }

    @Test
    void withoutCredentialEveryCallIsRefused() throws Exception {
        for (String path :
                new String[] {"/desk/modules", "/desk/status", "/desk/releases", "/desk/openapi.yaml", "/desk/nowhere"
                }) {
            HttpResponse<String> response = DEMO.running().get(path);
            assertThat(response.statusCode()).as(path).isEqualTo(401);
            assertThat(response.headers().firstValue("Content-Type")).hasValue("application/problem+json");
        }
    }

    @Test
    void theSchemasOfTheTextFilesAreServedToEditors() throws Exception {
        for (String file : new String[] {"module.schema.json", "workspace.schema.json"}) {
            HttpResponse<String> response = DEMO.running().get("/schemas/" + file);
            assertThat(response.statusCode()).isEqualTo(200);
            assertThat(response.headers().firstValue("Content-Type")).hasValue("application/schema+json");
            assertThat(RunningService.json(response).path("$schema").asString()).contains("2020-12");
        }
        assertThat(DEMO.running().get("/schemas/other.json").statusCode()).isEqualTo(404);
    }

    @Test
    void aForeignNameForThisMachineIsRefused() throws Exception {
        try (Socket socket = new Socket("127.0.0.1", DEMO.running().port())) {
            String request = "GET /desk/modules HTTP/1.1\r\nHost: rebound.example\r\nAuthorization: Bearer "
                    + DEMO.running().token() + "\r\nConnection: close\r\n\r\n";
            socket.getOutputStream().write(request.getBytes(StandardCharsets.US_ASCII));
            assertThat(new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8))
                    .startsWith("HTTP/1.1 421");
        }
    }

    @Test
    void aCodeSignsInOnceAndItsCookieReadsTheDesk() throws Exception {
        String code = RunningService.json(DEMO.running().post("/desk/sign-in-codes", Map.of()))
                .path("code")
                .asString();
        HttpResponse<String> entered =
                signIn("{\"code\":\"" + code + "\"}", DEMO.running().address());
        assertThat(entered.statusCode()).isEqualTo(204);
        assertThat(entered.headers().firstValue("Set-Cookie").orElseThrow()).contains("HttpOnly", "SameSite=Strict");
        HttpResponse<String> modules =
                RunningService.send(DEMO.running().request("/desk/modules").header("Cookie", cookie(entered)));
        assertThat(modules.statusCode()).isEqualTo(200);
        assertThat(signIn("{\"code\":\"" + code + "\"}", DEMO.running().address())
                        .statusCode())
                .isEqualTo(401);
    }

    private static HttpResponse<String> closed(String method, String cookie, String... headers) throws Exception {
        String[] all = Arrays.copyOf(headers, headers.length + 2);
        all[headers.length] = "Cookie";
        all[headers.length + 1] = cookie;
        return DEMO.running().send(method, "/api/shut/v1/1", "", all);
    }

    /** A form on another port of this machine gets the cookie too: only the browser's own word tells the pages apart. */
    @Test
    void aCookieOpensClosedModulesToTheConsolesOwnPagesOnly() throws Exception {
        assertThat(DEMO.running()
                        .publish(YAML.replace("module: berths", "module: shut"), SQL)
                        .statusCode())
                .isEqualTo(200);
        String cookie = cookie(signIn(
                "{\"token\":\"" + DEMO.running().token() + "\"}", DEMO.running().address()));
        String own = DEMO.running().address();
        assertThat(closed("GET", cookie).statusCode()).as("no proof").isEqualTo(401);
        for (String site : List.of("cross-site", "same-site", "anything")) {
            assertThat(closed("GET", cookie, "Sec-Fetch-Site", site, "Origin", own)
                            .statusCode())
                    .as(site)
                    .isEqualTo(401);
        }
        for (String origin : List.of("http://127.0.0.1:1", "https://evil.example", "null", "::")) {
            assertThat(closed("GET", cookie, "Origin", origin).statusCode())
                    .as(origin)
                    .isEqualTo(401);
            assertThat(closed("POST", cookie, "Origin", origin).statusCode())
                    .as(origin)
                    .isEqualTo(401);
        }
        assertThat(closed("GET", cookie, "Sec-Fetch-Site", "same-origin").statusCode())
                .isEqualTo(200);
        assertThat(closed("GET", cookie, "Sec-Fetch-Site", "none").statusCode())
                .as("a typed address")
                .isEqualTo(200);
        assertThat(closed("POST", cookie, "Sec-Fetch-Site", "none").statusCode())
                .isEqualTo(401);
        assertThat(closed("GET", cookie, "Origin", own).statusCode()).isEqualTo(200);
    }

    /** Another page's name that is pointed at this machine. */
    @Test
    void theServiceAnswersToItsOwnNamesOnly() throws Exception {
        for (String path : List.of("/api/moorings/v1/berths/17", "/", "/desk/modules", "/problems/bad-input")) {
            try (Wire wire = new Wire(DEMO.running().port())) {
                wire.send("GET " + path + " HTTP/1.1\r\nHost: rebound.example\r\n\r\n");
                assertThat(wire.answer()).startsWith("HTTP/1.1 421").contains("/problems/host-unknown");
            }
            for (String host : List.of("localhost", "127.0.0.1:8480", "[::1]", "LOCALHOST")) {
                try (Wire wire = new Wire(DEMO.running().port())) {
                    wire.send("GET " + path + " HTTP/1.1\r\nHost: " + host + "\r\n\r\n");
                    assertThat(wire.answer()).doesNotStartWith("HTTP/1.1 421");
                }
            }
        }
    }

    @Test
    void aClosedModuleIsNotNamedToStrangers() throws Exception {
        assertThat(DEMO.running()
                        .publish(YAML.replace("module: berths", "module: hidden"), SQL)
                        .statusCode())
                .isEqualTo(200);
        for (String path : List.of("/api/hidden/v2/x", "/api/hiden/v1/x", "/api/hidden/x")) {
            HttpResponse<String> stranger = DEMO.running().get(path);
            assertThat(stranger.statusCode()).isEqualTo(404);
            assertThat(stranger.body()).as(path).doesNotContain("hidden");
        }
        assertThat(DEMO.running().desk("/api/hidden/v2/x").body()).contains("published as hidden/v1");
    }

    @Test
    void pagesRunCodeOfTheirOwnOnly() throws Exception {
        for (String path : List.of("/", "/modules", "/assets/none.js", "/desk/modules")) {
            HttpResponse<String> page = DEMO.running().get(path);
            assertThat(page.headers().firstValue("X-Content-Type-Options"))
                    .as(path)
                    .hasValue("nosniff");
            assertThat(page.headers().firstValue("Content-Security-Policy").orElse(""))
                    .as(path)
                    .contains("default-src 'none'", "script-src 'self';", "frame-ancestors 'none'");
        }
    }

    @Test
    void aCookieChangesThingsFromTheConsolesOwnPagesOnly() throws Exception {
        String cookie = cookie(signIn(
                "{\"token\":\"" + DEMO.running().token() + "\"}", DEMO.running().address()));
        HttpRequest.Builder foreign = DEMO.running()
                .request("/desk/sign-in-codes")
                .header("Cookie", cookie)
                .header("Origin", "http://127.0.0.1:1")
                .POST(HttpRequest.BodyPublishers.noBody());
        assertThat(RunningService.send(foreign).statusCode()).isEqualTo(403);
        HttpRequest.Builder without = DEMO.running()
                .request("/desk/sign-in-codes")
                .header("Cookie", cookie)
                .POST(HttpRequest.BodyPublishers.noBody());
        assertThat(RunningService.send(without).statusCode()).isEqualTo(403);
        HttpRequest.Builder own = DEMO.running()
                .request("/desk/sessions/current")
                .header("Cookie", cookie)
                .header("Origin", DEMO.running().address())
                .DELETE();
        assertThat(RunningService.send(own).statusCode()).isEqualTo(204);
        assertThat(RunningService.send(DEMO.running().request("/desk/modules").header("Cookie", cookie))
                        .statusCode())
                .isEqualTo(401);
    }

    @Test
    void aWrongTokenIsRefused() throws Exception {
        assertThat(signIn("{\"token\":\"guess\"}", DEMO.running().address()).statusCode())
                .isEqualTo(401);
        assertThat(signIn("{", DEMO.running().address()).statusCode()).isEqualTo(400);
        assertThat(signIn("{\"other\":1}", DEMO.running().address()).statusCode())
                .isEqualTo(400);
    }

    @Test
    void modulesTellTheirOperationsWithSqlParametersAndFields() throws Exception {
        JsonNode module = RunningService.json(DEMO.running().desk("/desk/modules/moorings/v1"));
        JsonNode operation = module.path("operations").get(1);
        assertThat(operation.path("path").asString()).isEqualTo("/berths");
        assertThat(operation.path("sql").asString()).contains("-- when :basin");
        assertThat(operation.path("parameters").get(0).path("example").asString())
                .isEqualTo("2031-05-01");
        assertThat(operation.path("fields").get(3).toString())
                .isEqualTo("{\"name\":\"length_m\",\"type\":\"decimal\",\"nullable\":false,\"masked\":false}");
        assertThat(DEMO.running().desk("/desk/modules/moorings/v7").statusCode())
                .isEqualTo(404);
    }

    @Test
    void publishingIsRefusedWithEveryFinding() throws Exception {
        HttpResponse<String> response =
                DEMO.running().publish(YAML, Map.of("berth.sql", "select id, berth_number from berth where id = :id"));
        assertThat(response.statusCode()).isEqualTo(422);
        JsonNode finding = RunningService.json(response).path("findings").get(0);
        assertThat(finding.path("code").asString()).isEqualTo("statement-refused");
        assertThat(finding.path("message").asString()).contains("Unknown column 'berth_number'");
        assertThat(finding.path("file").asString()).isEqualTo("modules/test/berth.sql");
        assertThat(DEMO.running().desk("/api/berths/v1/1").statusCode()).isEqualTo(404);
        JsonNode unknown =
                RunningService.json(DEMO.running().publish(YAML.replace("source: waterways", "source: waterway"), SQL));
        assertThat(unknown.path("findings").get(0).path("message").asString()).contains("Did you mean 'waterways'?");
    }

    @Test
    void oneUnfitModuleKeepsAllOfARequestBack() throws Exception {
        String good = YAML.replace("module: berths", "module: good");
        HttpResponse<String> response = DEMO.running()
                .post(
                        "/desk/releases",
                        Map.of(
                                "modules",
                                List.of(
                                        Map.of("files", Map.of("module.yaml", good, "berth.sql", SQL.get("berth.sql"))),
                                        Map.of(
                                                "files",
                                                Map.of(
                                                        "module.yaml",
                                                        YAML,
                                                        "berth.sql",
                                                        "select nothing from nowhere")))));
        assertThat(response.statusCode()).isEqualTo(422);
        assertThat(DEMO.running().desk("/api/good/v1/1").statusCode()).isEqualTo(404);
    }

    @Test
    void aPublishedVersionNeverChanges() throws Exception {
        String yaml = YAML.replace("module: berths", "module: stays");
        assertThat(DEMO.running().publish(yaml, SQL).statusCode()).isEqualTo(200);
        assertThat(DEMO.running().publish(yaml, SQL).body()).contains("\"outcome\":\"unchanged\"");
        HttpResponse<String> changed = DEMO.running().publish(yaml.replace("title: Berths", "title: Other"), SQL);
        assertThat(changed.statusCode()).isEqualTo(409);
        assertThat(RunningService.json(changed).path("detail").asString()).contains("raise 'version'");
        assertThat(DEMO.running().publish(yaml.replace("1.0.0", "1.1.0"), SQL).body())
                .contains("\"outcome\":\"published\"");
        assertThat(DEMO.running().publish(yaml, SQL).body()).contains("\"outcome\":\"live-again\"");
    }

    @Test
    void nonsenseIsRefusedInWords() throws Exception {
        assertThat(DEMO.running().post("/desk/releases", Map.of()).statusCode()).isEqualTo(400);
        assertThat(DEMO.running()
                        .post("/desk/releases", Map.of("modules", List.of()))
                        .statusCode())
                .isEqualTo(400);
        assertThat(DEMO.running()
                        .post("/desk/releases", Map.of("modules", List.of(Map.of("files", Map.of("a.sql", "x")))))
                        .statusCode())
                .isEqualTo(400);
        Map<String, Object> twin = Map.of("files", Map.of("module.yaml", YAML, "berth.sql", SQL.get("berth.sql")));
        assertThat(DEMO.running()
                        .post("/desk/releases", Map.of("modules", List.of(twin, twin)))
                        .statusCode())
                .isEqualTo(409);
        HttpRequest.Builder text = DEMO.running()
                .request("/desk/releases")
                .header("Authorization", "Bearer " + DEMO.running().token())
                .header("Content-Type", "text/plain")
                .POST(HttpRequest.BodyPublishers.ofString("x"));
        assertThat(RunningService.send(text).statusCode()).isEqualTo(415);
    }

    @Test
    void itsDescriptionIsValidAndNamesEveryCall() throws Exception {
        Object yaml = new Load(LoadSettings.builder().build())
                .loadFromString(DEMO.running().desk("/desk/openapi.yaml").body());
        JsonNode description = JsonMapper.shared().valueToTree(yaml);
        try (var official = DeskTest.class.getResourceAsStream("/tidybridge/core/reference/openapi-3.1.schema.json")) {
            var schema = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
                    .getSchema(official);
            assertThat(schema.validate(description.toString(), InputFormat.JSON))
                    .isEmpty();
        }
        Set<String> described = new TreeSet<>();
        description
                .path("paths")
                .properties()
                .forEach(path -> path.getValue()
                        .propertyNames()
                        .forEach(method -> described.add(method.toUpperCase() + " " + path.getKey())));
        Set<String> mapped = new TreeSet<>();
        DEMO.running()
                .context()
                .getBean("requestMappingHandlerMapping", RequestMappingHandlerMapping.class)
                .getHandlerMethods()
                .keySet()
                .forEach(mapping -> {
                    for (String pattern : mapping.getPatternValues()) {
                        mapping.getMethodsCondition()
                                .getMethods()
                                .forEach(method ->
                                        mapped.add(method + " " + pattern.replaceAll(":[^/{}]*(\\{[^}]*})?}", "}")));
                    }
                });
        mapped.removeIf(call -> !call.contains(" /desk/") || call.endsWith("openapi.yaml"));
        assertThat(described).isEqualTo(mapped);
    }
}
