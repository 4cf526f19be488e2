package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;
import tools.jackson.databind.JsonNode;

/** Tables that nobody made for this service: odd names, many columns, geometries, broken views; and many operations over them. */
class ForeignSchemaTest {

    private static final int COLUMNS = 100;
    private static final String HEAD = """
            module: foreign
            version: %s
            title: Foreign
            source: waterways
            public: true
            routes:
            """;

    private static RunningService service;

    @BeforeAll
    static void make() throws Exception {
        service = SharedService.get();
        String wide = IntStream.range(0, COLUMNS)
                .mapToObj(i -> "c" + i + " int null")
                .collect(Collectors.joining(", ", "create or replace table wide_one (id int primary key, ", ")"));
        TestDatabase.execute(
                "waterways",
                wide,
                "insert into wide_one (id, c0) values (1, 5)",
                "create or replace table `order` (id int primary key, `full name` varchar(20) not null, `größe-in-m` decimal(5,2) null,"
                        + " `group` int not null default 3, spot point null comment 'where it lies')",
                "insert into `order` values (1, 'Quay \\\"A\\\"', 1.50, 1, point(1, 2)), (2, 'Quay B', null, 2, null)",
                "create or replace table gone_soon (id int)",
                "create or replace view shows_nothing as select id from gone_soon",
                "drop table gone_soon",
                "grant select, insert, update on waterways.* to " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'");
        // what is granted on a whole schema is felt by new connections
        assertThat(service.post("/desk/sources/reload", Map.of()).statusCode()).isEqualTo(200);
    }

    @AfterAll
    static void drop() throws Exception {
        TestDatabase.execute(
                "waterways",
                "revoke insert, update on waterways.* from " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'",
                "drop table wide_one, `order`",
                "drop view shows_nothing");
        service.post("/desk/sources/waterways/refresh", Map.of());
    }

    private static JsonNode contents(String kind, String name) throws Exception {
        JsonNode all = RunningService.json(service.desk("/desk/sources/waterways/contents"));
        return all.path(kind)
                .valueStream()
                .filter(item -> item.path("name").asString().equals(name))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void aPatchOfAHundredColumnsTakesAnyOfThem() throws Exception {
        StringBuilder sql = new StringBuilder("update wide_one\nset");
        StringBuilder yaml = new StringBuilder(HEAD.formatted("1.0.0") + """
                  /wide/{id}:
                    patch:
                      about: Change any column
                      sql: patch.sql
                      answer: nothing
                      parameters:
                        id: { in: path, type: integer, example: 1 }
                """);
        for (int i = 0; i < COLUMNS; i++) {
            sql.append(i == 0 ? " c0 = :c0 -- when :c0\n" : ", c" + i + " = :c" + i + " -- when :c" + i + "\n");
            yaml.append("        c").append(i).append(": { in: body, type: integer, nullable: true, example: 1 }\n");
        }
        sql.append("where id = :id");
        var published = service.publish(yaml.toString(), Map.of("patch.sql", sql.toString()));
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
        assertThat(service.send("PATCH", "/api/foreign/v1/wide/1", "{\"c3\":7,\"c64\":8,\"c99\":9,\"c0\":null}")
                        .statusCode())
                .isEqualTo(204);
        assertThat(
                        TestDatabase.column(
                                "select concat_ws(',', c3, c64, c99, coalesce(c0, 'none'), coalesce(c1, 'none')) from wide_one"))
                .containsExactly("7,8,9,none,none");
        assertThat(service.send("PATCH", "/api/foreign/v1/wide/1", "[]").statusCode())
                .as("an array is no object")
                .isEqualTo(400);
    }

    @Test
    void theFirstStatementOfATableWithOddNamesRuns() throws Exception {
        String statement = contents("relations", "order").path("statement").asString();
        assertThat(statement).contains("`full name` as full_name", "from `order`", "`group`");
        String yaml = HEAD.formatted("2.0.0") + """
                  /all/{id}:
                    get:
                      about: As it is proposed
                      sql: first.sql
                      answer: row
                      fields: { spot: { hide: true } }
                      parameters: { id: { in: path, type: integer, example: 1 } }
                  /named:
                    get:
                      about: Named in the text
                      sql: named.sql
                      answer: rows
                      order: [full name desc, id]
                      fields: { "full name": { name: title }, "größe-in-m": { name: größe } }
                """;
        Map<String, String> sql =
                Map.of("first.sql", statement, "named.sql", "select `full name`, `größe-in-m`, id from `order`");
        var published = service.publish(yaml, sql);
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
        assertThat(service.get("/api/foreign/v2/all/1").body())
                .contains("\"full_name\":\"Quay \\\"A\\\"\"", "\"group\":1");
        JsonNode page = service.json("/api/foreign/v2/named?limit=1");
        assertThat(page.path("data").toString()).isEqualTo("[{\"title\":\"Quay B\",\"größe\":null,\"id\":2}]");
        assertThat(service.json(page.at("/page/next").asString()).path("data").toString())
                .isEqualTo("[{\"title\":\"Quay \\\"A\\\"\",\"größe\":1.5,\"id\":1}]");
    }

    @Test
    void aBrokenViewSaysSo() throws Exception {
        assertThat(contents("relations", "shows_nothing").path("about").asString())
                .startsWith("broken: ")
                .contains("references invalid table(s)");
    }

    @Test
    void statementsThatOnlyTellAreToldSo() throws Exception {
        for (String sql : List.of("show tables", "describe berth", "explain select 1 from berth")) {
            String yaml = HEAD.formatted("3.0.0") + "  /x:\n    get: { about: X, sql: x.sql, answer: row }\n";
            assertThat(service.publish(yaml, Map.of("x.sql", sql)).body())
                    .as(sql)
                    .contains("tells of the database itself", "Query information_schema instead");
        }
    }

    /** What is proposed for these statements, by bind parameter. */
    private static Map<String, String> proposed(String method, String sql) throws Exception {
        String yaml =
                HEAD.formatted("4.0.0") + "  /x:\n    " + method + ": { about: X, sql: x.sql, answer: nothing }\n";
        JsonNode answer = RunningService.json(service.post(
                "/desk/proposals",
                Map.of(
                        "modules",
                        List.of(Map.of(
                                "folder", "modules/foreign", "files", Map.of("module.yaml", yaml, "x.sql", sql))))));
        Map<String, String> found = new HashMap<>();
        answer.path("proposals").forEach(proposal -> {
            assertThat(proposal.path("written").asBoolean()).isTrue();
            found.put(
                    proposal.path("bind").asString(),
                    proposal.path("definition").asString());
        });
        return found;
    }

    @Test
    void whatIsProposedFitsTheColumn() throws Exception {
        Map<String, String> insert = proposed(
                "post",
                "insert into `order` (id, `full name`, `größe-in-m`, `group`, spot) values (:id, :name, :size, :team, st_geomfromgeojson(:spot))");
        assertThat(insert)
                .containsEntry("id", "{ in: body, type: integer, required: true }")
                .containsEntry("name", "{ in: body, type: string, maxLength: 20, required: true }")
                .containsEntry("size", "{ in: body, type: number }")
                .containsEntry("team", "{ in: body, type: integer, default: 3 }")
                .containsEntry("spot", "{ in: body, type: object, required: true }");
        assertThat(
                        proposed(
                                "put",
                                "update berth b join basin n on n.id = b.basin_id set b.length_m = :length where n.name = :basin and b.id = :id"))
                .containsEntry("length", "{ in: body, type: number, required: true }")
                .containsKeys("basin", "id");
    }

    @Test
    void manyOperationsAreProposedForInASecond() throws Exception {
        int operations = 865;
        StringBuilder yaml = new StringBuilder(HEAD.formatted("5.0.0"));
        Map<String, String> files = new HashMap<>();
        for (int i = 0; i < operations; i++) {
            yaml.append("  /r").append(i).append("/{id}:\n");
            yaml.append(
                    i % 2 == 0
                            ? "    get: { about: X, sql: s.sql, answer: row }\n"
                            : "    get:\n      about: X\n      sql: s.sql\n      answer: row\n");
        }
        files.put(
                "s.sql",
                "select id from berth where id = :id and length_m > :length and berth_no <> :number and nightly_rate = :rate");
        files.put("module.yaml", yaml.toString());
        long start = System.nanoTime();
        JsonNode answer = RunningService.json(service.post(
                "/desk/proposals", Map.of("modules", List.of(Map.of("folder", "modules/foreign", "files", files)))));
        assertThat(Duration.ofNanos(System.nanoTime() - start)).isLessThan(Until.BOUND);
        List<String> written = new ArrayList<>();
        answer.path("proposals")
                .forEach(proposal -> written.add(proposal.path("written").asString()));
        assertThat(written).hasSize(4 * operations).containsOnly("true");
        files.put("module.yaml", answer.path("texts").path("modules/foreign").asString());
        JsonNode again = RunningService.json(service.post(
                "/desk/proposals", Map.of("modules", List.of(Map.of("folder", "modules/foreign", "files", files)))));
        assertThat(again.path("proposals").size()).isZero();
    }

    @Test
    void aStaleCatalogIsReadAnewBeforeAnythingIsRefused() throws Exception {
        contents("relations", "order");
        TestDatabase.execute(
                "waterways",
                "create or replace procedure fresh_one() select 1",
                "grant execute on procedure fresh_one to " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'");
        try {
            String yaml = HEAD.formatted("6.0.0")
                    + "  /x:\n    post: { about: X, sql: x.sql, answer: nothing, results: { one: rows } }\n";
            var published = Until.seen(
                    () -> service.publish(yaml, Map.of("x.sql", "call fresh_one()")),
                    answer -> answer.statusCode() == 200);
            assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
        } finally {
            TestDatabase.execute("waterways", "drop procedure fresh_one");
        }
    }
}
