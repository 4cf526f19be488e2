package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
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
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Callers' conditions find the rows that the same condition in plain SQL finds: for every type, collation, operator and place. */
class FilterTest {

    private static final int ROWS = 40;
    private static final Random RANDOM = new Random(20_310_502);
    private static final String ALL = "id, " + EveryType.NAMES;

    private static final List<String> ROUTES = List.of("inside", "around", "combined", "star");

    private static final Map<String, String> COMPARISONS = Map.of(
            "eq", "t.%1$s = r.%1$s",
            "ne", "t.%1$s <> r.%1$s",
            "lt", "t.%1$s < r.%1$s",
            "lte", "t.%1$s <= r.%1$s",
            "gt", "t.%1$s > r.%1$s",
            "gte", "t.%1$s >= r.%1$s",
            "starts", "t.%1$s like concat(" + escaped() + ", '%%') escape '|'",
            "contains", "t.%1$s like concat('%%', " + escaped() + ", '%%') escape '|'");

    private static RunningService service;

    private static String escaped() {
        return "replace(replace(replace(r.%1$s, '|', '||'), '%%', '|%%'), '_', '|_')";
    }

    @BeforeAll
    static void publish() throws Exception {
        service = SharedService.get();
        EveryType.make("every_filter", ROWS, RANDOM);
        service.post("/desk/sources/waterways/refresh", Map.of());
        StringBuilder yaml = new StringBuilder("""
                module: filtered
                version: 1.0.0
                title: Filtered
                source: waterways
                public: true
                routes:
                """);
        Map<String, String> sql = new HashMap<>();
        sql.put("inside.sql", "select " + ALL + " from every_filter t where t.id > 0 or t.id < 0");
        sql.put("around.sql", "select " + ALL + " from every_filter");
        sql.put(
                "combined.sql",
                "select " + ALL + " from every_filter where id <= 20 union all select " + ALL
                        + " from every_filter where id > 20");
        sql.put("star.sql", "select * from every_filter\nwhere id > :above -- when :above\norder by c1");
        for (String route : ROUTES) {
            yaml.append("""
                      /%1$s:
                        get:
                          about: Filtered
                          sql: %1$s.sql
                          answer: rows
                          order: [id]
                          filter: [%2$s]
                          sort: [c0, c6]
                          total: [exact, estimate]
                          chosen-fields: true
                          formats: [csv, ndjson, xlsx]
                          page: { all: true, most-all: 30 }
                    %3$s""".formatted(
                            route,
                            EveryType.NAMES,
                            route.equals("around")
                                    ? "      filter-at: answer\n"
                                    : route.equals("star")
                                            ? "      parameters: { above: { in: query, type: integer } }\n"
                                            : ""));
        }
        HttpResponse<String> response = service.publish(yaml.toString(), sql);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
    }

    @AfterAll
    static void drop() throws Exception {
        TestDatabase.execute("waterways", "drop table every_filter");
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }

    private static HttpResponse<String> get(String route, String query) throws Exception {
        return service.get("/api/filtered/v1/" + route + "?limit=200&" + query);
    }

    private static List<String> ids(HttpResponse<String> response) throws Exception {
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        List<String> ids = new ArrayList<>();
        RunningService.json(response)
                .path("data")
                .forEach(row -> ids.add(row.path("id").asString()));
        return ids;
    }

    private static List<String> expected(String condition, int row) throws Exception {
        return TestDatabase.column("select t.id from every_filter t join every_filter r on r.id = " + row + " where "
                + condition + " order by t.id");
    }

    static Stream<Integer> columns() {
        return IntStream.range(0, EveryType.COLUMNS.size()).boxed();
    }

    /** Takes values that the answers show, and compares all rows with them. */
    @ParameterizedTest
    @MethodSource("columns")
    void everyOperatorFindsWhatPlainSqlFinds(int index) throws Exception {
        String column = "c" + index;
        int compared = 0;
        for (int turn = 0; turn < 2; turn++) {
            // each way a condition can stand is seen with many types, and each type in two ways
            String route = ROUTES.get((index + 2 * turn + index / ROUTES.size()) % ROUTES.size());
            for (Map.Entry<String, Integer> value : some(shown(route, column))) {
                for (String operator : COMPARISONS.keySet()) {
                    String query = column + "[" + operator + "]=" + encoded(value.getKey());
                    HttpResponse<String> response = get(route, query);
                    if (response.statusCode() == 400) {
                        assertUnfit(response.body(), operator, value.getKey());
                        continue;
                    }
                    compared++;
                    assertThat(ids(response))
                            .as(EveryType.COLUMNS.get(index).type() + " " + route + " " + query)
                            .isEqualTo(expected(condition(index, operator, value.getKey()), value.getValue()));
                }
            }
        }
        assertThat(compared).isGreaterThan(ROUTES.size());
    }

