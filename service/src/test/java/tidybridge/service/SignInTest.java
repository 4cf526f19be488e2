package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import com.eatthepath.otp.TimeBasedOneTimePasswordGenerator;
import java.net.http.HttpResponse;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import javax.crypto.spec.SecretKeySpec;
import org.apache.commons.codec.binary.Base32;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** People: how they get a password, sign in, and stay out. */
class SignInTest {

    private static final String PASSWORD = "seven herons on a lock beam";
    private static final String OTHER = "ochre paint dries slowly in May";

    private final RunningService service = SharedService.get();
    private final Callers callers = new Callers(service);

    private HttpResponse<String> signIn(String name, String password, String... headers) throws Exception {
        return callers.signIn(Map.of("name", name, "password", password, "place", "command-line"), headers);
    }

    private HttpResponse<String> as(String token, String method, String path, Object body) throws Exception {
        return service.send(
                method,
                path,
                body == null ? "" : JsonMapper.shared().writeValueAsString(body),
                "Authorization",
                "Bearer " + token);
    }

    private static String said(HttpResponse<String> response, int status) {
        assertThat(response.statusCode()).as(response.body()).isEqualTo(status);
        return RunningService.json(response).path("detail").asString();
    }

    @Test
    void aPersonChoosesAPasswordByALinkThatWorksOnce() throws Exception {
        String name = Callers.fresh("mara.holt");
        callers.desk("PUT", "/desk/people/" + name, Map.of("fullName", "Mara Holt", "roles", List.of("operator")));
        String code = RunningService.json(callers.desk("POST", "/desk/people/" + name + "/link", Map.of()))
                .path("code")
                .asString();
        HttpResponse<String> look = service.send("POST", "/desk/sign-in-codes/look", "{\"code\":\"" + code + "\"}");
        assertThat(RunningService.json(look).path("person").asString()).isEqualTo(name);
        assertThat(said(callers.signIn(Map.of("code", code)), 400)).contains("choose a password");
        assertThat(said(callers.signIn(Map.of("code", code, "password", "MaraHolt1234")), 400))
                .contains("among the first");
        HttpResponse<String> chosen = callers.signIn(Map.of("code", code, "password", PASSWORD));
        assertThat(chosen.statusCode()).isEqualTo(204);
        assertThat(chosen.headers().allValues("Set-Cookie"))
                .hasSize(2)
                .allSatisfy(cookie -> assertThat(cookie).contains("HttpOnly", "SameSite=Strict", "Path=/"));
        assertThat(said(callers.signIn(Map.of("code", code, "password", OTHER)), 401))
                .contains("used already");
        assertThat(signIn(name, PASSWORD).statusCode()).isEqualTo(200);
    }

    @Test
    void whatIsKeptIsNoPasswordAndNoToken() throws Exception {
        String name = callers.person(PASSWORD, "operator");
        String token = callers.token(name, PASSWORD);
        String key = callers.holding("doors.read");
        List<String> kept = new ArrayList<>();
        for (String table : List.of("person", "session", "client_credential", "sign_in_code", "audit_entry")) {
            kept.addAll(TestDatabase.column(
                    "select concat_ws('|', " + columns(table) + ") from tidy_records_shared." + table));
        }
        assertThat(kept).isNotEmpty().allSatisfy(row -> assertThat(row).doesNotContain(PASSWORD, token, key));
        assertThat(kept).anySatisfy(row -> assertThat(row).contains(name, "$argon2id$"));
    }

