package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.core.TestScope;
import tidybridge.service.live.LiveModules;
import tools.jackson.databind.JsonNode;

/** How often, and how much at a time, callers may call. */
class QuotaTest {

    /** A window that no test sees the end of. */
    private static final String A_DAY = "per: 1440m";

    /** Calls that are more than the quota lets through. */
    private static final int MANY = TestScope.ALL ? 10_000 : 2_500;

    private static final int CALLERS = 32;
    private static final AtomicInteger MADE = new AtomicInteger();

    private static RunningService one;
    private static RunningService other;
    private static Callers callers;

    @BeforeAll
    static void start() throws Exception {
        one = RunningService.apart("tidy_records_quotas");
        other = one.beside();
        callers = new Callers(one);
    }

    @AfterAll
    static void stop() {
        other.close();
        one.close();
    }

    /** Publishes a module of its own, whose quotas nobody has used, on both services. */
    private static String publish(String ofModule, String ofLook) throws Exception {
        String name = "counted" + MADE.incrementAndGet();
        String yaml = """
                module: %s
                version: 1.0.0
                title: Counted
                source: waterways
                needs: counted.read
                accept: { open-to-everybody: the test calls it without a key }
                routes:
                  /open: { get: { sql: one.sql, answer: value, public: true } }
                  /look: { get: { sql: one.sql, answer: value%s } }
                  /slow: { get: { sql: slow.sql, answer: value } }
                """.formatted(name, ofLook.isEmpty() ? "" : ", quota: { " + ofLook + " }")
                + (ofModule.isEmpty() ? "" : "quota: { " + ofModule + " }\n");
        HttpResponse<String> published =
                one.publish(yaml, Map.of("one.sql", "select 1 as one", "slow.sql", "select sleep(0.4) + 1 as one"));
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
        other.context().getBean(LiveModules.class).reconcile();
        return "/api/" + name + "/v1";
    }

    private static HttpResponse<String> call(RunningService service, String path, String key) throws Exception {
        return key.isEmpty() ? service.get(path) : service.send("GET", path, "", "Authorization", "Bearer " + key);
    }

    private static String field(HttpResponse<String> response, String name) {
        return response.headers().firstValue(name).orElse("none");
    }

    /** How many of so many calls were let through; the others must be told why, and when to come back. */
    private static long letThrough(int calls, List<RunningService> nodes, String path, String key) throws Exception {
        AtomicInteger next = new AtomicInteger();
        AtomicInteger through = new AtomicInteger();
        Together.atOnce(CALLERS, () -> {
            for (int i = next.getAndIncrement(); i < calls; i = next.getAndIncrement()) {
                HttpResponse<String> answer = call(nodes.get(i % nodes.size()), path, key);
                if (answer.statusCode() == 200) {
                    through.incrementAndGet();
                } else {
                    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(429);
                    assertThat(answer.body()).contains("\"code\":\"quota-used-up\"");
                    assertThat(field(answer, "RateLimit")).contains(";r=0;");
                    assertThat(Integer.parseInt(field(answer, "Retry-After"))).isBetween(1, 86_400);
                }
            }
            return through;
        });
        return through.get();
    }

    @Test
    void oneServiceLetsExactlyAsManyThrough() throws Exception {
        String path = publish("", "calls: 1000, " + A_DAY);
        assertThat(letThrough(MANY, List.of(one), path + "/look", callers.holding("counted.read")))
                .isEqualTo(1_000);
    }

    @Test
    void twoServicesLetAtMostATenthMoreThrough() throws Exception {
        String path = publish("calls: 1000, " + A_DAY + ", together: true", "");
        long through = letThrough(MANY, List.of(one, other), path + "/look", callers.holding("counted.read"));
        assertThat(through).isBetween(1_000L, 1_100L);
        assertThat(letThrough(200, List.of(one, other), path + "/look", callers.holding("counted.read")))
                .as("of somebody else, now that both know")
                .isZero();
    }

    @Test
    void eachCallerHasAQuotaOfTheirOwnUnlessItIsShared() throws Exception {
        String own = publish("", "calls: 5, " + A_DAY);
        for (String key : List.of(callers.holding("counted.read"), callers.holding("counted.read"))) {
            assertThat(letThrough(20, List.of(one), own + "/look", key)).isEqualTo(5);
        }
        String shared = publish("calls: 5, together: true, " + A_DAY, "");
        assertThat(letThrough(3, List.of(one), shared + "/look", callers.holding("counted.read")))
                .isEqualTo(3);
        assertThat(letThrough(20, List.of(one), shared + "/open", "")).isEqualTo(2);
    }

