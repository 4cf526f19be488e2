package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.core.TestScope;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;

/** Callers sort a collection as the database does, by every type there is, and walk all of its pages; rows that come and go disturb no other. */
class SortTest {

    private static final int ROWS = 40;
    private static final Random RANDOM = new Random(20_310_503);

    private static RunningService service;

    @BeforeAll
    static void publish() throws Exception {
        service = SharedService.get();
        EveryType.make("every_sort", ROWS, RANDOM);
        service.post("/desk/sources/waterways/refresh", Map.of());
        HttpResponse<String> response = service.publish(
                """
                module: sorted
                version: 1.0.0
                title: Sorted
                source: waterways
                public: true
                routes:
                  /rows:
                    get:
                      about: Sorted
                      sql: rows.sql
                      answer: rows
                      order: [id]
                      sort: [%s, id]
                      filter: [id: [lte], c6: [null]]
                      chosen-fields: true
                      page: { jumps: true }
                """.formatted(EveryType.NAMES),
                Map.of("rows.sql", "select id, " + EveryType.NAMES + " from every_sort"));
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
    }

    @AfterAll
    static void drop() throws Exception {
        TestDatabase.execute("waterways", "drop table every_sort");
    }

    private static HttpResponse<String> get(String query) throws Exception {
        return service.get("/api/sorted/v1/rows?" + query);
    }

    private static String id(JsonNode row) {
        return row.path("id").asString();
    }

    private static List<String> walk(String query) throws Exception {
        List<String> ids = new ArrayList<>();
        String next = "/api/sorted/v1/rows?" + query;
        while (!next.isEmpty() && ids.size() <= 3 * ROWS) {
            JsonNode page = service.json(next);
            page.path("data").forEach(row -> ids.add(id(row)));
            next = page.at("/page/next").asString("");
        }
        return ids;
    }

    /** {@code -c3,c5} as SQL, with the key behind it. */
    private static String sql(String sort) {
        List<String> keys = new ArrayList<>();
        for (String part : sort.split(",")) {
            keys.add(part.startsWith("-") ? part.substring(1) + " desc" : part);
        }
        return String.join(", ", keys) + ", id";
    }

    static Stream<String> sorts() {
        List<String> sorts = new ArrayList<>();
        for (int i = 0; i < EveryType.COLUMNS.size(); i++) {
            sorts.add("c" + i);
            sorts.add("-c" + i);
        }
        for (int n = 0; n < (TestScope.ALL ? 60 : 12); n++) {
            List<Integer> columns = new ArrayList<>(
                    IntStream.range(0, EveryType.COLUMNS.size()).boxed().toList());
            java.util.Collections.shuffle(columns, RANDOM);
            sorts.add(String.join(
                    ",",
                    columns.subList(0, 2 + RANDOM.nextInt(2)).stream()
                            .map(column -> (RANDOM.nextBoolean() ? "-c" : "c") + column)
                            .toList()));
        }
        return sorts.stream();
    }

    @ParameterizedTest
    @MethodSource("sorts")
    void allPagesTogetherAreOneBigQuery(String sort) throws Exception {
        List<String> expected = TestDatabase.column("select id from every_sort order by " + sql(sort));
        int limit = 1 + RANDOM.nextInt(12);
        assertThat(walk("limit=" + limit + "&sort=" + sort))
                .as("order by " + sql(sort) + ", pages of " + limit)
                .isEqualTo(expected);
    }

