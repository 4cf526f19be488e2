package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What the audit trail tells of everything that was done. */
class AuditTest {

    private static final Situation DOORS = new Situation("doors");

    private static final String PASSWORD = "a rather long sentence";

    private static RunningService service;
    private static Callers callers;
    private static String clerk;
    private static String token;

    @BeforeAll
    static void start() throws Exception {
        service = RunningService.apart("tidy_records_audited");
        callers = new Callers(service);
        clerk = callers.person(PASSWORD, "administrator");
        token = callers.token(clerk, PASSWORD);
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static HttpResponse<String> as(String method, String path, Object body) throws Exception {
        return service.send(
                method,
                path,
                body == null ? "" : JsonMapper.shared().writeValueAsString(body),
                "Authorization",
                "Bearer " + token);
    }

    private static List<JsonNode> found(String query) throws Exception {
        HttpResponse<String> response = service.desk("/desk/audit?" + query);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        List<JsonNode> entries = new ArrayList<>();
        RunningService.json(response).path("entries").forEach(entries::add);
        return entries;
    }

    private static JsonNode last(String query) throws Exception {
        return found(query).getFirst();
    }

    private static String text(JsonNode entry, String field) {
        return entry.path(field).asString("");
    }

    @Test
    void changesOfAccessAreToldWithTheStatesBeforeAndAfter() throws Exception {
        String role = Callers.fresh("audited");
        as("PUT", "/desk/roles/" + role, Map.of("holds", List.of("doors.read")));
        JsonNode made = last("subject=" + role);
        assertThat(text(made, "who")).isEqualTo(clerk);
        assertThat(text(made, "address")).isEqualTo("127.0.0.1");
        assertThat(text(made, "action")).isEqualTo("set-role");
        assertThat(made.has("before")).isFalse();
        assertThat(text(made, "after")).isEqualTo("{\"about\":null,\"holds\":[\"doors.read\"]}");
        as("PUT", "/desk/roles/" + role, Map.of("holds", List.of("doors.*")));
        assertThat(text(last("subject=" + role), "before")).isEqualTo(text(made, "after"));
        String client = Callers.fresh("audited");
        Map<String, Object> application = Map.of(
                "owner",
                "Office",
                "contact",
                "a@marrowby.example",
                "roles",
                List.of(role),
                "quota",
                Map.of("calls", 9));
        assertThat(as("PUT", "/desk/clients/" + client, application).statusCode())
                .isEqualTo(200);
        JsonNode key =
                RunningService.json(as("POST", "/desk/clients/" + client + "/credentials", Map.of("name", "first")));
        as("DELETE", "/desk/clients/" + client + "/credentials/first", null);
        as("DELETE", "/desk/clients/" + client, null);
        List<JsonNode> ofClient = found("subject=" + client);
        assertThat(ofClient)
                .extracting(entry -> text(entry, "action"))
                .containsExactly("remove-client", "revoke-credential", "add-credential", "set-client");
        assertThat(text(ofClient.getLast(), "after")).contains("\"quota\":\"9 calls in 60 s\"", "\"owner\":\"Office\"");
        assertThat(text(ofClient.getFirst(), "before")).isEqualTo(text(ofClient.getLast(), "after"));
        assertThat(ofClient.toString())
                .doesNotContain(key.path("key").asString().substring(21));
        as("DELETE", "/desk/roles/" + role, null);
        assertThat(last("subject=" + role).has("after")).isFalse();
    }

    @Test
    void releasesAndRehearsalsAreTold() throws Exception {
        String yaml = DOORS.yaml().replace("module: doors", "module: audited");
        assertThat(service.publish(yaml, DOORS.statements()).statusCode()).isEqualTo(200);
        assertThat(service.publish(yaml, DOORS.statements()).statusCode()).isEqualTo(200);
        assertThat(service.publish(yaml.replace("version: 1.0.0", "version: 1.0.1"), DOORS.statements())
                        .statusCode())
                .isEqualTo(200);
        List<JsonNode> releases = found("subject=audited/v1&action=publish");
        assertThat(releases).as("what changed nothing is not told").hasSize(2);
        assertThat(text(releases.getFirst(), "before")).startsWith("[\"1.0.0\",");
        assertThat(text(releases.getFirst(), "after")).startsWith("[\"1.0.1\",");
        assertThat(text(releases.getFirst(), "address")).isEqualTo("127.0.0.1");
    }

    @Test
    void signInsAreToldAndThoseThatFailedToo() throws Exception {
        String person = callers.person(PASSWORD);
        callers.token(person, PASSWORD);
        callers.signIn(Map.of("name", person, "password", "wrong, wrong, wrong"));
        List<JsonNode> entries = found("subject=" + person);
        assertThat(entries)
                .extracting(entry -> text(entry, "action"))
                .contains("sign-in-refused", "sign-in", "choose-password", "make-link", "set-person");
        assertThat(entries.getFirst().toString())
                .contains("\"address\":\"127.0.0.1\"")
                .doesNotContain("wrong, wrong");
    }

    @Test
    void refusedCallsOfTheManagementApiAreToldWithoutWhatWasSent() throws Exception {
        String reader = callers.person(PASSWORD, "reviewer");
        String weak = callers.token(reader, PASSWORD);
        HttpResponse<String> refused =
                service.send("PUT", "/desk/roles/secretly", "{\"holds\":[\"a.b\"]}", "Authorization", "Bearer " + weak);
        assertThat(refused.statusCode()).isEqualTo(403);
        JsonNode entry = last("who=" + reader + "&action=refused");
        assertThat(text(entry, "subject")).isEqualTo("PUT /desk/roles/{name}");
        String id = RunningService.json(refused).path("requestId").asString();
        assertThat(text(entry, "detail")).isEqualTo("403 privilege-needed, request " + id);
    }

    @Test
    void strangersWhoAreRefusedAgainAndAgainFillNoTableAndHideNobody() throws Exception {
        service.send("GET", "/desk/nonsense-of-a-stranger", "", "Authorization", "Bearer nonsense");
        JsonNode stranger = last("action=refused");
        assertThat(text(stranger, "subject")).isEqualTo("GET /desk");
        assertThat(text(stranger, "who")).isEqualTo("somebody unknown");
        assertThat(stranger.toString()).doesNotContain("nonsense");
        for (int i = 0; i < 300; i++) {
            service.send("GET", "/desk/modules", "", "Authorization", "Bearer nonsense");
        }
        assertThat(found("action=refused&limit=1000&who=somebody+unknown").size())
                .isEqualTo(100);
        String weak = callers.token(callers.person(PASSWORD), PASSWORD);
        service.send("GET", "/desk/modules", "", "Authorization", "Bearer " + weak);
        assertThat(text(last("action=refused"), "who")).startsWith("person-");
    }

    @Test
    void sourcesAndSettingsAreToldWhenTheyChange() throws Exception {
        assertThat(found("action=set-settings")).isNotEmpty();
        JsonNode source = last("action=set-source&subject=waterways");
        assertThat(text(source, "who")).isEqualTo("the service");
        assertThat(text(source, "after")).contains("\"schema\":\"waterways\"").doesNotContain(TestDatabase.PASSWORD);
        Path workspace = service.home().resolve("workspace.yaml");
        String text = Files.readString(workspace);
        try {
            Files.writeString(workspace, text + "    connections: 7\n");
            assertThat(as("POST", "/desk/sources/reload", Map.of()).statusCode())
                    .isEqualTo(200);
            JsonNode changed = last("action=set-source&subject=waterways");
            assertThat(text(changed, "who")).isEqualTo(clerk);
            assertThat(text(changed, "after")).contains("\"connections\":7");
            assertThat(text(changed, "before")).isEqualTo(text(source, "after"));
        } finally {
            Files.writeString(workspace, text);
            as("POST", "/desk/sources/reload", Map.of());
        }
    }

    @Test
    void exportsHoldEverythingThatIsWantedAndHarmNoSpreadsheet() throws Exception {
        String role = Callers.fresh("exported");
        for (int i = 0; i < 3; i++) {
            as(
                    "PUT",
                    "/desk/roles/" + role,
                    Map.of("about", "a, \"quoted\" one", "holds", List.of("doors.read" + "x".repeat(i))));
        }
        HttpResponse<String> csv = service.desk("/desk/audit/export?format=csv&subject=" + role);
        assertThat(csv.headers().firstValue("Content-Type").orElse("")).startsWith("text/csv");
        assertThat(csv.headers().firstValue("Content-Disposition").orElse("")).contains("audit.csv");
        assertThat(csv.body().lines())
                .hasSize(4)
                .first()
                .isEqualTo("entry,at,who,address,action,subject,detail,before,after,sha256");
        assertThat(csv.body()).contains("\"{\"\"about\"\":\"\"a, \\\"\"quoted\\\"\" one\"\"");
        HttpResponse<String> lines = service.desk("/desk/audit/export?format=ndjson&subject=" + role);
        assertThat(lines.body()
                        .lines()
                        .map(line -> JsonMapper.shared().readTree(line))
                        .toList())
                .hasSize(3)
                .allSatisfy(entry -> assertThat(text(entry, "subject")).isEqualTo(role));
        service.send("POST", "/desk/sessions", "{\"name\":\"=1+1\",\"password\":\"whatever it is\"}");
        assertThat(service.desk("/desk/audit/export?format=csv&action=sign-in-refused")
                        .body())
                .doesNotContain(",=1+1");
    }

    @Test
    void whatCannotBeMeantIsRefused() throws Exception {
        for (String wrong : List.of(
                "?limit=0",
                "?limit=1001",
                "?limit=x",
                "?from=yesterday",
                "?before=first",
                "/export?format=xlsx",
                "/check?noted=1")) {
            HttpResponse<String> response = service.desk("/desk/audit" + wrong);
            assertThat(response.statusCode()).as(wrong + response.body()).isEqualTo(400);
        }
    }

    @Test
    void theCommandsListExportAndCheck() throws Exception {
        Launched here = new Launched(service);
        Launched.Ended listed = here.tidy("audit", "list", "--who", clerk, "--most", "3");
        assertThat(listed.code()).as(listed.err()).isZero();
        assertThat(listed.out()).contains("Action", clerk);
        Path file = Files.createTempDirectory("audit").resolve("audit.ndjson");
        assertThat(here.asProcess()
                        .tidy("audit", "export", "--to", file.toString(), "--from", "2020-01-01")
                        .code())
                .isZero();
        assertThat(Files.readAllLines(file).size()).isGreaterThan(3);
        Launched.Ended checked = here.tidy("audit", "check");
        assertThat(checked.code()).as(checked.out()).isZero();
        assertThat(checked.out()).startsWith("The audit trail is whole: ");
        String noted = checked.out().strip().replaceFirst("(?s).* is ", "");
        assertThat(here.tidy("audit", "check", "--noted", noted).code()).isZero();
        String other = noted.substring(0, noted.length() - 1) + (noted.endsWith("0") ? "1" : "0");
        assertThat(here.tidy("audit", "check", "--noted", other).code()).isEqualTo(1);
    }
}
