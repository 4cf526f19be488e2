package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.demo.StandInProvider;
import tidybridge.demo.TestFolder;
import tools.jackson.databind.JsonNode;

/** People who come from an outside provider (OpenID Connect), which a stand-in plays. */
class ProviderTest {

    private static final HttpClient BROWSER =
            HttpClient.newBuilder().followRedirects(HttpClient.Redirect.NEVER).build();

    private static StandInProvider provider;
    private static RunningService service;

    @BeforeAll
    static void start() throws Exception {
        provider = StandInProvider.start("between the two");
        Path secret = Files.writeString(TestFolder.of("provider.secret"), "between the two\n");
        service = RunningService.with(
                "--tidy.provider.name=Marrowby accounts",
                "--tidy.provider.issuer=" + provider.issuer(),
                "--tidy.provider.client=" + StandInProvider.CLIENT,
                "--tidy.provider.secret-file=" + secret,
                "--tidy.provider.groups.bridge-developers=integration-developer",
                "--tidy.provider.groups.bridge-operators=operator",
                "--tidy.provider.groups.canal-walkers=no-such-role",
                "--tidy.issuers.harbour.issuer=" + provider.issuer(),
                "--tidy.issuers.harbour.audience=the-bridge",
                "--tidy.issuers.harbour.keys=" + provider.issuer() + "/keys",
                "--tidy.issuers.harbour.roles-claim=groups",
                "--tidy.issuers.harbour.roles.bridge-operators=operator",
                "--tidy.issuers.harbour.roles.tug-masters=tug");
    }

    @AfterAll
    static void stop() {
        service.close();
        provider.close();
    }

