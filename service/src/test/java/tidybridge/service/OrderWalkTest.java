package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;

/** Walking all pages of a collection gives exactly the rows of one query in its order: for every type, collation, null, tie and direction. */
class OrderWalkTest {

    private static final int ROWS = 50;
    private static final int LIMIT = 6;
    private static final Random RANDOM = new Random(20_310_501);

    /** A table and the order its rows are walked in. */
    private record Walk(int route, List<String> keys, String from) {
        @Override
        public String toString() {
            return String.join(", ", keys) + " of " + from;
        }
    }

    private static final List<Walk> WALKS = walks();

    private static RunningService service;

    private static List<Walk> walks() {
        List<Walk> walks = new ArrayList<>();
        for (int i = 0; i < EveryType.COLUMNS.size(); i++) {
            walks.add(new Walk(walks.size(), List.of("c" + i, "id"), "select c" + i + ", id from every_order"));
            walks.add(
                    new Walk(walks.size(), List.of("c" + i + " desc", "id"), "select c" + i + ", id from every_order"));
        }
        for (int n = 0; n < 40; n++) {
            int one = RANDOM.nextInt(EveryType.COLUMNS.size());
            int other = (one + 1 + RANDOM.nextInt(EveryType.COLUMNS.size() - 1)) % EveryType.COLUMNS.size();
            walks.add(new Walk(
                    walks.size(),
                    List.of("c" + one + direction(), "c" + other + direction(), "id" + direction()),
                    "select c" + one + ", c" + other + ", id from every_order"));
        }
        // what stands around a member decides whether it still is one
        walks.add(new Walk(
                walks.size(), List.of("c0", "n desc"), "select c0, count(*) as n from every_order group by c0"));
        walks.add(
                new Walk(walks.size(), List.of("top", "id"), "select max(c0) as top, id from every_order group by id"));
        walks.add(new Walk(walks.size(), List.of("top desc"), "select distinct c0 as top from every_order"));
        walks.add(new Walk(
                walks.size(),
                List.of("it", "id"),
                "select c0 as it, id from every_order union all select 'beta', id + 1000 from every_order"));
        walks.add(new Walk(
                walks.size(), List.of("it", "id desc"), "select coalesce(c1, 'none') as it, id from every_order"));
        return walks;
    }

    private static String direction() {
        return RANDOM.nextBoolean() ? " desc" : "";
    }

    @BeforeAll
    static void publish() throws Exception {
        service = SharedService.get();
        EveryType.make("every_order", ROWS, RANDOM);
        service.post("/desk/sources/waterways/refresh", Map.of());
        StringBuilder yaml = new StringBuilder("""
                module: orders
                version: 1.0.0
                title: Orders
                source: waterways
                public: true
                routes:
                """);
        Map<String, String> sql = new java.util.HashMap<>();
        for (Walk walk : WALKS) {
            sql.put(walk.route + ".sql", walk.from);
            yaml.append("""
                      /o%d:
                        get:
                          about: Walked
                          sql: %d.sql
                          answer: rows
                          order: [%s]
                    """.formatted(walk.route, walk.route, String.join(", ", walk.keys)));
        }
        var response = service.publish(yaml.toString(), sql);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
    }

    @AfterAll
    static void drop() throws Exception {
        TestDatabase.execute("waterways", "drop table every_order");
    }

    static Stream<Walk> walked() {
        return WALKS.stream();
    }

    @ParameterizedTest
    @MethodSource("walked")
    void allPagesTogetherAreOneBigQuery(Walk walk) throws Exception {
        JsonNode all =
                service.json("/api/orders/v1/o" + walk.route + "?limit=200").path("data");
        List<String> whole = new ArrayList<>();
        all.forEach(row -> whole.add(row.toString()));
        String order = String.join(", ", walk.keys);
        List<String> counted = TestDatabase.column("select count(*) from (" + walk.from + ") as x");
        assertThat(whole).as(order).hasSize(Integer.parseInt(counted.getFirst()));
        List<String> found = new ArrayList<>();
        String next = "/api/orders/v1/o" + walk.route + "?limit=" + LIMIT;
        while (!next.isEmpty() && found.size() <= whole.size()) {
            JsonNode page = service.json(next);
            page.path("data").forEach(row -> found.add(row.toString()));
            next = page.at("/page/next").asString("");
        }
        assertThat(found).as(order).isEqualTo(whole);
    }
}
