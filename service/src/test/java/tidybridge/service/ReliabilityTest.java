package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.net.Socket;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;

/** What callers see while things change or break. */
class ReliabilityTest {

    private static final String YAML = """
            module: changing
            version: 1.0.0
            title: Changing
            source: waterways
            public: true
            routes:
              /value:
                get: { about: A value, sql: value.sql, answer: value }
            """;

    @Test
    void publishingUnderLoadFailsNoRequest() throws Exception {
        try (RunningService service = RunningService.fresh()) {
            assertThat(service.publish(YAML, Map.of("value.sql", "select 0 as v"))
                            .statusCode())
                    .isEqualTo(200);
            AtomicBoolean stop = new AtomicBoolean();
            try (ExecutorService callers = Executors.newVirtualThreadPerTaskExecutor()) {
                List<Future<Integer>> counts = new ArrayList<>();
                for (int i = 0; i < 8; i++) {
                    counts.add(callers.submit(() -> callUntil(service, stop)));
                }
                for (int i = 1; i <= 15; i++) {
                    String version = "1." + i + ".0";
                    HttpResponse<String> response = service.publish(
                            YAML.replace("1.0.0", version), Map.of("value.sql", "select " + i + " as v"));
                    assertThat(response.statusCode()).isEqualTo(200);
                    assertThat(service.get("/api/changing/v1/value").body()).isEqualTo("{\"value\":" + i + "}");
                }
                stop.set(true);
                for (Future<Integer> count : counts) {
                    assertThat(count.get()).isGreaterThan(50);
                }
            }
        }
    }

    /** Calls until told to stop; answers only go forward, and none fails. */
    private static int callUntil(RunningService service, AtomicBoolean stop) throws Exception {
        int calls = 0;
        int last = 0;
        while (!stop.get()) {
            HttpResponse<String> response = service.get("/api/changing/v1/value");
            assertThat(response.statusCode()).isEqualTo(200);
            int value = RunningService.json(response).path("value").asInt();
            assertThat(value).isGreaterThanOrEqualTo(last);
            last = value;
            calls++;
        }
        return calls;
    }

    /** What is known without the records is told without them, however long they hang. */
    @Test
    void theManagementApiTellsWhatItKnowsWhileItsRecordsHang() throws Exception {
        try (RunningService service = RunningService.fresh()) {
            service.publishDemo();
            TestDatabase.server().freeze();
            try {
                for (int i = 0; i < 4; i++) {
                    for (String path : List.of("/desk/modules", "/desk/nodes", "/desk/drift", "/desk/metrics")) {
                        long start = System.nanoTime();
                        assertThat(service.desk(path).statusCode()).isEqualTo(200);
                        assertThat(Duration.ofNanos(System.nanoTime() - start))
                                .as(path)
                                .isLessThan(Duration.ofMillis(1_500));
                    }
                }
                assertThat(service.get("/ready").statusCode()).isEqualTo(200);
            } finally {
                TestDatabase.server().thaw();
            }
        }
    }

    /** Source and record store lie in the same server here, so both go away in the middle of it. */
    @Test
    void aPublishThatLosesItsDatabaseIsWholeOrNotThere() throws Exception {
        try (RunningService service = RunningService.fresh();
                ExecutorService publisher = Executors.newSingleThreadExecutor()) {
            assertThat(service.publish(YAML, Map.of("value.sql", "select 0 as v"))
                            .statusCode())
                    .isEqualTo(200);
            AtomicBoolean stop = new AtomicBoolean();
            Future<List<String>> told = publisher.submit(() -> publishUntil(service, stop));
            for (int i = 0; i < 3; i++) {
                Thread.sleep(300 + 130L * i);
                TestDatabase.without(() -> Thread.sleep(700));
            }
            stop.set(true);
            List<String> acknowledged = told.get();
            awaitOk(service, "/api/changing/v1/value", Duration.ofSeconds(2));
            List<String> kept = RunningService.json(service.desk("/desk/releases/changing"))
                    .path("releases")
                    .valueStream()
                    .map(release -> release.path("version").asString())
                    .toList();
            assertThat(kept).containsAll(acknowledged);
            for (String version : kept) {
                assertThat(RunningService.json(service.desk("/desk/releases/changing/" + version))
                                .has("contract"))
                        .as("a release has its contract, " + version)
                        .isTrue();
            }
            assertThat(service.get("/api/changing/v1/value").body())
                    .as("what was published last is live")
                    .isEqualTo("{\"value\":" + kept.getFirst().split("\\.")[1] + "}");
        }
    }

