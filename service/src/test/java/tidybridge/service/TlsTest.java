package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.read.ListAppender;
import java.io.IOException;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.cert.X509Certificate;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import javax.net.ssl.SSLException;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.slf4j.LoggerFactory;
import tidybridge.demo.Until;
import tidybridge.service.transport.LiveTls;
import tidybridge.service.transport.TlsFiles;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The service with a certificate of its own, and callers with theirs. */
class TlsTest {

    private static final Situation DOORS = new Situation("doors");

    private static Path folder;
    private static Certificate authority;
    private static RunningService service;
    private static HttpClient client;

    @BeforeAll
    static void start() throws Exception {
        folder = Files.createTempDirectory("tls");
        authority = Certificate.authority("CN=Harbour Office,O=Marrowby Waterways");
        authority.writeCertificate(folder.resolve("authority.pem"));
        renew();
        service = RunningService.with(
                "--tidy.tls.certificate=" + folder.resolve("service.pem"),
                "--tidy.tls.key=" + folder.resolve("service.key"),
                "--tidy.tls.client-authorities=" + folder.resolve("authority.pem"),
                "--tidy.proxies=127.0.0.1",
                "--tidy.names=bridge.marrowby.example",
                "--tidy.desk-from=192.0.2.0/24");
        client = client(null, HttpClient.Version.HTTP_1_1);
        publish(DOORS.yaml());
        publish(DOORS.yaml().replace("module: doors", "module: vaults") + "tls: required\n");
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static Certificate renew() throws Exception {
        Certificate own = authority.sign("CN=bridge.marrowby.example");
        own.writeKey(folder.resolve("service.key"));
        own.writeCertificate(folder.resolve("service.pem"));
        return own;
    }

    private static HttpClient client(Certificate shown, HttpClient.Version version) throws Exception {
        return HttpClient.newBuilder()
                .version(version)
                .sslContext(Certificate.context(authority, shown))
                .build();
    }

    private static HttpResponse<String> send(
            HttpClient from, String method, String path, Object body, String... headers) throws Exception {
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create("https://127.0.0.1:" + service.port() + path))
                .method(
                        method,
                        body == null
                                ? HttpRequest.BodyPublishers.noBody()
                                : HttpRequest.BodyPublishers.ofString(
                                        JsonMapper.shared().writeValueAsString(body)));
        if (body != null) {
            request.header("Content-Type", "application/json");
        }
        for (int i = 0; i < headers.length; i += 2) {
            request.setHeader(headers[i], headers[i + 1]);
        }
        return from.send(request.build(), HttpResponse.BodyHandlers.ofString());
    }

    private static HttpResponse<String> desk(String method, String path, Object body) throws Exception {
        HttpResponse<String> done = send(client, method, path, body, "Authorization", "Bearer " + service.token());
        assertThat(done.statusCode()).as(done.body()).isBetween(200, 299);
        return done;
    }

    private static void publish(String yaml) throws Exception {
        Map<String, String> files = new java.util.LinkedHashMap<>(DOORS.statements());
        files.put("module.yaml", yaml);
        desk(
                "POST",
                "/desk/releases",
                Map.of("by", "tests", "modules", List.of(Map.of("folder", "modules/test", "files", files))));
    }

    /** An application that is known by certificates of some subjects, with a role of its own. */
    private static String application(boolean disabled, String... subjects) throws Exception {
        String name = Callers.fresh("shown");
        desk("PUT", "/desk/roles/" + name, Map.of("holds", List.of("doors.me")));
        desk(
                "PUT",
                "/desk/clients/" + name,
                Map.of(
                        "owner",
                        "Office",
                        "contact",
                        "a@marrowby.example",
                        "roles",
                        List.of(name),
                        "disabled",
                        disabled,
                        "subjects",
                        List.of(subjects)));
        return name;
    }

    private static JsonNode problem(HttpResponse<String> response, int status) {
        assertThat(response.statusCode()).as(response.body()).isEqualTo(status);
        assertThat(response.headers().firstValue("Content-Type")).hasValue("application/problem+json");
        return RunningService.json(response);
    }

