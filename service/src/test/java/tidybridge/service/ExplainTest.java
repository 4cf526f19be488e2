package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tidybridge.demo.Until;
import tools.jackson.databind.JsonNode;

/** Why calls are let through or refused, as those who run the service are told. */
class ExplainTest {

    @RegisterExtension
    static final Situation DOORS = new Situation("doors");

    private static final RunningService SERVICE = SharedService.get();
    private static final Callers CALLERS = new Callers(SERVICE);

    private static String reader;
    private static String client;
    private static String key;

    @BeforeAll
    static void make() throws Exception {
        reader = CALLERS.role("doors.read");
        client = CALLERS.client(reader);
        key = CALLERS.key(client, "first");
    }

    private static JsonNode asked(String query) throws Exception {
        HttpResponse<String> response = SERVICE.desk("/desk/access/" + query);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return RunningService.json(response);
    }

    private static List<String> sentences(JsonNode answer) {
        List<String> sentences = new ArrayList<>();
        answer.path("steps").forEach(step -> sentences.add(step.path("sentence").asString()));
        return sentences;
    }

    /** What is foretold is what happens, for every operation and several callers. */
    @Test
    void theAnswerIsWhatACallThenMeets() throws Exception {
        Map<String, String> keys = new LinkedHashMap<>();
        keys.put(client, key);
        for (String privilege : List.of("doors.me", "doors.secrets", "doors.*")) {
            String other = CALLERS.client(CALLERS.role(privilege));
            keys.put(other, CALLERS.key(other, "first"));
        }
        String off = CALLERS.client(reader);
        keys.put(off, CALLERS.key(off, "first"));
        CALLERS.putClient(off, true, reader);
        for (String path : List.of("/look", "/open", "/either", "/closed", "/me", "/secrets/1")) {
            for (Map.Entry<String, String> one : keys.entrySet()) {
                String outcome = asked("answers?module=doors/v1&method=GET&path=" + path + "&client=" + one.getKey()
                                + "&address=127.0.0.1")
                        .path("outcome")
                        .asString();
                int status = DOORS.send("GET", path, "", "Authorization", "Bearer " + one.getValue())
                        .statusCode();
                assertThat(outcome).as(path + " " + one.getKey()).isEqualTo(status == 200 ? "yes" : "no");
            }
            String stranger = asked("answers?module=doors/v1&method=GET&path=" + path)
                    .path("outcome")
                    .asString();
            assertThat(stranger).isEqualTo(DOORS.get(path).statusCode() == 200 ? "yes" : "no");
        }
    }

    @Test
    void theSentencesNameRolesPrivilegesAndQuotas() throws Exception {
        JsonNode yes = asked("answers?module=doors/v1&method=get&path=/look&client=" + client);
        assertThat(sentences(yes))
                .containsExactly(
                        "The application '" + client + "' is known.", "The role '" + reader + "' holds 'doors.read'.");
        JsonNode no = asked("answers?module=doors/v1&method=POST&path=/either&client=" + client);
        assertThat(no.path("outcome").asString()).isEqualTo("no");
        assertThat(sentences(no).getLast())
                .startsWith(
                        "The operation asks for the privilege 'doors.write', and none of the caller's roles holds it");
        String counted =
                DOORS.yaml().replace("module: doors", "module: turnstiles") + "quota: { calls: 2, per: 1440m }\n";
        assertThat(SERVICE.publish(counted, DOORS.statements()).statusCode()).isEqualTo(200);
        String query = "answers?module=turnstiles/v1&method=GET&path=/look&client=" + client;
        assertThat(sentences(asked(query)).getLast())
                .matches("The quota of the module is 2 calls in 86400 s; here, 2 calls are left for \\d+ s\\.");
        for (int i = 0; i < 2; i++) {
            SERVICE.send("GET", "/api/turnstiles/v1/look", "", "Authorization", "Bearer " + key);
        }
        assertThat(asked(query).path("outcome").asString()).isEqualTo("no");
    }

    @Test
    void thoseWhoMayAreListedWithWhatKeepsThemFromIt() throws Exception {
        String keyless = CALLERS.client(reader);
        String person = CALLERS.person("a rather long sentence", reader);
        JsonNode holders = asked("holders?module=doors/v1&method=GET&path=/secrets/%7Bid%7D");
        assertThat(holders.path("path").asString()).isEqualTo("/secrets/{id}");
        assertThat(holders.path("needs").get(0).asString()).isEqualTo("doors.read");
        assertThat(holders.path("roles").toString())
                .contains("{\"name\":\"" + reader + "\",\"by\":\"'doors.read'\"}", "\"by\":\"every privilege\"");
        assertThat(holders.path("clients").toString())
                .contains("{\"name\":\"" + client + "\",\"by\":\"" + reader + "\"}")
                .contains("{\"name\":\"" + keyless + "\",\"by\":\"" + reader + "\",\"trouble\":\"The application '"
                        + keyless + "' has no key that is valid.\"}");
        assertThat(holders.path("people").toString()).contains("{\"name\":\"" + person + "\"");
        assertThat(asked("holders?module=doors/v1&method=GET&path=/open")
                        .path("open")
                        .asBoolean())
                .isTrue();
    }