    /** From the last page back to the first, and from each page on again to the one it was reached from. */
    @ParameterizedTest
    @MethodSource("sorts")
    void goingBackMeetsTheSameRows(String sort) throws Exception {
        List<String> expected = TestDatabase.column("select id from every_sort order by " + sql(sort));
        int limit = 1 + RANDOM.nextInt(12);
        String way = "order by " + sql(sort) + ", pages of " + limit;
        List<String> found = new ArrayList<>();
        List<String> behind = List.of();
        String address = "/api/sorted/v1/rows?last=true&fields=id&limit=" + limit + "&sort=" + sort;
        while (!address.isEmpty() && found.size() <= ROWS) {
            JsonNode page = service.json(address);
            List<String> ids = new ArrayList<>();
            page.path("data").forEach(row -> ids.add(id(row)));
            found.addAll(0, ids);
            assertThat(page.at("/page/last").asBoolean(false)).as(way).isEqualTo(behind.isEmpty());
            if (!behind.isEmpty()) {
                List<String> next = new ArrayList<>();
                service.json(page.at("/page/next").asString()).path("data").forEach(row -> next.add(id(row)));
                assertThat(next).as(way).isEqualTo(behind);
            }
            behind = ids;
            address = page.at("/page/prev").asString("");
        }
        assertThat(found).as(way).isEqualTo(expected);
    }

    /** Every value that is shown, of every type that can be given, begins a page at the first of its rows. */
    @Test
    void pagesBeginAtAKey() throws Exception {
        int begun = 0;
        for (int i = 0; i < EveryType.COLUMNS.size(); i++) {
            for (String sort : List.of("c" + i, "-c" + i)) {
                JsonNode rows =
                        RunningService.json(get("limit=200&sort=" + sort)).path("data");
                JsonNode row = rows.get(RANDOM.nextInt(rows.size()));
                JsonNode value = row.path("c" + i);
                String key = URLEncoder.encode(
                        value.asString("").replace("\\", "\\\\").replace(",", "\\,"), StandardCharsets.UTF_8);
                HttpResponse<String> response = get("limit=200&fields=id&sort=" + sort + "&from=" + key);
                if (value.isNull() || response.statusCode() == 400) {
                    continue;
                }
                begun++;
                String column = "c" + i;
                List<String> expected = TestDatabase.column("select t.id from every_sort t join every_sort r on r.id = "
                        + id(row) + " where "
                        + (sort.startsWith("-")
                                ? "t." + column + " <= r." + column + " or t." + column + " is null"
                                : "t." + column + " >= r." + column)
                        + " order by t." + column + (sort.startsWith("-") ? " desc" : "") + ", t.id");
                List<String> found = new ArrayList<>();
                RunningService.json(response).path("data").forEach(one -> found.add(id(one)));
                assertThat(found).as(sort + " from " + value).isEqualTo(expected);
            }
        }
        assertThat(begun).isGreaterThan(EveryType.COLUMNS.size());
    }

