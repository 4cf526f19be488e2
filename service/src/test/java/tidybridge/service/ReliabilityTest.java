package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.net.Socket;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;

/** What callers see while things change or break. */
class ReliabilityTest {

    private static RunningService service;

    /** Each test publishes one of its own. */
    private final String module = Callers.fresh("changing");

    private final String yaml = """
            module: %s
            version: 1.0.0
            title: Changing
            source: waterways
            public: true
            routes:
              /value:
                get: { about: A value, sql: value.sql, answer: value }
            """.formatted(module);

    @BeforeAll
    static void start() throws Exception {
        service = RunningService.fresh();
        service.publishDemo();
    }

    /** What the test before did to the database is over, for the records too. */
    @BeforeEach
    void awaitRecords() throws Exception {
        Until.seen(
                () -> service.send("PUT", "/desk/roles/awake", "{\"holds\":[\"tolls.read\"]}", service.signed())
                        .statusCode(),
                status -> status == 200);
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @Test
    void publishingUnderLoadFailsNoRequest() throws Exception {
        assertThat(service.publish(yaml, Map.of("value.sql", "select 0 as v")).statusCode())
                .isEqualTo(200);
        AtomicBoolean stop = new AtomicBoolean();
        try (ExecutorService callers = Executors.newVirtualThreadPerTaskExecutor()) {
            List<AtomicInteger> counts = new ArrayList<>();
            List<Future<?>> calling = new ArrayList<>();
            for (int i = 0; i < 8; i++) {
                AtomicInteger count = new AtomicInteger();
                counts.add(count);
                calling.add(callers.submit(() -> callUntil(stop, count)));
            }
            for (int i = 1; i <= 15; i++) {
                String version = "1." + i + ".0";
                HttpResponse<String> response =
                        service.publish(yaml.replace("1.0.0", version), Map.of("value.sql", "select " + i + " as v"));
                assertThat(response.statusCode()).isEqualTo(200);
                assertThat(service.get("/api/" + module + "/v1/value").body()).isEqualTo("{\"value\":" + i + "}");
            }
            Until.holds(() -> counts.stream().allMatch(count -> count.get() > 50)
                    || calling.stream().anyMatch(Future::isDone));
            stop.set(true);
            for (Future<?> one : calling) {
                one.get();
            }
        }
    }

    /** Calls until told to stop; answers only go forward, and none fails. */
    private Void callUntil(AtomicBoolean stop, AtomicInteger calls) throws Exception {
        int last = 0;
        while (!stop.get()) {
            HttpResponse<String> response = service.get("/api/" + module + "/v1/value");
            assertThat(response.statusCode()).isEqualTo(200);
            int value = RunningService.json(response).path("value").asInt();
            assertThat(value).isGreaterThanOrEqualTo(last);
            last = value;
            calls.incrementAndGet();
        }
        return null;
    }

    /** What is known without the records is told without them, however long they hang. */
    @Test
    void theManagementApiTellsWhatItKnowsWhileItsRecordsHang() throws Exception {
        TestDatabase.server().freeze();
        try {
            for (int i = 0; i < 4; i++) {
                for (String path : List.of("/desk/modules", "/desk/nodes", "/desk/drift", "/desk/metrics")) {
                    assertThat(service.desk(path).statusCode()).as(path).isEqualTo(200);
                }
            }
            assertThat(service.get("/ready").statusCode()).isEqualTo(200);
        } finally {
            TestDatabase.server().thaw();
        }
    }

    /** Source and record store lie in the same server here, so both go away in the middle of it. */
    @Test
    void aPublishThatLosesItsDatabaseIsWholeOrNotThere() throws Exception {
        try (ExecutorService publisher = Executors.newSingleThreadExecutor()) {
            assertThat(service.publish(yaml, Map.of("value.sql", "select 0 as v"))
                            .statusCode())
                    .isEqualTo(200);
            AtomicBoolean stop = new AtomicBoolean();
            List<String> acknowledged = new CopyOnWriteArrayList<>();
            AtomicInteger refused = new AtomicInteger();
            Future<?> publishing = publisher.submit(() -> publishUntil(stop, acknowledged, refused));
            for (int i = 1; i <= 3; i++) {
                // the next publish is under way when the one before is acknowledged
                int enough = acknowledged.size() + i;
                Until.holds(() -> acknowledged.size() >= enough);
                int before = refused.get();
                TestDatabase.without(() -> Until.holds(() -> refused.get() > before));
            }
            stop.set(true);
            publishing.get();
            awaitOk("/api/" + module + "/v1/value");
            List<String> kept = RunningService.json(service.desk("/desk/releases/" + module))
                    .path("releases")
                    .valueStream()
                    .map(release -> release.path("version").asString())
                    .toList();
            assertThat(kept).containsAll(acknowledged);
            for (String version : kept) {
                assertThat(RunningService.json(service.desk("/desk/releases/" + module + "/" + version))
                                .has("contract"))
                        .as("a release has its contract, " + version)
                        .isTrue();
            }
            assertThat(service.get("/api/" + module + "/v1/value").body())
                    .as("what was published last is live")
                    .isEqualTo("{\"value\":" + kept.getFirst().split("\\.")[1] + "}");
        }
    }

    /** Remembers the versions that were told to be published; whoever is not told gets one sentence, and goes on with the same version. */
    private Void publishUntil(AtomicBoolean stop, List<String> acknowledged, AtomicInteger refused) throws Exception {
        int next = 1;
        while (!stop.get()) {
            String version = "1." + next + ".0";
            HttpResponse<String> response =
                    service.publish(yaml.replace("1.0.0", version), Map.of("value.sql", "select " + next + " as v"));
            if (response.statusCode() == 200) {
                acknowledged.add(version);
                next++;
            } else {
                assertThat(response.statusCode()).as(response.body()).isEqualTo(503);
                assertThat(RunningService.json(response).path("detail").asString())
                        .contains("does not answer");
                refused.incrementAndGet();
            }
        }
        return null;
    }

    @Test
    void aDatabaseThatIsGoneIsSaidAndUsedAgainWhenItIsBack() throws Exception {
        assertThat(service.get("/api/moorings/v1/berths/17").statusCode()).isEqualTo(200);
        TestDatabase.without(() -> {
            for (int i = 0; i < 3; i++) {
                HttpResponse<String> response = service.get("/api/moorings/v1/berths/17");
                assertThat(response.statusCode()).isEqualTo(503);
                assertThat(response.headers().firstValue("Retry-After")).hasValue("1");
                assertThat(response.body())
                        .contains("/problems/source-unavailable")
                        .doesNotContain("127.0.0.1");
            }
        });
        awaitOk("/api/moorings/v1/berths/17");
    }

    /** A machine that hangs keeps its connections: only a sign of life that does not come tells it from a slow statement. */
    @Test
    void aDatabaseThatHangsIsSaidAndUsedAgainWhenItGoesOn() throws Exception {
        assertThat(service.publish(yaml, Map.of("value.sql", "select sleep(1.8) as v"))
                        .statusCode())
                .isEqualTo(200);
        assertThat(service.get("/api/" + module + "/v1/value").statusCode())
                .as("a statement that is merely slow")
                .isEqualTo(200);
        String passage =
                "{\"lockId\":3,\"registration\":\"MW-10084\",\"direction\":\"up\",\"passedAt\":\"2040-01-01T00:00:00\"}";
        TestDatabase.server().freeze();
        try {
            for (int i = 0; i < 3; i++) {
                refused(() -> service.get("/api/moorings/v1/berths/17"));
                refused(() -> service.send(
                        "POST",
                        "/api/passages/v1/passages",
                        passage,
                        service.signed("Idempotency-Key", "frozen" + System.nanoTime())));
            }
        } finally {
            TestDatabase.server().thaw();
        }
        awaitOk("/api/moorings/v1/berths/17");
        TestDatabase.without(() -> {
            assertThat(TestDatabase.server().ending()).contains("ended from outside, by signal 9");
            refused(() -> service.send(
                    "POST", "/api/passages/v1/passages", passage, service.signed("Idempotency-Key", "gone")));
        });
        awaitOk("/api/moorings/v1/berths/17");
    }

    private static void refused(Callable<HttpResponse<String>> call) throws Exception {
        HttpResponse<String> response = call.call();
        assertThat(response.statusCode()).as(response.body()).isEqualTo(503);
        assertThat(response.headers().firstValue("Retry-After")).hasValue("1");
    }

    @Test
    void aWriteThatTheDatabaseDiesUnderIsNotMadeAndIsToldSo() throws Exception {
        String user = DemoDatabase.SOURCE_USER + "@'127.0.0.1'";
        TestDatabase.execute(
                DemoDatabase.SOURCE_SCHEMA,
                "create or replace table brief (id int not null auto_increment primary key, n int not null)",
                "grant insert on " + DemoDatabase.SOURCE_SCHEMA + ".brief to " + user);
        String changing = yaml.replace("get:", "post:");
        try {
            HttpResponse<String> published = service.publish(
                    changing,
                    Map.of("value.sql", "insert into brief (n) select sleep(1.5) from (select 1 union select 2) two"));
            assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
            try (ExecutorService thread = Executors.newVirtualThreadPerTaskExecutor()) {
                Future<HttpResponse<String>> cut =
                        thread.submit(() -> RunningService.send(service.request("/api/" + module + "/v1/value")
                                .POST(java.net.http.HttpRequest.BodyPublishers.noBody())));
                Until.holds(() -> !TestDatabase.column(
                                "select id from information_schema.processlist where info like '%into brief%'"
                                        + " and id <> connection_id()")
                        .isEmpty());
                TestDatabase.without(() -> assertThat(cut.get().statusCode()).isEqualTo(503));
            }
            assertThat(TestDatabase.column("select count(*) from brief")).containsExactly("0");
            Connections.assertComeBack(service);
        } finally {
            TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "drop table brief");
        }
    }

