package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.read.ListAppender;
import java.net.http.HttpResponse;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.slf4j.LoggerFactory;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;
import tidybridge.service.access.LiveAccess;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Roles, client applications and their keys: who may give them, and what they open. */
class AccessTest {

    private static final String PASSWORD = "seven herons on a lock beam";

    @RegisterExtension
    static final Situation DOORS = new Situation("doors");

    private final RunningService service = DOORS.service();
    private final Callers callers = new Callers(service);

    private static HttpResponse<String> get(String path, String key) throws Exception {
        return DOORS.send("GET", path, "", "Authorization", "Bearer " + key);
    }

    private HttpResponse<String> as(String key, String method, String path, Object body) throws Exception {
        return service.send(
                method,
                path,
                body == null ? "" : JsonMapper.shared().writeValueAsString(body),
                "Authorization",
                "Bearer " + key);
    }

    private static String said(HttpResponse<String> response, int status) {
        assertThat(response.statusCode()).as(response.body()).isEqualTo(status);
        return RunningService.json(response).path("detail").asString();
    }

    @Test
    void aKeyIsTakenAsATokenAndAsAPassword() throws Exception {
        String client = callers.client(callers.role("doors.read"));
        String key = callers.key(client, "first");
        assertThat(get("/look", key).statusCode()).isEqualTo(200);
        assertThat(DOORS.send("GET", "/look", "", "Authorization", Callers.basic(client, key))
                        .statusCode())
                .isEqualTo(200);
        assertThat(DOORS.send("GET", "/look", "", "Authorization", "bearer " + key)
                        .statusCode())
                .as("a scheme has no case")
                .isEqualTo(200);
        assertThat(DOORS.send("GET", "/look", "", "Authorization", Callers.basic(client + "x", key))
                        .statusCode())
                .isEqualTo(401);
    }

    @Test
    void keysChangeOverWithoutARefusedCall() throws Exception {
        String client = callers.client(callers.role("doors.read"));
        String old = callers.key(client, "winter");
        String next = callers.key(client, "spring");
        assertThat(get("/look", old).statusCode()).isEqualTo(200);
        assertThat(get("/look", next).statusCode()).isEqualTo(200);
        callers.revoke(client, "winter");
        assertThat(get("/look", old).statusCode()).as("at once").isEqualTo(401);
        assertThat(get("/look", next).statusCode()).isEqualTo(200);
    }

    @Test
    void theLastUseOfAKeyIsKept() throws Exception {
        String client = callers.client(callers.role("doors.read"));
        String key = callers.key(client, "first");
        callers.key(client, "second");
        get("/look", key);
        List<String> used = Until.seen(
                () -> TestDatabase.column("select name from tidy_records_shared.client_credential where client = '"
                        + client + "' and used_at is not null"),
                names -> !names.isEmpty());
        assertThat(used).containsExactly("first");
    }

    @Test
    void anApplicationCallsFromItsNetworksOnly() throws Exception {
        String role = callers.role("doors.read");
        String client = callers.client(role);
        String key = callers.key(client, "first");
        HttpResponse<String> unfit = from(client, role, "10.0.0.0/8", "the office");
        assertThat(said(unfit, 400)).contains("10.0.0.0/8");
        assertThat(from(client, role, "10.0.0.0/8", "2001:db8::/32").statusCode())
                .isEqualTo(200);
        assertThat(said(get("/look", key), 403)).contains("may not call from 127.0.0.1");
        assertThat(said(DOORS.send("GET", "/open", "", "Authorization", Callers.basic(client, key)), 403))
                .contains("may not call from");
        assertThat(from(client, role, "10.0.0.0/8", "127.0.0.0/24").statusCode())
                .isEqualTo(200);
        assertThat(get("/look", key).statusCode()).isEqualTo(200);
    }

    private HttpResponse<String> from(String client, String role, String... networks) throws Exception {
        return callers.desk(
                "PUT",
                "/desk/clients/" + client,
                Map.of(
                        "owner",
                        "Office",
                        "contact",
                        "a@marrowby.example",
                        "roles",
                        List.of(role),
                        "addresses",
                        List.of(networks)));
    }

