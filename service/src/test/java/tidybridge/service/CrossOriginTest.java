package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Page;
import com.sun.net.httpserver.HttpServer;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;

/** Pages of other origins that call modules from a browser. */
class CrossOriginTest {

    private static final String ORIGIN = "https://quays.marrowby.example";

    @RegisterExtension
    static final Situation DOORS = new Situation("doors");

    private static final RunningService SERVICE = SharedService.get();

    @BeforeAll
    static void publish() throws Exception {
        publish("wide", "origins: '*'");
        publish("named", "origins: [" + ORIGIN + "], credentials: true, expose: [X-Berths-Left], keep: 5m");
    }

    private static void publish(String module, String rules) throws Exception {
        String yaml = DOORS.yaml().replace("module: doors", "module: " + module) + "cross-origin: { " + rules + " }\n";
        HttpResponse<String> published = SERVICE.publish(yaml, DOORS.statements());
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
    }

    private static HttpResponse<String> asks(String module, String path, String origin) throws Exception {
        return SERVICE.send(
                "OPTIONS",
                "/api/" + module + "/v1" + path,
                "",
                "Origin",
                origin,
                "Access-Control-Request-Method",
                "POST",
                "Access-Control-Request-Headers",
                "authorization, content-type");
    }

    private static String field(HttpResponse<String> response, String name) {
        return response.headers().firstValue(name).orElse("none");
    }

    @Test
    void aBrowserIsToldBeforeItShowsAnything() throws Exception {
        for (String path : List.of("/look", "/nowhere", "/closed")) {
            HttpResponse<String> told = asks("named", path, ORIGIN);
            assertThat(told.statusCode()).isEqualTo(204);
            assertThat(field(told, "Access-Control-Allow-Origin")).isEqualTo(ORIGIN);
            assertThat(field(told, "Access-Control-Allow-Credentials")).isEqualTo("true");
            assertThat(field(told, "Access-Control-Allow-Methods")).isEqualTo("GET, HEAD, POST, PUT, PATCH, DELETE");
            assertThat(field(told, "Access-Control-Allow-Headers"))
                    .contains("Authorization", "Content-Type", "If-Match");
            assertThat(field(told, "Access-Control-Max-Age")).isEqualTo("300");
            assertThat(field(told, "Allow")).as("nothing of the route").isEqualTo("none");
            assertThat(told.headers().allValues("Vary")).contains("Origin");
        }
    }

    @Test
    void everyAnswerCanBeReadByThePageThatAsked() throws Exception {
        String key = new Callers(SERVICE).holding("doors.read");
        for (String path : List.of("/open", "/look", "/nowhere")) {
            for (String credential : List.of("Bearer " + key, "Bearer wrong", "")) {
                HttpResponse<String> answer = credential.isEmpty()
                        ? SERVICE.send("GET", "/api/named/v1" + path, "", "Origin", ORIGIN)
                        : SERVICE.send(
                                "GET", "/api/named/v1" + path, "", "Origin", ORIGIN, "Authorization", credential);
                assertThat(field(answer, "Access-Control-Allow-Origin"))
                        .as(path + " " + answer.statusCode())
                        .isEqualTo(ORIGIN);
                assertThat(field(answer, "Access-Control-Expose-Headers"))
                        .contains("ETag", "X-Berths-Left", "X-Request-Id");
                assertThat(String.join(", ", answer.headers().allValues("Vary")))
                        .contains("Origin");
            }
        }
        HttpResponse<String> fine =
                SERVICE.send("GET", "/api/named/v1/look", "", "Origin", ORIGIN, "Authorization", "Bearer " + key);
        assertThat(fine.statusCode()).isEqualTo(200);
        assertThat(String.join(", ", fine.headers().allValues("Vary"))).contains("Origin", "Authorization");
    }

    @Test
    void othersAreToldNothing() throws Exception {
        for (String origin : List.of(
                "https://quays.marrowby.example.evil.example",
                "http://quays.marrowby.example",
                "null",
                "https://evil.example")) {
            HttpResponse<String> asked = asks("named", "/open", origin);
            assertThat(field(asked, "Access-Control-Allow-Origin")).as(origin).isEqualTo("none");
            HttpResponse<String> called = SERVICE.send("GET", "/api/named/v1/open", "", "Origin", origin);
            assertThat(field(called, "Access-Control-Allow-Origin")).as(origin).isEqualTo("none");
            assertThat(called.headers().allValues("Vary")).contains("Origin");
        }
        assertThat(field(asks("doors", "/open", ORIGIN), "Access-Control-Allow-Origin"))
                .as("a module that says nothing")
                .isEqualTo("none");
        assertThat(field(asks("wide", "/open", "https://anybody.example"), "Access-Control-Allow-Origin"))
                .isEqualTo("*");
        assertThat(field(asks("wide", "/open", "https://anybody.example"), "Access-Control-Allow-Credentials"))
                .isEqualTo("none");
        HttpResponse<String> desk =
                RunningService.send(HttpRequest.newBuilder(URI.create(SERVICE.address() + "/desk/status"))
                        .header("Origin", ORIGIN)
                        .header("Access-Control-Request-Method", "GET")
                        .method("OPTIONS", HttpRequest.BodyPublishers.noBody()));
        assertThat(field(desk, "Access-Control-Allow-Origin")).isEqualTo("none");
    }

    /** What a browser really makes of it. */
    @Test
    void aPageOfAnotherOriginCallsFromChromium() throws Exception {
        HttpServer other = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        other.createContext("/", exchange -> {
            exchange.getResponseHeaders().set("Content-Type", "text/html");
            exchange.sendResponseHeaders(200, 0);
            exchange.close();
        });
        other.start();
        String origin = "http://127.0.0.1:" + other.getAddress().getPort();
        publish("paged", "origins: [" + origin + "]");
        String key = new Callers(SERVICE).holding("doors.write");
        try (BrowserContext somebody = Chromium.person()) {
            Page page = somebody.newPage();
            page.navigate(origin);
            String call = "async ([module, key]) => { try { const r = await fetch('" + SERVICE.address()
                    + "/api/' + module + '/v1/either', { method: 'POST', body: '{\"what\":\"a\"}', headers: { Authorization: 'Bearer ' + key,"
                    + " 'Content-Type': 'application/json' } }); return r.status + ' ' + r.headers.has('X-Request-Id'); } catch (e) { return String(e); } }";
            assertThat(page.evaluate(call, List.of("paged", key))).isEqualTo("200 true");
            assertThat(page.evaluate(call, List.of("paged", "wrong")))
                    .as("a problem can be read")
                    .isEqualTo("401 true");
            assertThat(page.evaluate(call, List.of("doors", key))).asString().contains("Failed to fetch");
        } finally {
            other.stop(0);
        }
    }
}
