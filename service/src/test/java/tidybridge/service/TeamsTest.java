package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Client teams come to be, ask for what they need, get it until a day, and are told; nobody reaches what is another's. */
class TeamsTest {

    private static final String SECRET = "the-harbour-office-knows-it-too";
    private static final String RECORDS = "tidy_records_with";

    private static MailStandIn mail;
    private static WebhookStandIn webhook;
    private static RunningService service;
    private static Callers callers;

    @BeforeAll
    static void start() throws Exception {
        mail = new MailStandIn();
        webhook = new WebhookStandIn();
        Path secret = Files.writeString(Files.createTempFile("webhook", ".secret"), SECRET + "\n");
        service = RunningService.with(
                "--tidy.sign-up=on-request",
                "--tidy.mail.host=127.0.0.1",
                "--tidy.mail.port=" + mail.port(),
                "--tidy.mail.protection=none",
                "--tidy.mail.from=tidy@marrowby.example",
                "--tidy.notices.to=access@marrowby.example",
                "--tidy.notices.webhook=" + webhook.address(),
                "--tidy.notices.secret-file=" + secret,
                "--tidy.notices.inside=127.0.0.0/8");
        callers = new Callers(service);
        HttpResponse<String> published = service.publish(
                """
                module: cranes
                version: 1.0.0
                title: Cranes
                source: waterways
                owner: Crane office
                contact: cranes@marrowby.example
                listed: everybody
                needs: cranes.use
                routes:
                  /cranes:
                    get:
                      sql: list.sql
                      answer: rows
                      order: [id]
                      fields: { hook: { mask: whole, unless: cranes.whole } }
                  /lift: { get: { sql: lift.sql, answer: value, needs: cranes.lift } }
                """, Map.of("list.sql", "select id, berth_no as hook from berth", "lift.sql", "select 1 as lifted"));
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
    }

    @AfterAll
    static void stop() throws Exception {
        service.close();
        webhook.close();
        mail.close();
    }

    @BeforeEach
    void answerAll() {
        mail.answer("250 fine");
        webhook.answer(204);
    }

    private static <T> T awaited(Callable<T> found) throws Exception {
        return Until.there(found::call);
    }

    private static String mailWith(String words) throws Exception {
        return awaited(() -> mail.messages().stream()
                .filter(message -> message.contains(words))
                .findFirst()
                .orElse(null));
    }

    private static JsonNode desk(String method, String path, Object body) throws Exception {
        HttpResponse<String> response = callers.desk(method, path, body);
        assertThat(response.statusCode()).as(response.body()).isBetween(200, 299);
        return response.body().isEmpty() ? null : RunningService.json(response);
    }

    private static JsonNode waiting(String title) throws Exception {
        return desk("GET", "/desk/requests", null)
                .path("requests")
                .valueStream()
                .filter(request -> request.path("title").asString().equals(title)
                        && request.path("state").asString().equals("waiting"))
                .findFirst()
                .orElseThrow();
    }

    private static JsonNode answer(JsonNode request, Map<String, Object> answer) throws Exception {
        return desk("PUT", "/desk/requests/" + request.path("id").asLong() + "/answer", answer);
    }

    /** A team that somebody is invited into. */
    private static Member member(String team) throws Exception {
        desk("PUT", "/desk/teams/" + team, Map.of("title", team, "contact", team + "@marrowby.example"));
        JsonNode invitation = desk("POST", "/desk/teams/" + team + "/invitations", Map.of());
        return Member.joining(service, invitation.path("link").asString(), Callers.fresh("member"));
    }

    private static int cranes(String key) throws Exception {
        return service.send("GET", "/api/cranes/v1/cranes?limit=1", "", "Authorization", "Bearer " + key)
                .statusCode();
    }

