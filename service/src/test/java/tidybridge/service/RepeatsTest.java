package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;

/** Requests that are sent again with the same Idempotency-Key. */
class RepeatsTest {

    private static final String YAML = """
            module: ledger
            version: 1.0.0
            title: Ledger
            source: waterways
            public: true
            routes:
              /entries:
                post:
                  about: Write an entry
                  sql: add.sql
                  answer: row
                  location: /entries/{key}
                  conditions: { entry_text: { status: 409, message: Written before. } }
                  parameters:
                    text: { in: body, type: string, required: true, example: a }
                    wait: { in: body, type: number, default: 0 }
              /fielded:
                post:
                  about: With inputs from everywhere
                  sql: fielded.sql
                  answer: row
                  parameters:
                    text: { in: body, type: string, required: true, example: a }
                    wait: { in: header, name: X-Wait, type: number, default: 0 }
                    by: { in: cookie, type: string, default: nobody }
              /demanding:
                post:
                  about: Only with a key
                  sql: add.sql
                  answer: row
                  idempotency-key: required
                  parameters:
                    text: { in: body, type: string, required: true, example: a }
                    wait: { in: body, type: number, default: 0 }
            """;
    private static final Map<String, String> SQL = Map.of(
            "add.sql",
            "insert into entry (text, waited) select :text, sleep(:wait)",
            "fielded.sql",
            "insert into entry (text, waited) select :text, sleep(:wait) where :by <> ''");
    private static final String USER = DemoDatabase.SOURCE_USER + "@'127.0.0.1'";

    private static RunningService service;

    @BeforeAll
    static void start() throws Exception {
        TestDatabase.execute(
                "waterways",
                "create or replace table entry (id int not null auto_increment primary key, text varchar(40) not null,"
                        + " waited int not null, unique key entry_text (text))",
                "grant insert on waterways.entry to " + USER);
        service = RunningService.fresh();
        share();
        HttpResponse<String> published = service.publish(YAML, SQL);
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
    }

    private static void share() throws Exception {
        DemoDatabase.shareOutcomes(TestDatabase.server());
    }

    @AfterAll
    static void stop() throws Exception {
        service.close();
        TestDatabase.execute("waterways", "drop table entry");
    }

    @BeforeEach
    void empty() throws Exception {
        TestDatabase.execute("waterways", "delete from entry");
        TestDatabase.execute(DemoDatabase.RECORDS_SCHEMA, "delete from call_outcome");
    }

    private static HttpResponse<String> post(RunningService service, String path, String key, String body)
            throws Exception {
        var request = service.request("/api/ledger/v1" + path)
                .header("Content-Type", "application/json")
                .POST(BodyPublishers.ofString(body));
        if (!key.isEmpty()) {
            request.header("Idempotency-Key", key);
        }
        return RunningService.send(request);
    }

    private static HttpResponse<String> post(String key, String body) throws Exception {
        return post(service, "/entries", key, body);
    }

    private static String entries() throws Exception {
        return TestDatabase.column("select count(*) from entry").getFirst();
    }

    @Test
    void aRepeatedRequestIsAnsweredAsTheFirst() throws Exception {
        HttpResponse<String> first = post("\"k1\"", "{\"text\":\"a\"}");
        HttpResponse<String> again = post("k1", "{\"text\":\"a\"}");
        assertThat(first.statusCode()).as(first.body()).isEqualTo(201);
        assertThat(again.statusCode()).isEqualTo(201);
        assertThat(again.body()).isEqualTo(first.body());
        assertThat(again.headers().firstValue("Location"))
                .isEqualTo(first.headers().firstValue("Location"));
        assertThat(again.headers().firstValue("Content-Type")).contains("application/json");
        assertThat(entries()).isEqualTo("1");
        assertThat(post("k1", "{\"text\":\"b\"}").body()).contains("key-reused", "\"status\":422");
        assertThat(post(service, "/demanding", "k1", "{\"text\":\"c\"}").statusCode())
                .as("another operation's key is another key")
                .isEqualTo(200);
    }

    @Test
    void aRefusalIsKeptTooAndBadKeysAreTold() throws Exception {
        assertThat(post("", "{\"text\":\"a\"}").statusCode()).isEqualTo(201);
        assertThat(post("k2", "{\"text\":\"a\"}").statusCode()).isEqualTo(409);
        TestDatabase.execute("waterways", "delete from entry");
        assertThat(post("k2", "{\"text\":\"a\"}").body()).contains("Written before.");
        assertThat(entries()).isEqualTo("0");
        assertThat(post(service, "/demanding", "", "{\"text\":\"a\"}").body())
                .contains("\"parameter\":\"Idempotency-Key\"", "\"status\":400");
        assertThat(post("x".repeat(256), "{\"text\":\"a\"}").statusCode()).isEqualTo(400);
        assertThat(post("k3", "{\"text\":1}").statusCode()).isEqualTo(400);
        assertThat(post("\"\"", "{\"text\":\"b\"}").statusCode()).isEqualTo(400);
    }

    @Test
    void whatMayPassByItselfCanBeTriedAgain() throws Exception {
        TestDatabase.execute("", "revoke insert on waterways.entry from " + USER);
        assertThat(post("k4", "{\"text\":\"a\"}").statusCode()).isEqualTo(500);
        TestDatabase.execute("", "grant insert on waterways.entry to " + USER);
        assertThat(post("k4", "{\"text\":\"a\"}").statusCode()).isEqualTo(201);
    }