    @Test
    void aModuleIsCalledFromItsNetworksOnly() throws Exception {
        String yaml = DOORS.yaml().replace("module: doors", "module: gates");
        assertThat(service.publish(yaml + "addresses: [10.0.0.0/8, '2001:db8::/32']\n", DOORS.statements())
                        .statusCode())
                .isEqualTo(200);
        String told = null;
        for (String path : List.of("/open", "/look", "/nowhere", "/openapi.json")) {
            for (String method : List.of("GET", "OPTIONS", "DELETE")) {
                String detail = said(service.send(method, "/api/gates/v1" + path, ""), 403);
                assertThat(told == null || told.equals(detail)).as(detail).isTrue();
                told = detail;
                assertThat(service.send(method, "/api/gates/v1" + path, "", service.signed())
                                .statusCode())
                        .as("an administrator from elsewhere")
                        .isEqualTo(403);
            }
        }
        assertThat(told)
                .isEqualTo(
                        "The module gates/v1 is not called from 127.0.0.1; its owner can add the address to its text.");
        String next = yaml.replace("version: 1.0.0", "version: 1.1.0") + "addresses: 127.0.0.1\n";
        assertThat(service.publishBreaking(next, DOORS.statements(), "the networks moved")
                        .statusCode())
                .isEqualTo(200);
        assertThat(service.get("/api/gates/v1/open").statusCode()).isEqualTo(200);
    }

    /** Whichever node made the change. */
    @Test
    void aRevokedKeyIsRefusedOnEveryNode() throws Exception {
        try (LiveAccess other = other()) {
            String client = callers.client(callers.role("doors.read"));
            callers.key(client, "first");
            Until.there(() -> other.now().client(client));
            callers.revoke(client, "first");
            Until.holds(() -> other.now().client(client).credentials().isEmpty());
        }
    }

    private LiveAccess other() {
        return LiveAccess.load(
                service.context().getBean(tidybridge.records.Records.class).access(), java.time.Clock.systemUTC());
    }

    @Test
    void nothingOfAModuleIsToldToWhoeverMayCallNothingOfIt() throws Exception {
        String key = callers.holding("stores.read");
        String told = null;
        for (String path : List.of("/look", "/nowhere", "/either", "/secrets/1", "/openapi.json")) {
            for (String method : List.of("GET", "DELETE", "OPTIONS", "POST")) {
                // what is open may be known
                HttpResponse<String> response = closed(method, path, "Authorization", "Bearer " + key);
                String detail = said(response, 403);
                assertThat(told == null || told.equals(detail))
                        .as(method + " " + path + ": " + detail)
                        .isTrue();
                told = detail;
                assertThat(response.headers().firstValue("Allow")).isEmpty();
                assertThat(said(closed(method, path), 401)).startsWith("The call needs a credential");
            }
        }
        assertThat(told).contains("'cellar.read'", "'cellar.write'");
    }

    /** The same routes in a module of which nothing is open. */
    private HttpResponse<String> closed(String method, String path, String... headers) throws Exception {
        if (service.desk("/desk/modules/cellar/v1").statusCode() == 404) {
            String yaml = DOORS.yaml()
                    .replace("module: doors", "module: cellar")
                    .replace("doors.", "cellar.")
                    .replace("public: true", "public: false");
            assertThat(service.publish(yaml, DOORS.statements()).statusCode()).isEqualTo(200);
        }
        return service.send(method, "/api/cellar/v1" + path, "", headers);
    }

    @Test
    void whoeverSeesAPartIsToldOfThatPart() throws Exception {
        String key = callers.holding("doors.read");
        assertThat(said(DOORS.send("POST", "/either", "{\"what\":\"a\"}", "Authorization", "Bearer " + key), 403))
                .isEqualTo("The operation asks for the privilege 'doors.write', which no role of '" + name(key)
                        + "' holds.");
        assertThat(said(get("/look/further", key), 404)).contains("/openapi.json");
        HttpResponse<String> options = DOORS.send("OPTIONS", "/either", "", "Authorization", "Bearer " + key);
        assertThat(options.headers().firstValue("Allow")).hasValue("GET, HEAD, POST, OPTIONS");
        String me = callers.holding("doors.me");
        assertThat(said(DOORS.send("DELETE", "/either", "", "Authorization", "Bearer " + me), 404))
                .as("none of its methods may be called")
                .isEqualTo("The module doors/v1 has no route that matches.");
    }

