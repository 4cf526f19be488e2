package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Answered.document;

import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What callers read through the gateway: pages, rows and values of every type. */
class GatewayTest {

    private static final String STAY = "from=2031-05-01&until=2031-05-04";

    @RegisterExtension
    static final DemoService DEMO = new DemoService();

    private static List<String> ids(JsonNode page) {
        return page.path("data")
                .valueStream()
                .map(row -> row.path("id").toString())
                .toList();
    }

    /** Follows next from page to page. */
    private static List<String> everyPage(String path) throws Exception {
        List<String> all = new ArrayList<>();
        String next = path;
        while (next != null) {
            JsonNode page = DEMO.running().json(next);
            all.addAll(ids(page));
            next = page.path("page").path("next").asString(null);
        }
        return all;
    }

    @Test
    void pagesGiveEveryRowOnceInOrder() throws Exception {
        List<String> expected = TestDatabase.column("""
                select b.id from berth b join basin n on n.id = b.basin_id
                where not exists (select 1 from booking k where k.berth_id = b.id and k.status in ('requested', 'confirmed')
                  and k.arrives < '2031-05-04' and k.departs > '2031-05-01')
                order by n.name, b.berth_no""");
        assertThat(expected).hasSizeGreaterThan(10);
        assertThat(everyPage("/api/moorings/v1/berths?" + STAY + "&limit=7")).isEqualTo(expected);
    }

    @Test
    void descendingPagesGiveEveryRowOnceInOrder() throws Exception {
        List<String> expected =
                TestDatabase.column("select id from lock_passage where lock_id = 3 order by passed_at desc, id desc");
        assertThat(everyPage("/api/passages/v1/passages?lock=3&limit=61")).isEqualTo(expected);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '"', textBlock = """
                    arrives desc      | arrives desc
                    booked_at         | booked_at
                    nightly_rate desc | nightly_rate desc
                    length_m          | length_m
                    confirmed desc    | (k.status = 'confirmed') desc
                    span              | timediff('12:00:00', sec_to_time(k.id))
                    """)
    void everyTypeOfOrderContinues(String order, String expression) throws Exception {
        String module = "ordered-" + order.replaceAll("[^a-z]", "");
        String yaml = """
                module: %s
                version: 1.0.0
                title: Ordered
                source: waterways
                public: true
                routes:
                  /bookings:
                    get: { about: Bookings, sql: bookings.sql, answer: rows, order: [%s, id] }
                """.formatted(module, order);
        String sql = """
                select k.id, k.arrives, k.booked_at, b.nightly_rate, b.length_m, k.status = 'confirmed' as confirmed,
                  coalesce(timediff('12:00:00', sec_to_time(k.id)), '00:00:00') as span
                from booking k join berth b on b.id = k.berth_id where k.id <= 200""";
        assertThat(DEMO.running().publish(yaml, Map.of("bookings.sql", sql)).body())
                .contains("published");
        List<String> expected = TestDatabase.column("select k.id from booking k join berth b on b.id = k.berth_id "
                + "where k.id <= 200 order by " + expression + ", k.id");
        assertThat(everyPage("/api/" + module + "/v1/bookings?limit=7")).isEqualTo(expected);
    }