    private static String columns(String table) throws Exception {
        return String.join(
                ", ",
                TestDatabase.column(
                        "select concat('`', column_name, '`') from information_schema.columns where table_schema = 'tidy_records_shared'"
                                + " and table_name = '" + table + "'"));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "wrong", "Seven herons on a lock beam", "seven herons on a lock beam "})
    void whatIsWrongIsToldInTheSameWords(String password) throws Exception {
        String name = callers.person(PASSWORD);
        String wrong = said(signIn(name, password), 401);
        assertThat(wrong).isEqualTo("Name or password is wrong.");
        assertThat(said(signIn(Callers.fresh("nobody"), password), 401)).isEqualTo(wrong);
        assertThat(said(signIn(name.toUpperCase(), PASSWORD), 401)).isEqualTo(wrong);
    }

    @Test
    void aLongPasswordCostsNothing() throws Exception {
        String name = callers.person(PASSWORD);
        assertThat(signIn(name, "a".repeat(3_000)).statusCode()).isEqualTo(401);
        assertThat(signIn(name, "a".repeat(5_000)).statusCode()).isEqualTo(413);
    }

    /** The wrong ones are slowed before they cost anything; nobody else notices. */
    @Test
    void manyWrongPasswordsSlowNobodyElseDown() throws Exception {
        String attacked = callers.person(PASSWORD);
        String other = callers.person(OTHER, "operator");
        List<String> known = Callers.cookies(callers.signIn(Map.of("name", attacked, "password", PASSWORD)));
        int refused = 0;
        int slowed = 0;
        long worst = 0;
        try (ExecutorService threads = Executors.newVirtualThreadPerTaskExecutor()) {
            List<Callable<Integer>> wrong = new ArrayList<>();
            for (int i = 0; i < 1_000; i++) {
                String password = "wrong" + i;
                wrong.add(() -> signIn(attacked, password).statusCode());
            }
            var running = threads.submit(() -> threads.invokeAll(wrong));
            for (int i = 0; i < 5; i++) {
                long start = System.nanoTime();
                assertThat(signIn(other, OTHER).statusCode()).isEqualTo(200);
                worst = Math.max(worst, (System.nanoTime() - start) / 1_000_000);
            }
            for (var one : running.get()) {
                refused += one.get() == 401 ? 1 : 0;
                slowed += one.get() == 429 ? 1 : 0;
            }
        }
        assertThat(refused + slowed).isEqualTo(1_000);
        assertThat(refused).as("compared at all").isLessThan(15);
        assertThat(worst).as("ms for the right password of somebody else").isLessThan(Until.BOUND.toMillis());
        // so that the pause after a wrong one is not over yet, however long all this took
        HttpResponse<String> waits = Until.seen(
                () -> {
                    signIn(attacked, "wrong");
                    return signIn(attacked, PASSWORD);
                },
                answer -> answer.statusCode() == 429);
        assertThat(said(waits, 429)).contains("wait");
        assertThat(Integer.parseInt(waits.headers().firstValue("Retry-After").orElseThrow()))
                .isBetween(1, 5);
        assertThat(signIn(attacked, PASSWORD, "Cookie", String.join("; ", known))
                        .statusCode())
                .as("from a browser that is known")
                .isEqualTo(200);
        assertThat(signIn(attacked, PASSWORD, "Cookie", "tidy_device=" + "0".repeat(64))
                        .statusCode())
                .as("from one that only says so")
                .isEqualTo(429);
    }

    private static String code(String secret, Instant at) throws Exception {
        return new TimeBasedOneTimePasswordGenerator()
                .generateOneTimePasswordString(new SecretKeySpec(new Base32().decode(secret), "HmacSHA1"), at);
    }

    @Test
    void aSecondFactorIsAskedForAndEachCodeWorksOnce() throws Exception {
        String name = callers.person(PASSWORD);
        String token = callers.token(name, PASSWORD);
        JsonNode factor = RunningService.json(as(token, "POST", "/desk/account/factor", Map.of()));
        String secret = factor.path("secret").asString();
        assertThat(factor.path("address").asString()).contains("otpauth://totp/", secret);
        assertThat(signIn(name, PASSWORD).statusCode()).as("not set up yet").isEqualTo(200);
        assertThat(said(set(token, Map.of("password", PASSWORD, "secret", secret, "code", "000000")), 400))
                .contains("does not fit");
        assertThat(said(set(token, Map.of("password", OTHER, "secret", secret, "code", "000000")), 400))
                .contains("present password");
        Instant now = Instant.now();
        assertThat(set(token, Map.of("password", PASSWORD, "secret", secret, "code", code(secret, now)))
                        .statusCode())
                .isEqualTo(204);
        assertThat(RunningService.json(as(token, "GET", "/desk/account", null))
                        .path("hasFactor")
                        .asBoolean())
                .as("the session it was set in goes on")
                .isTrue();
        HttpResponse<String> asked = signIn(name, PASSWORD);
        assertThat(said(asked, 401)).contains("authenticator");
        assertThat(RunningService.json(asked).path("code").asString()).isEqualTo("factor-needed");
        Map<String, String> shown = new HashMap<>(Map.of("name", name, "password", PASSWORD));
        shown.put("factor", code(secret, now));
        assertThat(callers.signIn(shown).statusCode()).isEqualTo(204);
        assertThat(said(callers.signIn(shown), 401)).contains("used before");
        shown.put("factor", "123 456 7");
        assertThat(callers.signIn(shown).statusCode()).isEqualTo(401);
        assertThat(callers.desk("DELETE", "/desk/people/" + name + "/factor", null)
                        .statusCode())
                .as("the authenticator is lost")
                .isEqualTo(204);
        assertThat(as(token, "GET", "/desk/account", null).statusCode()).isEqualTo(401);
    }

    private HttpResponse<String> set(String token, Map<String, String> request) throws Exception {
        return as(token, "PUT", "/desk/account/factor", request);
    }

    @Test
    void anotherPasswordEndsEveryOtherSession() throws Exception {
        String name = callers.person(PASSWORD);
        String kept = callers.token(name, PASSWORD);
        String lost = callers.token(name, PASSWORD);
        assertThat(said(as(kept, "PUT", "/desk/account/password", Map.of("password", OTHER, "chosen", OTHER)), 400))
                .contains("present password");
        assertThat(said(
                        as(kept, "PUT", "/desk/account/password", Map.of("password", PASSWORD, "chosen", "short")),
                        400))
                .contains("at least 10");
        assertThat(as(kept, "PUT", "/desk/account/password", Map.of("password", PASSWORD, "chosen", OTHER))
                        .statusCode())
                .isEqualTo(204);
        assertThat(as(kept, "GET", "/desk/account", null).statusCode()).isEqualTo(200);
        assertThat(as(lost, "GET", "/desk/account", null).statusCode()).isEqualTo(401);
        assertThat(signIn(name, PASSWORD).statusCode()).isEqualTo(401);
        assertThat(signIn(name, OTHER).statusCode()).isEqualTo(200);
    }

    @Test
    void sessionsCanBeSeenAndEnded() throws Exception {
        String name = callers.person(PASSWORD);
        String first = callers.token(name, PASSWORD);
        String second = callers.token(name, PASSWORD);
        JsonNode sessions =
                RunningService.json(as(first, "GET", "/desk/sessions", null)).path("sessions");
        assertThat(sessions).hasSize(3).allSatisfy(session -> {
            assertThat(session.path("who").asString()).isEqualTo(name);
            assertThat(session.path("address").asString()).isEqualTo("127.0.0.1");
        });
        String other = sessions.valueStream()
                .filter(session -> !session.path("current").asBoolean()
                        && session.path("kind").asString().equals("command-line"))
                .findFirst()
                .orElseThrow()
                .path("id")
                .asString();
        String stranger = callers.token(callers.person(PASSWORD), PASSWORD);
        assertThat(as(stranger, "DELETE", "/desk/sessions/" + other, null).statusCode())
                .isEqualTo(404);
        assertThat(as(stranger, "GET", "/desk/sessions?everybody=true", null).statusCode())
                .isEqualTo(403);
        assertThat(as(first, "DELETE", "/desk/sessions/" + other, null).statusCode())
                .isEqualTo(204);
        assertThat(as(second, "GET", "/desk/account", null).statusCode()).isEqualTo(401);
        assertThat(as(first, "DELETE", "/desk/sessions/current", null).statusCode())
                .isEqualTo(204);
        assertThat(as(first, "GET", "/desk/account", null).statusCode()).isEqualTo(401);
    }

    @Test
    void whoeverIsTurnedOffIsOutAtOnce() throws Exception {
        String name = callers.person(PASSWORD, "operator");
        String token = callers.token(name, PASSWORD);
        assertThat(as(token, "GET", "/desk/status", null).statusCode()).isEqualTo(200);
        callers.desk(
                "PUT",
                "/desk/people/" + name,
                Map.of("fullName", "Somebody", "roles", List.of("operator"), "disabled", true));
        assertThat(as(token, "GET", "/desk/status", null).statusCode()).isEqualTo(401);
        assertThat(signIn(name, PASSWORD).statusCode()).isEqualTo(401);
        callers.desk("PUT", "/desk/people/" + name, Map.of("fullName", "Somebody", "roles", List.of()));
        assertThat(as(callers.token(name, PASSWORD), "GET", "/desk/status", null)
                        .statusCode())
                .as("back, without the role")
                .isEqualTo(403);
    }

    /** A page of somebody else's makes a browser send its cookie; that alone changes nothing. */
    @Test
    void aCookieCountsOnTheServicesOwnPagesOnly() throws Exception {
        String cookie = callers.cookie(callers.person(PASSWORD, "administrator"), PASSWORD);
        assertThat(service.send("POST", "/desk/sign-in-codes", "{}", "Cookie", cookie, "Origin", service.address())
                        .statusCode())
                .isEqualTo(200);
        for (String origin :
                List.of("http://127.0.0.1:1", "http://evil.example", "null", service.address() + ".evil")) {
            assertThat(service.send("POST", "/desk/sign-in-codes", "{}", "Cookie", cookie, "Origin", origin)
                            .statusCode())
                    .as(origin)
                    .isEqualTo(403);
        }
        assertThat(service.send("POST", "/desk/sign-in-codes", "{}", "Cookie", cookie)
                        .statusCode())
                .isEqualTo(403);
    }
}
