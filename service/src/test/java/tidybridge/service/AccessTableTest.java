package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URI;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;
import tidybridge.core.TestScope;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.demo.Until;
import tools.jackson.databind.JsonNode;

/** One table of every operation, walked by every kind of caller; an operation that is not in the table fails the test. */
class AccessTableTest {

    private static final Path TABLE = Path.of("src", "test", "resources", "access-table.txt");
    private static final String PASSWORD = "seven herons on a lock beam";
    private static final int UNKNOWN = 401;
    private static final int WITHOUT = 403;
    private static final int NO_FORM = 415;

    @RegisterExtension
    static final Situation DOORS = new Situation("doors");

    private static List<Row> table;
    private static Callers callers;
    private static String without;
    private static String withEverything;

    /** A line of the table. */
    private record Row(String method, String pattern, String asks) {

        /** An address that fits the pattern and leads to nothing that is there. */
        String path() {
            return pattern.replace("v{major}", "v9").replace("/**", "/none").replaceAll("\\{[a-z]+}", "none");
        }

        boolean isDesk() {
            return pattern.startsWith("/desk");
        }

        @Override
        public String toString() {
            return method + " " + pattern;
        }
    }

    @BeforeAll
    static void prepare() throws Exception {
        table = new ArrayList<>();
        for (String line : Files.readAllLines(TABLE)) {
            if (!line.isBlank() && !line.startsWith("#")) {
                String[] words = line.split("\\s+");
                table.add(new Row(words[0], words[1], words[2]));
            }
        }
        callers = new Callers(DOORS.service());
        without = callers.holding();
        List<String> all = new ArrayList<>(List.of("doors.*"));
        for (ServicePrivilege privilege : ServicePrivilege.values()) {
            all.add(privilege.privilege());
        }
        withEverything = callers.holding(all.toArray(String[]::new));
    }

    private static HttpResponse<String> call(Row row, String... headers) throws Exception {
        if (row.asks().equals("application")) {
            String[] form = Arrays.copyOf(headers, headers.length + 2);
            form[headers.length] = "Content-Type";
            form[headers.length + 1] = "application/x-www-form-urlencoded";
            return DOORS.service().send("POST", row.path(), "grant_type=client_credentials&token=none", form);
        }
        boolean body = !row.method().equals("GET")
                && !row.method().equals("HEAD")
                && !row.method().equals("DELETE");
        return DOORS.service().send(row.method(), row.path(), body ? "{}" : "", headers);
    }

    private static HttpResponse<String> with(Row row, String key) throws Exception {
        return call(row, "Authorization", "Bearer " + key);
    }

    @Test
    void everyOperationIsInTheTable() throws Exception {
        Set<String> offered = new TreeSet<>();
        DOORS.service()
                .context()
                .getBean("requestMappingHandlerMapping", RequestMappingHandlerMapping.class)
                .getHandlerMethods()
                .keySet()
                .forEach(mapping -> mapping.getPatternValues().forEach(pattern -> {
                    String plain = pattern.replaceAll("\\{([a-z]+):[^/]*}", "{$1}");
                    if (mapping.getMethodsCondition().getMethods().isEmpty()) {
                        offered.add("GET " + plain);
                    }
                    mapping.getMethodsCondition().getMethods().forEach(method -> offered.add(method + " " + plain));
                }));
        Set<String> known = new TreeSet<>();
        JsonNode metadata = DOORS.service().json("/.well-known/oauth-authorization-server");
        offered.add("GET /.well-known/oauth-authorization-server");
        for (String name : metadata.propertyNames()) {
            if (name.endsWith("_endpoint") || name.equals("jwks_uri")) {
                String path = URI.create(metadata.path(name).asString()).getPath();
                offered.add((name.equals("jwks_uri") ? "GET " : "POST ") + path);
            }
        }
        table.stream().filter(row -> !row.pattern().startsWith("/api/")).forEach(row -> known.add(row.toString()));
        assertThat(known).isEqualTo(offered);
    }