    private static HttpResponse<String> get(String address, String... cookies) throws Exception {
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create(address));
        if (cookies.length > 0) {
            request.header("Cookie", String.join("; ", cookies));
        }
        return BROWSER.send(request.build(), HttpResponse.BodyHandlers.ofString());
    }

    private static String to(HttpResponse<String> response) {
        assertThat(response.statusCode()).as(response.body()).isEqualTo(302);
        return response.headers().firstValue("Location").orElseThrow();
    }

    /** A browser at the provider: what it must bring back, and where. */
    private record Under(String cookie, String back) {}

    private static Under chosen(String subject) throws Exception {
        HttpResponse<String> begun = get(service.address() + "/desk/provider/begin");
        String there = to(begun);
        assertThat(get(there).body()).contains("Tamsin Lock").doesNotContain("between the two");
        return new Under(Callers.cookies(begun).getFirst(), to(get(there + "&as=" + subject)));
    }

    private static HttpResponse<String> signedIn(String subject) throws Exception {
        Under under = chosen(subject);
        return get(under.back(), under.cookie());
    }

    private static JsonNode account(HttpResponse<String> back) throws Exception {
        assertThat(to(back)).isEqualTo("/modules");
        assertThat(back.headers().allValues("Set-Cookie").getFirst()).contains("HttpOnly", "SameSite=Strict");
        return RunningService.json(
                get(service.address() + "/desk/account", Callers.cookies(back).getFirst()));
    }

    @Test
    void theGroupsOfThePersonAreTheirRoles() throws Exception {
        assertThat(RunningService.json(service.get("/desk/provider"))
                        .path("name")
                        .asString())
                .isEqualTo("Marrowby accounts");
        JsonNode tamsin = account(signedIn("1001"));
        assertThat(tamsin.path("name").asString()).isEqualTo("tamsin.lock");
        assertThat(tamsin.path("fullName").asString()).isEqualTo("Tamsin Lock");
        assertThat(tamsin.path("roles").toString()).isEqualTo("[\"integration-developer\"]");
        assertThat(account(signedIn("1003")).path("roles").toString())
                .as("a group that is nobody's role")
                .isEqualTo("[]");
    }

    @Test
    void rolesComeAnewWithEachSignIn() throws Exception {
        account(signedIn("1002"));
        Callers callers = new Callers(service);
        HttpResponse<String> refused = callers.desk(
                "PUT", "/desk/people/orrin.weir", Map.of("fullName", "Orrin Weir", "roles", List.of("reviewer")));
        assertThat(refused.statusCode()).isEqualTo(409);
        assertThat(refused.body()).contains("with each sign-in");
        callers.desk(
                "PUT",
                "/desk/people/orrin.weir",
                Map.of("fullName", "Orrin Weir", "roles", List.of("operator"), "disabled", true));
        assertThat(to(signedIn("1002"))).as("turned off here").isEqualTo("/sign-in?refused=sign-in-needed");
        callers.desk("PUT", "/desk/people/orrin.weir", Map.of("fullName", "Orrin Weir", "roles", List.of("operator")));
        assertThat(account(signedIn("1002")).path("roles").toString()).isEqualTo("[\"operator\"]");
        assertThat(callers.signIn(Map.of("name", "orrin.weir", "password", "")).statusCode())
                .as("has no password here")
                .isEqualTo(401);
    }

    @Test
    void aNameThatIsSomebodyElsesIsNotTakenOver() throws Exception {
        Callers callers = new Callers(service);
        callers.desk("DELETE", "/desk/people/pia.towpath", null);
        callers.desk(
                "PUT",
                "/desk/people/pia.towpath",
                Map.of("fullName", "Another Pia", "roles", List.of("administrator")));
        assertThat(to(signedIn("1003"))).isEqualTo("/sign-in?refused=conflict");
        callers.desk("DELETE", "/desk/people/pia.towpath", null);
    }

    @Test
    void whatDoesNotBelongTogetherSignsNobodyIn() throws Exception {
        Under one = chosen("1001");
        Under other = chosen("1002");
        String refused = "/sign-in?refused=sign-in-needed";
        assertThat(to(get(one.back()))).as("without the cookie").isEqualTo(refused);
        assertThat(to(get(one.back(), other.cookie()))).as("another's cookie").isEqualTo(refused);
        assertThat(to(get(one.back().replaceFirst("code=", "code=no"), one.cookie())))
                .as("another code")
                .isEqualTo(refused);
        assertThat(to(get(
                        other.back()
                                .replaceFirst(
                                        "state=[^&]*", "state=" + one.back().replaceFirst(".*state=", "")),
                        one.cookie())))
                .as("a code for another challenge")
                .isEqualTo(refused);
        assertThat(to(get(one.back(), one.cookie().replaceFirst("=", "=no"))))
                .as("a forged cookie")
                .isEqualTo(refused);
        assertThat(to(get(service.address() + "/desk/provider/back", one.cookie())))
                .as("refused there")
                .isEqualTo(refused);
        Under good = chosen("1001");
        account(get(good.back(), good.cookie()));
        assertThat(to(get(good.back(), good.cookie()))).as("once more").isEqualTo(refused);
    }

    private static Map<String, Object> claims() {
        Map<String, Object> claims = new HashMap<>();
        claims.put("iss", provider.issuer());
        claims.put("aud", "the-bridge");
        claims.put("sub", "tug-7");
        claims.put("exp", Instant.now().getEpochSecond() + 60);
        claims.put("groups", List.of("bridge-operators", "tug-masters", "canal-walkers"));
        return claims;
    }

    private static HttpResponse<String> with(Map<String, Object> claims) throws Exception {
        return service.send("GET", "/desk/account", "", "Authorization", "Bearer " + provider.sign(claims));
    }

    private static int without(String claim) throws Exception {
        Map<String, Object> claims = claims();
        claims.remove(claim);
        return with(claims).statusCode();
    }

    private static int but(String claim, Object value) throws Exception {
        Map<String, Object> claims = claims();
        claims.put(claim, value);
        return with(claims).statusCode();
    }

    @Test
    void aTokenOfATrustedIssuerIsTakenForWhatItsClaimSays() throws Exception {
        HttpResponse<String> response = with(claims());
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        JsonNode account = RunningService.json(response);
        assertThat(account.path("name").asString()).isEqualTo("harbour:tug-7");
        assertThat(account.path("roles").toString()).isEqualTo("[\"operator\"]");
        new Callers(service).desk("PUT", "/desk/roles/tug", Map.of("holds", List.of("locks.pass")));
        assertThat(RunningService.json(with(claims())).path("privileges").toString())
                .contains("locks.pass");
        Map<String, Object> words = claims();
        words.put("groups", "tug-masters others");
        assertThat(RunningService.json(with(words)).path("roles").toString()).isEqualTo("[\"tug\"]");
    }

    /** A claim that a text requires is there, or the call is refused: an empty answer would be taken for the truth. */
    @Test
    void aStatementIsToldAClaimOfTheToken() throws Exception {
        Situation doors = new Situation("doors");
        assertThat(service.publish(doors.yaml(), doors.statements()).statusCode())
                .isEqualTo(200);
        Map<String, Object> claims = claims();
        claims.put("partner", "north-quay");
        claims.put("nested", Map.of("a", 1));
        HttpResponse<String> told = partner(provider.sign(claims));
        assertThat(told.body()).isEqualTo("{\"partner\":\"north-quay\",\"client\":\"harbour:tug-7\"}");
        claims.put("partner", List.of("north-quay", "south-quay"));
        HttpResponse<String> several = partner(provider.sign(claims));
        assertThat(several.statusCode()).as(several.body()).isEqualTo(403);
        assertThat(several.body()).contains("'claim.partner'").doesNotContain("north-quay");
        Callers callers = new Callers(service);
        assertThat(partner(callers.holding("doors.read")).statusCode())
                .as("a key says nothing of it")
                .isEqualTo(403);
        assertThat(service.get("/api/doors/v1/partner").statusCode())
                .as("somebody unknown")
                .isEqualTo(401);
    }

    private static HttpResponse<String> partner(String token) throws Exception {
        return service.send("GET", "/api/doors/v1/partner", "", "Authorization", "Bearer " + token);
    }

    @Test
    void everyOtherTokenIsRefused() throws Exception {
        long now = Instant.now().getEpochSecond();
        for (String claim : List.of("iss", "aud", "sub", "exp")) {
            assertThat(without(claim)).as("without " + claim).isEqualTo(401);
        }
        assertThat(but("iss", "https://elsewhere.example")).isEqualTo(401);
        assertThat(but("aud", List.of("another-bridge"))).isEqualTo(401);
        assertThat(but("exp", now - 120)).isEqualTo(401);
        assertThat(but("nbf", now + 600)).isEqualTo(401);
        assertThat(but("sub", " ")).isEqualTo(401);
        assertThat(without("groups")).as("known, with no role").isEqualTo(200);
        try (StandInProvider stranger = StandInProvider.start("x")) {
            HttpResponse<String> forged =
                    service.send("GET", "/desk/account", "", "Authorization", "Bearer " + stranger.sign(claims()));
            assertThat(forged.statusCode()).as("signed by somebody else").isEqualTo(401);
        }
    }

    @Test
    void aServiceWithoutAProviderSaysSo() throws Exception {
        RunningService other = SharedService.get();
        assertThat(other.json("/desk/provider").has("name")).isFalse();
        assertThat(to(get(other.address() + "/desk/provider/begin"))).isEqualTo("/sign-in?refused=route-unknown");
    }
}
