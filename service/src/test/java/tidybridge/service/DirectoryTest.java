package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javax.xml.parsers.DocumentBuilderFactory;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.core.problem.ProblemKind;
import tidybridge.demo.Until;
import tools.jackson.databind.JsonNode;

/** Modules are found by those who may find them, in the forms that people and programs read. */
class DirectoryTest {

    private static final String HOSTILE = "<script>alert(1)</script>";

    private static RunningService service;
    private static Callers callers;
    private static String holder;
    private static String other;

    @BeforeAll
    static void start() throws Exception {
        service = RunningService.apart("tidy_records_directory");
        callers = new Callers(service);
        for (String listed : List.of("nobody", "callers", "signed-in", "everybody")) {
            publish("cranes-" + listed, "1.0.0", "listed: " + listed + "\nowner: Crane office", Map.of());
        }
        holder = callers.key(callers.client(callers.role("cranes.use")), "first");
        other = callers.key(callers.client(callers.role("moorings.book")), "first");
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static void publish(String name, String version, String more, Map<String, String> guides) throws Exception {
        Map<String, String> files = new LinkedHashMap<>(guides);
        files.put("list.sql", "select id, berth_no as hook from berth");
        HttpResponse<String> published = service.publish("""
                module: %s
                version: %s
                title: Cranes of %s
                about: What lifts %s & more.
                source: waterways
                needs: cranes.use
                %s
                routes:
                  /cranes:
                    get:
                      about: All cranes
                      sql: list.sql
                      answer: rows
                      order: [id]
                      fields: { hook: { about: Where the load hangs } }
                """.formatted(name, version, name, HOSTILE, more), files);
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
    }

    private static String key(String who) {
        return switch (who) {
            case "holder" -> holder;
            case "other" -> other;
            default -> "";
        };
    }

    private static HttpResponse<String> get(String path, String key, String... headers) throws Exception {
        List<String> all = new ArrayList<>(List.of(headers));
        if (!key.isEmpty()) {
            all.addAll(List.of("Authorization", "Bearer " + key));
        }
        return service.send("GET", path, "", all.toArray(String[]::new));
    }

    private static List<String> found(String query, String key) throws Exception {
        List<String> found = new ArrayList<>();
        RunningService.json(get("/directory.json" + query, key))
                .path("modules")
                .forEach(module -> found.add(module.path("module").asString()));
        found.removeIf(identity -> !identity.startsWith("cranes-"));
        return found;
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            stranger | nobody    | hidden
            stranger | callers   | hidden
            stranger | signed-in | hidden
            stranger | everybody | found
            other    | nobody    | hidden
            other    | callers   | hidden
            other    | signed-in | found
            other    | everybody | found
            holder   | nobody    | read
            holder   | callers   | found
            holder   | signed-in | found
            holder   | everybody | found
            """)
    void aModuleIsFoundAndReadByThoseItIsListedFor(String who, String listed, String expected) throws Exception {
        String identity = "cranes-" + listed + "/v1";
        boolean isRead = !expected.equals("hidden");
        assertThat(found("", key(who)).contains(identity)).isEqualTo(expected.equals("found"));
        for (String path : List.of("/reference/" + identity, "/reference/" + identity + "/getCranes")) {
            HttpResponse<String> page = get(path, key(who), "Accept", "text/html");
            assertThat(page.statusCode()).as(path).isEqualTo(isRead ? 200 : 404);
            assertThat(page.body()).as("known to nobody else").satisfies(body -> {
                if (!isRead) {
                    assertThat(body).doesNotContain("Cranes of");
                }
            });
        }
        assertThat(get("/reference/" + identity.replace("/v1", ""), key(who)).statusCode())
                .isEqualTo(isRead ? 302 : 404);
        int openapi = get("/api/" + identity + "/openapi.json", key(who)).statusCode();
        assertThat(openapi).isEqualTo(isRead ? 200 : who.equals("stranger") ? 401 : 403);
        assertThat(get("/api/" + identity + "/cranes", key(who)).statusCode())
                .as("reading is not calling")
                .isEqualTo(who.equals("stranger") ? 401 : who.equals("other") ? 403 : 200);
    }

    @Test
    void whatIsNotThereAndWhatIsHiddenLookAlike() throws Exception {
        assertThat(withoutId(get("/reference/cranes-callers/v1", "")))
                .isEqualTo(withoutId(get("/reference/none/v1", "")));
        assertThat(withoutId(get("/reference/cranes-callers", ""))).isEqualTo(withoutId(get("/reference/none", "")));
    }

    private static String withoutId(HttpResponse<String> response) {
        return response.body().replaceFirst("\"requestId\":\"[^\"]*\"", "");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            ?q=HOOK             | cranes-everybody/v1
            ?q=load+hangs       | cranes-everybody/v1
            ?q=/cranes          | cranes-everybody/v1
            ?q=hook+barge       |
            ?q=crane+office     | cranes-everybody/v1
            ?owner=Crane+office | cranes-everybody/v1
            ?owner=Crane        |
            ?tag=none           |
            """)
    void wordsOwnersAndTagsNarrowWhatIsFound(String query, String expected) throws Exception {
        assertThat(found(query, "")).isEqualTo(expected == null ? List.of() : List.of(expected));
    }

    @Test
    void aFieldIsFoundByItsNameAndLeadsToItsPlace() throws Exception {
        JsonNode module = RunningService.json(get("/directory", holder, "Accept", "application/json"))
                .path("modules")
                .get(0);
        assertThat(module.path("state").asString()).isEqualTo("new");
        JsonNode place = RunningService.json(get("/directory.json?q=hook+hangs&owner=Crane+office", ""))
                .path("modules")
                .get(0)
                .path("found")
                .get(0);
        String address = place.path("reference").asString();
        assertThat(address)
                .startsWith(service.address() + "/reference/cranes-everybody/v1/")
                .contains("#field-hook");
        String page = get(address.substring(service.address().length()).replaceFirst("#.*", ""), "")
                .body();
        assertThat(page).contains("id=\"field-hook\"", "Where the load hangs");
    }

    /** RFC 9727 and RFC 9264. */
    @Test
    void theCatalogueLinksEachModuleToItsDescriptions() throws Exception {
        HttpResponse<String> catalog = get("/.well-known/api-catalog", "");
        assertThat(catalog.headers().firstValue("Content-Type").orElse(""))
                .startsWith("application/linkset+json")
                .contains("profile=\"https://www.rfc-editor.org/info/rfc9727\"");
        HttpResponse<String> head = service.send("HEAD", "/.well-known/api-catalog", "");
        assertThat(head.headers().firstValue("Link"))
                .hasValueSatisfying(link -> assertThat(link).contains("rel=\"api-catalog\""));
        assertThat(head.body()).isEmpty();
        JsonNode linkset = RunningService.json(catalog).path("linkset");
        assertThat(linkset.size()).isPositive();
        for (JsonNode links : linkset) {
            assertThat(links.path("anchor").asString()).startsWith(service.address() + "/api/");
            for (String relation : List.of("service-desc", "service-doc")) {
                for (JsonNode link : links.path(relation)) {
                    String path = link.path("href")
                            .asString()
                            .substring(service.address().length());
                    HttpResponse<String> target = get(path, "");
                    assertThat(target.statusCode()).as(path).isEqualTo(200);
                    assertThat(target.headers().firstValue("Content-Type").orElse(""))
                            .startsWith(link.path("type").asString());
                }
            }
        }
    }

    @Test
    void theNewsOfWhatMayBeFoundAreOneFeed() throws Exception {
        HttpResponse<String> feed = get("/directory.atom", "");
        var factory = DocumentBuilderFactory.newInstance();
        factory.setNamespaceAware(true);
        var document = factory.newDocumentBuilder()
                .parse(new ByteArrayInputStream(feed.body().getBytes(StandardCharsets.UTF_8)));
        assertThat(document.getDocumentElement().getLocalName()).isEqualTo("feed");
        assertThat(feed.body())
                .contains("cranes-everybody/v1: 1.0.0 was published")
                .doesNotContain("cranes-callers", "cranes-nobody", "cranes-signed-in");
        assertThat(get("/directory.atom", holder).body())
                .contains("cranes-callers", "cranes-signed-in")
                .doesNotContain("cranes-nobody");
    }

    @Test
    void nothingThatATextSaysIsTakenForMarkup() throws Exception {
        publish("cranes-hostile", "1.0.0", "listed: everybody", Map.of("guides/first.md", """
                        # First %s

                        [a](javascript:alert(1)) [b](https://quay.example) %s `GET /cranes`
                        """.formatted(
                        HOSTILE, HOSTILE)));
        for (String path : List.of(
                "/directory",
                "/directory?q=" + "%3Cscript%3E",
                "/reference/cranes-hostile/v1",
                "/reference/cranes-hostile/v1?q=%22%3E%3Cscript%3E",
                "/reference/cranes-hostile/v1/guides/first")) {
            HttpResponse<String> page = get(path, "", "Accept", "text/html");
            assertThat(page.statusCode()).as(path).isEqualTo(200);
            assertThat(page.body().replace("<script src=", "").replace("<script type=\"module\" src=", ""))
                    .as(path)
                    .doesNotContain("<script>alert", "\"><script", "href=\"javascript");
            assertThat(page.headers().firstValue("Content-Security-Policy").orElse(""))
                    .contains("script-src 'self'");
        }
        assertThat(get("/reference/cranes-hostile/v1/guides/first", "").body())
                .contains("href=\"https://quay.example\"")
                .as("an operation that a guide names is a link")
                .contains("href=\"/reference/cranes-hostile/v1/getCranes\"><code>GET /cranes</code></a>");
    }

    @ParameterizedTest
    @EnumSource(ProblemKind.class)
    void theTypeOfEveryProblemLeadsToItsCauseAndRemedy(ProblemKind kind) throws Exception {
        String page = get(kind.type(), "", "Accept", "text/html").body();
        assertThat(page.replace("&#39;", "'"))
                .contains(
                        "<h1>" + kind.title() + "</h1>",
                        kind.meaning(),
                        kind.remedy(),
                        "\"code\": \"" + kind.label() + "\"");
        assertThat(get(kind.type(), "").body()).startsWith(kind.title()).contains(kind.remedy());
    }

    @Test
    void theTypeOfAModulesOwnRuleLeadsToItsSentence() throws Exception {
        HttpResponse<String> published =
                service.publish("""
                module: hooks
                version: 1.0.0
                title: Hooks
                listed: signed-in
                source: waterways
                needs: cranes.use
                routes:
                  /hooks/{hookId}:
                    get:
                      about: A hook
                      steps:
                        there: { sql: one.sql, expect: row, otherwise: { status: 409, code: hook-lost, message: The hook is in the water. } }
                        hook: { sql: one.sql }
                      answer: row
                      parameters: { hookId: { in: path, type: integer, example: 1 } }
                """, Map.of("one.sql", "select id from berth where id = :hookId"));
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
        HttpResponse<String> refused = get("/api/hooks/v1/hooks/99999999", holder);
        String type = RunningService.json(refused).path("type").asString();
        assertThat(type).as(refused.body()).endsWith("#hooks/v1/hook-lost");
        String path = type.substring(0, type.indexOf('#'));
        assertThat(get(path, holder, "Accept", "text/html").body())
                .contains(
                        "id=\"hooks/v1/hook-lost\"",
                        "The hook is in the water.",
                        "/reference/hooks/v1/getHooksByHookId");
        assertThat(get(path, "", "Accept", "text/html").body())
                .as("nobody else's business")
                .doesNotContain("hook-lost");
    }

    @Test
    void aRequestIdExplainsTheCallersOwnRefusedCall() throws Exception {
        String id = RunningService.json(get("/api/cranes-everybody/v1/cranes", other))
                .path("requestId")
                .asString();
        String page = Until.seen(
                () -> get("/calls?id=" + id, other, "Accept", "text/html").body(),
                text -> text.contains("privilege-needed"));
        assertThat(page.replace("&#39;", "'"))
                .contains(
                        "403 A privilege is missing",
                        "cranes-everybody/v1 GET /cranes",
                        ProblemKind.PRIVILEGE_NEEDED.remedy(),
                        "/problems/privilege-needed");
        assertThat(get("/calls?id=%3Cscript%3E", "").body()).doesNotContain("<script>a", "What to do");
        assertThat(get("/calls?id=" + id.replaceFirst("^..", "ff"), other).body())
                .contains("No refused call of yours");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "/directory?q=%ff%fe",
                "/directory?q=%",
                "/reference/cranes-everybody/v1?q=%zz",
                "/calls?id=%u1234",
                "/directory.json?tag=%"
            })
    void aQueryThatNobodyCanReadIsNoFaultOfTheService(String path) throws Exception {
        // a client library would not send it
        String answer;
        try (Wire wire = new Wire(service.port())) {
            wire.send("GET " + path + " HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n");
            answer = wire.answer();
        }
        assertThat(answer).startsWith("HTTP/1.1 400").contains("bad-input");
    }