    private static List<Map.Entry<String, Integer>> some(Map<String, Integer> values) {
        List<Map.Entry<String, Integer>> all = new ArrayList<>(values.entrySet());
        Collections.shuffle(all, RANDOM);
        return all.subList(0, Math.min(5, all.size()));
    }

    /** Each value that a route shows in a column, as callers read it, with a row that has it. */
    private static Map<String, Integer> shown(String route, String column) throws Exception {
        Map<String, Integer> shown = new TreeMap<>();
        JsonMapper exact = JsonMapper.builder()
                .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
                .build();
        for (JsonNode row : exact.readTree(get(route, "").body()).path("data")) {
            JsonNode value = row.path(column);
            if (!value.isNull()) {
                shown.put(
                        value.isBigDecimal() ? value.decimalValue().toString() : value.asString(),
                        row.path("id").asInt());
            }
        }
        return shown;
    }

    @ParameterizedTest
    @MethodSource("columns")
    void whatHasNoValueIsFound(int index) throws Exception {
        String column = "c" + index;
        for (String route : ROUTES) {
            HttpResponse<String> response = get(route, column + "[null]=true");
            if (response.statusCode() == 400) {
                assertThat(EveryType.COLUMNS.get(index).nullable()).isFalse();
                continue;
            }
            assertThat(ids(response)).isEqualTo(expected("t." + column + " is null", 1));
            assertThat(ids(get(route, column + "[null]=false"))).isEqualTo(expected("t." + column + " is not null", 1));
        }
    }

    /** Flags are compared as they are shown: every number but 0 is true. */
    private static String condition(int index, String operator, String shown) {
        boolean isFlag = shown.equals("true") || shown.equals("false");
        String condition = COMPARISONS.get(operator).formatted("c" + index);
        return isFlag ? condition.replaceAll("[tr]\\.c\\d+", "($0 <> 0)") : condition;
    }

    /** What is refused is an operator that the type lacks, or a value that no caller can write: a day that no calendar has, a span,
     * a number of more than a hundred digits. */
    private static void assertUnfit(String body, String operator, String shown) {
        if (body.contains("must be a")) {
            assertThat(shown)
                    .matches(
                            "(0000|1970|2020)-00-.*|2020-05-00.*|0000-00-00.*|-?\\d{2,3}:\\d\\d:\\d\\d.*|.*E[+-]?[123]\\d\\d");
        } else {
            assertThat(body).contains("is not known here");
            assertThat(operator).isIn("lt", "lte", "gt", "gte", "starts", "contains");
        }
    }

    @Test
    void severalConditionsMustAllHoldAndListsHoldOne() throws Exception {
        assertThat(ids(get("inside", "c0[in]=zeta,mid&c6[null]=false&c6[gte]=0")))
                .isEqualTo(expected("t.c0 in ('zeta', 'mid') and t.c6 >= 0", 1));
        assertThat(ids(get("combined", "c17[in]=" + encoded("a\\,b,\\\\") + "&c17[in]=9")))
                .isEqualTo(expected("t.c17 in ('a,b', '\\\\', '9')", 1));
        assertThat(ids(get("star", "above=10&c0[eq]=zeta"))).isEqualTo(expected("t.id > 10 and t.c0 = 'zeta'", 1));
    }

    @Test
    void bracketsMayBeEncodedOrNot() throws Exception {
        List<String> expected = expected("t.c0 = 'mid'", 1);
        assertThat(ids(get("inside", "c0%5Beq%5D=mid"))).isEqualTo(expected);
        try (Wire wire = new Wire(service.port())) {
            wire.send(
                    "GET /api/filtered/v1/inside?c0[eq]=mid HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n");
            assertThat(wire.answer()).startsWith("HTTP/1.1 200").contains("\"id\":" + expected.getFirst());
        }
    }