    @Test
    void pagesThroughManyRowsOfOneFirstValueStayShort() throws Exception {
        String yaml = """
                module: tied
                version: 1.0.0
                title: Tied
                source: waterways
                public: true
                routes:
                  /passages:
                    get: { about: By lock, sql: tied.sql, answer: rows, order: [lock_id, passed_at, id] }
                """;
        assertThat(DEMO.running()
                        .publish(yaml, Map.of("tied.sql", "select lock_id, passed_at, id from lock_passage"))
                        .body())
                .contains("published");
        String second = DEMO.running()
                .json("/api/tied/v1/passages?limit=150")
                .path("page")
                .path("next")
                .asString();
        TestDatabase.execute(
                "",
                "set global log_output = 'TABLE'",
                "truncate mysql.slow_log",
                "set global long_query_time = 0",
                "set global slow_query_log = 1");
        try (RunningService watched = RunningService.start()) {
            assertThat(ids(watched.json(second))).hasSize(150);
        } finally {
            TestDatabase.execute("", "set global slow_query_log = 0", "set global long_query_time = 10");
        }
        assertThat(TestDatabase.column(
                        "select rows_examined from mysql.slow_log where sql_text like '%tied/v1%limit%'"))
                .isNotEmpty()
                .allSatisfy(rows -> assertThat(Integer.parseInt(rows)).isLessThan(160));
        List<String> expected = TestDatabase.column("select id from lock_passage order by lock_id, passed_at, id");
        assertThat(everyPage("/api/tied/v1/passages?limit=190")).isEqualTo(expected);
    }

    @Test
    void theLastPageHasNoNext() throws Exception {
        HttpResponse<String> response = DEMO.running().get("/api/moorings/v1/basins?limit=5");
        assertThat(ids(RunningService.json(response))).hasSize(5);
        assertThat(RunningService.json(response).path("page").toString()).isEqualTo("{\"limit\":5,\"last\":true}");
        assertThat(response.headers().firstValue("Link")).isEmpty();
        HttpResponse<String> first = DEMO.running().get("/api/moorings/v1/basins?limit=4");
        String next = RunningService.json(first).path("page").path("next").asString();
        assertThat(first.headers().firstValue("Link")).hasValue("<" + next + ">; rel=\"next\"");
    }

    @Test
    void optionalConditionsApplyOnlyWhenGiven() throws Exception {
        int all = everyPage("/api/moorings/v1/berths?" + STAY).size();
        List<String> inBasin = everyPage("/api/moorings/v1/berths?" + STAY + "&basin=Heron+Pool");
        List<String> longer = everyPage("/api/moorings/v1/berths?" + STAY + "&basin=Heron%20Pool&minLength=14.5");
        assertThat(inBasin).hasSizeLessThan(all).containsAll(longer);
        assertThat(longer).isNotEmpty().hasSizeLessThan(inBasin.size());
    }

    @Test
    void aRowIsTheObjectItself() throws Exception {
        HttpResponse<String> response = DEMO.running().get("/api/moorings/v1/berths/17");
        assertThat(response.headers().firstValue("Content-Type")).hasValue("application/json");
        assertThat(response.body()).startsWith("{\"id\":17,\"basin\":\"").contains("\"equipment\":");
        document(DEMO.running().get("/api/moorings/v1/berths/99999"), 404);
    }

    @Test
    void aValueStandsAlone() throws Exception {
        String expected = TestDatabase.column(
                        "select count(*) from lock_passage where lock_id = 3 and passed_at >= '2031-05-01' and passed_at < '2031-06-01'")
                .getFirst();
        assertThat(DEMO.running()
                        .get("/api/passages/v1/locks/3/passages/count?from=2031-05-01&to=2031-06-01")
                        .body())
                .isEqualTo("{\"value\":" + expected + "}");
    }