    private String name(String key) throws Exception {
        return RunningService.json(as(key, "GET", "/desk/account", null))
                .path("name")
                .asString();
    }

    @Test
    void aStatementIsToldWhoCalls() throws Exception {
        String client = callers.client("partner-of-" + role("doors.me"));
        JsonNode me = RunningService.json(get("/me", callers.key(client, "first")));
        assertThat(me.path("name").asString()).isEqualTo(client);
        assertThat(me.path("client").asString()).isEqualTo(client);
        assertThat(me.path("address").asString()).isEqualTo("127.0.0.1");
        assertThat(me.path("holds_me").asInt()).isEqualTo(1);
        String person = callers.person(PASSWORD, callers.role("doors.read"));
        JsonNode other = RunningService.json(get("/me", callers.token(person, PASSWORD)));
        assertThat(other.path("name").asString()).isEqualTo(person);
        assertThat(other.path("client").isNull()).isTrue();
        assertThat(other.path("holds_me").asInt()).isZero();
    }

    private String role(String privilege) throws Exception {
        String name = Callers.fresh("r");
        callers.desk("PUT", "/desk/roles/partner-of-" + name, Map.of("holds", List.of(privilege)));
        return name;
    }

    @Test
    void aMaskFollowsTheCallersPrivileges() throws Exception {
        assertThat(get("/secrets/1", callers.holding("doors.read")).body())
                .contains("****")
                .doesNotContain("berth 7");
        assertThat(get("/secrets/1", callers.holding("doors.read", "doors.secrets"))
                        .body())
                .contains("berth 7");
        assertThat(get("/secrets/1", callers.holding("doors.*")).body()).contains("berth 7");
    }

    @Test
    void aRoleThatChangesIsFeltAtOnce() throws Exception {
        String role = callers.role("doors.audit");
        String key = callers.key(callers.client(role), "first");
        assertThat(get("/either", key).statusCode()).isEqualTo(200);
        assertThat(get("/look", key).statusCode()).isEqualTo(403);
        callers.desk("PUT", "/desk/roles/" + role, Map.of("holds", List.of("doors.read")));
        assertThat(get("/look", key).statusCode()).isEqualTo(200);
        callers.desk("DELETE", "/desk/roles/" + role, null);
        assertThat(get("/look", key).statusCode()).isEqualTo(403);
    }

    /** Whoever gives access cannot give themselves, or others, more of the service than they hold. */
    @Test
    void nobodyGivesMoreOfTheServiceThanTheyHold() throws Exception {
        String giver = callers.holding("tidy.give-access", "tidy.read");
        String name = Callers.fresh("person");
        assertThat(as(giver, "PUT", "/desk/people/" + name, person("reviewer")).statusCode())
                .isEqualTo(403);
        assertThat(said(as(giver, "PUT", "/desk/people/" + name, person("administrator")), 403))
                .contains("Only an administrator");
        assertThat(said(
                        as(giver, "PUT", "/desk/roles/" + Callers.fresh("all"), Map.of("holds", List.of("tidy.*"))),
                        403))
                .contains("'tidy.try'", "must hold it");
        assertThat(as(giver, "PUT", "/desk/people/" + name, person(callers.role("doors.*")))
                        .statusCode())
                .isEqualTo(200);
        String admin = callers.person(PASSWORD, "administrator");
        assertThat(as(giver, "POST", "/desk/people/" + admin + "/link", Map.of())
                        .statusCode())
                .isEqualTo(403);
        assertThat(as(giver, "DELETE", "/desk/people/" + admin, null).statusCode())
                .isEqualTo(403);
        assertThat(as(giver, "DELETE", "/desk/people/" + admin + "/factor", null)
                        .statusCode())
                .isEqualTo(403);
        assertThat(as(giver, "PUT", "/desk/people/" + admin, person()).statusCode())
                .as("taking a role away")
                .isEqualTo(403);
        assertThat(as(giver, "POST", "/desk/sign-in-codes", Map.of()).statusCode())
                .isEqualTo(403);
        String strong = callers.client("administrator");
        assertThat(as(giver, "POST", "/desk/clients/" + strong + "/credentials", Map.of("name", "mine"))
                        .statusCode())
                .isEqualTo(403);
    }