    @Test
    void whatIsNotThereIsNamedWithItsNearest() throws Exception {
        for (String[] wrong : new String[][] {
            {"answers?module=door/v1&method=GET&path=/look", "'doors/v1'"},
            {"answers?module=doors/v1&method=GET&path=/lok", "'GET /look'"},
            {"answers?module=doors/v1&method=PATCH&path=/look", "no operation 'PATCH /look'"},
            {"answers?module=doors/v1&method=GET&path=/look&client=" + client + "x", "'" + client + "'"},
            {"holders?module=doors/v1&method=GET&path=look", "no operation"}
        }) {
            HttpResponse<String> response = SERVICE.desk("/desk/access/" + wrong[0]);
            assertThat(response.statusCode()).as(wrong[0]).isEqualTo(404);
            assertThat(RunningService.json(response).path("detail").asString()).contains(wrong[1]);
        }
        assertThat(SERVICE.desk("/desk/access/answers?module=doors/v1&method=GET&path=/look&address=10.0.0.0/8")
                        .statusCode())
                .isEqualTo(400);
    }

    private static JsonNode why(HttpResponse<String> refused) throws Exception {
        String id = RunningService.json(refused).path("requestId").asString();
        return Until.seen(
                        () -> RunningService.json(SERVICE.desk("/desk/refused-calls?request=" + id))
                                .path("calls"),
                        calls -> !calls.isEmpty())
                .get(0);
    }

    @Test
    void aRefusedCallIsFoundByItsIdWithMoreThanItsCallerWasTold() throws Exception {
        String ended = CALLERS.key(client, "short", Instant.now().plusMillis(800));
        String revoked = CALLERS.key(client, "revoked");
        CALLERS.revoke(client, "revoked");
        String token = RunningService.json(SERVICE.send(
                        "POST",
                        "/oauth/token",
                        "grant_type=client_credentials",
                        "Content-Type",
                        "application/x-www-form-urlencoded",
                        "Authorization",
                        Callers.basic(client, key)))
                .path("access_token")
                .asString();
        SERVICE.send(
                "POST",
                "/oauth/revoke",
                "token=" + token,
                "Content-Type",
                "application/x-www-form-urlencoded",
                "Authorization",
                Callers.basic(client, key));
        Until.seen(
                () -> SERVICE.send("GET", "/api/doors/v1/look", "", "Authorization", "Bearer " + ended)
                        .statusCode(),
                status -> status == 401);
        Map<String, String> shown = new LinkedHashMap<>();
        shown.put("Bearer " + ended, "The key 'short' of '" + client + "' ended at ");
        shown.put("Bearer " + revoked, "It is none that was given out here, or was revoked.");
        shown.put("Bearer " + token, "The token of '" + client + "' was revoked.");
        shown.put(
                "Bearer " + token.substring(0, token.length() - 8) + "AAAAAAAA",
                "The token was signed neither by this");
        shown.put("Bearer " + key.substring(0, key.length() - 3) + "AAA", "It is none that was given out here");
        shown.put("Bearer nonsense", "It has the form of no key");
        shown.put(Callers.basic("somebody", key), "came with the name of somebody else.");
        shown.put("Basic %%%", "What follows Basic is no name and password");
        shown.put("Digest opaque-thing", "Authorization begins with neither");
        for (Map.Entry<String, String> one : shown.entrySet()) {
            HttpResponse<String> refused = DOORS.send("GET", "/look", "", "Authorization", one.getKey());
            assertThat(refused.statusCode()).isEqualTo(401);
            assertThat(refused.body()).doesNotContain(one.getValue());
            JsonNode call = why(refused);
            assertThat(call.path("reason").asString()).as(one.getKey()).contains(one.getValue());
            assertThat(call.path("module").asString()).isEqualTo("doors/v1");
            assertThat(call.path("address").asString()).isEqualTo("127.0.0.1");
            assertThat(call.toString()).doesNotContain(one.getKey().replaceFirst(".* ", ""));
        }
        JsonNode known = why(DOORS.send("POST", "/either", "{\"what\":\"a\"}", "Authorization", "Bearer " + key));
        assertThat(known.path("who").asString()).isEqualTo(client);
        assertThat(known.path("status").asInt()).isEqualTo(403);
        assertThat(known.path("reason").asString()).contains("'doors.write'");
    }

    @Test
    void theCommandsTellTheSame() throws Exception {
        Launched here = new Launched(SERVICE);
        Launched.Ended may = here.tidy("may", client, "doors/v1", "GET", "/secrets/7");
        assertThat(may.code()).as(may.err()).isZero();
        assertThat(may.out())
                .isEqualTo("Yes: " + client + ", GET /secrets/{id}\n  yes  The application '" + client
                        + "' is known.\n  yes  The role '" + reader + "' holds 'doors.read'.\n");
        assertThat(here.tidy("may", client, "doors/v1", "GET", "/closed").code())
                .isEqualTo(1);
        Launched.Ended who = here.tidy("who-may", "doors/v1", "get", "/look");
        assertThat(who.out()).startsWith("GET /look asks for doors.read.\n").contains(reader, client, "administrator");
        HttpResponse<String> refused = DOORS.send("GET", "/closed", "", "Authorization", "Bearer " + key);
        why(refused);
        Launched.Ended why =
                here.tidy("why", RunningService.json(refused).path("requestId").asString());
        assertThat(why.out()).contains("403 privilege-needed", "doors/v1 GET /closed", client, "'doors.nobody'");
        assertThat(here.tidy("why", "0".repeat(32)).code()).isEqualTo(1);
    }
}