    /** What strangers and those with something invalid are answered: nothing but 401, unless nothing is asked for. */
    @Test
    void whoeverShowsNothingOrSomethingInvalidIsRefused() throws Exception {
        Map<String, String[]> kinds = invalid();
        int turn = 0;
        for (Row row : table) {
            for (Map.Entry<String, String[]> kind : kinds.entrySet()) {
                // every kind comes to every fourth line, and whoever shows nothing to all
                if (!TestScope.ALL && turn++ % 4 != 0 && kind.getValue().length > 0) {
                    continue;
                }
                HttpResponse<String> response = call(row, kind.getValue());
                if (row.asks().equals("application")) {
                    assertThat(response.statusCode())
                            .as(row + " by " + kind.getKey())
                            .isIn(400, UNKNOWN);
                    assertThat(response.body()).startsWith("{\"error\":");
                    continue;
                }
                if (row.asks().equals("own-page")) {
                    boolean own = List.of(kind.getValue()).contains("same-origin");
                    assertThat(response.statusCode())
                            .as(row + " by " + kind.getKey())
                            .isEqualTo(own ? NO_FORM : WITHOUT);
                    assertProblem(row, response);
                    continue;
                }
                boolean open = row.asks().equals("everybody");
                boolean page = open && !row.pattern().startsWith("/api") && !row.isDesk();
                boolean shows = kind.getValue().length > 0 && kind.getValue()[0].equals("Authorization");
                if (page || open && !shows) {
                    assertThat(response.statusCode())
                            .as(row + " by " + kind.getKey())
                            .isNotIn(WITHOUT);
                } else {
                    assertThat(response.statusCode())
                            .as(row + " by " + kind.getKey() + ": " + response.body())
                            .isEqualTo(
                                    row.isDesk()
                                                    && !row.method().equals("GET")
                                                    && !shows
                                                    && !row.asks().equals("sign-in")
                                            ? WITHOUT
                                            : UNKNOWN);
                    assertProblem(row, response);
                }
            }
        }
    }

    private static void assertProblem(Row row, HttpResponse<String> response) {
        assertThat(response.headers().firstValue("Content-Type")).hasValue("application/problem+json");
        assertThat(response.headers().firstValue("Cache-Control")).hasValue("no-store");
        if (response.statusCode() == UNKNOWN) {
            assertThat(response.headers().allValues("WWW-Authenticate").getFirst())
                    .as(row.toString())
                    .isEqualTo("Bearer realm=\"Tidy Bridge\"");
        }
    }

    private static Map<String, String[]> invalid() throws Exception {
        String client = callers.client(callers.role("doors.*"));
        String good = callers.key(client, "good");
        String revoked = callers.key(client, "revoked");
        callers.revoke(client, "revoked");
        String ending = callers.key(client, "ending", Instant.now().plusMillis(400));
        String off = callers.client(callers.role("doors.*"));
        String ofOff = callers.key(off, "first");
        callers.putClient(off, true);
        String person = callers.person(PASSWORD, "administrator");
        String cookie = callers.cookie(person, PASSWORD);
        Until.seen(
                () -> DOORS.send("GET", "/look", "", "Authorization", "Bearer " + ending)
                        .statusCode(),
                status -> status == UNKNOWN);
        Map<String, String[]> kinds = new LinkedHashMap<>();
        kinds.put("nobody", new String[0]);
        field(kinds, "a wrong key", "Bearer tbk_0123456789abcdef_" + "A".repeat(43));
        field(kinds, "a revoked key", "Bearer " + revoked);
        field(kinds, "a key that has ended", "Bearer " + ending);
        field(kinds, "a key of one that was turned off", "Bearer " + ofOff);
        field(
                kinds,
                "a tampered key",
                "Bearer " + good.substring(0, good.length() - 1) + (good.endsWith("A") ? "B" : "A"));
        field(kinds, "a key with another id", "Bearer " + good.replaceFirst("tbk_....", "tbk_0000"));
        field(kinds, "a key as a session's token", "Bearer " + good.replaceFirst("tbk", "tbs"));
        field(kinds, "a key in another scheme", "Token " + good);
        field(kinds, "a key under another's name", Callers.basic("somebody", good));
        field(kinds, "a name with a wrong key", Callers.basic(client, "wrong"));
        field(
                kinds,
                "a name without a key",
                "Basic " + Base64.getEncoder().encodeToString(client.getBytes(StandardCharsets.UTF_8)));
        field(kinds, "what is no Base64", "Basic %%%");
        field(kinds, "a cookie's session as a token", "Bearer " + cookie.replaceFirst("^[^=]*=", ""));
        field(kinds, "a person's name and password", Callers.basic(person, PASSWORD));
        field(kinds, "an unsigned token", "Bearer " + jwt("{\"alg\":\"none\"}", ""));
        field(kinds, "a token signed by somebody else", "Bearer " + jwt("{\"alg\":\"RS256\"}", "c2lnbmVk"));
        field(kinds, "an empty scheme", "Bearer");
        field(kinds, "a huge token", "Bearer " + "a".repeat(7_000));
        field(kinds, "something else", "anything at all");
        kinds.put("a command line's token in a cookie", new String[] {
            "Cookie", "tidy_session=" + callers.token(person, PASSWORD), "Sec-Fetch-Site", "same-origin"
        });
        kinds.put("a wrong cookie", new String[] {
            "Cookie", "tidy_session=tbs_0123456789abcdef_" + "A".repeat(43), "Sec-Fetch-Site", "same-origin"
        });
        return kinds;
    }