    @Test
    void aKeyOfSeveralValuesBeginsInsideOfTheFirst() throws Exception {
        assertThat(get("sort=c4&from=false,20").body()).contains("can give 0 values here");
        List<String> byYear =
                TestDatabase.column("select id from every_sort where c32 < 2031 or c32 = 2031 and id >= 17"
                        + " or c32 is null order by c32 desc, id");
        assertThat(walk("limit=7&sort=-c32&from=2031,17")).isEqualTo(byYear);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "from=x; has a value of 'id' that must be a whole number",
                "from=1,2; has 2 values, and the rows are ordered by 1 fields",
                "last=yes; can only be 'true'",
                "last=true&from=3; cannot be given together with 'last'",
                "after=x&before=y; cannot be given together with 'after'",
                "before=x; take it from page.before as it is",
                "from=1&from=2; more than once"
            })
    void mistakesOfJumpsAreNamed(String call) throws Exception {
        HttpResponse<String> response = get(call.split("; ")[0]);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(400);
        assertThat(response.body()).contains(call.split("; ")[1]);
    }

    @Test
    void conditionsAndSortsGoTogether() throws Exception {
        assertThat(walk("limit=4&sort=-c0,c6&id[lte]=25&c6[null]=false"))
                .isEqualTo(TestDatabase.column(
                        "select id from every_sort where id <= 25 and c6 is not null order by c0 desc, c6, id"));
    }

    /** Every row that is there all the time is found once, in its order, whatever is inserted and deleted between the pages. */
    @ParameterizedTest
    @ValueSource(strings = {"c0", "-c17", "c26,-c6", "-c2,c9", "-id", "c31,-c14"})
    void rowsThatComeAndGoDisturbNoOther(String sort) throws Exception {
        List<String> stays = TestDatabase.column("select id from every_sort order by " + sql(sort));
        List<String> walked = new ArrayList<>();
        String next = "/api/sorted/v1/rows?limit=3&sort=" + sort;
        int fresh = 1_000;
        while (!next.isEmpty()) {
            JsonNode page = service.json(next);
            page.path("data").forEach(row -> walked.add(id(row)));
            next = page.at("/page/next").asString("");
            String copied = stays.get(RANDOM.nextInt(stays.size()));
            TestDatabase.execute(
                    "waterways",
                    "set sql_mode = ''",
                    "insert into every_sort select " + ++fresh + ", " + EveryType.NAMES + " from every_sort where id = "
                            + copied,
                    "delete from every_sort where id = " + (1_000 + RANDOM.nextInt(fresh - 999)));
        }
        TestDatabase.execute("waterways", "delete from every_sort where id > 1000");
        assertThat(walked.stream().filter(stays::contains).toList()).isEqualTo(stays);
    }

    @Test
    void aPositionBelongsToItsOrder() throws Exception {
        String after =
                RunningService.json(get("limit=3&sort=-c0")).at("/page/after").asString();
        assertThat(get("limit=3&sort=-c0&after=" + after).statusCode()).isEqualTo(200);
        for (String other : List.of("", "sort=c0&", "sort=-c0,c1&", "sort=-c1&")) {
            HttpResponse<String> response = get(other + "after=" + after);
            assertThat(response.statusCode()).as(other).isEqualTo(400);
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "c99; cannot sort by 'c99'",
                "c0,c0; names 'c0' twice",
                "c0,-c0; names 'c0' twice",
                "; has a part without a name",
                "c0,,c1; has a part without a name",
                "-; has a part without a name",
                "--c0; cannot sort by '-c0'",
                "c0 desc; cannot sort by 'c0 desc'",
                "c0,c1,c2,c3,c4,c5,c6,c7,c8,c9,c10; names 11 fields, and 10 can be"
            })
    void mistakesAreNamed(String call) throws Exception {
        String[] parts = call.split("; ");
        HttpResponse<String> response = get("sort=" + parts[0].replace(" ", "+"));
        assertThat(response.statusCode()).as(response.body()).isEqualTo(400);
        assertThat(RunningService.json(response).at("/errors/0/detail").asString())
                .contains(parts[1]);
        assertThat(get("sort=c0&sort=c1").body()).contains("is given more than once");
    }

    /** A position has to fit into an address. */
    @Test
    void longTextsAreNotSortedByTogether() throws Exception {
        TestDatabase.execute(
                "waterways",
                "create or replace table long_texts (id int primary key, a varchar(600), b varchar(600), c varchar(1200))");
        service.post("/desk/sources/waterways/refresh", Map.of());
        String text = """
                module: longs
                version: 1.0.0
                title: Longs
                source: waterways
                public: true
                routes:
                  /rows:
                    get: { about: Long, sql: rows.sql, answer: rows, order: [id], sort: [a, %s] }
                """;
        Map<String, String> sql = Map.of("rows.sql", "select id, a, b, c from long_texts");
        assertThat(service.publish(text.formatted("c"), sql).body()).contains("sort-unfit");
        assertThat(service.publish(text.formatted("b"), sql).statusCode()).isEqualTo(200);
        assertThat(service.get("/api/longs/v1/rows?sort=a").statusCode()).isEqualTo(200);
        HttpResponse<String> response = service.get("/api/longs/v1/rows?sort=a,b");
        assertThat(response.statusCode()).isEqualTo(400);
        assertThat(response.body())
                .contains("sorts by texts that may be 1200 characters long together, and 1000 can be");
        TestDatabase.execute("waterways", "drop table long_texts");
    }
}