    private static Map<String, Object> person(String... roles) {
        return Map.of("fullName", "Somebody Else", "roles", List.of(roles));
    }

    @Test
    void whatIsNoRoleNoPersonAndNoClientIsRefusedWithASentence() throws Exception {
        Map<String, Object> client = Map.of("owner", "Office", "contact", "a@marrowby.example");
        assertThat(said(callers.desk("PUT", "/desk/roles/Keeper", Map.of("holds", List.of("a.b"))), 400))
                .contains("lower-case");
        assertThat(said(callers.desk("PUT", "/desk/roles/keeper", Map.of("holds", List.of("*"))), 400))
                .contains("moorings.*");
        assertThat(said(callers.desk("PUT", "/desk/roles/keeper", Map.of("holds", List.of())), 400))
                .contains("1 to 200");
        assertThat(said(callers.desk("PUT", "/desk/roles/operator", Map.of("holds", List.of("a.b"))), 409))
                .contains("every service");
        assertThat(said(callers.desk("DELETE", "/desk/roles/operator", null), 409))
                .contains("every service");
        assertThat(said(callers.desk("DELETE", "/desk/roles/nobody-has-it", null), 404))
                .contains("no role");
        assertThat(said(callers.desk("PUT", "/desk/people/administrator", person()), 400))
                .contains("not 'administrator'");
        assertThat(said(callers.desk("PUT", "/desk/people/a%20b", person()), 400))
                .contains("lower-case");
        assertThat(said(callers.desk("PUT", "/desk/people/someone", Map.of("fullName", " ")), 400))
                .contains("full name");
        assertThat(said(callers.desk("PUT", "/desk/people/someone", person("operatr")), 400))
                .contains("'operator'");
        assertThat(said(callers.desk("PUT", "/desk/clients/quay", Map.of("owner", "Office")), 400))
                .contains("contact");
        assertThat(said(callers.desk("PUT", "/desk/clients/Quay!", client), 400))
                .contains("lower-case");
        assertThat(said(callers.desk("POST", "/desk/clients/nobody/credentials", Map.of("name", "a")), 404))
                .contains("no client application");
        assertThat(callers.desk("PUT", "/desk/people/someone", List.of(1)).statusCode())
                .isEqualTo(400);
        assertThat(said(
                        callers.desk(
                                "PUT",
                                "/desk/people/someone",
                                java.util.Collections.singletonMap("roles", java.util.Collections.singletonList(null))),
                        400))
                .contains("roles");
        String name = callers.client();
        callers.key(name, "first");
        assertThat(said(callers.desk("POST", "/desk/clients/" + name + "/credentials", Map.of("name", "first")), 409))
                .contains("already");
        assertThat(said(
                        callers.desk(
                                "POST",
                                "/desk/clients/" + name + "/credentials",
                                Map.of("name", "two", "endsAt", "2001-01-01T00:00:00Z")),
                        400))
                .contains("future");
        assertThat(callers.desk(
                                "POST",
                                "/desk/clients/" + name + "/credentials",
                                Map.of("name", "two", "endsAt", "soon"))
                        .statusCode())
                .isEqualTo(400);
        for (int i = 1; i < 10; i++) {
            callers.key(name, "more-" + i);
        }
        assertThat(said(callers.desk("POST", "/desk/clients/" + name + "/credentials", Map.of("name", "eleven")), 409))
                .contains("at most 10");
    }