    /** The versions that were told to be published; whoever is not told gets one sentence, and goes on with the same version. */
    private static List<String> publishUntil(RunningService service, AtomicBoolean stop) throws Exception {
        List<String> acknowledged = new ArrayList<>();
        int next = 1;
        while (!stop.get()) {
            String version = "1." + next + ".0";
            HttpResponse<String> response =
                    service.publish(YAML.replace("1.0.0", version), Map.of("value.sql", "select " + next + " as v"));
            if (response.statusCode() == 200) {
                acknowledged.add(version);
                next++;
            } else {
                assertThat(response.statusCode()).as(response.body()).isEqualTo(503);
                assertThat(RunningService.json(response).path("detail").asString())
                        .contains("does not answer");
            }
        }
        return acknowledged;
    }

    @Test
    void aDatabaseThatIsGoneIsSaidAtOnceAndUsedAgainWhenItIsBack() throws Exception {
        try (RunningService service = RunningService.fresh()) {
            service.publishDemo();
            assertThat(service.get("/api/moorings/v1/berths/17").statusCode()).isEqualTo(200);
            TestDatabase.without(() -> {
                for (int i = 0; i < 3; i++) {
                    long start = System.nanoTime();
                    HttpResponse<String> response = service.get("/api/moorings/v1/berths/17");
                    assertThat(Duration.ofNanos(System.nanoTime() - start)).isLessThan(Duration.ofSeconds(1));
                    assertThat(response.statusCode()).isEqualTo(503);
                    assertThat(response.headers().firstValue("Retry-After")).hasValue("1");
                    assertThat(response.body())
                            .contains("/problems/source-unavailable")
                            .doesNotContain("127.0.0.1");
                }
            });
            awaitOk(service, "/api/moorings/v1/berths/17", Duration.ofSeconds(2));
        }
    }

    /** A machine that hangs keeps its connections: only a sign of life that does not come tells it from a slow statement. */
    @Test
    void aDatabaseThatHangsIsSaidWithinASecondAndUsedAgainWhenItGoesOn() throws Exception {
        try (RunningService service = RunningService.fresh()) {
            service.publishDemo();
            assertThat(service.publish(YAML, Map.of("value.sql", "select sleep(1.8) as v"))
                            .statusCode())
                    .isEqualTo(200);
            assertThat(service.get("/api/changing/v1/value").statusCode())
                    .as("a statement that is merely slow")
                    .isEqualTo(200);
            String passage =
                    "{\"lockId\":3,\"registration\":\"MW-10084\",\"direction\":\"up\",\"passedAt\":\"2040-01-01T00:00:00\"}";
            TestDatabase.server().freeze();
            try {
                for (int i = 0; i < 3; i++) {
                    refusedSoon(() -> service.get("/api/moorings/v1/berths/17"));
                    refusedSoon(() -> service.send(
                            "POST",
                            "/api/passages/v1/passages",
                            passage,
                            service.signed("Idempotency-Key", "frozen" + System.nanoTime())));
                }
            } finally {
                TestDatabase.server().thaw();
            }
            awaitOk(service, "/api/moorings/v1/berths/17", Duration.ofSeconds(2));
            TestDatabase.without(() -> {
                assertThat(TestDatabase.server().ending()).contains("ended from outside, by signal 9");
                refusedSoon(() -> service.send(
                        "POST", "/api/passages/v1/passages", passage, service.signed("Idempotency-Key", "gone")));
            });
            awaitOk(service, "/api/moorings/v1/berths/17", Duration.ofSeconds(2));
        }
    }