    @Test
    void everyAnswerTellsWhatIsLeftAndTheRefusalWhichQuotaItWas() throws Exception {
        String path = publish("calls: 100, " + A_DAY, "calls: 2, " + A_DAY);
        String client = callers.client(callers.role("counted.read"));
        String key = callers.key(client, "first");
        HttpResponse<String> first = call(one, path + "/look", key);
        assertThat(field(first, "RateLimit-Policy")).isEqualTo("\"module\";q=100;w=86400, \"operation\";q=2;w=86400");
        assertThat(field(first, "RateLimit")).matches("\"module\";r=99;t=\\d+, \"operation\";r=1;t=\\d+");
        call(one, path + "/look", key);
        HttpResponse<String> refused = call(one, path + "/look", key);
        assertThat(refused.statusCode()).isEqualTo(429);
        assertThat(RunningService.json(refused).path("detail").asString())
                .startsWith("The quota of 2 calls in 86400 s of '" + client
                        + "' on the operation is used up; the next call may come in ");
        HttpResponse<String> elsewhere = call(one, path + "/slow", key);
        assertThat(elsewhere.statusCode()).isEqualTo(200);
        assertThat(field(elsewhere, "RateLimit"))
                .as("a refused call is not counted")
                .startsWith("\"module\";r=97;");
        assertThat(field(call(one, path + "/look", "wrong"), "RateLimit")).isEqualTo("none");
    }

    @Test
    void noMoreThanSoManyAreUnderWayAtATime() throws Exception {
        String path = publish("concurrent: 3", "");
        String key = callers.holding("counted.read");
        for (int round = 0; round < 2; round++) {
            List<HttpResponse<String>> answers = Together.atOnce(10, () -> call(one, path + "/slow", key));
            assertThat(answers).filteredOn(answer -> answer.statusCode() == 200).hasSize(3);
            assertThat(answers)
                    .filteredOn(answer -> answer.statusCode() == 429)
                    .hasSize(7)
                    .allSatisfy(answer -> {
                        assertThat(field(answer, "Retry-After")).isEqualTo("1");
                        assertThat(answer.body()).contains("As many calls as may be under way at a time");
                    });
        }
    }

    @Test
    void aClientApplicationMayHaveAQuotaOverEverythingItCalls() throws Exception {
        String client = callers.client(callers.role("counted.read"));
        String key = callers.key(client, "first");
        List<String> paths = List.of(publish("", ""), publish("", ""));
        JsonNode before = RunningService.json(callers.desk("GET", "/desk/clients", null));
        Map<String, Object> quota = Map.of("calls", 3, "perSeconds", 86_400);
        for (JsonNode known : before.path("clients")) {
            if (known.path("name").asString().equals(client)) {
                HttpResponse<String> put = callers.desk(
                        "PUT",
                        "/desk/clients/" + client,
                        Map.of(
                                "owner",
                                "Office",
                                "contact",
                                "a@marrowby.example",
                                "roles",
                                List.of(known.path("roles").get(0).asString()),
                                "quota",
                                quota));
                assertThat(RunningService.json(put).path("quota").path("calls").asInt())
                        .as(put.body())
                        .isEqualTo(3);
            }
        }
        assertThat(letThrough(2, List.of(one), paths.getFirst() + "/look", key)).isEqualTo(2);
        assertThat(letThrough(9, List.of(one), paths.getLast() + "/look", key)).isEqualTo(1);
    }

    @Test
    void quotasThatCannotBeMeantAreRefused() throws Exception {
        for (Map<String, Integer> wrong : List.of(
                Map.of("calls", -1),
                Map.of("calls", 1, "perSeconds", 7),
                Map.of("calls", 1, "perSeconds", -60),
                Map.of("concurrent", 20_000))) {
            HttpResponse<String> put = callers.desk(
                    "PUT",
                    "/desk/clients/wrong",
                    Map.of("owner", "Office", "contact", "a@marrowby.example", "roles", List.of(), "quota", wrong));
            assertThat(put.statusCode()).as(wrong + put.body()).isEqualTo(400);
        }
    }
}