    @Test
    void ofManyAtOnceOneRunsAndTheOthersAreTold() throws Exception {
        List<HttpResponse<String>> all = new ArrayList<>();
        try (ExecutorService threads = Executors.newVirtualThreadPerTaskExecutor()) {
            List<Future<HttpResponse<String>>> sent = new ArrayList<>();
            for (int i = 0; i < 6; i++) {
                sent.add(threads.submit(() -> post("k5", "{\"text\":\"slow\",\"wait\":0.5}")));
            }
            for (Future<HttpResponse<String>> one : sent) {
                all.add(one.get());
            }
        }
        assertThat(all).filteredOn(answer -> answer.statusCode() == 201).hasSize(1);
        assertThat(all)
                .filteredOn(answer -> answer.statusCode() == 409)
                .hasSize(5)
                .allSatisfy(answer -> assertThat(answer.body()).contains("still-running"));
        assertThat(post("k5", "{\"text\":\"slow\",\"wait\":0.5}").statusCode()).isEqualTo(201);
        assertThat(entries()).isEqualTo("1");
    }

    /** A claim as a node leaves it that died before its transaction was kept, and one that died behind it. */
    @Test
    void whatADeadNodeLeftIsTakenOverOnlyWhereTheOutcomeIsKeptWithTheChange() throws Exception {
        assertThat(post("k6", "{\"text\":\"first\"}").statusCode()).isEqualTo(201);
        String dead = "update call_outcome set status = null, headers = null, body = null, lease_until = '2020-01-01'";
        TestDatabase.execute(DemoDatabase.RECORDS_SCHEMA, dead + ", together = true");
        TestDatabase.execute("waterways", "delete from entry");
        assertThat(post("k6", "{\"text\":\"first\"}").statusCode())
                .as("nothing was kept, so it is run again")
                .isEqualTo(201);
        TestDatabase.execute(DemoDatabase.RECORDS_SCHEMA, dead + ", together = false");
        HttpResponse<String> unknown = post("k6", "{\"text\":\"first\"}");
        assertThat(unknown.statusCode()).isEqualTo(409);
        assertThat(unknown.body()).contains("what came of it is not known");
        assertThat(entries()).isEqualTo("1");
        TestDatabase.execute(DemoDatabase.RECORDS_SCHEMA, "update call_outcome set expires_at = '2020-01-01'");
        assertThat(post("k6", "{\"text\":\"second\"}").statusCode()).isEqualTo(201);
    }

    /** What does not fit is no request yet: the same key is free for the one that does. */
    @Test
    void aRequestThatDoesNotFitClaimsNoKey() throws Exception {
        assertThat(post("k20", "{\"txt\":\"typo\"}").statusCode()).isEqualTo(400);
        assertThat(TestDatabase.column("select count(*) from " + DemoDatabase.RECORDS_SCHEMA + ".call_outcome"))
                .containsExactly("0");
        assertThat(post("k20", "{\"text\":\"right\"}").statusCode()).isEqualTo(201);
    }

    @Test
    void inputsFromFieldsAndCookiesAndConditionsBelongToARequest() throws Exception {
        for (String[] field :
                new String[][] {{"X-Wait", "0.01"}, {"Cookie", "by=mara"}, {"If-Unmodified-Since", "x"}}) {
            String key = "k21" + field[0];
            assertThat(field(key, "X-Other", "1").statusCode()).isEqualTo(200);
            assertThat(field(key, "X-Other", "2").statusCode())
                    .as("what the operation does not read is no part of it")
                    .isEqualTo(200);
            assertThat(field(key, field[0], field[1]).statusCode()).as(field[0]).isEqualTo(422);
        }
        assertThat(entries()).isEqualTo("3");
    }

    private static HttpResponse<String> field(String key, String name, String value) throws Exception {
        return service.send(
                "POST", "/api/ledger/v1/fielded", "{\"text\":\"" + key + "\"}", "Idempotency-Key", key, name, value);
    }

    @Test
    void aSourceThatCannotReachTheStoreKeepsOutcomesAfterwards() throws Exception {
        try (RunningService apart = RunningService.apart("tidy_records_unreached")) {
            assertThat(apart.publish(YAML, SQL).statusCode()).isEqualTo(200);
            HttpResponse<String> first = post(apart, "/entries", "k7", "{\"text\":\"apart\"}");
            HttpResponse<String> again = post(apart, "/entries", "k7", "{\"text\":\"apart\"}");
            assertThat(first.statusCode()).isEqualTo(201);
            assertThat(again.body()).isEqualTo(first.body());
            assertThat(entries()).isEqualTo("1");
        } finally {
            share();
        }
    }

    @Test
    void aKilledConnectionLeavesNothingHalfDoneAndTheKeyCanBeSentAgain() throws Exception {
        try (ExecutorService thread = Executors.newVirtualThreadPerTaskExecutor()) {
            Future<HttpResponse<String>> cut = thread.submit(() -> post("k8", "{\"text\":\"cut\",\"wait\":5}"));
            String id = null;
            while (id == null) {
                assertThat(cut).as("the change waits").isNotDone();
                List<String> found = TestDatabase.column(
                        "select id from information_schema.processlist where info like '%insert into entry%' and user = '"
                                + DemoDatabase.SOURCE_USER + "'");
                id = found.isEmpty() ? null : found.getFirst();
            }
            TestDatabase.execute("", "kill " + id);
            HttpResponse<String> answer = cut.get();
            assertThat(answer.statusCode()).as(answer.body()).isEqualTo(503);
            assertThat(answer.headers().firstValue("Retry-After")).isPresent();
        }
        assertThat(entries()).isEqualTo("0");
        assertThat(post("k8", "{\"text\":\"cut\",\"wait\":5}").statusCode()).isIn(201, 504);
    }
}