    @Test
    void aCallerWhoHangsUpEndsTheStatement() throws Exception {
        String rows =
                yaml.replace("answer: value", "answer: rows, order: [seq], page: { limit: 1000000, most: 1000000 }");
        assertThat(service.publish(
                                rows,
                                Map.of("value.sql", "select seq, repeat('x', 200) as filling from seq_1_to_1000000"))
                        .statusCode())
                .isEqualTo(200);
        for (int i = 0; i < 15; i++) {
            try (Socket socket = new Socket("127.0.0.1", service.port())) {
                socket.getOutputStream()
                        .write(("GET /api/" + module + "/v1/value HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")
                                .getBytes(StandardCharsets.US_ASCII));
                assertThat(socket.getInputStream().readNBytes(2_000)).hasSize(2_000);
            }
        }
        String running =
                "select id from information_schema.processlist where info like '%seq_1_to_1000000%' and id <> connection_id()";
        Until.holds(() -> TestDatabase.column(running).isEmpty());
        assertThat(service.get("/api/" + module + "/v1/value?limit=1").statusCode())
                .isEqualTo(200);
    }

    @Test
    void aFailureAmidALongAnswerCutsItOffAndAmidAShortOneIsAProblem() throws Exception {
        String rows = yaml.replace("answer: value", "answer: rows, order: [seq], page: { most: 1000000 }");
        String sql = "select seq, if(seq = 300000, (select id from berth), 0) as bad from seq_1_to_500000";
        assertThat(service.publish(rows, Map.of("value.sql", sql)).body()).contains("published");
        assertThatThrownBy(() -> service.get("/api/" + module + "/v1/value?limit=400000"))
                .as("a cut connection, never a body that looks whole")
                .isInstanceOf(IOException.class);
        HttpResponse<String> whole = service.get("/api/" + module + "/v1/value?limit=400");
        assertThat(whole.statusCode()).isEqualTo(200);
        String early = sql.replace("300000", "300");
        assertThat(service.publish(rows.replace("1.0.0", "1.1.0"), Map.of("value.sql", early))
                        .body())
                .contains("published");
        HttpResponse<String> problem = service.get("/api/" + module + "/v1/value?limit=400");
        assertThat(problem.statusCode()).isEqualTo(500);
        assertThat(problem.body()).contains("/problems/failed").doesNotContain("Subquery");
    }

    private static void awaitOk(String path) throws Exception {
        Until.seen(() -> service.get(path).statusCode(), status -> status == 200);
    }
}