    @Test
    void bothVersionsOfHttpAreSpoken() throws Exception {
        for (HttpClient.Version version : HttpClient.Version.values()) {
            HttpClient from = client(null, version);
            HttpResponse<String> open = send(from, "GET", "/api/doors/v1/open", null);
            assertThat(open.version()).isEqualTo(version);
            assertThat(open.body()).isEqualTo("{\"value\":1}");
            assertThat(open.headers().firstValue("Strict-Transport-Security")).hasValue("max-age=31536000");
            problem(send(from, "GET", "/api/doors/v1/look", null), 401);
            problem(send(from, "GET", "/api/nowhere/v1", null), 404);
            problem(send(from, "POST", "/api/doors/v1/open", Map.of("a", 1)), 405);
            List<HttpResponse<String>> many = Together.atOnce(80, () -> send(from, "GET", "/api/vaults/v1/open", null));
            assertThat(many).allSatisfy(one -> assertThat(one.statusCode()).isEqualTo(200));
        }
    }

    @Test
    void whoeverSpeaksPlainHttpIsToldInAProblemDocument() throws Exception {
        try (Socket socket = new Socket("127.0.0.1", service.port())) {
            socket.setSoTimeout(5_000);
            socket.getOutputStream()
                    .write("GET /api/doors/v1/open HTTP/1.1\r\nHost: localhost\r\n\r\n"
                            .getBytes(StandardCharsets.US_ASCII));
            String answer = new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
            assertThat(answer).startsWith("HTTP/1.1 403 ").contains("application/problem+json", "\"tls-needed\"");
            assertThat(JsonMapper.shared()
                            .readTree(answer.substring(answer.indexOf("\r\n\r\n")))
                            .path("status")
                            .asInt())
                    .isEqualTo(403);
        }
    }

    @Test
    void aModuleThatAsksForItIsNotCalledWithout() throws Exception {
        RunningService plain = SharedService.get();
        HttpResponse<String> published = plain.publish(
                DOORS.yaml().replace("module: doors", "module: vaults") + "tls: required\n", DOORS.statements());
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
        for (String path : List.of("/open", "/look", "/nowhere", "/openapi.json")) {
            assertThat(problem(plain.get("/api/vaults/v1" + path), 403)
                            .path("code")
                            .asString())
                    .isEqualTo("tls-needed");
        }
        assertThat(problem(plain.send("GET", "/api/vaults/v1/open", "", plain.signed()), 403)
                        .path("detail")
                        .asString())
                .contains("have it replaced");
    }

    private static X509Certificate seen() throws Exception {
        HttpResponse<String> open = send(client(null, HttpClient.Version.HTTP_1_1), "GET", "/api/doors/v1/open", null);
        assertThat(open.statusCode()).isEqualTo(200);
        return (X509Certificate) open.sslSession().orElseThrow().getPeerCertificates()[0];
    }

    private static void awaitSeen(X509Certificate expected) throws Exception {
        Until.seen(TlsTest::seen, expected::equals);
    }

    /** The service has looked at the files again, and says what it makes of them. */
    private static void awaitTold(ListAppender<ILoggingEvent> told, String words) throws Exception {
        Until.holds(() ->
                told.list.stream().anyMatch(event -> event.getFormattedMessage().contains(words)));
        told.list.clear();
    }

