package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Makes people and client applications on a running service, as its administrator does. */
final class Callers {

    private static final AtomicInteger MADE = new AtomicInteger();

    private final RunningService service;

    Callers(RunningService service) {
        this.service = service;
    }

    /** A name that nobody has yet. */
    static String fresh(String begin) {
        return begin + "-" + MADE.incrementAndGet();
    }

    HttpResponse<String> desk(String method, String path, Object body) throws Exception {
        return service.send(
                method,
                path,
                body == null ? "" : JsonMapper.shared().writeValueAsString(body),
                "Authorization",
                "Bearer " + service.token());
    }

    private JsonNode done(String method, String path, Object body) throws Exception {
        HttpResponse<String> response = desk(method, path, body);
        assertThat(response.statusCode()).as(response.body()).isBetween(200, 299);
        return response.body().isEmpty() ? null : RunningService.json(response);
    }

    /** Makes a role that holds some privileges. */
    String role(String... privileges) throws Exception {
        String name = fresh("role");
        done("PUT", "/desk/roles/" + name, Map.of("holds", List.of(privileges)));
        return name;
    }

    /** Makes an application with some roles. */
    String client(String... roles) throws Exception {
        String name = fresh("client");
        putClient(name, false, roles);
        return name;
    }

    void putClient(String name, boolean disabled, String... roles) throws Exception {
        done(
                "PUT",
                "/desk/clients/" + name,
                Map.of(
                        "owner",
                        "Harbour office",
                        "contact",
                        "quays@marrowby.example",
                        "roles",
                        List.of(roles),
                        "disabled",
                        disabled));
    }

    /** Gives an application another key. */
    String key(String client, String name) throws Exception {
        return key(client, name, null);
    }

    String key(String client, String name, Instant endsAt) throws Exception {
        Map<String, Object> request = new LinkedHashMap<>(Map.of("name", name));
        if (endsAt != null) {
            request.put("endsAt", endsAt.toString());
        }
        return done("POST", "/desk/clients/" + client + "/credentials", request)
                .path("key")
                .asString();
    }

    /** The key of a new application whose only role holds some privileges. */
    String holding(String... privileges) throws Exception {
        return key(privileges.length == 0 ? client() : client(role(privileges)), "first");
    }

    void revoke(String client, String name) throws Exception {
        done("DELETE", "/desk/clients/" + client + "/credentials/" + name, null);
    }

    /** Makes a person with a password, and some roles. */
    String person(String password, String... roles) throws Exception {
        String name = fresh("person");
        done("PUT", "/desk/people/" + name, Map.of("fullName", "Somebody Else", "roles", List.of(roles)));
        String code = done("POST", "/desk/people/" + name + "/link", Map.of())
                .path("code")
                .asString();
        HttpResponse<String> chosen = signIn(Map.of("code", code, "password", password));
        assertThat(chosen.statusCode()).as(chosen.body()).isEqualTo(204);
        return name;
    }

    HttpResponse<String> signIn(Map<String, String> shown, String... headers) throws Exception {
        return service.send("POST", "/desk/sessions", JsonMapper.shared().writeValueAsString(shown), headers);
    }

    /** Signs somebody in on a command line. */
    String token(String name, String password) throws Exception {
        HttpResponse<String> response = signIn(Map.of("name", name, "password", password, "place", "command-line"));
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return RunningService.json(response).path("token").asString();
    }

    /** Signs somebody in on a browser; the session's cookie. */
    String cookie(String name, String password) throws Exception {
        return cookies(signIn(Map.of("name", name, "password", password))).getFirst();
    }

    /** The cookies of an answer, as a browser sends them back. */
    static List<String> cookies(HttpResponse<String> response) {
        return response.headers().allValues("Set-Cookie").stream()
                .map(cookie -> cookie.replaceFirst(";.*", ""))
                .toList();
    }

    static String basic(String name, String password) {
        return "Basic " + Base64.getEncoder().encodeToString((name + ":" + password).getBytes(StandardCharsets.UTF_8));
    }
}