    @Test
    void everyTypeArrivesExactly() throws Exception {
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "drop table if exists exact", """
                create table exact (id int primary key, big bigint unsigned, amount decimal(30,10), ratio double, flag boolean,
                  word varchar(20), day date, span time, at_local datetime(3), moment timestamp null, made year, doc json, raw blob)""", """
                insert into exact values (1, 18446744073709551615, 12345678901234567890.1234567890, 0.1, true, 'é "☃"', '2031-05-01',
                  '-101:30:00', '2031-05-01 12:30:00.250', '2031-05-01 12:30:00', 2031, '{"a": [1, 2.50, null]}', x'00ff'),
                  (2, null, null, null, null, null, null, null, null, null, null, null, null)""");
        String yaml = """
                module: exact
                version: 1.0.0
                title: Types
                source: waterways
                public: true
                routes:
                  /{id}:
                    get:
                      about: Every type
                      sql: exact.sql
                      answer: row
                      parameters: { id: { in: path, type: integer } }
                """;
        assertThat(DEMO.running()
                        .publish(yaml, Map.of("exact.sql", "select * from exact where id = :id"))
                        .statusCode())
                .isEqualTo(200);
        assertThat(DEMO.running().get("/api/exact/v1/1").body())
                .isEqualTo(
                        "{\"id\":1,\"big\":18446744073709551615,\"amount\":12345678901234567890.1234567890,\"ratio\":0.1,"
                                + "\"flag\":true,\"word\":\"é \\\"☃\\\"\",\"day\":\"2031-05-01\",\"span\":\"-101:30:00\","
                                + "\"at_local\":\"2031-05-01T12:30:00.250\",\"moment\":\"2031-05-01T12:30:00Z\",\"made\":2031,"
                                + "\"doc\":{\"a\": [1, 2.50, null]},\"raw\":\"AP8=\"}");
        assertThat(DEMO.running().json("/api/exact/v1/2").valueStream())
                .filteredOn(JsonNode::isNull)
                .hasSize(12);
    }

    @Test
    void allMistakesOfARequestAreReportedAtOnce() throws Exception {
        JsonNode problem = document(DEMO.running().get("/api/moorings/v1/berths?form=1&until=soon&limit=201"), 400);
        assertThat(problem.path("errors")
                        .valueStream()
                        .map(error -> error.path("parameter").asString()))
                .containsExactly("form", "until", "limit", "from");
        assertThat(problem.toString()).doesNotContain("soon");
    }

    @Test
    void aPositionIsGoodForItsOwnCollectionOnly() throws Exception {
        String next = DEMO.running()
                .json("/api/moorings/v1/basins?limit=1")
                .path("page")
                .path("next")
                .asString();
        String after = next.substring(next.indexOf("after=") + 6);
        String changed = (after.charAt(0) == 'B' ? 'C' : 'B') + after.substring(1);
        for (String path : new String[] {
            "/api/moorings/v1/basins?after=" + changed,
            "/api/moorings/v1/basins?after=" + after.substring(2),
            "/api/moorings/v1/basins?after=",
            "/api/passages/v1/passages?after=" + after
        }) {
            JsonNode error =
                    document(DEMO.running().get(path), 400).path("errors").get(0);
            assertThat(error.path("parameter").asString()).isEqualTo("after");
        }
    }

    @Test
    void aSlowStatementIsStoppedAndSaid() throws Exception {
        String yaml = """
                module: slow
                version: 1.0.0
                title: Slow
                source: waterways
                public: true
                timeout: 300ms
                routes:
                  /sleep:
                    get: { about: Sleeps, sql: sleep.sql, answer: value }
                """;
        assertThat(DEMO.running()
                        .publish(yaml, Map.of("sleep.sql", "select sum(sleep(5)) as slept from berth"))
                        .statusCode())
                .isEqualTo(200);
        document(DEMO.running().get("/api/slow/v1/sleep"), 504);
        assertThat(
                        TestDatabase.column(
                                "select info from information_schema.processlist where info like '%sleep(5)) as%' and id <> connection_id()"))
                .isEmpty();
    }

    @Test
    void statementsCanBeTracedInTheDatabase() throws Exception {
        TestDatabase.execute(
                "", "set global log_output = 'TABLE'", "truncate mysql.general_log", "set global general_log = 1");
        try {
            DEMO.running().get("/api/moorings/v1/berths/17");
        } finally {
            TestDatabase.execute("", "set global general_log = 0");
        }
        assertThat(TestDatabase.column("select argument from mysql.general_log where argument like '%berth b%'"))
                .anyMatch(sql -> sql.startsWith("/* moorings/v1 GET /berths/{berthId} */ select"));
    }

    @Test
    void aLongPageStreams() throws Exception {
        HttpResponse<String> response = DEMO.running().get("/api/passages/v1/passages?limit=1000");
        JsonNode page = RunningService.json(response);
        assertThat(ids(page)).hasSize(1_000);
        assertThat(new HashSet<>(ids(page))).hasSize(1_000);
        assertThat(page.path("page").has("next")).isTrue();
    }

    @Test
    void theReferenceIsLiveAndCanBeKept() throws Exception {
        HttpResponse<String> json = DEMO.running().get("/api/moorings/v1/openapi.json");
        assertThat(RunningService.json(json).path("openapi").asString()).isEqualTo("3.1.0");
        assertThat(DEMO.running().get("/api/moorings/v1/openapi.yaml").body()).startsWith("openapi: 3.1.0\n");
        String tag = json.headers().firstValue("ETag").orElseThrow();
        HttpResponse<String> again = RunningService.send(
                DEMO.running().request("/api/moorings/v1/openapi.json").header("If-None-Match", tag));
        assertThat(again.statusCode()).isEqualTo(304);
        assertThat(again.body()).isEmpty();
    }

    /** What the reference promises of a row is what arrives. */
    @Test
    void answersFitTheirReference() throws Exception {
        JsonNode schema = DEMO.running().json("/api/moorings/v1/openapi.json").at("/components/schemas/BerthsRow");
        var registry = com.networknt.schema.SchemaRegistry.withDefaultDialect(
                com.networknt.schema.SpecificationVersion.DRAFT_2020_12);
        var rows = registry.getSchema(schema.toString());
        JsonNode data = DEMO.running()
                .json("/api/moorings/v1/berths?" + STAY + "&limit=50")
                .path("data");
        assertThat(data).hasSizeGreaterThan(10);
        data.forEach(row -> assertThat(rows.validate(row.toString(), com.networknt.schema.InputFormat.JSON))
                .isEmpty());
    }

    @Test
    void noRequestWhateverMakesItFail() throws Exception {
        String[] pieces = {
            "moorings",
            "passages",
            "tolls",
            "v1",
            "v2",
            "berths",
            "basins",
            "17",
            "-1",
            "99999999999999999999",
            "%27",
            "%00",
            "%C3",
            "%2F",
            "..",
            "openapi.json",
            "from=2031-05-01",
            "until=2031-05-04",
            "limit=5",
            "limit=-1",
            "after=AAAA",
            "basin=%27+or+1=1--",
            "minLength=1e9",
            "minLength=0.00000001",
            "lock=3",
            "since=0000-00-00",
            "since=9999-12-31T23:59:59",
            "vessel=MW-10000",
            "direction=sideways",
            "%F0%9F%9A%A2",
            "~",
            "*",
            "a=b=c",
            "&",
            "="
        };
        Random random = new Random(11);
        JsonMapper json = JsonMapper.shared();
        for (int i = 0; i < 4_000; i++) {
            StringBuilder path = new StringBuilder("/api");
            for (int n = random.nextInt(5); n >= 0; n--) {
                path.append('/').append(pieces[random.nextInt(pieces.length)]);
            }
            String separator = "?";
            for (int n = random.nextInt(4); n > 0; n--) {
                path.append(separator).append(pieces[random.nextInt(pieces.length)]);
                separator = "&";
            }
            URI uri;
            try {
                uri = URI.create(DEMO.running().address() + path);
            } catch (IllegalArgumentException e) {
                continue;
            }
            HttpResponse<String> response = RunningService.send(HttpRequest.newBuilder(uri));
            assertThat(response.statusCode()).as(path.toString()).isIn(200, 400, 401, 404);
            if (response.statusCode() >= 400) {
                assertThat(json.readTree(response.body()).path("status").asInt())
                        .isEqualTo(response.statusCode());
            }
        }
    }
}
