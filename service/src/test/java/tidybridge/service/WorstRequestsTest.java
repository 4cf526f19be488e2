package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Answered.problem;

import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.read.ListAppender;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.slf4j.LoggerFactory;
import tidybridge.core.Cost;
import tidybridge.core.bind.WorstBodies;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;

/** The service as somebody meets it who means no good: nothing costs more than its share, and nobody else waits for it. */
class WorstRequestsTest {

    private static final String YAML =
            """
            module: worst
            version: 1.0.0
            title: Attacked
            source: waterways
            public: true
            routes:
              /sink:
                post:
                  about: Takes all
                  sql: sink.sql
                  answer: nothing
                  parameters:
            %s
              /many:
                get:
                  about: Many rows
                  sql: many.sql
                  answer: rows
                  order: [n]
                  page: { limit: 100, most: 200000 }
                  parameters:
                    word: { in: query, type: string, pattern: '(a+)+b', maxLength: 2000 }
                    list: { in: query, type: array, items: { type: number } }
                    mark: { in: header, name: X-Mark, type: array, items: { type: string } }
                    day:  { in: query, type: date-time }
            """.formatted(WorstBodies.PARAMETERS.indent(8).stripTrailing());

    private static final String MANY = """
            select seq n, rpad('x', 600, 'x') filling
            from seq_1_to_200000
            where seq > 0
              and :word = '' -- when :word
              and :list = '' -- when :list
              and :mark = '' -- when :mark
              and :day is null -- when :day
            """;

    private static final RunningService SERVICE = SharedService.get();

    @BeforeAll
    static void publish() throws Exception {
        TestDatabase.execute(
                "waterways",
                "create or replace table worst_sink (v longtext)",
                "grant insert on waterways.worst_sink to waterways_service@127.0.0.1");
        assertThat(SERVICE.post("/desk/sources/waterways/refresh", Map.of()).statusCode())
                .isEqualTo(200);
        HttpResponse<String> published = SERVICE.publish(
                YAML,
                Map.of(
                        "sink.sql",
                        "insert into worst_sink select concat_ws('', " + WorstBodies.binds() + ")",
                        "many.sql",
                        MANY));
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
    }

    @AfterAll
    static void allConnectionsAreBack() throws Exception {
        Connections.assertComeBack(SERVICE);
        TestDatabase.execute("waterways", "drop table worst_sink");
    }

    @Test
    void noBodyHoldsAnybodyUp() throws Exception {
        try (ExecutorService callers = Executors.newVirtualThreadPerTaskExecutor()) {
            for (Map.Entry<String, String> worst : WorstBodies.all().entrySet()) {
                Cost.isWithin(Duration.ofSeconds(3), worst.getKey(), () -> {
                    List<Future<HttpResponse<String>>> sent = new ArrayList<>();
                    for (int i = 0; i < 3; i++) {
                        sent.add(callers.submit(() -> SERVICE.send("POST", "/api/worst/v1/sink", worst.getValue())));
                    }
                    for (Future<HttpResponse<String>> each : sent) {
                        HttpResponse<String> answer = each.get();
                        assertThat(answer.statusCode())
                                .as(worst.getKey() + answer.body())
                                .isIn(204, 400, 413, 503);
                        assertThat(answer.body().length()).as(worst.getKey()).isLessThan(20_000);
                    }
                });
            }
        }
    }

    private static Map<String, String> addresses() {
        Map<String, String> all = new LinkedHashMap<>();
        all.put("pairs", "x=1&".repeat(1_900));
        all.put("pairs without values", "&".repeat(7_900));
        all.put("one long word", "word=" + "a".repeat(7_900));
        all.put("a word that backtracks", "word=" + "a".repeat(2_000));
        all.put("a list", "list=1&".repeat(1_100));
        all.put("a steep number", "list=1e2147483648");
        all.put("a long number", "list=" + "9".repeat(7_900));
        all.put("a long day", "day=" + "2031-05-01T00:00:00.".repeat(300));
        all.put("a page behind nothing", "after=" + "A".repeat(7_900));
        all.put("a large page", "limit=" + "9".repeat(7_900));
        all.put("broken percents", "word=" + "%".repeat(7_900));
        all.put("half a character", "word=%ED%A0%80");
        all.put("names that are nearly known", String.join("&", Collections.nCopies(190, "wordd=1")));
        return all;
    }

