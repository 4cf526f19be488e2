package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import com.nimbusds.jose.JOSEObjectType;
import com.nimbusds.jose.JWSAlgorithm;
import com.nimbusds.jose.JWSHeader;
import com.nimbusds.jose.crypto.ECDSASigner;
import com.nimbusds.jose.crypto.MACSigner;
import com.nimbusds.jose.jwk.Curve;
import com.nimbusds.jose.jwk.ECKey;
import com.nimbusds.jose.jwk.gen.ECKeyGenerator;
import com.nimbusds.jwt.JWTClaimsSet;
import com.nimbusds.jwt.PlainJWT;
import com.nimbusds.jwt.SignedJWT;
import java.net.http.HttpResponse;
import java.time.Instant;
import java.util.Date;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Access tokens for client applications: how they are got, what they open, and how they end. */
class TokensTest {

    @RegisterExtension
    static final Situation DOORS = new Situation("doors");

    private final RunningService service = DOORS.service();
    private final Callers callers = new Callers(service);

    private HttpResponse<String> form(String path, String body, String... headers) throws Exception {
        String[] all = new String[headers.length + 2];
        System.arraycopy(headers, 0, all, 0, headers.length);
        all[headers.length] = "Content-Type";
        all[headers.length + 1] = "application/x-www-form-urlencoded";
        return service.send("POST", path, body, all);
    }

    private JsonNode token(String client, String key, String more) throws Exception {
        HttpResponse<String> response = form(
                "/oauth/token", "grant_type=client_credentials" + more, "Authorization", Callers.basic(client, key));
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        assertThat(response.headers().firstValue("Cache-Control")).hasValue("no-store");
        return RunningService.json(response);
    }

    private static int status(String path, String token) throws Exception {
        return DOORS.send("GET", path, "", "Authorization", "Bearer " + token).statusCode();
    }

    @Test
    void anApplicationGetsATokenAndCallsWithIt() throws Exception {
        String client = callers.client(callers.role("doors.*"));
        String key = callers.key(client, "first");
        JsonNode given = token(client, key, "");
        assertThat(given.path("token_type").asString()).isEqualTo("Bearer");
        assertThat(given.path("expires_in").asInt()).isBetween(590, 600);
        String token = given.path("access_token").asString();
        assertThat(status("/look", token)).isEqualTo(200);
        assertThat(status("/closed", token)).isEqualTo(200);
        JsonNode me = RunningService.json(DOORS.send("GET", "/me", "", "Authorization", "Bearer " + token));
        assertThat(me.path("client").asString()).isEqualTo(client);
        SignedJWT read = SignedJWT.parse(token);
        assertThat(read.getHeader().getType().getType()).isEqualTo("at+jwt");
        assertThat(read.getJWTClaimsSet().getClaims())
                .containsEntry("client_id", client)
                .containsEntry("sub", client)
                .containsEntry("iss", service.address())
                .containsKeys("jti", "iat", "exp")
                .doesNotContainKey("scope");
        assertThat(read.getJWTClaimsSet().getAudience()).containsExactly("tidy-bridge");
        HttpResponse<String> posted =
                form("/oauth/token", "grant_type=client_credentials&client_id=" + client + "&client_secret=" + key);
        assertThat(posted.statusCode()).as("in the body").isEqualTo(200);
    }

    @Test
    void aScopeNarrowsWhatATokenOpens() throws Exception {
        String client = callers.client(callers.role("doors.*"));
        String key = callers.key(client, "first");
        JsonNode given = token(client, key, "&scope=doors.read%20doors.me");
        assertThat(given.path("scope").asString().split(" ")).containsExactlyInAnyOrder("doors.read", "doors.me");
        String token = given.path("access_token").asString();
        assertThat(status("/look", token)).isEqualTo(200);
        assertThat(status("/closed", token)).isEqualTo(403);
        HttpResponse<String> tooMuch = form(
                "/oauth/token",
                "grant_type=client_credentials&scope=doors.read%20tolls.read",
                "Authorization",
                Callers.basic(client, key));
        assertThat(tooMuch.statusCode()).isEqualTo(400);
        assertThat(RunningService.json(tooMuch).path("error").asString()).isEqualTo("invalid_scope");
    }

    @Test
    void aTokenFollowsTheRolesOfItsApplication() throws Exception {
        String role = callers.role("doors.read", "doors.audit");
        String client = callers.client(role);
        String key = callers.key(client, "first");
        String whole = token(client, key, "").path("access_token").asString();
        String narrow =
                token(client, key, "&scope=doors.read").path("access_token").asString();
        callers.desk("PUT", "/desk/roles/" + role, Map.of("holds", List.of("doors.audit")));
        assertThat(status("/look", whole)).isEqualTo(403);
        assertThat(status("/either", whole)).isEqualTo(200);
        assertThat(status("/either", narrow)).as("its scope is no longer held").isEqualTo(403);
        callers.putClient(client, true, role);
        assertThat(status("/either", whole)).as("turned off").isEqualTo(401);
    }

