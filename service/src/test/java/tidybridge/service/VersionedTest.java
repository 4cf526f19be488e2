package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;

/** A table that keeps its history is walked as it was at one moment, whatever changes meanwhile. */
class VersionedTest {

    private static RunningService service;

    @BeforeAll
    static void publish() throws Exception {
        service = SharedService.get();
        TestDatabase.execute(
                "waterways",
                "create or replace table kept_level (id int primary key, level int not null, key kept_by_level (level, id))"
                        + " with system versioning",
                "insert into kept_level select seq, seq % 17 from seq_1_to_100");
        service.post("/desk/sources/waterways/refresh", Map.of());
        String yaml = """
                module: kept
                version: 1.0.0
                title: Kept
                source: waterways
                public: true
                routes:
                  /levels:
                    get:
                      about: Levels, now or as they were
                      sql: levels.sql
                      answer: rows
                      order: [level, id]
                      filter: [id: lte]
                      total: exact
                      page: { limit: 7, jumps: true }
                      parameters:
                        at: { in: query, type: date-time, example: "2031-05-01T09:30:00Z", about: As they were at this moment }
                """;
        HttpResponse<String> response = service.publish(yaml, Map.of("levels.sql", """
                select l.id, l.level
                from kept_level
                  for system_time as of :at -- when :at
                  as l
                """));
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
    }

    @AfterAll
    static void drop() throws Exception {
        TestDatabase.execute("waterways", "drop table kept_level");
    }

    private static String now() throws Exception {
        String now = TestDatabase.column("select utc_timestamp(6)").getFirst();
        return now.replace(' ', 'T') + "Z";
    }

    private static List<String> rows(String query) throws Exception {
        List<String> rows = new ArrayList<>();
        String next = "/api/kept/v1/levels?" + query;
        while (!next.isEmpty()) {
            JsonNode page = service.json(next);
            assertThat(page.has("data")).as(page.toString()).isTrue();
            page.path("data").forEach(row -> rows.add(row.path("id") + " " + row.path("level")));
            next = page.at("/page/next").asString("");
            TestDatabase.execute(
                    "waterways",
                    "update kept_level set level = level + 1 where id % 5 = 0",
                    "delete from kept_level where id % 31 = 7",
                    "insert into kept_level select max(id) + 1, 3 from kept_level");
        }
        return rows;
    }

    @Test
    void allPagesAreOfOneMoment() throws Exception {
        List<String> before = TestDatabase.column("select concat(id, ' ', level) from kept_level order by level, id");
        String moment = now();
        assertThat(rows("at=" + moment)).isEqualTo(before);
        assertThat(rows("at=" + moment + "&limit=30")).isEqualTo(before);
        JsonNode counted =
                service.json("/api/kept/v1/levels?total=exact&at=" + moment).path("page");
        assertThat(counted.path("total").asInt()).isEqualTo(before.size());
        List<String> now = TestDatabase.column("select concat(id, ' ', level) from kept_level order by level, id");
        assertThat(now).isNotEqualTo(before);
        JsonNode last = service.json("/api/kept/v1/levels?last=true&limit=3&at=" + moment)
                .path("data");
        assertThat(last.get(2).path("id") + " " + last.get(2).path("level")).isEqualTo(before.getLast());
    }
}