    @Test
    void aStrangerAsksJoinsIsAllowedAndCalls() throws Exception {
        Member stranger = Member.nobody(service);
        HttpResponse<String> asked = stranger.post(
                "/team/join",
                "title",
                "Harbour apps",
                "full-name",
                "Ida Lind",
                "contact",
                "ida@marrowby.example",
                "reason",
                "A board for the quay\nBcc: everybody@marrowby.example");
        assertThat(asked.body()).contains("Your request was passed on");
        String toOwner = mailWith("Harbour apps asks to become a client team");
        assertThat(toOwner)
                .contains("To: access@marrowby.example", "./tidy request show", "Auto-Submitted: auto-generated")
                .as("no address that a stranger could have made up")
                .doesNotContain("http://");
        assertThat(toOwner.lines().filter(line -> line.startsWith("Bcc"))).isEmpty();

        JsonNode team =
                answer(waiting("Harbour apps"), Map.of("answer", "allow", "team", "harbour-apps", "words", "Welcome"));
        assertThat(team.path("mailed").asBoolean()).isTrue();
        String toStranger = mailWith("is a client team now");
        String link = team.path("link").asString();
        assertThat(toStranger).contains("To: ida@marrowby.example", "Welcome", link.replaceFirst(".*code=", ""));
        Member ida = Member.joining(service, link, "ida@marrowby.example");
        assertThat(stranger.get("/team/invitation?code=" + link.replaceFirst(".*code=", ""))
                        .statusCode())
                .isEqualTo(404);

        String key = ida.application("quay-board");
        assertThat(cranes(key)).isEqualTo(403);
        assertThat(ida.get("/reference/cranes/v1/getCranes").body())
                .contains("/team/ask?module=cranes/v1&amp;privilege=cranes.use");
        assertThat(ida.get("/team/ask?module=cranes/v1").body())
                .contains("opens GET /cranes", "shows whole what is masked in GET /cranes");
        HttpResponse<String> sent = ida.post(
                "/team/ask",
                "module",
                "cranes/v1",
                "application",
                "quay-board",
                "privilege",
                "cranes.use",
                "privilege",
                "cranes.lift",
                "reason",
                "It lifts boats");
        assertThat(sent.headers().firstValue("Location")).hasValue("/team#requests");
        assertThat(mailWith("Harbour apps asks for access to cranes/v1"))
                .contains("To: cranes@marrowby.example", "cranes.lift", "It lifts boats");

        answer(
                waiting("Harbour apps"),
                Map.of(
                        "answer", "allow",
                        "privileges", List.of("cranes.use"),
                        "words", "Lifting needs a licence",
                        "endsAt", "2099-01-01T00:00:00Z"));
        assertThat(cranes(key)).as("at once").isEqualTo(200);
        assertThat(mailWith("Lifting needs a licence"))
                .contains("cranes.use", "It ends at 2099-01-01T00:00:00Z", "Lifting needs a licence")
                .doesNotContain("cranes.lift");
        assertThat(ida.get("/team").body())
                .contains("allowed until the end of 31 December 2098", "Lifting needs a licence");
        assertThat(ida.get("/team/applications/quay-board").body())
                .contains("until the end of 31 December 2098")
                .doesNotContain(key);

        desk("DELETE", "/desk/clients/quay-board/privileges/cranes.use", null);
        assertThat(cranes(key)).isEqualTo(403);
        String page = awaited(() -> {
            String body = ida.get("/team").body();
            return body.contains("403 A privilege is missing") ? body : null;
        });
        assertThat(page).contains("quay-board", "cranes/v1 GET /cranes", "/calls?id=");
    }