    private static void refusedSoon(Callable<HttpResponse<String>> call) throws Exception {
        long start = System.nanoTime();
        HttpResponse<String> response = call.call();
        assertThat(Duration.ofNanos(System.nanoTime() - start)).isLessThan(Duration.ofMillis(1_300));
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
        String yaml = YAML.replace("get:", "post:");
        try (RunningService service = RunningService.fresh()) {
            HttpResponse<String> published = service.publish(
                    yaml,
                    Map.of("value.sql", "insert into brief (n) select sleep(1.5) from (select 1 union select 2) two"));
            assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
            try (ExecutorService thread = Executors.newVirtualThreadPerTaskExecutor()) {
                Future<HttpResponse<String>> cut =
                        thread.submit(() -> RunningService.send(service.request("/api/changing/v1/value")
                                .POST(java.net.http.HttpRequest.BodyPublishers.noBody())));
                while (TestDatabase.column(
                                "select id from information_schema.processlist where info like '%into brief%'"
                                        + " and id <> connection_id()")
                        .isEmpty()) {
                    Thread.sleep(20);
                }
                TestDatabase.without(() -> assertThat(cut.get().statusCode()).isEqualTo(503));
            }
            assertThat(TestDatabase.column("select count(*) from brief")).containsExactly("0");
            assertThat(service.context()
                            .getBean(tidybridge.engine.Sources.class)
                            .all())
                    .allSatisfy(source -> assertThat(source.busy()).isZero());
        } finally {
            TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "drop table brief");
        }
    }

    @Test
    void aCallerWhoHangsUpEndsTheStatement() throws Exception {
        try (RunningService service = RunningService.fresh()) {
            String yaml = YAML.replace(
                    "answer: value", "answer: rows, order: [seq], page: { limit: 1000000, most: 1000000 }");
            assertThat(service.publish(
                                    yaml,
                                    Map.of(
                                            "value.sql",
                                            "select seq, repeat('x', 200) as filling from seq_1_to_1000000"))
                            .statusCode())
                    .isEqualTo(200);
            for (int i = 0; i < 15; i++) {
                try (Socket socket = new Socket("127.0.0.1", service.port())) {
                    socket.getOutputStream()
                            .write("GET /api/changing/v1/value HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n"
                                    .getBytes(StandardCharsets.US_ASCII));
                    assertThat(socket.getInputStream().readNBytes(2_000)).hasSize(2_000);
                }
            }
            long start = System.nanoTime();
            String running =
                    "select id from information_schema.processlist where info like '%seq_1_to_1000000%' and id <> connection_id()";
            while (!TestDatabase.column(running).isEmpty()) {
                assertThat(Duration.ofNanos(System.nanoTime() - start)).isLessThan(Duration.ofSeconds(4));
                Thread.sleep(50);
            }
            assertThat(service.get("/api/changing/v1/value?limit=1").statusCode())
                    .isEqualTo(200);
        }
    }

    @Test
    void aFailureAmidALongAnswerCutsItOffAndAmidAShortOneIsAProblem() throws Exception {
        try (RunningService service = RunningService.fresh()) {
            String yaml = YAML.replace("answer: value", "answer: rows, order: [seq], page: { most: 1000000 }");
            String sql = "select seq, if(seq = 300000, (select id from berth), 0) as bad from seq_1_to_500000";
            assertThat(service.publish(yaml, Map.of("value.sql", sql)).body()).contains("published");
            assertThatThrownBy(() -> service.get("/api/changing/v1/value?limit=400000"))
                    .as("a cut connection, never a body that looks whole")
                    .isInstanceOf(IOException.class);
            HttpResponse<String> whole = service.get("/api/changing/v1/value?limit=400");
            assertThat(whole.statusCode()).isEqualTo(200);
            String early = sql.replace("300000", "300");
            assertThat(service.publish(yaml.replace("1.0.0", "1.1.0"), Map.of("value.sql", early))
                            .body())
                    .contains("published");
            HttpResponse<String> problem = service.get("/api/changing/v1/value?limit=400");
            assertThat(problem.statusCode()).isEqualTo(500);
            assertThat(problem.body()).contains("/problems/failed").doesNotContain("Subquery");
        }
    }

    @Test
    void aRestartServesWhatWasLive() throws Exception {
        String next;
        try (RunningService service = RunningService.fresh()) {
            service.publishDemo();
            next = service.json("/api/moorings/v1/basins?limit=2")
                    .path("page")
                    .path("next")
                    .asString();
        }
        try (RunningService again = RunningService.start()) {
            assertThat(again.get("/api/moorings/v1/berths/17").statusCode()).isEqualTo(200);
            assertThat(again.json(next).path("data"))
                    .as("a position from before")
                    .hasSize(2);
        }
    }

    @Test
    void aModuleWhoseSourceIsGoneAtStartWaitsForIt() throws Exception {
        try (RunningService service = RunningService.fresh()) {
            service.publishDemo();
        }
        String user = DemoDatabase.SOURCE_USER + "@'127.0.0.1'";
        TestDatabase.execute("", "alter user " + user + " account lock");
        try (RunningService service = RunningService.start()) {
            assertThat(service.get("/api/moorings/v1/berths/17").statusCode()).isEqualTo(503);
            assertThat(service.desk("/desk/modules").body()).contains("\"served\":false", "does not answer");
            TestDatabase.execute("", "alter user " + user + " account unlock");
            awaitOk(service, "/api/moorings/v1/berths/17", Duration.ofSeconds(6));
        } finally {
            TestDatabase.execute("", "alter user " + user + " account unlock");
        }
    }

    @Test
    void aModuleThatNoLongerFitsItsDatabaseIsSaidAndTheOthersAreServed() throws Exception {
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "create or replace view fading as select 1 as v");
        try (RunningService service = RunningService.fresh()) {
            service.publishDemo();
            assertThat(service.publish(YAML, Map.of("value.sql", "select v from fading"))
                            .statusCode())
                    .isEqualTo(200);
        }
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "drop view fading");
        try (RunningService service = RunningService.start()) {
            assertThat(service.get("/api/changing/v1/value").statusCode()).isEqualTo(500);
            assertThat(service.desk("/desk/modules/changing/v1").body()).contains("cannot prepare the statement");
            assertThat(service.get("/api/moorings/v1/berths/17").statusCode()).isEqualTo(200);
        }
    }

    private static void awaitOk(RunningService service, String path, Duration limit) throws Exception {
        long start = System.nanoTime();
        while (service.get(path).statusCode() != 200) {
            assertThat(Duration.ofNanos(System.nanoTime() - start)).isLessThan(limit);
            Thread.sleep(20);
        }
    }
}
