package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;

/** What somebody asks about texts that are not published: trials, checks, proposals, and looks at a statement. */
class TrialsTest {

    private static final String YAML = """
            module: quays
            version: 1.0.0
            title: Quays
            source: waterways
            public: false
            routes:
              /berths/{berth}:
                get:
                  about: One berth
                  sql: berth.sql
                  answer: row
                  parameters:
                    berthId: { in: path, name: berth, type: integer, example: 3 }
              /berths:
                get:
                  about: Berths
                  sql: berths.sql
                  answer: rows
                  order: [id]
                  parameters:
                    lengths: { in: query, name: length, type: array, items: { type: number }, example: [12, 13.5] }
                    note: { in: header, name: X-Note, type: string, example: x }
              /skippers:
                post:
                  about: Skippers of a name
                  sql: skippers.sql
                  answer: rows
                  order: [id]
                  fields:
                    email: { mask: email, unless: quays.contacts }
                  parameters:
                    start: { in: body, pointer: /name/start, type: string, maxLength: 80, required: true, example: A }
            """;

    private static final Map<String, String> SQL = Map.of(
            "berth.sql", "select id, berth_no from berth where id = :berthId",
            "berths.sql",
                    "select id, length_m, :note as note from berth where 1 = 1\nand length_m in (:lengths) -- when :lengths",
            "skippers.sql", "select id, email from skipper where name like concat(:start, '%')");

    private static RunningService service;