    /** What is given ends at its moment, even while the record store takes questions and answers none. */
    @Test
    void whatIsGivenEndsAtItsMoment() throws Exception {
        Member member = member("dredgers");
        String key = member.application("dredger");
        member.post(
                "/team/ask", "module", "cranes/v1", "application", "dredger", "privilege", "cranes.use", "reason", "x");
        answer(
                waiting("dredgers"),
                Map.of(
                        "answer",
                        "allow",
                        "endsAt",
                        Instant.now().plusMillis(2_500).toString()));
        String token = RunningService.json(service.send(
                        "POST",
                        "/oauth/token",
                        "grant_type=client_credentials",
                        "Content-Type",
                        "application/x-www-form-urlencoded",
                        "Authorization",
                        Callers.basic("dredger", key)))
                .path("access_token")
                .asString();
        assertThat(cranes(key)).isEqualTo(200);
        assertThat(cranes(token)).isEqualTo(200);
        try (Connection connection = TestDatabase.server().connect(RECORDS);
                Statement statement = connection.createStatement()) {
            statement.execute("lock tables access_number write");
            Until.seen(() -> cranes(key), status -> status == 403);
            assertThat(cranes(token)).as("a token that was got before").isEqualTo(403);
        }
        assertThat(member.get("/team/applications/dredger").body()).contains("ended with");
    }

    @Test
    void calledAddressesCanTellThatNothingWasChanged() throws Exception {
        Member member = member("pilots");
        member.application("pilot");
        member.post(
                "/team/ask", "module", "cranes/v1", "application", "pilot", "privilege", "cranes.use", "reason", "<b>");
        WebhookStandIn.Call call = awaited(() -> webhook.calls().stream()
                .filter(one -> one.body().contains("\"pilot\""))
                .findFirst()
                .orElse(null));
        JsonNode event = JsonMapper.shared().readTree(call.body());
        assertThat(event.path("specversion").asString()).isEqualTo("1.0");
        assertThat(event.path("type").asString()).isEqualTo("tidy-bridge.access-asked");
        assertThat(event.path("data").path("privileges").path(0).asString()).isEqualTo("cranes.use");
        assertThat(event.path("data").path("reason").asString()).isEqualTo("<b>");
        assertSigned(call, webhook.address(), SECRET);
    }