    /** A page goes on with its conditions, and its position is none of the same collection with others. */
    @Test
    void positionsBelongToTheirConditions() throws Exception {
        List<String> walked = new ArrayList<>();
        String next = "/api/filtered/v1/inside?limit=3&c0[ne]=mid&c6[null]=false";
        String after = "";
        while (!next.isEmpty()) {
            JsonNode page = service.json(next);
            page.path("data").forEach(row -> walked.add(row.path("id").asString()));
            next = page.at("/page/next").asString("");
            after = page.at("/page/after").asString(after);
            assertThat(next).doesNotContain("[");
        }
        assertThat(walked).isEqualTo(expected("t.c0 <> 'mid' and t.c6 is not null", 1));
        for (String other : List.of("", "c0[ne]=zeta&c6[null]=false&", "c0[ne]=mid&", "c0[ne]=mid&c6[null]=true&")) {
            HttpResponse<String> response = get("inside", other + "after=" + after);
            assertThat(response.statusCode()).as(other).isEqualTo(400);
            assertThat(response.body()).contains("no position in this collection with these conditions");
        }
        assertThat(get("inside", "c0[ne]=mid&c6[null]=false&after=" + after).statusCode())
                .isEqualTo(200);
    }

    /** Every type's value is the same one on the next page. */
    @ParameterizedTest
    @MethodSource("columns")
    void pagesGoOnWithConditionsOfEveryType(int index) throws Exception {
        for (Map.Entry<String, Integer> value : some(shown("inside", "c" + index))) {
            for (String operator : List.of("eq", "in", "ne")) {
                String text = operator.equals("in")
                        ? value.getKey().replace("\\", "\\\\").replace(",", "\\,")
                        : value.getKey();
                String query = "c" + index + "[" + operator + "]=" + encoded(text);
                HttpResponse<String> whole = get("inside", query);
                if (whole.statusCode() == 400) {
                    continue;
                }
                List<String> walked = new ArrayList<>();
                String next = "/api/filtered/v1/inside?limit=4&" + query;
                while (!next.isEmpty()) {
                    JsonNode page = service.json(next);
                    page.path("data").forEach(row -> walked.add(row.path("id").asString()));
                    next = page.at("/page/next").asString("");
                }
                assertThat(walked).as(query).isEqualTo(ids(whole));
            }
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "c0=mid; Did you mean 'c0[eq]'?",
                "c0[gt]=mid; 'c0[gt]' is not known here.",
                "c0[eq]=other; must be one of: zeta, alpha, mid",
                "c6[eq]=ten; must be a whole number",
                "c6[in]=1,two; has an item that must be a whole number",
                "c6[in]=; has an item that",
                "c6[null]=yes; must be true or false",
                "c6[eq]=1&c6[eq]=2; is given more than once",
                "c6[=1; 'c6[' is not known here.",
                "c6[eq][eq]=1; is not known here.",
                "[eq]=1; is not known here."
            })
    void mistakesAreNamed(String call) throws Exception {
        String[] parts = call.split("; ");
        HttpResponse<String> response = get("inside", parts[0]);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(400);
        assertThat(RunningService.json(response).at("/errors/0/detail").asString())
                .contains(parts[1]);
    }

    @Test
    void manyMistakesAreToldAtOnceAndTooManyAreNotRead() throws Exception {
        HttpResponse<String> two = get("inside", "c6[eq]=ten&c30[gte]=soon");
        assertThat(RunningService.json(two).path("errors")).hasSize(2);
        String thousand = String.join(
                "&", IntStream.range(0, 1_000).mapToObj(i -> "c6[gt]=" + i).toList());
        HttpResponse<String> flooded = service.get("/api/filtered/v1/inside?" + thousand.substring(0, 8_000));
        assertThat(flooded.body()).contains("has more than 200 parameters");
        assertThat(get("inside", conditions(20)).statusCode()).isEqualTo(200);
        assertThat(get("inside", conditions(21)).body()).contains("has 21 conditions, and 20 can be given");
        String hundred = "1" + ",1".repeat(99);
        assertThat(get("inside", "c6[in]=" + hundred + "&c5[in]=" + hundred).statusCode())
                .isEqualTo(200);
        assertThat(get("inside", "c6[in]=" + hundred + "&c5[in]=" + hundred + "&c7[in]=1")
                        .body())
                .contains("has 201 values in lists, and 200 can be given");
    }

    private static String conditions(int count) {
        return String.join(
                "&",
                Stream.of(5, 6, 7, 8)
                        .flatMap(column -> Stream.of("eq", "ne", "lt", "lte", "gt", "gte")
                                .map(operator -> "c" + column + "[" + operator + "]=1"))
                        .limit(count)
                        .toList());
    }