    @Test
    void aTokenEndsWithTheKeyItWasGotWith() throws Exception {
        String client = callers.client(callers.role("doors.read"));
        String old = token(client, callers.key(client, "winter"), "")
                .path("access_token")
                .asString();
        String next = token(client, callers.key(client, "spring"), "")
                .path("access_token")
                .asString();
        callers.revoke(client, "winter");
        assertThat(status("/look", old)).isEqualTo(401);
        assertThat(status("/look", next)).isEqualTo(200);
    }

    @Test
    void aTokenIsRevokedAndLookedAt() throws Exception {
        String client = callers.client(callers.role("doors.*"));
        String key = callers.key(client, "first");
        String token =
                token(client, key, "&scope=doors.read").path("access_token").asString();
        JsonNode active = introspect(client, key, token);
        assertThat(active.path("active").asBoolean()).isTrue();
        assertThat(active.path("client_id").asString()).isEqualTo(client);
        assertThat(active.path("scope").asString()).isEqualTo("doors.read");
        assertThat(active.path("exp").asLong()).isGreaterThan(Instant.now().getEpochSecond());
        String other = callers.client();
        String ofOther = callers.key(other, "first");
        HttpResponse<String> notTheirs =
                form("/oauth/revoke", "token=" + token, "Authorization", Callers.basic(other, ofOther));
        assertThat(notTheirs.statusCode()).isNotEqualTo(200);
        assertThat(status("/look", token)).isEqualTo(200);
        assertThat(form("/oauth/revoke", "token=" + token, "Authorization", Callers.basic(client, key))
                        .statusCode())
                .isEqualTo(200);
        assertThat(status("/look", token)).isEqualTo(401);
        assertThat(introspect(client, key, token).toString()).isEqualTo("{\"active\":false}");
        assertThat(introspect(client, key, "nonsense").toString()).isEqualTo("{\"active\":false}");
        assertThat(form("/oauth/revoke", "token=nonsense", "Authorization", Callers.basic(client, key))
                        .statusCode())
                .as("RFC 7009, 2.2")
                .isEqualTo(200);
    }

    private JsonNode introspect(String client, String key, String token) throws Exception {
        HttpResponse<String> response =
                form("/oauth/introspect", "token=" + token, "Authorization", Callers.basic(client, key));
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return RunningService.json(response);
    }

    @Test
    void whoeverIsNotKnownGetsNothing() throws Exception {
        String client = callers.client(callers.role("doors.read"));
        String key = callers.key(client, "first");
        Map<String, String[]> wrong = new LinkedHashMap<>();
        wrong.put("nobody", new String[0]);
        wrong.put("a wrong key", new String[] {"Authorization", Callers.basic(client, "wrong")});
        wrong.put("another's name", new String[] {"Authorization", Callers.basic("somebody", key)});
        wrong.put("the administrator's token", new String[] {"Authorization", Callers.basic(client, service.token())});
        wrong.put("no Base64", new String[] {"Authorization", "Basic %%%"});
        wrong.put("a key as a token", new String[] {"Authorization", "Bearer " + key});
        wrong.put("a huge key", new String[] {"Authorization", Callers.basic(client, "x".repeat(5_000))});
        for (String path : List.of("/oauth/token", "/oauth/revoke", "/oauth/introspect")) {
            for (Map.Entry<String, String[]> kind : wrong.entrySet()) {
                HttpResponse<String> response = form(path, "grant_type=client_credentials&token=abc", kind.getValue());
                assertThat(response.statusCode())
                        .as(path + " by " + kind.getKey() + response.body())
                        .isIn(400, 401);
                assertThat(response.body()).doesNotContain("<html", "Exception").doesNotContain(key);
            }
        }
        HttpResponse<String> refused =
                form("/oauth/token", "grant_type=client_credentials", "Authorization", Callers.basic(client, "wrong"));
        assertThat(refused.statusCode()).isEqualTo(401);
        assertThat(refused.body()).isEqualTo("{\"error\":\"invalid_client\"}");
        assertThat(refused.headers().firstValue("WWW-Authenticate").orElseThrow())
                .startsWith("Basic realm=");
        for (String grant : List.of(
                "",
                "grant_type=password&username=a&password=b",
                "grant_type=authorization_code",
                "grant_type=client_credentials&grant_type=client_credentials")) {
            HttpResponse<String> other = form("/oauth/token", grant, "Authorization", Callers.basic(client, key));
            assertThat(other.statusCode()).as(grant + other.body()).isEqualTo(400);
        }
        assertThat(form("/oauth/token", "a=" + "b".repeat(3_000_000)).statusCode())
                .isIn(400, 401, 413);
    }