    /** Every link of the page repeats the question. */
    @Test
    void aLongQuestionMakesNoLongPage() throws Exception {
        for (String name : List.of("q", "owner", "tag")) {
            HttpResponse<String> page = get("/directory?" + name + "=" + "%3C".repeat(2_000), "");
            assertThat(page.statusCode()).as(name).isEqualTo(200);
            assertThat(page.body().length()).as(name).isLessThan(20_000);
        }
    }

    @Test
    void everyCallOfAModuleIsOneText() throws Exception {
        String calls = get("/reference/cranes-everybody/v1/calls.http", "").body();
        assertThat(calls).isEqualTo("""
                ### All cranes
                GET %s/api/cranes-everybody/v1/cranes HTTP/1.1
                Authorization: Bearer YOUR-KEY
                """.formatted(service.address()));
        assertThat(get("/reference/cranes-callers/v1/calls.http", "").statusCode())
                .isEqualTo(404);
    }

    @Test
    void aPageIsSentOnceToThoseWhoHaveIt() throws Exception {
        HttpResponse<String> page = get("/reference/cranes-everybody/v1", "");
        String tag = page.headers().firstValue("ETag").orElseThrow();
        assertThat(service.send("GET", "/reference/cranes-everybody/v1/getCranes", "", "Accept-Encoding", "gzip")
                        .headers()
                        .firstValue("Content-Encoding"))
                .hasValue("gzip");
        HttpResponse<String> again = get("/reference/cranes-everybody/v1", "", "If-None-Match", tag);
        assertThat(again.statusCode()).isEqualTo(304);
        assertThat(again.body()).isEmpty();
        assertThat(page.headers().firstValue("Cache-Control")).hasValue("private, no-cache");
    }

    @Test
    void whoeverShowsAWrongCredentialIsTold() throws Exception {
        HttpResponse<String> refused = get("/directory", "wrong");
        assertThat(refused.statusCode()).isEqualTo(401);
        assertThat(RunningService.json(refused).path("code").asString()).isEqualTo("sign-in-needed");
        assertThat(service.send("GET", "/directory", "", "Cookie", "tidy_session=old", "Accept", "text/html")
                        .statusCode())
                .as("a session that has ended is none")
                .isEqualTo(200);
    }

    @Test
    void theFirstPageIsTheDirectoryForThoseWhoDoNotWorkHere() throws Exception {
        assertThat(get("/", "").body()).contains("<h1>Modules</h1>");
        assertThat(get("/", holder).body()).contains("<h1>Modules</h1>");
    }
}
