package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Answered.header;
import static tidybridge.service.Answered.problem;

import com.github.luben.zstd.ZstdInputStream;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.InputStream;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.Cost;
import tidybridge.core.problem.ProblemKind;

/** What HTTP promises around every answer: names of requests, compression, credentials, what caches must know, proxies. */
class HttpTest {

    private static final String BERTHS = "/api/moorings/v1/berths?from=2031-05-01&until=2031-05-04&limit=";

    private static final String PASSAGES = "/api/passages/v1/passages?limit=200";

    @RegisterExtension
    static final DemoService DEMO = new DemoService();

    private static byte[] zipped(byte[] plain) throws Exception {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (GZIPOutputStream zip = new GZIPOutputStream(bytes)) {
            zip.write(plain);
        }
        return bytes.toByteArray();
    }

    private static HttpResponse<String> search(byte[] body, String coding) throws Exception {
        return RunningService.send(DEMO.running()
                .request("/api/moorings/v1/berths/search?limit=1")
                .header("Content-Type", "application/json")
                .header("Content-Encoding", coding)
                .POST(HttpRequest.BodyPublishers.ofByteArray(body)));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            zstd                  | 200 | zstd
            gzip, zstd            | 200 | zstd
            gzip, zstd;q=0.5      | 200 | gzip
            zstd;q=0              | 200 | ''
            gzip                  | 200 | gzip
            zstd                  | 5   | ''
            """)
    void longAnswersAreCodedAsTheirCallerWants(String accept, int limit, String coding) throws Exception {
        String path = "/api/passages/v1/passages?limit=" + limit;
        HttpResponse<byte[]> response = HttpClient.newHttpClient()
                .send(
                        DEMO.running()
                                .request(path)
                                .header("Accept-Encoding", accept)
                                .build(),
                        HttpResponse.BodyHandlers.ofByteArray());
        assertThat(response.headers().firstValue("Content-Encoding").orElse("")).isEqualTo(coding);
        InputStream coded = new ByteArrayInputStream(response.body());
        InputStream plain = switch (coding) {
            case "zstd" -> new ZstdInputStream(coded);
            case "gzip" -> new GZIPInputStream(coded);
            default -> coded;
        };
        assertThat(new String(plain.readAllBytes(), StandardCharsets.UTF_8))
                .isEqualTo(DEMO.running().get(path).body());
    }

    /** What is coded while it is read leaves while it is read: half of it can be decoded before the rest was asked for. */
    @Test
    void aCodedStreamIsNotHeldBack() throws Exception {
        for (String coding : List.of("zstd", "gzip")) {
            try (Wire wire = Wire.narrow(DEMO.running().port())) {
                wire.send(
                        "GET /api/passages/v1/passages?limit=all&format=ndjson HTTP/1.1\r\nHost: 127.0.0.1\r\nAccept-Encoding: "
                                + coding + "\r\nConnection: close\r\n\r\n");
                String begun = wire.some(4_000);
                assertThat(begun).contains("Content-Encoding: " + coding);
                byte[] bytes = Wire.body(begun).getBytes(StandardCharsets.ISO_8859_1);
                InputStream coded = new ByteArrayInputStream(bytes);
                InputStream plain = coding.equals("zstd")
                        ? new ZstdInputStream(coded).setContinuous(true)
                        : new GZIPInputStream(coded);
                byte[] first = plain.readNBytes(1_000);
                assertThat(new String(first, StandardCharsets.UTF_8))
                        .startsWith("{\"id\":")
                        .hasSize(1_000);
            }
        }
    }

    @Test
    void everyAnswerAndProblemBearsTheNameOfItsRequest() throws Exception {
        for (String path : List.of(
                BERTHS + 1,
                "/api/moorings/v1/berths/17",
                "/api/moorings/v1/openapi.json",
                "/",
                "/api/x",
                "/desk/x",
                "/nowhere")) {
            HttpResponse<String> one = DEMO.running().get(path);
            HttpResponse<String> other = DEMO.running().get(path);
            assertThat(header(one, "X-Request-Id"))
                    .as(path)
                    .matches("[0-9a-f]{32}")
                    .isNotEqualTo(header(other, "X-Request-Id"));
            if (one.statusCode() >= 400) {
                assertThat(one.body()).contains("\"requestId\":\"" + header(one, "X-Request-Id") + "\"");
            }
        }
        String trace = "4bf92f3577b34da6a3ce929d0e0e4736";
        HttpResponse<String> traced =
                DEMO.running().send("GET", BERTHS + 1, "", "traceparent", "00-" + trace + "-00f067aa0ba902b7-01");
        assertThat(header(traced, "X-Request-Id")).isEqualTo(trace);
        try (Wire wire = new Wire(DEMO.running().port())) {
            wire.send("GET / HTTP/7\r\n\r\n");
            assertThat(wire.answer()).contains("X-Request-Id: ", "\"requestId\":\"", "\"code\":\"version-unknown\"");
        }
    }

    @Test
    void aProblemHasACodeOfItsOwnKindOrRule() throws Exception {
        problem(DEMO.running().get("/api/moorings/v1/berths/9999999"), 404, "\"code\":\"row-unknown\"");
        problem(DEMO.running().get("/api/moorings/v1/berths?from=x"), 400, "\"code\":\"bad-input\"");
        String taken = "{\"berthId\":99999999,\"vesselId\":42,\"from\":\"2033-01-01\",\"until\":\"2033-01-03\"}";
        problem(
                DEMO.running()
                        .send(
                                "POST",
                                "/api/moorings/v1/bookings",
                                taken,
                                DEMO.running().signed()),
                422,
                "\"type\":\"/problems/rule-broken#moorings/v1/booking-ibfk-1\"",
                "\"code\":\"booking-ibfk-1\"",
                "No berth has this number.");
        assertThat(DEMO.running()
                        .get("/problems/" + ProblemKind.RULE_BROKEN.label())
                        .statusCode())
                .isEqualTo(200);
    }

    @Test
    void longAnswersAreZippedForWhoAsks() throws Exception {
        HttpResponse<byte[]> zipped = HttpClient.newHttpClient()
                .send(
                        DEMO.running()
                                .request(PASSAGES)
                                .header("Accept-Encoding", "gzip")
                                .build(),
                        HttpResponse.BodyHandlers.ofByteArray());
        HttpResponse<String> plain = DEMO.running().get(PASSAGES);
        assertThat(zipped.headers().firstValue("Content-Encoding")).hasValue("gzip");
        assertThat(zipped.headers().allValues("Vary").toString().toLowerCase())
                .contains("accept-encoding", "authorization");
        try (GZIPInputStream in = new GZIPInputStream(new ByteArrayInputStream(zipped.body()))) {
            assertThat(new String(in.readAllBytes(), StandardCharsets.UTF_8)).isEqualTo(plain.body());
        }
        assertThat(zipped.body().length).isLessThan(plain.body().length() / 3);
        assertThat(header(plain, "Content-Encoding")).isEmpty();
    }

    @Test
    void zippedBodiesAreReadAndBoundedLikePlainOnes() throws Exception {
        byte[] body = "{\"vessel\":{\"length_m\":11.5}}".getBytes(StandardCharsets.UTF_8);
        assertThat(search(zipped(body), "gzip").statusCode()).isEqualTo(200);
        assertThat(search(body, "identity").statusCode()).isEqualTo(200);
        problem(search(body, "gzip"), 415, "is not");
        problem(search(body, "br"), 415, "gzip");
        byte[] cut = zipped(body);
        problem(search(Arrays.copyOf(cut, cut.length - 9), "gzip"), 415);
        byte[] bomb = zipped(new byte[200 * 1024 * 1024]);
        assertThat(bomb.length).isLessThan(256 * 1024);
        Cost.isWithin(Duration.ofSeconds(2), "200 MB in 200 KB", () -> problem(search(bomb, "gzip"), 413));
    }

    /** An open module is no place to be told that a wrong token works. */
    @Test
    void aWrongCredentialIsRefusedAndNotIgnored() throws Exception {
        for (String credential : List.of("Bearer wrong", "Basic bWFyYTpxdWF5", "Bearer", "anything")) {
            HttpResponse<String> refused = DEMO.running().send("GET", BERTHS + 1, "", "Authorization", credential);
            problem(refused, 401, "not valid here");
            assertThat(refused.headers().allValues("WWW-Authenticate"))
                    .containsExactly("Bearer realm=\"Tidy Bridge\"", "Basic realm=\"Tidy Bridge\", charset=\"UTF-8\"");
        }
        assertThat(DEMO.running().desk(BERTHS + 1).statusCode()).isEqualTo(200);
        assertThat(header(DEMO.running().get(BERTHS + 1), "Vary")).contains("Authorization");
    }

    @Test
    void aPatchOfAnotherTypeIsToldWhichToSend() throws Exception {
        HttpResponse<String> refused = DEMO.running()
                .send(
                        "PATCH",
                        "/api/moorings/v1/bookings/12",
                        "{}",
                        DEMO.running().signed("Content-Type", "text/plain"));
        problem(refused, 415, "application/merge-patch+json or application/json");
        assertThat(header(refused, "Accept-Patch")).startsWith("application/merge-patch+json");
    }

    /** What is documented is sent, and what is sent is documented. */
    @Test
    void fieldsOfTheStateAreSentWhereTheReferenceSaysSo() throws Exception {
        String tag = header(sentAsDocumented("GET", "12", "", "/bookings/{bookingId}"), "ETag");
        sentAsDocumented("GET", "12", "", "/bookings/{bookingId}", "If-None-Match", tag);
        String stay = "{\"berthId\":18,\"vesselId\":42,\"from\":\"2034-05-01\",\"until\":\"2034-05-03\"}";
        HttpResponse<String> made = sentAsDocumented("POST", "", stay, "/bookings");
        assertThat(made.statusCode()).as(made.body()).isEqualTo(201);
        String id = header(made, "Location").replaceAll(".*/", "");
        sentAsDocumented("PATCH", id, "{\"note\":\"x\"}", "/bookings/{bookingId}", "If-Match", header(made, "ETag"));
        assertThat(sentAsDocumented("DELETE", id, "", "/bookings/{bookingId}").statusCode())
                .isEqualTo(204);
    }

    private static HttpResponse<String> sentAsDocumented(
            String method, String id, String body, String route, String... fields) throws Exception {
        HttpResponse<String> answer = DEMO.running()
                .send(
                        method,
                        "/api/moorings/v1/bookings" + (id.isEmpty() ? "" : "/" + id),
                        body,
                        DEMO.running().signed(fields));
        var documented = DEMO.running()
                .json("/api/moorings/v1/openapi.json")
                .path("paths")
                .path(route)
                .path(method.toLowerCase(Locale.ROOT))
                .path("responses")
                .path(String.valueOf(answer.statusCode()));
        assertThat(documented.isMissingNode())
                .as("%s %s: %d", method, route, answer.statusCode())
                .isFalse();
        for (String field : List.of("ETag", "Last-Modified", "Location")) {
            assertThat(answer.headers().firstValue(field).isPresent())
                    .as("%s of %s %s: %d", field, method, route, answer.statusCode())
                    .isEqualTo(documented.path("headers").has(field));
        }
        return answer;
    }

    @Test
    void aPageCanBeContinuedByItsTokenOrItsAddress() throws Exception {
        var page = DEMO.running().json(BERTHS + 2).path("page");
        String byToken = DEMO.running()
                .get(BERTHS + 2 + "&after=" + page.path("after").asString())
                .body();
        assertThat(byToken)
                .isEqualTo(DEMO.running().get(page.path("next").asString()).body())
                .startsWith("{\"data\":[{");
    }

    /** Only a proxy that is named is believed. */
    @Test
    void forwardedFieldsOfTrustedProxiesMakeTheAddressOfTheReference() throws Exception {
        String[] forwarded = {
            "X-Forwarded-Proto",
            "https",
            "X-Forwarded-Host",
            "bridge.example",
            "X-Forwarded-Port",
            "443",
            "X-Forwarded-For",
            "192.0.2.7"
        };
        HttpResponse<String> stranger = DEMO.running().send("GET", "/api/moorings/v1/openapi.json", "", forwarded);
        assertThat(stranger.body())
                .contains("\"url\" : \"http://127.0.0.1:" + DEMO.running().port() + "/api/moorings/v1\"");
        try (RunningService behind = RunningService.with("--tidy.names=bridge.example", "--tidy.proxies=127.0.0.1")) {
            behind.publishDemo();
            HttpResponse<String> proxied = behind.send("GET", "/api/moorings/v1/openapi.json", "", forwarded);
            assertThat(proxied.body()).contains("\"url\" : \"https://bridge.example/api/moorings/v1\"");
            assertThat(behind.send("GET", "/api/moorings/v1/openapi.yaml", "", forwarded)
                            .body())
                    .contains("- url: https://bridge.example/api/moorings/v1\n");
            forwarded[3] = "other.example";
            problem(behind.send("GET", "/api/moorings/v1/openapi.json", "", forwarded), 421);
            assertThat(behind.send(
                                    "GET",
                                    "/desk/modules",
                                    "",
                                    "X-Forwarded-For",
                                    "192.0.2.7",
                                    "Authorization",
                                    "Bearer " + behind.token())
                            .statusCode())
                    .as("who comes through a proxy is not on this machine")
                    .isEqualTo(403);
        }
    }
}
