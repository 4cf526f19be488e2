package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.util.Map;
import java.util.function.Predicate;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;

/** References show what was really answered, to those who may have it. */
class ExamplesTest {

    private static final Map<String, String> STATEMENTS = Map.of(
            "all.sql", "select id, name, phone from sample_pilot",
            "one.sql", "select id, name, phone from sample_pilot where id = :pilotId",
            "named.sql", "select id, name from sample_pilot where name = :name",
            "me.sql", "select id, name from sample_pilot where name = :who",
            "add.sql", "insert into sample_pilot (name, phone) values (:name, '0')");

    private static RunningService service;
    private static Callers callers;
    private static String pilots;

    @BeforeAll
    static void start() throws Exception {
        TestDatabase.execute(
                "waterways",
                "create or replace table sample_pilot (id int primary key auto_increment, name varchar(40) not null, phone varchar(40) not null)",
                "insert into sample_pilot (name, phone) values ('Ada', '555-0101'), ('Bo', '555-0102'), ('Cy', '555-0103'), ('Di', '555-0104')",
                "grant insert on sample_pilot to " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'");
        service = RunningService.with("--tidy.examples=true");
        callers = new Callers(service);
        pilots = callers.key(callers.client(callers.role("pilots.read")), "first");
        HttpResponse<String> published = service.publish("""
                module: pilots
                version: 1.0.0
                title: Pilots
                listed: everybody
                source: waterways
                public: true
                accept: { open-to-everybody: a test, change-open: a test }
                routes:
                  /pilots:
                    get:
                      about: All
                      sql: all.sql
                      answer: rows
                      order: [id]
                      fields: { phone: { mask: last-2, unless: pilots.read } }
                    post:
                      about: Another
                      sql: add.sql
                      answer: nothing
                      parameters: { name: { in: body, type: string, required: true, example: Never } }
                  /pilots/{pilotId}:
                    needs: pilots.read
                    get:
                      about: One
                      sql: one.sql
                      answer: row
                      fields: { phone: { mask: last-2, unless: pilots.read } }
                      parameters: { pilotId: { in: path, type: integer, example: 2 } }
                  /named:
                    get:
                      about: By name
                      sql: named.sql
                      answer: rows
                      order: [id]
                      parameters: { name: { in: query, type: string, required: true, about: No example } }
                  /me:
                    get:
                      about: Whoever calls
                      sql: me.sql
                      answer: row
                      parameters: { who: { in: caller, name: name } }
                """, STATEMENTS);
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
        eventually("getPilots", body -> body.contains("\"Cy\""));
    }

    @AfterAll
    static void stop() throws Exception {
        service.close();
        TestDatabase.execute(
                "waterways",
                "revoke insert on sample_pilot from " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'",
                "drop table sample_pilot");
    }

    private static String page(String operation, String key) throws Exception {
        HttpResponse<String> page = key.isEmpty()
                ? service.get("/reference/pilots/v1/" + operation)
                : service.send("GET", "/reference/pilots/v1/" + operation, "", "Authorization", "Bearer " + key);
        assertThat(page.statusCode()).as(page.body()).isEqualTo(200);
        return page.body();
    }

    private static void eventually(String operation, Predicate<String> shown) throws Exception {
        Until.seen(() -> page(operation, pilots), shown);
    }

    @Test
    void aCollectionShowsSomeRowsAsAnybodyGetsThem() throws Exception {
        assertThat(page("getPilots", ""))
                .contains(
                        "A real answer",
                        "/pilots?limit=3",
                        "\"Ada\"",
                        "****01",
                        "/api/pilots/v1/pilots?limit=3&amp;after=")
                .doesNotContain("\"Di\"", "555-01");
    }

    @Test
    void aRowIsShownToThoseOnlyWhoMayCallForIt() throws Exception {
        assertThat(page("getPilotsByPilotId", pilots))
                .contains("GET /pilots/2", "\"Bo\"", "****02")
                .as("masked as for everybody, whoever reads")
                .doesNotContain("555-0102");
        assertThat(page("getPilotsByPilotId", ""))
                .contains("A real answer is shown here to those who may call the operation.")
                .doesNotContain("\"Bo\"");
    }

    @Test
    void nothingIsMadeUpWhereNothingWasAnswered() throws Exception {
        for (String operation : new String[] {"postPilots", "getNamed", "getMe"}) {
            assertThat(page(operation, "")).as(operation).doesNotContain("A real answer");
        }
        assertThat(TestDatabase.column("select count(*) from waterways.sample_pilot where name = 'Never'"))
                .as("no change is called")
                .containsExactly("0");
    }

    @Test
    void anExampleThatFindsNothingAnyMoreIsDriftUntilItDoes() throws Exception {
        TestDatabase.execute("waterways", "update sample_pilot set id = 200 where id = 2");
        try {
            for (int look = 0; look < 2; look++) {
                HttpResponse<String> drift = service.post("/desk/drift", Map.of());
                assertThat(drift.body())
                        .contains("GET /pilots/{pilotId}", "The example of its text finds nothing any more");
                eventually("getPilotsByPilotId", body -> !body.contains("A real answer"));
            }
        } finally {
            TestDatabase.execute("waterways", "update sample_pilot set id = 2 where id = 200");
        }
        assertThat(service.post("/desk/drift", Map.of()).body()).doesNotContain("finds nothing any more");
        eventually("getPilotsByPilotId", body -> body.contains("\"Bo\""));
    }
}