    @Test
    void forgedTokensAreRefused() throws Exception {
        String client = callers.client(callers.role("doors.*"));
        String key = callers.key(client, "first");
        String good = token(client, key, "").path("access_token").asString();
        SignedJWT read = SignedJWT.parse(good);
        ECKey own = new ECKeyGenerator(Curve.P_256)
                .keyID(read.getHeader().getKeyID())
                .generate();
        ECKey ours = ECKey.parse(tidybridge.demo.TestDatabase.column(
                        "select jwk from tidy_records_shared.signing_key order by made_at desc limit 1")
                .getFirst());
        JWTClaimsSet claims = read.getJWTClaimsSet();
        String[] parts = good.split("\\.");
        Map<String, String> forged = new LinkedHashMap<>();
        forged.put("another key under the same name", signed(own, "at+jwt", claims));
        forged.put("unsigned", new PlainJWT(claims).serialize());
        forged.put("the signature cut off", parts[0] + "." + parts[1] + ".");
        forged.put("another signature", parts[0] + "." + parts[1] + "." + "A".repeat(parts[2].length()));
        forged.put("other claims", parts[0] + "." + parts[1].substring(1) + "." + parts[2]);
        forged.put("for another audience", signed(ours, "at+jwt", with(claims, "aud", List.of("elsewhere"))));
        forged.put("no audience", signed(ours, "at+jwt", with(claims, "aud", null)));
        forged.put(
                "ended",
                signed(
                        ours,
                        "at+jwt",
                        with(claims, "exp", Date.from(Instant.now().minusSeconds(1)))));
        forged.put("without an end", signed(ours, "at+jwt", with(claims, "exp", null)));
        forged.put(
                "not begun",
                signed(
                        ours,
                        "at+jwt",
                        with(claims, "nbf", Date.from(Instant.now().plusSeconds(60)))));
        forged.put("of another kind", signed(ours, "JWT", claims));
        forged.put("of nobody", signed(ours, "at+jwt", with(claims, "client_id", "nobody")));
        forged.put("of another credential", signed(ours, "at+jwt", with(claims, "credential", "0123456789abcdef")));
        SignedJWT mac = new SignedJWT(
                new JWSHeader.Builder(JWSAlgorithm.HS256)
                        .type(new JOSEObjectType("at+jwt"))
                        .keyID(read.getHeader().getKeyID())
                        .build(),
                claims);
        mac.sign(new MACSigner(ours.toPublicJWK().toJSONString().repeat(1)));
        forged.put("signed with the public key as a secret", mac.serialize());
        assertThat(status("/look", good)).isEqualTo(200);
        assertThat(status("/look", signed(ours, "at+jwt", claims)))
                .as("the way they are made")
                .isEqualTo(200);
        for (Map.Entry<String, String> one : forged.entrySet()) {
            assertThat(status("/look", one.getValue())).as(one.getKey()).isEqualTo(401);
            assertThat(status("/open", one.getValue()))
                    .as(one.getKey() + ", where nothing is needed")
                    .isEqualTo(401);
        }
    }

    private static String signed(ECKey key, String type, JWTClaimsSet claims) throws Exception {
        SignedJWT jwt = new SignedJWT(
                new JWSHeader.Builder(JWSAlgorithm.ES256)
                        .type(new JOSEObjectType(type))
                        .keyID(key.getKeyID())
                        .build(),
                claims);
        jwt.sign(new ECDSASigner(key));
        return jwt.serialize();
    }

    private static JWTClaimsSet with(JWTClaimsSet claims, String name, Object value) {
        return new JWTClaimsSet.Builder(claims).claim(name, value).build();
    }

    @Test
    void metadataAndKeysTellOnlyWhatIsThere() throws Exception {
        HttpResponse<String> told = service.get("/.well-known/oauth-authorization-server");
        assertThat(told.statusCode()).as(told.body()).isEqualTo(200);
        JsonNode metadata = RunningService.json(told);
        assertThat(metadata.path("issuer").asString()).isEqualTo(service.address());
        for (String endpoint : List.of("token_endpoint", "revocation_endpoint", "introspection_endpoint", "jwks_uri")) {
            assertThat(metadata.path(endpoint).asString()).startsWith(service.address() + "/oauth/");
        }
        assertThat(metadata.path("grant_types_supported").toString()).isEqualTo("[\"client_credentials\"]");
        assertThat(metadata.propertyNames())
                .noneMatch(name -> name.matches("(authorization|device|pushed|registration)_.*"));
        JsonNode keys = service.json("/oauth/keys");
        assertThat(keys.path("keys")).isNotEmpty().allSatisfy(key -> {
            assertThat(key.has("d")).as("the private part").isFalse();
            assertThat(key.path("alg").asString()).isEqualTo("ES256");
            assertThat(key.path("use").asString()).isEqualTo("sig");
        });
    }
}