    @Test
    void aRenewedCertificateIsShownWithoutARestartAndABrokenOneIsNot() throws Exception {
        HttpResponse<String> before = send(client, "GET", "/api/doors/v1/open", null);
        assertThat(before.statusCode()).isEqualTo(200);
        Certificate next = renew();
        awaitSeen(next.certificate());
        Logger log = (Logger) LoggerFactory.getLogger(LiveTls.class);
        ListAppender<ILoggingEvent> told = new ListAppender<>();
        told.start();
        log.addAppender(told);
        Certificate other = authority.sign("CN=bridge.marrowby.example");
        try {
            for (String broken : List.of("", "-----BEGIN CERTIFICATE-----\nAAAA\n-----END CERTIFICATE-----\n")) {
                Files.writeString(folder.resolve("service.pem"), broken);
                awaitTold(told, "is not used");
                assertThat(seen()).isEqualTo(next.certificate());
                // one that can be used again, so that the service has something to say of the next that cannot
                next = renew();
                awaitTold(told, "is new");
                awaitSeen(next.certificate());
            }
            // a certificate that was copied before its key
            other.writeCertificate(folder.resolve("service.pem"));
            awaitTold(told, "is not used");
            assertThat(seen()).isEqualTo(next.certificate());
        } finally {
            log.detachAppender(told);
        }
        other.writeKey(folder.resolve("service.key"));
        awaitSeen(other.certificate());
        assertThat(send(client, "GET", "/api/doors/v1/open", null).statusCode())
                .as("on a connection that is open since before")
                .isEqualTo(200);
    }

    @Test
    void anApplicationIsKnownByTheSubjectOfItsCertificate() throws Exception {
        String name = application(false, "CN=quay-display, O=Marrowby Waterways", "CN=quay-display-2");
        for (String subject : List.of("CN=quay-display,O=Marrowby Waterways", "CN=Quay-Display-2")) {
            for (HttpClient.Version version : HttpClient.Version.values()) {
                HttpResponse<String> me =
                        send(client(authority.sign(subject), version), "GET", "/api/doors/v1/me", null);
                assertThat(me.statusCode()).as(me.body()).isEqualTo(200);
                assertThat(RunningService.json(me).path("client").asString()).isEqualTo(name);
            }
        }
        HttpClient shown = client(authority.sign("CN=quay-display-2"), HttpClient.Version.HTTP_1_1);
        assertThat(problem(send(shown, "GET", "/api/doors/v1/closed", null), 403)
                        .path("detail")
                        .asString())
                .contains("'doors.nobody'");
        assertThat(problem(send(shown, "GET", "/api/doors/v1/me", null, "Authorization", "Bearer wrong"), 401)
                        .path("detail")
                        .asString())
                .as("what is said in Authorization counts")
                .contains("'Authorization'");
        assertThat(problem(send(shown, "GET", "/desk/modules", null), 403)
                        .path("detail")
                        .asString())
                .contains("'tidy.read'");
    }

    @Test
    void aCertificateOfNobodyIsRefusedEverywhere() throws Exception {
        application(true, "CN=stopped");
        for (String subject : List.of("CN=nobody", "CN=stopped")) {
            HttpClient from = client(authority.sign(subject), HttpClient.Version.HTTP_1_1);
            for (String path : List.of("/api/doors/v1/me", "/api/doors/v1/open", "/desk/modules")) {
                assertThat(problem(send(from, "GET", path, null), 401)
                                .path("code")
                                .asString())
                        .isEqualTo("sign-in-needed");
            }
        }
        List<Certificate> foreign = new ArrayList<>();
        foreign.add(Certificate.authority("CN=Somebody Else").sign("CN=quay-display-3"));
        foreign.add(authority.sign("CN=quay-display-3", Instant.now().minusSeconds(60)));
        application(false, "CN=quay-display-3");
        for (Certificate one : foreign) {
            HttpClient from = client(one, HttpClient.Version.HTTP_1_1);
            try {
                // a careful caller shows no certificate that the server did not ask for
                problem(send(from, "GET", "/api/doors/v1/me", null), 401);
            } catch (IOException e) {
                assertThat(e).isInstanceOf(SSLException.class);
            }
        }
    }

