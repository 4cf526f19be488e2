package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Answered.header;

import java.net.http.HttpResponse;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.demo.TestDatabase;

/** Answers that may be used again, and equal calls at the same time. */
class FreshTest {

    private static final int CALLERS = 8;

    private static RunningService service;

    @BeforeAll
    static void publish() throws Exception {
        service = SharedService.get();
        TestDatabase.execute(
                "waterways",
                "create or replace table fresh_gauge (id int primary key, level decimal(4,2), keeper varchar(40))",
                "insert into fresh_gauge select seq, seq / 10, concat('keeper', seq, '@marrowby.example') from seq_1_to_40");
        service.post("/desk/sources/waterways/refresh", Map.of());
        String yaml = """
                module: fresh
                version: 1.0.0
                title: Fresh
                source: waterways
                public: true
                formats: csv
                routes:
                  /levels:
                    get: { about: Levels, sql: levels.sql, answer: rows, order: [id], fresh: 30s, tag: representation }
                  /slow:
                    get:
                      about: Slow levels
                      sql: slow.sql
                      answer: rows
                      order: [id]
                      fresh: 30s
                      filter: [id: lte]
                      page: { limit: 3 }
                  /unshared:
                    get: { about: Slow levels too, sql: slow.sql, answer: rows, order: [id], page: { limit: 3 } }
                  /masked:
                    get:
                      about: Keepers
                      sql: keepers.sql
                      answer: rows
                      order: [id]
                      fresh: 2m
                      fields: { keeper: { mask: email, unless: fresh.contacts } }
                  /levels/{id}:
                    get:
                      about: One level
                      sql: level.sql
                      answer: row
                      fresh: 1m
                      parameters: { id: { in: path, type: integer, example: 1 } }
                  /mine:
                    get:
                      about: Of the caller
                      sql: mine.sql
                      answer: row
                      fresh: 1m
                      parameters: { who: { in: caller, name: address } }
                """;
        Map<String, String> sql = Map.of(
                "levels.sql", "select id, level from fresh_gauge",
                "slow.sql", "select id, level from fresh_gauge where sleep(0.1) = 0",
                "keepers.sql", "select id, keeper from fresh_gauge",
                "level.sql", "select id, level from fresh_gauge where id = :id",
                "mine.sql", "select :who as who");
        HttpResponse<String> response = service.publish(yaml, sql);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
    }

    @AfterAll
    static void drop() throws Exception {
        TestDatabase.execute("waterways", "drop table fresh_gauge");
    }

    private static HttpResponse<String> get(String address, String... headers) throws Exception {
        return service.send("GET", "/api/fresh/v1" + address, "", headers);
    }

    /** What differs from caller to caller is kept by their own caches alone. */
    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            /levels    | max-age=30
            /levels/7  | max-age=60
            /masked    | private, max-age=120
            /mine      | private, max-age=60
            /unshared  | no-cache
            /levels/99 | no-store
            """)
    void theTextSaysHowLong(String address, String control) throws Exception {
        assertThat(header(get(address), "Cache-Control")).isEqualTo(control);
    }

    @Test
    void aPageThatIsStillTheSameIsNotSentAgain() throws Exception {
        String tag = header(get("/levels"), "ETag");
        assertThat(tag).isNotEmpty();
        HttpResponse<String> same = get("/levels", "If-None-Match", tag);
        assertThat(same.statusCode()).isEqualTo(304);
        assertThat(same.body()).isEmpty();
        assertThat(header(same, "Cache-Control")).isEqualTo("max-age=30");
        assertThat(get("/levels?limit=3", "If-None-Match", tag).statusCode()).isEqualTo(200);
        assertThat(get("/levels?format=csv", "If-None-Match", tag).statusCode()).isEqualTo(200);
        TestDatabase.execute("waterways", "update fresh_gauge set level = 9.99 where id = 1");
        assertThat(get("/levels", "If-None-Match", tag).statusCode()).isEqualTo(200);
        assertThat(get("/levels", "If-Match", tag).statusCode()).isEqualTo(412);
    }

    @Test
    void equalCallsAtTheSameTimeRunOneStatement() throws Exception {
        assertThat(statements("/slow", "/slow?limit=2", "fresh/v1 GET /slow")).isEqualTo(2);
        assertThat(statements("/slow?id%5Blte%5D=2", "/slow?id%5Blte%5D=2", "fresh/v1 GET /slow"))
                .isEqualTo(1);
        assertThat(statements("/unshared", "/unshared", "fresh/v1 GET /unshared"))
                .isEqualTo(CALLERS);
    }

    /** How many statements of an operation run when half of the callers ask for one thing and half for another, all at once. */
    private static int statements(String one, String other, String mark) throws Exception {
        TestDatabase.execute(
                "",
                "set global log_output = 'TABLE'",
                "truncate table mysql.general_log",
                "set global general_log = 1");
        try (ExecutorService threads = Executors.newVirtualThreadPerTaskExecutor()) {
            List<Future<HttpResponse<String>>> calls = new ArrayList<>();
            for (int i = 0; i < CALLERS; i++) {
                String address = i % 2 == 0 ? one : other;
                calls.add(threads.submit(() -> get(address)));
            }
            List<String> bodies = new ArrayList<>();
            for (Future<HttpResponse<String>> call : calls) {
                assertThat(call.get().statusCode()).isEqualTo(200);
                bodies.add(call.get().body());
            }
            for (int i = 2; i < CALLERS; i++) {
                assertThat(bodies.get(i)).isEqualTo(bodies.get(i % 2));
            }
        } finally {
            TestDatabase.execute("", "set global general_log = 0");
        }
        return Integer.parseInt(TestDatabase.column(
                        "select count(*) from mysql.general_log where command_type = 'Execute' and argument like '%"
                                + mark + " %'")
                .getFirst());
    }

    @Test
    void callersWhoSeeDifferentThingsAreToldApart() throws Exception {
        assertThat(get("/masked").body()).contains("k****@marrowby.example").doesNotContain("keeper1@");
        assertThat(service.desk("/api/fresh/v1/masked").statusCode()).isEqualTo(200);
    }

    @Test
    void aChangeIsNeverFresh() throws Exception {
        String yaml = """
                module: stale
                version: 1.0.0
                title: Stale
                source: waterways
                public: true
                routes:
                  /levels:
                    post: { about: Add, sql: add.sql, answer: nothing, fresh: 30s }
                """;
        assertThat(service.publish(
                                yaml,
                                Map.of(
                                        "add.sql",
                                        "insert into lock_passage (lock_id, vessel_id, passed_at, direction, wait_minutes)"
                                                + " values (1, 1, '2031-05-01', 'up', 0)"))
                        .body())
                .contains("no answer of it can be used again");
    }
}