    @BeforeAll
    static void start() throws Exception {
        service = RunningService.fresh();
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static Map<String, Object> module(String yaml, Map<String, String> sql) {
        Map<String, String> files = new HashMap<>(sql);
        files.put("module.yaml", yaml);
        return Map.of("folder", "modules/quays/v1", "files", files);
    }

    private static JsonNode run(String method, String path, Map<String, String> inputs, String... privileges)
            throws Exception {
        HttpResponse<String> response = service.post(
                "/desk/trials",
                Map.of(
                        "module",
                        module(YAML, SQL),
                        "method",
                        method,
                        "path",
                        path,
                        "inputs",
                        inputs,
                        "privileges",
                        List.of(privileges),
                        "showValues",
                        true));
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return RunningService.json(response);
    }

    private static String body(JsonNode trial) {
        return trial.at("/answer/body").asString();
    }

    @Test
    void anOperationRunsWithoutBeingPublished() throws Exception {
        JsonNode trial = run("GET", "/berths/3", Map.of());
        assertThat(trial.path("label").asString()).isEqualTo("quays/v1 GET /berths/{berth}");
        assertThat(trial.at("/answer/status").asInt()).isEqualTo(200);
        assertThat(body(trial)).startsWith("{\"id\":3,");
        assertThat(trial.at("/statement/sql").asString())
                .isEqualTo("/* quays/v1 GET /berths/{berth} */ select id, berth_no from berth where id = ?");
        assertThat(trial.at("/statement/values/0").toString())
                .isEqualTo("{\"name\":\"berthId\",\"type\":\"integer\",\"value\":\"3\"}");
        assertThat(trial.at("/statement/plan/0").asString()).isEqualTo("berth: one row by the index PRIMARY");
        assertThat(service.get("/api/quays/v1/berths/3").statusCode()).isEqualTo(404);
        assertThat(body(run("GET", "/berths/{berth}", Map.of("berthId", "3")))).startsWith("{\"id\":3,");
        assertThat(body(run("GET", "/berths/{berth}", Map.of("berth", "3")))).startsWith("{\"id\":3,");
    }

    @Test
    void inputsGoWhereTheirParametersAreTakenFrom() throws Exception {
        JsonNode trial = run("GET", "/berths", Map.of("length", "12,13.5,14", "X-Note", "hello", "limit", "2"));
        assertThat(trial.at("/statement/sql").asString()).contains("length_m in (?, ?, ?, ?)");
        assertThat(trial.at("/statement/values")
                        .valueStream()
                        .map(value -> value.path("name").asString() + "="
                                + value.path("value").asString()))
                .containsExactly(
                        "note=hello", "lengths[0]=12", "lengths[1]=13.5", "lengths[2]=14", "lengths[3]=14", "limit=3");
        assertThat(trial.at("/answer/status").asInt()).isEqualTo(200);
        JsonNode masked = run("POST", "/skippers", Map.of("name/start", ""));
        assertThat(body(masked)).contains("****@");
        assertThat(body(run("POST", "/skippers", Map.of("start", ""), "quays.contacts")))
                .doesNotContain("****");
    }

    @Test
    void whatACallerWouldBeToldIsTold() throws Exception {
        JsonNode bad = run("GET", "/berths/x", Map.of("colour", "red"));
        assertThat(bad.at("/answer/status").asInt()).isEqualTo(400);
        assertThat(body(bad)).contains("'colour' is not known here", "'berth' must be a whole number");
        assertThat(bad.has("statement")).isFalse();
        assertThat(run("GET", "/berths/999999", Map.of()).at("/answer/status").asInt())
                .isEqualTo(404);
        assertThat(run("GET", "/nowhere", Map.of()).has("label")).isFalse();
    }

    @Test
    void theOwnerIsToldWhatTheDatabaseSays() throws Exception {
        Map<String, String> sql = new HashMap<>(SQL);
        sql.put(
                "berth.sql",
                "select id, cast(json_value(equipment, '$') as int) + exp(id * 1000) as x from berth where id = :berthId");
        JsonNode trial = RunningService.json(service.post(
                "/desk/trials",
                Map.of("module", module(YAML, sql), "method", "GET", "path", "/berths/3", "inputs", Map.of())));
        assertThat(trial.at("/answer/status").asInt()).isEqualTo(500);
        assertThat(body(trial)).doesNotContain("DOUBLE");
        assertThat(trial.at("/answer/trouble").asString()).contains("DOUBLE value is out of range");
    }

    @Test
    void findingsKeepItFromBeingRun() throws Exception {
        Map<String, String> sql = new HashMap<>(SQL);
        sql.put("berth.sql", "select id, berth_nmbr from berth where id = :berthId");
        JsonNode trial = RunningService.json(service.post(
                "/desk/trials",
                Map.of("module", module(YAML, sql), "method", "GET", "path", "/berths/3", "inputs", Map.of())));
        assertThat(trial.has("answer")).isFalse();
        assertThat(trial.path("findings").toString()).contains("statement-refused", "Unknown column 'berth_nmbr'");
    }

    @Test
    void aCheckFindsWhatTheCatalogTells() throws Exception {
        Map<String, String> sql = new HashMap<>(SQL);
        sql.put("berth.sql", "select id, berth_no from berth where berth_no = :berthId");
        sql.put("skippers.sql", "select id, email from skipper where name like concat('%', :start)");
        JsonNode checked =
                RunningService.json(service.post("/desk/checks", Map.of("modules", List.of(module(YAML, sql)))));
        assertThat(checked.path("findings")
                        .valueStream()
                        .map(finding -> finding.path("code").asString() + " "
                                + finding.path("operation").asString("")))
                .containsExactlyInAnyOrder(
                        "parameter-optional-bound GET /berths",
                        "type-mismatch GET /berths/{berth}",
                        "row-many GET /berths/{berth}",
                        "privilege-unheld POST /skippers",
                        "like-unanchored POST /skippers");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    select id from berth where length_m >= :least | least | type: number
                    select id from berth where berth_no = :no     | no    | type: string, maxLength: 8
                    select id from booking where status = :status | status | type: string, enum: [requested, confirmed, cancelled, expired]
                    select id from booking where arrives >= :day  | day   | type: date
                    select id from vessel where id = :id          | id    | type: integer, minimum: 0
                    select toll_due(:vessel, 1) as toll           | vessel | type: integer, minimum: 0
                    select id from berth where has_power = :power | power | type: boolean
                    select :x as x                                | x     | type: string
                    """)
    void aLookProposesTypesFromTheCatalog(String sql, String bind, String limits) throws Exception {
        JsonNode look =
                RunningService.json(service.post("/desk/statements", Map.of("source", "waterways", "sql", sql)));
        assertThat(look.at("/binds/0/name").asString()).isEqualTo(bind);
        assertThat(look.at("/binds/0/limits").asString()).isEqualTo(limits);
    }

    @Test
    void aLookTellsFieldsOrderAndTrouble() throws Exception {
        JsonNode look = RunningService.json(service.post(
                "/desk/statements",
                Map.of(
                        "source", "waterways",
                        "sql", "select n.name as basin, b.berth_no from berth b join basin n on n.id = b.basin_id")));
        assertThat(look.path("order").toString()).isEqualTo("[\"basin\",\"berth_no\"]");
        assertThat(look.path("fields").size()).isEqualTo(2);
        JsonNode broken = RunningService.json(
                service.post("/desk/statements", Map.of("source", "waterways", "sql", "select 'x\nfrom berth")));
        assertThat(broken.path("trouble").asString()).contains("never closed");
        assertThat(broken.path("line").asInt()).isEqualTo(1);
        assertThat(broken.path("column").asInt()).isEqualTo(8);
        assertThat(service.post("/desk/statements", Map.of("source", "nowhere", "sql", "select 1"))
                        .statusCode())
                .isEqualTo(400);
    }

    @Test
    void proposalsAreWrittenIntoTheTextWhichOtherwiseStays() throws Exception {
        String yaml = """
                module: quays
                version: 1.0.0
                title: Quays # with a remark
                source: waterways
                public: false
                routes:
                  /berths/{berthId}:
                    get:
                      about: One berth
                      sql: berth.sql
                      answer: row

                  /bookings:
                    get:
                      sql: bookings.sql
                      answer: rows
                      order: [id]
                      parameters:
                        arrives: { in: query, example: 2031-05-01 } # the first night
                        departs:
                          in: query
                """;
        Map<String, String> sql = Map.of(
                "berth.sql", "select id from berth where id = :berthId",
                "bookings.sql", """
                        select id from booking
                        where arrives >= :arrives
                          and departs < :departs
                          and status in (:statuses)  -- when :statuses
                          and berth_id = :berth
                        """);
        JsonNode answer =
                RunningService.json(service.post("/desk/proposals", Map.of("modules", List.of(module(yaml, sql)))));
        String written = answer.path("texts").path("modules/quays/v1").asString();
        assertThat(written)
                .isEqualTo(yaml.replace("""
                      answer: row

                """, """
                      answer: row
                      parameters:
                        berthId: { in: path, type: integer, minimum: 0 }

                """)
                        .replace("{ in: query, example", "{ in: query, type: date, example")
                        .replace("""
                        departs:
                          in: query
                """, """
                        departs:
                          in: query
                          type: date
                        statuses: { in: query, type: array, items: { type: string, enum: [requested, confirmed, cancelled, expired] } }
                        berth: { in: query, type: integer, minimum: 0, required: true }
                """));
        JsonNode checked =
                RunningService.json(service.post("/desk/checks", Map.of("modules", List.of(module(written, sql)))));
        assertThat(checked.path("findings")
                        .valueStream()
                        .map(one -> one.path("severity").asString()))
                .doesNotContain("error");
        JsonNode again =
                RunningService.json(service.post("/desk/proposals", Map.of("modules", List.of(module(written, sql)))));
        assertThat(again.path("proposals").isEmpty()).isTrue();
    }

    @Test
    void nonsenseIsRefusedInWords() throws Exception {
        assertThat(service.post("/desk/trials", Map.of("method", "GET", "path", "/x"))
                        .body())
                .contains("A trial needs 'module'");
        assertThat(service.post("/desk/checks", Map.of("modules", List.of())).statusCode())
                .isEqualTo(400);
        List<Object> nothing = java.util.Collections.singletonList(null);
        for (String call : List.of("/desk/checks", "/desk/proposals", "/desk/releases")) {
            assertThat(service.post(call, Map.of("modules", nothing)).statusCode())
                    .as(call)
                    .isEqualTo(400);
        }
        Map<String, Object> trial =
                new HashMap<>(Map.of("module", module(YAML, SQL), "method", "GET", "path", "/berths"));
        trial.put("inputs", java.util.Collections.singletonMap("limit", null));
        assertThat(service.post("/desk/trials", trial).statusCode()).isEqualTo(400);
        trial.put("inputs", Map.of());
        trial.put("privileges", nothing);
        assertThat(service.post("/desk/trials", trial).statusCode()).isEqualTo(400);
        assertThat(service.desk("/desk/sources/waterways/contents/berth/sample?rows=many")
                        .body())
                .contains("'rows' is of another type");
        JsonNode broken = RunningService.json(service.post(
                "/desk/trials",
                Map.of(
                        "module", module(YAML.replace("/berths/{berth}", "/berths/{the berth}"), SQL),
                        "method", "GET",
                        "path", "/berths/{the berth}")));
        assertThat(broken.path("findings").toString()).contains("route-broken");
        JsonNode half = RunningService.json(
                service.post("/desk/statements", Map.of("source", "waterways", "sql", "select id from berth where")));
        assertThat(half.path("trouble").asString()).contains("cannot prepare");
    }

    /** Every combination of optional parameters is a statement of its own, and each uses the index it should. */
    @Test
    void conditionsThatVanishLeaveTheirIndexesToTheRest() throws Exception {
        TestDatabase.execute(
                "waterways",
                "create or replace table log_line (id int primary key auto_increment, kind varchar(10) not null, at_day date not null,"
                        + " amount int not null, key by_kind (kind), key by_day (at_day))",
                "insert into log_line (kind, at_day, amount) select concat('k', seq mod 400), date_add('2030-01-01', interval seq mod 700 day),"
                        + " seq from seq_1_to_20000",
                "analyze table log_line");
        String yaml = """
                module: logs
                version: 1.0.0
                title: Logs
                source: waterways
                public: false
                routes:
                  /lines:
                    get:
                      about: Lines
                      sql: lines.sql
                      answer: value
                      parameters:
                        kind: { in: query, type: string, example: k7 }
                        day: { in: query, type: date, example: 2030-03-01 }
                        ids: { in: query, type: array, items: { type: integer }, example: [3] }
                """;
        Map<String, String> sql = Map.of("lines.sql", """
                select count(*) as n from log_line
                where
                  kind = :kind        -- when :kind
                  and at_day = :day   -- when :day
                  and id in (:ids)    -- when :ids
                """);
        String[][] expected = {
            {"", "", "", "whole index"},
            {"k7", "", "", "by_kind"},
            {"", "2030-03-01", "", "by_day"},
            {"", "", "3,4", "PRIMARY"},
            {"k7", "", "3,4", "a range by the index"},
        };
        for (String[] one : expected) {
            Map<String, String> inputs = new HashMap<>(Map.of("kind", one[0], "day", one[1], "ids", one[2]));
            inputs.values().removeIf(String::isEmpty);
            JsonNode trial = RunningService.json(service.post(
                    "/desk/trials",
                    Map.of("module", module(yaml, sql), "method", "GET", "path", "/lines", "inputs", inputs)));
            assertThat(trial.at("/statement/plan/0").asString())
                    .as(inputs.toString())
                    .contains(one[3]);
        }
        TestDatabase.execute("waterways", "drop table log_line");
    }
}