    private static void field(Map<String, String[]> kinds, String kind, String value) {
        kinds.put(kind, new String[] {"Authorization", value});
    }

    private static String jwt(String header, String signature) {
        Base64.Encoder encoder = Base64.getUrlEncoder().withoutPadding();
        return encoder.encodeToString(header.getBytes(StandardCharsets.UTF_8)) + "."
                + encoder.encodeToString("{\"sub\":\"administrator\"}".getBytes(StandardCharsets.UTF_8)) + "."
                + signature;
    }

    @Test
    void whoeverIsKnownWithoutThePrivilegeIsToldWhichItIs() throws Exception {
        for (Row row : table) {
            HttpResponse<String> response = with(row, without);
            switch (row.asks()) {
                case "sign-in", "application" ->
                    assertThat(response.statusCode()).isEqualTo(UNKNOWN);
                case "everybody", "signed-in" ->
                    assertThat(response.statusCode()).as(row.toString()).isNotEqualTo(UNKNOWN);
                default -> {
                    assertThat(response.statusCode())
                            .as(row + ": " + response.body())
                            .isEqualTo(WITHOUT);
                    assertProblem(row, response);
                    if (!Set.of("administrator", "own-page", "team").contains(row.asks())
                            && !row.method().equals("HEAD")) {
                        assertThat(response.body()).as(row.toString()).contains("'" + row.asks() + "'");
                        assertThat(response.headers()
                                        .firstValue("WWW-Authenticate")
                                        .orElseThrow())
                                .contains("error=\"insufficient_scope\"");
                    }
                }
            }
        }
    }

    @Test
    void onePrivilegeOpensWhatAsksForIt() throws Exception {
        Map<String, String> keys = new LinkedHashMap<>();
        for (Row row : table) {
            if (!Set.of("sign-in", "application", "everybody", "signed-in", "administrator", "own-page", "team")
                    .contains(row.asks())) {
                keys.computeIfAbsent(row.asks(), privilege -> {
                    try {
                        return callers.holding(privilege);
                    } catch (Exception e) {
                        throw new IllegalStateException(e);
                    }
                });
                for (Map.Entry<String, String> other : keys.entrySet()) {
                    boolean enough = other.getKey().equals(row.asks())
                            || row.pattern().matches("/api/doors/v1/(either|me)")
                                    && other.getKey().equals("doors.read")
                                    && row.method().equals("GET");
                    HttpResponse<String> response = with(row, other.getValue());
                    assertThat(response.statusCode() == WITHOUT)
                            .as(row + " with " + other.getKey() + ": " + response.statusCode() + response.body())
                            .isEqualTo(!enough);
                }
            }
        }
    }

    @Test
    void whoeverHoldsEverythingThatIsAskedForGetsIn() throws Exception {
        String person = callers.person(PASSWORD, "administrator");
        String token = callers.token(person, PASSWORD);
        for (Row row : table) {
            if (row.pattern().equals("/desk/sessions/current")
                    || Set.of("sign-in", "application", "own-page", "team").contains(row.asks())) {
                continue;
            }
            HttpResponse<String> byKey = with(row, withEverything);
            HttpResponse<String> byToken = with(row, token);
            if (row.pattern().startsWith("/desk/account") || row.pattern().startsWith("/desk/sessions")) {
                // it may have ended
                token = callers.token(person, PASSWORD);
            }
            HttpResponse<String> byAdministrator = with(row, DOORS.service().token());
            assertThat(byToken.statusCode()).as(row.toString()).isNotIn(UNKNOWN, WITHOUT);
            if (!row.asks().equals("administrator") && !row.pattern().startsWith("/desk/account/")) {
                assertThat(byKey.statusCode()).as(row.toString()).isNotIn(UNKNOWN, WITHOUT);
                assertThat(byAdministrator.statusCode()).as(row.toString()).isNotIn(UNKNOWN, WITHOUT);
            }
        }
    }
}
