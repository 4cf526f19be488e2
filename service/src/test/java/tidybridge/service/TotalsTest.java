package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Answered.problem;

import java.net.http.HttpResponse;
import java.util.HashMap;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;

/** How many rows there are, counted or expected, under whatever conditions. */
class TotalsTest {

    private static final int ROWS = 50_000;
    private static final Random RANDOM = new Random(20_310_504);

    private static RunningService service;

    @BeforeAll
    static void publish() throws Exception {
        service = SharedService.get();
        TestDatabase.execute(
                "waterways",
                "create or replace table counted_visit (id int primary key, at_day date not null, dues decimal(8,2),"
                        + " kind varchar(20) not null, key counted_by_day (at_day, id))",
                "insert into counted_visit select seq, '2030-01-01' + interval (seq * 7919 % 365) day,"
                        + " if(seq % 11 = 0, null, seq * 31 % 1000), elt(1 + seq % 3, 'barge', 'yacht', 'tug')"
                        + " from seq_1_to_" + ROWS,
                "analyze table counted_visit",
                "create or replace table counted_stock (id int primary key, n int) engine = MyISAM",
                "insert into counted_stock values (1, 1), (2, 2), (3, 3)");
        service.post("/desk/sources/waterways/refresh", Map.of());
        String yaml = """
                module: counted
                version: 1.0.0
                title: Counted
                source: waterways
                public: true
                routes:
                  /visits:
                    get:
                      about: Visits
                      sql: visits.sql
                      answer: rows
                      order: [at_day, id]
                      filter: [at_day, dues, kind]
                      total: [exact, estimate]
                      page: { limit: 2 }
                      parameters: { kinds: { in: query, type: array, items: { type: string } } }
                  /groups:
                    get:
                      about: Visits of each day
                      sql: groups.sql
                      answer: rows
                      order: [at_day]
                      total: [exact, estimate]
                      page: { limit: 2 }
                  /stock:
                    get: { about: Stock, sql: stock.sql, answer: rows, order: [id], total: [exact, estimate] }
                  /slow:
                    get:
                      about: Slow to count, quick to begin
                      sql: slow.sql
                      answer: rows
                      order: [id]
                      total: [exact, estimate]
                      total-timeout: 300ms
                      page: { limit: 1 }
                  /exact:
                    get: { about: Only counted, sql: stock.sql, answer: rows, order: [id], total: exact }
                """;
        Map<String, String> sql = new HashMap<>();
        sql.put(
                "visits.sql",
                "select id, at_day, dues, kind from counted_visit\nwhere kind in (:kinds) -- when :kinds");
        sql.put("groups.sql", "select at_day, count(*) as visits from counted_visit group by at_day");
        sql.put("stock.sql", "select id, n from counted_stock");
        sql.put("slow.sql", "select id from counted_visit where sleep(0.01) = 0");
        HttpResponse<String> response = service.publish(yaml, sql);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
    }

    @AfterAll
    static void drop() throws Exception {
        TestDatabase.execute("waterways", "drop table counted_visit", "drop table counted_stock");
    }

    private static JsonNode page(String address) throws Exception {
        HttpResponse<String> response = service.get("/api/counted/v1" + address);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return RunningService.json(response).path("page");
    }

    private static String day() {
        return "2030-" + String.format("%02d", 1 + RANDOM.nextInt(12)) + "-"
                + String.format("%02d", 1 + RANDOM.nextInt(28));
    }

    /** Counted by plain SQL under the same conditions; what is expected lies within the bounds that it names. */
    @Test
    void totalsAreThoseOfPlainSql() throws Exception {
        int bounded = 0;
        for (int i = 0; i < 60; i++) {
            String from = day();
            String until = day();
            boolean more = RANDOM.nextBoolean();
            String query =
                    "at_day[gte]=" + from + "&at_day[lt]=" + until + (more ? "&kind[eq]=yacht&dues[null]=true" : "");
            long expected = Long.parseLong(TestDatabase.column(
                            "select count(*) from counted_visit where at_day >= '" + from + "' and at_day < '" + until
                                    + "'" + (more ? " and kind = 'yacht' and dues is null" : ""))
                    .getFirst());
            String address = "/visits?" + query.replace("[", "%5B").replace("]", "%5D");
            assertThat(page(address + "&total=exact").path("total").asLong()).isEqualTo(expected);
            JsonNode estimate = page(address + "&total=estimate").path("estimate");
            assertThat(expected)
                    .as(query + " " + estimate)
                    .isGreaterThanOrEqualTo(estimate.path("least").asLong());
            if (estimate.has("most")) {
                bounded++;
                assertThat(expected)
                        .as(query + " " + estimate)
                        .isLessThanOrEqualTo(estimate.path("most").asLong());
            }
        }
        assertThat(bounded).isPositive();
    }

    @Test
    void aTotalIsOfAllPagesAndOfWhatWasGiven() throws Exception {
        JsonNode first = page("/visits?total=exact&kinds=tug&kinds=barge");
        assertThat(first.path("total").asInt()).isEqualTo(ROWS - ROWS / 3 - 1);
        JsonNode second = page(first.path("next").asString().substring("/api/counted/v1".length()));
        assertThat(second.path("total").asInt()).isEqualTo(first.path("total").asInt());
        assertThat(page("/groups?total=exact").path("total").asInt()).isEqualTo(365);
        assertThat(page("/visits").has("total")).isFalse();
    }

    @Test
    void whatIsOnlyGuessedHasNoUpperBound() throws Exception {
        assertThat(page("/groups?total=estimate").path("estimate").has("most")).isFalse();
        JsonNode counted = page("/stock?total=estimate").path("estimate");
        assertThat(counted.path("rows").asInt()).isEqualTo(3);
        assertThat(counted.path("most").asInt()).isEqualTo(3);
        assertThat(page("/visits?total=estimate&at_day%5Beq%5D=1999-01-01")
                        .path("estimate")
                        .path("rows")
                        .asInt())
                .isLessThanOrEqualTo(1);
    }

    @Test
    void countingThatTakesLongerThanItMayIsRefusedWithARemedy() throws Exception {
        HttpResponse<String> slow = service.get("/api/counted/v1/slow?total=exact");
        problem(slow, 504, "within 300 ms", "total=estimate");
        assertThat(page("/slow?total=estimate").path("estimate").path("rows").asLong())
                .isPositive();
    }

    @Test
    void onlyWhatIsOfferedCanBeAsked() throws Exception {
        problem(service.get("/api/counted/v1/exact?total=estimate"), 400, "can only be 'exact'");
        problem(service.get("/api/counted/v1/visits?total="), 400, "'exact' or 'estimate'");
        assertThat(page("/exact?total=exact").path("total").asInt()).isEqualTo(3);
    }
}
