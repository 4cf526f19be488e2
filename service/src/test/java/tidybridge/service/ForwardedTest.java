package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What proxies say of a request, and who is believed. */
class ForwardedTest {

    private static final Situation DOORS = new Situation("doors");

    private static RunningService service;
    private static RunningService doubting;
    private static String key;

    @BeforeAll
    static void start() throws Exception {
        service = RunningService.with("--tidy.proxies=127.0.0.1,10.0.0.9", "--tidy.plain-secrets=true");
        assertThat(service.publish(DOORS.yaml(), DOORS.statements()).statusCode())
                .isEqualTo(200);
        key = new Callers(service).holding("doors.me");
        doubting = SharedService.get();
        assertThat(doubting.publish(DOORS.yaml(), DOORS.statements()).statusCode())
                .isEqualTo(200);
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static String address(RunningService asked, String name, String key, String... fields) throws Exception {
        String[] all = java.util.Arrays.copyOf(fields, fields.length + 2);
        all[fields.length] = "Authorization";
        all[fields.length + 1] = "Bearer " + key;
        HttpResponse<String> response = asked.send("GET", "/api/" + name + "/v1/me", "", all);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return RunningService.json(response).path("address").asString();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '!', textBlock = """
                    for=192.0.2.43                                  | 192.0.2.43
                    For="192.0.2.43:4711"                           | 192.0.2.43
                    for="[2001:db8:cafe::17]:4711"                  | 2001:db8:cafe::17
                    for="[2001:db8::1]";proto=https;by=203.0.113.43 | 2001:db8::1
                    for=198.51.100.1, for=192.0.2.43                | 192.0.2.43
                    for=198.51.100.1, for=192.0.2.43, for=10.0.0.9  | 192.0.2.43
                    for=10.0.0.9                                    | 10.0.0.9
                    for=unknown                                     | 0.0.0.0
                    for=_hidden                                     | 0.0.0.0
                    for=127.0.0.1, for=unknown                      | 0.0.0.0
                    proto=https                                     | 0.0.0.0
                    for=999.0.0.1                                   | 0.0.0.0
                    for="127.0.0.1                                  | 0.0.0.0
                    nonsense                                        | 0.0.0.0
                    """)
    void theAddressIsTheOneThatTheLastBelievedProxyTells(String forwarded, String expected) throws Exception {
        assertThat(address(service, "doors", key, "Forwarded", forwarded)).isEqualTo(expected);
    }

    @Test
    void theOlderFieldsAreBelievedWhereTheStandardOneIsMissing() throws Exception {
        assertThat(address(service, "doors", key, "X-Forwarded-For", "198.51.100.1, 192.0.2.44"))
                .isEqualTo("192.0.2.44");
        assertThat(address(service, "doors", key, "X-Forwarded-For", "192.0.2.44", "Forwarded", "for=192.0.2.45"))
                .isEqualTo("192.0.2.45");
        assertThat(address(service, "doors", key)).isEqualTo("127.0.0.1");
    }

    @Test
    void whoeverIsNoBelievedProxyIsNotBelieved() throws Exception {
        String other = new Callers(doubting).holding("doors.me");
        for (String field : List.of("Forwarded", "X-Forwarded-For")) {
            String value = field.equals("Forwarded") ? "for=192.0.2.43" : "192.0.2.43";
            assertThat(address(doubting, "doors", other, field, value))
                    .as(field)
                    .isEqualTo("127.0.0.1");
        }
    }

    /** The management API is for this machine, whoever the proxy on it speaks for. */
    @ParameterizedTest
    @ValueSource(strings = {"for=192.0.2.43", "for=127.0.0.1, for=192.0.2.43", "for=unknown", "garbage"})
    void theManagementApiAnswersNobodyBehindAProxy(String forwarded) throws Exception {
        HttpResponse<String> response = service.send(
                "GET", "/desk/status", "", "Authorization", "Bearer " + service.token(), "Forwarded", forwarded);
        assertThat(response.statusCode()).isEqualTo(403);
        assertThat(response.body()).contains("this machine only");
    }

    @Test
    void theReferenceTellsTheNameTheProxyWasAskedFor() throws Exception {
        HttpResponse<String> told = service.send(
                "GET",
                "/api/doors/v1/openapi.json",
                "",
                "Forwarded",
                "for=192.0.2.43;proto=https;host=localhost",
                "Authorization",
                "Bearer " + key);
        assertThat(RunningService.json(told).at("/servers/0/url").asString())
                .isEqualTo("https://localhost/api/doors/v1");
    }
}