    @Test
    void rolesTravelWithTheText() throws Exception {
        String workspace = Callers.fresh("Workspace");
        String keeper = Callers.fresh("keeper");
        String clerk = Callers.fresh("clerk");
        JsonNode made = published(workspace, role(keeper, "doors.read"), role(clerk, "doors.write"));
        assertThat(made.path("roles").toString()).contains(keeper, clerk, "\"made\"");
        String key = callers.key(callers.client(keeper), "first");
        assertThat(get("/look", key).statusCode()).isEqualTo(200);
        assertThat(published(workspace, role(keeper, "doors.read"), role(clerk, "doors.write"))
                        .path("roles"))
                .as("nothing differs")
                .isEmpty();
        assertThat(said(callers.desk("PUT", "/desk/roles/" + keeper, Map.of("holds", List.of("doors.*"))), 409))
                .contains("text of the workspace");
        assertThat(said(publish(service.token(), Callers.fresh("Another"), role(keeper, "doors.read")), 409))
                .contains("from the workspace");
        JsonNode changed = published(workspace, role(clerk, "doors.audit"));
        assertThat(changed.path("roles").toString())
                .contains(
                        "{\"name\":\"" + clerk + "\",\"outcome\":\"changed\",\"holders\":0}",
                        "{\"name\":\"" + keeper + "\",\"outcome\":\"removed\",\"holders\":1}");
        assertThat(get("/look", key).statusCode()).as("the role is gone").isEqualTo(403);
    }

    @Test
    void whoeverPublishesOnlyCannotChangeRoles() throws Exception {
        String publisher = callers.holding("tidy.publish");
        String workspace = Callers.fresh("Workspace");
        String keeper = Callers.fresh("keeper");
        assertThat(said(publish(publisher, workspace, role(keeper, "doors.read")), 403))
                .contains(keeper, "'tidy.give-access'");
        published(workspace, role(keeper, "doors.read"));
        assertThat(publish(publisher, workspace, role(keeper, "doors.read")).statusCode())
                .as("they are the same")
                .isEqualTo(200);
        JsonNode releases = RunningService.json(service.desk("/desk/modules/doors/v1"));
        assertThat(releases.path("publishedBy").asString()).isNotBlank();
    }

    private static Map<String, Object> role(String name, String privilege) {
        return Map.of("name", name, "holds", List.of(privilege));
    }

    private JsonNode published(String workspace, Object... roles) throws Exception {
        HttpResponse<String> response = publish(service.token(), workspace, roles);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return RunningService.json(response);
    }

    private HttpResponse<String> publish(String key, String workspace, Object... roles) throws Exception {
        Map<String, String> files = new LinkedHashMap<>(DOORS.statements());
        files.put("module.yaml", DOORS.yaml());
        return as(
                key,
                "POST",
                "/desk/releases",
                Map.of(
                        "workspace",
                        workspace,
                        "roles",
                        List.of(roles),
                        "modules",
                        List.of(Map.of("folder", "modules/test", "files", files))));
    }

    @Test
    void everyChangeIsWrittenDown() throws Exception {
        String role = callers.role("doors.read");
        String client = callers.client(role);
        callers.key(client, "first");
        callers.revoke(client, "first");
        List<String> entries = TestDatabase.column(
                "select concat(who, ' ', action, ' ', subject, ': ', detail) from tidy_records_shared.audit_entry where subject in ('"
                        + role + "', '" + client + "') order by id");
        assertThat(entries)
                .containsExactly(
                        "administrator set-role " + role + ": holds doors.read",
                        "administrator set-client " + client + ": roles [" + role + "]",
                        "administrator add-credential " + client + ": first",
                        "administrator revoke-credential " + client + ": first");
    }

    /** Nothing of what strangers show is found in the log, nor in the answer. */
    @Test
    void nothingOfAWrongCredentialIsLoggedOrToldBack() throws Exception {
        Logger root = (Logger) LoggerFactory.getLogger(org.slf4j.Logger.ROOT_LOGGER_NAME);
        ListAppender<ILoggingEvent> log = new ListAppender<>();
        log.start();
        root.addAppender(log);
        try {
            for (String scheme : List.of("Bearer ", "Basic ", "bearer tbk_", "Digest ", "")) {
                for (int length : List.of(1, 40, 900, 5_000)) {
                    HttpResponse<String> response =
                            DOORS.send("GET", "/look", "", "Authorization", scheme + "leak" + "x".repeat(length));
                    assertThat(response.statusCode()).isEqualTo(401);
                    assertThat(response.body()).doesNotContain("leak");
                    assertThat(response.headers().map().toString()).doesNotContain("leak");
                }
            }
            root.warn("the appender listens");
        } finally {
            root.detachAppender(log);
        }
        assertThat(log.list)
                .extracting(ILoggingEvent::getFormattedMessage)
                .contains("the appender listens")
                .noneMatch(line -> line.contains("leak"));
    }
}