    /** Words are found by the source's full-text index, with other conditions and page by page, whatever a caller writes. */
    @Test
    void wordsAreSearched() throws Exception {
        TestDatabase.execute(
                "waterways",
                "create or replace table notes (id int primary key, name varchar(100), note text, secret text, fulltext words (name, note), fulltext (secret))",
                "insert into notes values (1, 'Heron Pool', 'a dog on board', 'x'), (2, 'Otter Cut', 'quiet by the lock', 'x'),"
                        + " (3, 'Heron', 'otters and dogs', 'x'), (4, 'O''Brien', 'café quay-side', 'heron')");
        service.post("/desk/sources/waterways/refresh", Map.of());
        String text = """
                module: notes
                version: 1.0.0
                title: Notes
                source: waterways
                public: true
                routes:
                  /notes:
                    get: { about: Notes, sql: notes.sql, answer: rows, order: [id], search: %s, filter: [id], %s }
                """;
        Map<String, String> sql = Map.of("notes.sql", "select id, name, note, secret from notes n where n.id > 0");
        String hidden = "fields: { secret: { hide: true } }";
        for (String unfit : List.of("[name]", "[note, secret]", "[name, note, id]", "[nothing]")) {
            assertThat(service.publish(text.formatted(unfit, "timeout: 5s"), sql)
                            .body())
                    .as(unfit)
                    .contains("search-unfit");
        }
        assertThat(service.publish(text.formatted("[secret]", hidden), sql).body())
                .contains("filter-leaks");
        HttpResponse<String> published = service.publish(text.formatted("[note, name]", hidden), sql);
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
        assertThat(found("search=heron+dog")).containsExactly("1", "3");
        assertThat(found("search=cafe&id[gt]=1")).containsExactly("4");
        assertThat(found("search=heron&id[lt]=3")).containsExactly("1");
        assertThat(found("search=" + encoded("+-@()~<>\"*' otter"))).containsExactly("2");
        assertThat(found("search=the")).isEmpty();
        JsonNode page = service.json("/api/notes/v1/notes?limit=1&search=heron");
        assertThat(service.json(page.at("/page/next").asString())
                        .at("/data/0/id")
                        .asInt())
                .isEqualTo(3);
        assertThat(service.get("/api/notes/v1/notes?search=").statusCode()).isEqualTo(400);
        assertThat(service.json("/api/notes/v1/openapi.json").toString()).contains("one of these words in note, name");
        TestDatabase.execute("waterways", "drop table notes");
    }

    private static List<String> found(String query) throws Exception {
        return ids(service.get("/api/notes/v1/notes?" + query));
    }

    /** How many random queries are tried. */
    private static final int QUERIES = TestScope.rounds(3_000);

    private static final String[] PIECES = {
        "c0",
        "c6",
        "c17",
        "c26",
        "[eq]",
        "[in]",
        "[null]",
        "[gte]",
        "[",
        "]",
        "=",
        "=",
        "&",
        "&",
        "zeta",
        "1",
        "%",
        "%00",
        "%25",
        "+",
        "-",
        ",",
        "\\",
        "'",
        "\"",
        "2031-05-01",
        "true",
        "é",
        "🚤",
        "sort",
        "limit",
        "after",
        "[eq]=1",
        "c0[eq]=mid",
        "&limit=all&",
        "&fields=c0,c6&",
        "&total=exact&",
        "&total=estimate&",
        "&format=csv&",
        "&format=xlsx&",
        "&format=ndjson&",
        "&header=absent&",
        "fields",
        "total",
        "format",
        "header",
        "all",
        "c6[null]=false"
    };

    /** Whatever is asked, the answer is rows or a mistake of the caller's, and rows fit what was asked. */
    @Test
    void randomQueriesAreAnsweredOrRefused() throws Exception {
        for (int i = 0; i < QUERIES; i++) {
            StringBuilder query = new StringBuilder();
            int pieces = 1 + RANDOM.nextInt(12);
            for (int n = 0; n < pieces; n++) {
                String piece = PIECES[RANDOM.nextInt(PIECES.length)];
                boolean raw = piece.matches("[\\[\\]=&%+a-z0-9]+") && RANDOM.nextInt(4) > 0;
                query.append(raw ? piece.replace("[", "%5B").replace("]", "%5D") : encoded(piece));
            }
            HttpResponse<String> response;
            try {
                response = service.get("/api/filtered/v1/" + ROUTES.get(i % ROUTES.size()) + "?" + query);
            } catch (IllegalArgumentException e) {
                // no address at all, so that nothing can be sent
                continue;
            }
            assertThat(response.statusCode()).as(query.toString()).isIn(200, 400);
            if (query.toString().endsWith("&c0%5Beq%5D=mid")
                    && response.statusCode() == 200
                    && Answered.header(response, "Content-Type").equals("application/json")) {
                RunningService.json(response)
                        .path("data")
                        .forEach(row ->
                                assertThat(row.path("c0").asString("mid")).isEqualTo("mid"));
            }
        }
    }
}