    @Test
    void noAddressHoldsAnybodyUp() throws Exception {
        for (Map.Entry<String, String> worst : addresses().entrySet()) {
            Cost.isWithin(Duration.ofSeconds(1), worst.getKey(), () -> {
                try (Wire wire = new Wire(SERVICE.port())) {
                    wire.send("GET /api/worst/v1/many?" + worst.getValue() + " HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n");
                    String answer = wire.answer();
                    assertThat(answer)
                            .as(worst.getKey())
                            .startsWith("HTTP/1.1 ")
                            .doesNotStartWith("HTTP/1.1 5")
                            .satisfiesAnyOf(
                                    ordinary -> assertThat(ordinary).startsWith("HTTP/1.1 200"),
                                    refused -> assertThat(refused).hasSizeLessThan(20_000));
                }
            });
        }
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            Accept           | a/b;q=0.5,
            Accept-Language  | aa-BB;q=0.5,
            Accept-Encoding  | gzip;q=0.1,
            If-Match         | "x",
            If-None-Match    | W/"x",
            If-Modified-Since| Mon,
            X-Mark           | a,
            Cookie           | tidy_session=a;
            Authorization    | Bearer
            traceparent      | 00-
            Idempotency-Key  | k
            Range            | bytes=0-1,
            Forwarded        | for=a,
            """)
    void noFieldHoldsAnybodyUp(String field, String part) throws Exception {
        for (String path : new String[] {"/api/worst/v1/many?limit=1", "/api/worst/v1/sink", "/", "/desk/modules"}) {
            Cost.isWithin(Duration.ofSeconds(1), field + " at " + path, () -> {
                try (Wire wire = new Wire(SERVICE.port())) {
                    wire.send("GET " + path + " HTTP/1.1\r\nHost: 127.0.0.1\r\n" + field + ": "
                            + part.strip().repeat(28_000 / part.strip().length()) + "\r\n\r\n");
                    assertThat(wire.answer()).startsWith("HTTP/1.1 ").doesNotStartWith("HTTP/1.1 5");
                }
            });
        }
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            GET /api/worst/v1/many HTTP/2.0                        | 505
            GET /api/worst/v1/many HTTP/1.9                        | 505
            GET /api/worst/v1/many                                 | 505
            GET /api/worst/v1/many HTTP/x                          | 400
            POST /api/worst/v1/sink HTTP/1.1~Transfer-Encoding: gzip | 501
            POST /api/worst/v1/sink HTTP/1.1~Transfer-Encoding: identity | 501
            POST /api/worst/v1/sink HTTP/1.1~Transfer-Encoding: chunked, chunked | 400
            POST /api/worst/v1/sink HTTP/1.1~Content-Length: 2~Content-Length: 3 | 400
            POST /api/worst/v1/sink HTTP/1.1~Content-Length: -2    | 400
            CONNECT 127.0.0.1:1 HTTP/1.1                           | 405
            BREW /api/worst/v1/many HTTP/1.1                       | 405
            TRACE /api/worst/v1/many HTTP/1.1                      | 405
            GE(T /api/worst/v1/many HTTP/1.1                       | 400
            """)
    void whatIsNotOurHttpIsRefusedAsAProblem(String lines, int status) throws Exception {
        try (Wire wire = new Wire(SERVICE.port())) {
            String end = lines.contains("HTTP/") ? "\r\nHost: 127.0.0.1\r\n\r\n" : "\r\n";
            wire.send(lines.replace("~", "\r\n") + end);
            assertThat(wire.answer())
                    .startsWith("HTTP/1.1 " + status)
                    .contains("Content-Type: application/problem+json", "\"status\":" + status);
        }
    }

    /** The next connection that gets the same object in the server must not inherit that answers have no status line. */
    @Test
    void nothingIsLeftBehindByAVersionWithoutStatusLines() throws Exception {
        for (int i = 0; i < 300; i++) {
            try (Wire old = new Wire(SERVICE.port());
                    Wire broken = new Wire(SERVICE.port())) {
                old.send("GET /api/worst/v1/many\r\n");
                assertThat(old.answer()).startsWith("HTTP/1.1 505");
                broken.send("\u0001\r\n\r\n");
                assertThat(broken.answer()).startsWith("HTTP/1.1 400");
            }
        }
    }

    @Test
    void aBodyThatStallsOrTricklesIsNotWaitedFor() throws Exception {
        try (Wire stalled = new Wire(SERVICE.port());
                Wire trickling = new Wire(SERVICE.port());
                Wire signing = new Wire(SERVICE.port())) {
            String head =
                    " HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nOrigin: http://127.0.0.1\r\n";
            stalled.send("POST /api/worst/v1/sink" + head + "Content-Length: 4000000\r\n\r\n" + " ".repeat(1_000_000));
            trickling.send("POST /api/worst/v1/sink" + head + "Transfer-Encoding: chunked\r\n\r\n");
            signing.send("POST /desk/sessions" + head + "Content-Length: 3000\r\n\r\n ");
            for (int i = 0; i < 20 && trickling.send("1\r\n \r\n"); i++) {
                TimeUnit.MILLISECONDS.sleep(400);
            }
            for (Wire each : List.of(stalled, trickling, signing)) {
                assertThat(each.answer()).startsWith("HTTP/1.1 408").contains("body-slow");
            }
        }
    }