    @Test
    void oneSubjectIsOneApplication() throws Exception {
        application(false, "CN=mine,O=Marrowby");
        for (String subject : List.of("cn=MINE, o=marrowby", "no name at all", "")) {
            HttpResponse<String> other = send(
                    client,
                    "PUT",
                    "/desk/clients/thief",
                    Map.of(
                            "owner",
                            "Office",
                            "contact",
                            "a@marrowby.example",
                            "roles",
                            List.of(),
                            "subjects",
                            List.of(subject)),
                    "Authorization",
                    "Bearer " + service.token());
            problem(other, subject.startsWith("cn") ? 409 : 400);
        }
    }

    @Test
    void theManagementApiAnswersOtherMachinesOverTransportSecurityOnly() throws Exception {
        String[] signed = {"Authorization", "Bearer " + service.token(), "Forwarded", ""};
        signed[3] = "for=192.0.2.7;proto=https;host=bridge.marrowby.example";
        assertThat(send(client, "GET", "/desk/modules", null, signed).statusCode())
                .isEqualTo(200);
        signed[3] = "for=198.51.100.1;proto=https;host=bridge.marrowby.example";
        assertThat(problem(send(client, "GET", "/desk/modules", null, signed), 403)
                        .path("detail")
                        .asString())
                .contains("tidy.desk-from");
        assertThat(problem(send(client, "GET", "/desk/modules", null, "Forwarded", "for=192.0.2.7;proto=http"), 403)
                        .path("code")
                        .asString())
                .isEqualTo("tls-needed");
    }

    @Test
    void aSecretThatOthersCouldReadIsNotLookedAt() throws Exception {
        for (String[] secret : new String[][] {
            {"Authorization", "Bearer " + service.token()},
            {"Authorization", "Basic YTpi"},
            {"Cookie", "tidy_session=tbs_0123456789abcdef"}
        }) {
            JsonNode told = problem(
                    send(
                            client,
                            "GET",
                            "/api/doors/v1/open",
                            null,
                            secret[0],
                            secret[1],
                            "Forwarded",
                            "for=192.0.2.7;proto=http"),
                    403);
            assertThat(told.path("code").asString()).isEqualTo("tls-needed");
            assertThat(told.path("detail").asString()).contains("have the credential replaced");
        }
        assertThat(send(client, "GET", "/api/doors/v1/open", null, "Forwarded", "for=192.0.2.7;proto=http")
                        .statusCode())
                .as("without a secret")
                .isEqualTo(200);
    }

    @Test
    void theCommandLineBelievesWhoeverItIsToldTo() throws Exception {
        String url = "https://127.0.0.1:" + service.port();
        Launched here = new Launched(service);
        Launched.Ended doubting = here.tidy("modules", "--service", url);
        assertThat(doubting.code()).isEqualTo(3);
        assertThat(doubting.err()).contains("--trust").hasLineCount(1);
        Launched.Ended trusting = here.tidy(
                "modules",
                "--service",
                url,
                "--trust",
                folder.resolve("authority.pem").toString());
        assertThat(trusting.code()).as(trusting.err()).isZero();
        assertThat(trusting.out()).contains("vaults");
    }

    @Test
    void filesThatCannotBeUsedAreSaidAtTheStart() throws Exception {
        Path other = Files.createTempDirectory("tls");
        Certificate one = authority.sign("CN=one");
        Path certificate = one.writeCertificate(other.resolve("one.pem"));
        Path key = one.writeKey(other.resolve("one.key"));
        Path foreign = authority.sign("CN=two").writeKey(other.resolve("two.key"));
        Certificate ended = authority.sign("CN=one", Instant.now().minusSeconds(5));
        check(certificate, foreign, "is not the one of the first certificate");
        check(certificate, certificate, "holds no private key");
        check(key, key, "holds no certificate");
        check(other.resolve("nowhere"), key, "cannot be read");
        check(ended.writeCertificate(other.resolve("old.pem")), ended.writeKey(other.resolve("old.key")), "ended on");
    }

    private static void check(Path certificate, Path key, String said) {
        assertThatThrownBy(() -> LiveTls.load(new TlsFiles(certificate, key, null), Clock.systemUTC()))
                .isInstanceOf(TlsFiles.Unfit.class)
                .hasMessageContaining(said);
    }
}