    private static void assertSigned(WebhookStandIn.Call call, String address, String key) throws Exception {
        String input = call.fields().get("Signature-Input").replaceFirst("^notice=", "");
        String base = "\"@method\": POST\n\"@target-uri\": " + address + "\n\"content-type\": "
                + call.fields().get("Content-Type") + "\n\"content-digest\": "
                + call.fields().get("Content-Digest") + "\n\"@signature-params\": " + input;
        Mac mac = Mac.getInstance("HmacSHA256");
        mac.init(new SecretKeySpec(key.getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
        assertThat(call.fields().get("Signature"))
                .isEqualTo("notice=:"
                        + Base64.getEncoder().encodeToString(mac.doFinal(base.getBytes(StandardCharsets.UTF_8))) + ":");
    }

    /** Nothing is lost while a server is away, and what can never be told is given up; nobody who asks notices. */
    @Test
    void whatCannotBeToldIsTriedAgainOrGivenUp() throws Exception {
        mail.answer("451 come again");
        webhook.answer(503);
        Member member = member("riggers");
        member.application("rigger");
        member.post(
                "/team/ask", "module", "cranes/v1", "application", "rigger", "privilege", "cranes.use", "reason", "x");
        assertThat(notice("riggers asks", "mail", "waiting").path("trouble").asString())
                .contains("451 come again");
        assertThat(notice("riggers asks", "webhook", "waiting").path("trouble").asString())
                .contains("503");
        mail.answer("550 nobody of that name");
        webhook.answer(200);
        TestDatabase.execute(RECORDS, "update notice set next_at = utc_timestamp(3) where state = 'waiting'");
        assertThat(notice("riggers asks", "webhook", "told").path("tries").asInt())
                .isEqualTo(2);
        assertThat(notice("riggers asks", "mail", "given-up").path("trouble").asString())
                .contains("550");
        assertThat(TestDatabase.column(
                        "select id from " + RECORDS + ".notice where state <> 'waiting' and content <> ''"))
                .as("links that may work still are forgotten")
                .isEmpty();
    }

    private static JsonNode notice(String subject, String way, String state) throws Exception {
        return awaited(() -> desk("GET", "/desk/notices", null)
                .path("notices")
                .valueStream()
                .filter(notice -> notice.path("subject").asString().startsWith(subject)
                        && notice.path("way").asString().equals(way)
                        && notice.path("state").asString().equals(state)
                        && notice.path("tries").asInt() > 0
                        && (state.equals("told") || notice.has("trouble")))
                .findFirst()
                .orElse(null));
    }

    /** Only teams that hold privileges of a module are told what happens to it: once for all modules of one publication. */
    @Test
    void teamsAreToldWhatHappensToTheirModules() throws Exception {
        Member member = member("followers");
        member.application("follower");
        member("strangers").application("stranger");
        HttpResponse<String> wrong = member.post("/team/webhook", "webhook", "ftp://apps.marrowby.example/");
        assertThat(wrong.statusCode()).isEqualTo(400);
        try (WebhookStandIn own = new WebhookStandIn()) {
            HttpResponse<String> kept = member.post("/team/webhook", "webhook", own.address());
            Matcher shown =
                    Pattern.compile("Key of the webhook\"><code>([^<]+)<").matcher(kept.body());
            assertThat(shown.find()).as(kept.body()).isTrue();
            member.post(
                    "/team/ask",
                    "module",
                    "cranes/v1",
                    "application",
                    "follower",
                    "privilege",
                    "winches.turn",
                    "reason",
                    "x");
            publishWinches("1.0.0", "");
            assertThat(member.post(
                                    "/team/ask",
                                    "module",
                                    "winches/v1",
                                    "application",
                                    "follower",
                                    "privilege",
                                    "winches.turn",
                                    "reason",
                                    "x")
                            .statusCode())
                    .isEqualTo(303);
            answer(waiting("followers"), Map.of("answer", "allow"));

            publishWinches("1.1.0", "      deprecated: { since: 2031-01-01, ends: 2032-01-01 }\n");
            assertThat(mailWith("winches/v1: 1.1.0 was published"))
                    .contains("To: followers@marrowby.example", "GET /winches", "/api/winches/changes#");
            WebhookStandIn.Call call = awaited(() -> own.calls().stream()
                    .filter(one -> one.body().contains("module-news"))
                    .findFirst()
                    .orElse(null));
            JsonNode news = JsonMapper.shared()
                    .readTree(call.body())
                    .path("data")
                    .path("news")
                    .path(0);
            assertThat(news.path("version").asString()).isEqualTo("1.1.0");
            assertThat(news.path("differences")).isNotEmpty();
            assertSigned(call, own.address(), shown.group(1));

            JsonNode said = desk(
                    "POST",
                    "/desk/announcements",
                    Map.of("module", "winches", "title", "Oiled on <Monday>", "words", "No turning before noon."));
            assertThat(said.path("teams").valueStream().map(JsonNode::asString)).containsExactly("followers");
            assertThat(mailWith("winches: Oiled on <Monday>")).contains("No turning before noon.");
            assertThat(service.get("/api/winches/changes").body())
                    .contains("Oiled on &lt;Monday", "No turning before noon.");
            assertThat(service.get("/directory.atom").body()).contains("Oiled on &lt;Monday");
            assertThat(service.get("/reference/winches/v1").body()).contains("Oiled on &lt;Monday");
            assertThat(callers.desk(
                                    "POST",
                                    "/desk/announcements",
                                    Map.of("module", "winch", "title", "a", "words", "b"))
                            .body())
                    .contains("Did you mean 'winches'?");

            desk("DELETE", "/desk/modules/winches/v1/release?version=1.1.0&reason=rust", null);
            assertThat(mailWith("winches/v1 was retired")).contains("Why: rust");
        }
        assertThat(mail.messages()).noneMatch(message -> message.contains("To: strangers@"));
    }

    private static void publishWinches(String version, String more) throws Exception {
        HttpResponse<String> published =
                service.publish("""
                module: winches
                version: %s
                title: Winches
                source: waterways
                listed: everybody
                needs: winches.turn
                routes:
                  /winches:
                    get:
                      sql: winches.sql
                      answer: value
                %s""".formatted(version, more), Map.of("winches.sql", "select 1 as winches"));
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
    }

    @Test
    void nobodyReachesWhatIsAnotherTeams() throws Exception {
        Member owner = member("owners");
        String key = owner.application("own-board");
        owner.post(
                "/team/ask",
                "module",
                "cranes/v1",
                "application",
                "own-board",
                "privilege",
                "cranes.use",
                "reason",
                "x");
        long request = waiting("owners").path("id").asLong();
        Member other = member("others");
        for (HttpResponse<String> tried : List.of(
                other.get("/team/applications/own-board"),
                other.post("/team/applications/own-board/credentials", "credential", "second"),
                other.post("/team/applications/own-board/credentials/first/revoke", "sure", "first"),
                other.post("/team/applications/own-board/remove", "sure", "own-board"),
                other.post("/team/requests/" + request + "/withdraw"),
                other.post(
                        "/team/ask",
                        "module",
                        "cranes/v1",
                        "application",
                        "own-board",
                        "privilege",
                        "cranes.use",
                        "reason",
                        "x"))) {
            assertThat(tried.statusCode()).as(tried.body()).isEqualTo(404);
            assertThat(tried.body()).doesNotContain("tbk_");
        }
        assertThat(other.post("/team/applications", "application", "own-board").statusCode())
                .isEqualTo(409);
        assertThat(waiting("owners").path("id").asLong()).isEqualTo(request);
        assertThat(cranes(key)).as("its key is valid still").isEqualTo(403);
        Member nobody = Member.nobody(service);
        assertThat(nobody.get("/team").headers().firstValue("Location")).hasValue("/team/sign-in?back=/team");
        assertThat(nobody.post("/team/applications", "application", "mine").statusCode())
                .isEqualTo(401);
    }

    /** Whoever answers without giving access gives what they hold, and sees no other requests. */
    @Test
    void anOwnerAnswersForWhatTheyHold() throws Exception {
        Member member = member("askers");
        member.application("asker");
        member.post(
                "/team/ask", "module", "cranes/v1", "application", "asker", "privilege", "cranes.use", "reason", "1");
        member.post(
                "/team/ask", "module", "cranes/v1", "application", "asker", "privilege", "cranes.lift", "reason", "2");
        String key = callers.holding("tidy.answer-requests", "cranes.use");
        String[] shown = {"Authorization", "Bearer " + key};
        List<JsonNode> seen = RunningService.json(service.send("GET", "/desk/requests", "", shown))
                .path("requests")
                .valueStream()
                .filter(request -> request.path("client").asString("").equals("asker"))
                .toList();
        assertThat(seen)
                .singleElement()
                .satisfies(
                        request -> assertThat(request.path("reason").asString()).isEqualTo("1"));
        long other = desk("GET", "/desk/requests", null)
                .path("requests")
                .valueStream()
                .filter(request -> request.path("reason").asString().equals("2"))
                .findFirst()
                .orElseThrow()
                .path("id")
                .asLong();
        String allow = "{\"answer\": \"allow\"}";
        assertThat(service.send("PUT", "/desk/requests/" + other + "/answer", allow, shown)
                        .statusCode())
                .isEqualTo(404);
        long own = seen.getFirst().path("id").asLong();
        assertThat(service.send("PUT", "/desk/requests/" + own + "/answer", allow, shown)
                        .statusCode())
                .isEqualTo(200);
        HttpResponse<String> again = service.send("PUT", "/desk/requests/" + own + "/answer", allow, shown);
        assertThat(again.statusCode()).as(again.body()).isEqualTo(409);
    }

    @Test
    void whatIsAskedIsBounded() throws Exception {
        Member stranger = Member.nobody(service);
        int last = 0;
        for (int i = 0; i < 7; i++) {
            last = stranger.post(
                            "/team/join",
                            "title",
                            "Many " + i,
                            "full-name",
                            "Ida",
                            "contact",
                            "i@marrowby.example",
                            "reason",
                            "x")
                    .statusCode();
        }
        assertThat(last).as("from one address, within a day").isEqualTo(429);
        Member member = member("busy");
        member.application("busy-board");
        for (int i = 0; i < 21; i++) {
            last = member.post(
                            "/team/ask",
                            "module",
                            "cranes/v1",
                            "application",
                            "busy-board",
                            "privilege",
                            "cranes.use",
                            "reason",
                            "x")
                    .statusCode();
        }
        assertThat(last).as("waiting at once").isEqualTo(409);
        assertThat(member.post("/team/join", "title", "x".repeat(20_000)).statusCode())
                .isEqualTo(413);
        HttpResponse<String> broken = service.send(
                "POST",
                "/team/join",
                "title=%zz",
                "Content-Type",
                "application/x-www-form-urlencoded",
                "Origin",
                service.address());
        assertThat(broken.statusCode()).isEqualTo(400);
    }

    /** What a browser is made to send by another page is not taken. */
    @ParameterizedTest
    @ValueSource(strings = {"http://evil.example", "null", ""})
    void formsOfOtherPagesAreRefused(String origin) throws Exception {
        String[] fields = origin.isEmpty()
                ? new String[] {"Content-Type", "application/x-www-form-urlencoded"}
                : new String[] {"Content-Type", "application/x-www-form-urlencoded", "Origin", origin};
        for (String path : List.of("/team/sign-in", "/team/applications", "/team/ask", "/team/join")) {
            assertThat(service.send("POST", path, "name=a&password=b", fields).statusCode())
                    .as(path)
                    .isEqualTo(403);
        }
    }

    @Test
    void whatATeamWritesNeverBecomesMarkup() throws Exception {
        Member member = member("markup");
        String hostile = "<script>alert(1)</script>\"'&";
        HttpResponse<String> refused = member.post("/team/applications", "application", hostile, "about", hostile);
        assertThat(refused.statusCode()).isEqualTo(400);
        assertThat(refused.body()).doesNotContain("<script>alert").contains("&lt;script>alert(1)");
        member.application("markup-board");
        member.post(
                "/team/ask",
                "module",
                "cranes/v1",
                "application",
                "markup-board",
                "privilege",
                "cranes.use",
                "reason",
                hostile);
        assertThat(member.get("/team").body()).doesNotContain("<script>alert");
    }

    @Test
    void onlyLocalAddressesAreLedBackTo() throws Exception {
        Member nobody = Member.nobody(service);
        for (String back :
                List.of("https://evil.example/", "//evil.example", "/\\evil.example", "javascript:alert(1)")) {
            assertThat(nobody.get("/team/sign-in?back=" + URLEncoder.encode(back, StandardCharsets.UTF_8))
                            .body())
                    .contains("name=\"back\" value=\"/team\"");
        }
    }

    @Test
    void aPersonOfATeamSignsInWithALinkOfTheirOwn() throws Exception {
        Member member = member("signers");
        String name = desk("GET", "/desk/teams", null)
                .path("teams")
                .valueStream()
                .filter(team -> team.path("name").asString().equals("signers"))
                .findFirst()
                .orElseThrow()
                .path("people")
                .path(0)
                .asString();
        assertThat(Member.nobody(service).signIn(name).headers().firstValue("Location"))
                .hasValue("/team");
        String path = desk("POST", "/desk/people/" + name + "/link", Map.of())
                .path("path")
                .asString();
        assertThat(path).startsWith("/team/password?code=");
        HttpResponse<String> chosen = member.post(
                "/team/password", "code", path.replaceFirst(".*=", ""), "password", "another-buoy-93-in-the-fog");
        assertThat(chosen.statusCode()).as(chosen.body()).isEqualTo(303);
        assertThat(Member.nobody(service).signIn(name).statusCode())
                .as("the old one")
                .isEqualTo(401);
    }
}