    @Test
    void whoIsNotSignedInHasLittleToSay() throws Exception {
        problem(
                SERVICE.send("POST", "/desk/sessions", "{\"token\":\"" + "a".repeat(5_000) + "\"}"),
                413,
                "larger than 4096 bytes");
        problem(SERVICE.send("POST", "/desk/sessions", "{\"token\":\"a\"}"), 401);
    }

    /** They hold a share of the connections only; forty at once answered ordinary calls with 503. */
    @Test
    void trialsLeaveConnectionsToTheCallers() throws Exception {
        String yaml = """
                module: slow
                version: 1.0.0
                title: Slow
                source: waterways
                public: true
                routes: { /slow: { get: { about: Slow, sql: slow.sql, answer: value } } }
                """;
        Map<String, Object> module = Map.of(
                "folder", "modules/slow", "files", Map.of("module.yaml", yaml, "slow.sql", "select sleep(1) as n"));
        Map<String, Object> trial = Map.of("module", module, "method", "GET", "path", "/slow", "inputs", Map.of());
        try (ExecutorService callers = Executors.newVirtualThreadPerTaskExecutor()) {
            List<Future<HttpResponse<String>>> trials = new ArrayList<>();
            for (int i = 0; i < 40; i++) {
                trials.add(callers.submit(() -> SERVICE.post("/desk/trials", trial)));
            }
            Until.holds(() -> !TestDatabase.column("select id from information_schema.processlist"
                            + " where info like '%sleep(1) as n%' and id <> connection_id()")
                    .isEmpty());
            for (int i = 0; i < 30; i++) {
                assertThat(SERVICE.get("/api/worst/v1/many?limit=1").statusCode())
                        .isEqualTo(200);
            }
            for (Future<HttpResponse<String>> one : trials) {
                assertThat(one.get().statusCode()).as(one.get().body()).isEqualTo(200);
                assertThat(one.get().body()).containsAnyOf("\"status\":200", "under way at this database");
            }
            assertThat(trials.stream().map(Future::resultNow).map(HttpResponse::body))
                    .anyMatch(body -> body.contains("\"status\":200"));
        }
    }

    /** Whoever hangs up, early or late, is no fault of ours: nothing of it is worth a stack trace. */
    @Test
    void hangingUpLeavesNoStackTrace() throws Exception {
        Logger root = (Logger) LoggerFactory.getLogger(org.slf4j.Logger.ROOT_LOGGER_NAME);
        ListAppender<ILoggingEvent> seen = new ListAppender<>();
        seen.start();
        root.addAppender(seen);
        try {
            for (String path : List.of("many?limit=200000", "many?limit=5000", "many?limit=3000", "openapi.json")) {
                for (int i = 0; i < 5; i++) {
                    try (Wire wire = Wire.narrow(SERVICE.port())) {
                        wire.send("GET /api/worst/v1/" + path + " HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n");
                        assertThat(wire.read(200)).isPositive();
                        wire.hangUp();
                    }
                    try (Wire wire = new Wire(SERVICE.port())) {
                        wire.send(
                                "POST /api/worst/v1/sink HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 99999\r\n\r\n{");
                        wire.hangUp();
                    }
                }
            }
            // whoever is still answered is known by the connection that the answer needs
            Connections.assertComeBack(SERVICE);
            assertThat(List.copyOf(seen.list))
                    .filteredOn(event -> event.getThrowableProxy() != null)
                    .isEmpty();
        } finally {
            root.detachAppender(seen);
        }
    }

    @Test
    void slowReadersLeaveConnectionsToTheOthersAndAreCutOff() throws Exception {
        List<Wire> readers = new ArrayList<>();
        try {
            for (int i = 0; i < 12; i++) {
                Wire reader = Wire.narrow(SERVICE.port());
                reader.send("GET /api/worst/v1/many?limit=200000 HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n");
                readers.add(reader);
            }
            for (Wire reader : readers) {
                assertThat(reader.read(100)).isPositive();
            }
            for (int i = 0; i < 20; i++) {
                assertThat(SERVICE.get("/api/worst/v1/many?limit=1000").statusCode())
                        .isEqualTo(200);
            }
            problem(SERVICE.get("/api/worst/v1/many?limit=200000"), 503, "long answers under way");
            problem(SERVICE.get("/api/worst/v1/many?limit=5000"), 503, "long answers under way");
            for (Wire reader : readers) {
                reader.read(1_000);
            }
            // once the slow ones are cut off
            Until.seen(() -> SERVICE.get("/api/worst/v1/many?limit=20000").statusCode(), status -> status == 200);
        } finally {
            for (Wire reader : readers) {
                reader.close();
            }
        }
    }
}
