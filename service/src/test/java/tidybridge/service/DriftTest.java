package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;

/** A database that changes under what is live is noticed before the first caller notices. */
class DriftTest {

    private static RunningService service;
    private static int number;

    private String name = "";

    @BeforeAll
    static void start() throws Exception {
        service = RunningService.apart("tidy_records_drift");
    }

    @AfterAll
    static void stop() throws Exception {
        service.close();
        TestDatabase.execute(
                DemoDatabase.SOURCE_SCHEMA, "drop table if exists buoy", "drop procedure if exists light_buoy");
    }

    @BeforeEach
    void publish() throws Exception {
        TestDatabase.execute(
                DemoDatabase.SOURCE_SCHEMA,
                "create or replace table buoy (id int primary key, name varchar(20) not null, hue varchar(10), lit int not null, key by_lit (lit))",
                "insert into buoy with recursive n as (select 1 as i union all select i + 1 from n where i < 60) select a.i * 100 + b.i, concat('b', b.i), 'red', a.i * 100 + b.i from n a join n b",
                "create or replace procedure light_buoy(in buoy_id int) update buoy set lit = 1 where id = buoy_id");
        assertThat(service.post("/desk/sources/waterways/refresh", Map.of()).statusCode())
                .isEqualTo(200);
        name = "buoys" + number++;
        String yaml = """
                module: %s
                version: 1.0.0
                title: Buoys
                source: waterways
                public: true
                accept: { open-to-everybody: a test, change-open: a test }
                routes:
                  /buoys:
                    get: { about: Buoys, sql: buoys.sql, answer: rows, order: [id], filter: [lit: eq] }
                  /buoys/{buoyId}:
                    get:
                      about: A buoy
                      sql: buoy.sql
                      answer: row
                      parameters: { buoyId: { in: path, type: integer, example: 1 } }
                  /lights/{buoyId}:
                    post:
                      about: Light it
                      sql: light.sql
                      answer: nothing
                      parameters: { buoyId: { in: path, type: integer, example: 1 } }
                """.formatted(name);
        HttpResponse<String> published = service.publish(
                yaml,
                Map.of(
                        "buoys.sql", "select id, name, lit from buoy",
                        "buoy.sql", "select id, name from buoy where id = :buoyId",
                        "light.sql", "call light_buoy(:buoyId)"));
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
    }

    /** What is found now of the module of this test: whom it concerns, whether it breaks callers, and the words. */
    private List<String> look() throws Exception {
        HttpResponse<String> looked = service.post("/desk/drift", Map.of());
        assertThat(looked.statusCode()).as(looked.body()).isEqualTo(200);
        return RunningService.json(looked)
                .path("modules")
                .valueStream()
                .filter(module -> module.path("module").asString().equals(name + "/v1"))
                .flatMap(module -> module.path("notes").valueStream())
                .map(DriftTest::said)
                .toList();
    }

    private static String said(JsonNode note) {
        return (note.path("breaking").asBoolean() ? "breaks " : "weaker ")
                + note.path("operation").asString("all") + ": "
                + note.path("words").asString();
    }

    private static void alter(String sql) throws Exception {
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, sql);
    }

    @Test
    void nothingIsSaidWhileEverythingFits() throws Exception {
        assertThat(look()).isEmpty();
        alter("alter table buoy add column depth int, drop column hue");
        assertThat(look()).as("what no statement names").isEmpty();
    }

    @Test
    void aColumnThatVanishedBreaksThoseWhoReadIt() throws Exception {
        alter("alter table buoy drop column lit");
        assertThat(look())
                .anyMatch(note -> note.startsWith("breaks GET /buoys: ") && note.contains("lit"))
                .noneMatch(note -> note.startsWith("breaks GET /buoys/{buoyId}: Unknown"));
        JsonNode module = RunningService.json(service.desk("/desk/modules/" + name + "/v1"));
        assertThat(module.path("drift")).isNotEmpty();
        assertThat(RunningService.json(service.desk("/desk/releases/" + name))
                        .path("releases")
                        .path(0)
                        .path("drift"))
                .isEqualTo(module.path("drift"));
        assertThat(RunningService.json(service.desk("/desk/releases/" + name + "/1.0.0"))
                        .path("drift"))
                .isEqualTo(module.path("drift"));
        HttpResponse<String> metrics = service.desk("/desk/metrics");
        assertThat(metrics.headers().firstValue("content-type"))
                .hasValueSatisfying(type -> assertThat(type).startsWith("application/openmetrics-text"));
        assertThat(metrics.body())
                .contains("tidy_modules{state=\"served\"}", "jvm_memory_used_bytes{")
                .containsPattern("tidy_drift_notes\\{effect=\"breaking\",module=\"" + name + "/v1\"\\} [1-9]")
                .containsPattern("tidy_drift_looked_timestamp_seconds\\{module=\"" + name + "/v1\"\\} ")
                .endsWith("# EOF\n");
        // the release that was published is still what is live
        assertThat(service.get("/api/" + name + "/v1/buoys/101").statusCode()).isEqualTo(200);
        alter("alter table buoy add column lit int not null default 0, add key by_lit (lit)");
        assertThat(look()).isEmpty();
    }

    @Test
    void aTypeThatChangedAndAColumnThatMayBeNullAreToldAsCallersMeetThem() throws Exception {
        alter("alter table buoy modify name varchar(20) null");
        assertThat(look())
                .contains(
                        "breaks GET /buoys: The field 'name' may be null now.",
                        "breaks GET /buoys/{buoyId}: The field 'name' may be null now.",
                        "weaker GET /buoys: The column 'buoy.name' may be null.");
        alter("update buoy set name = '7'");
        alter("alter table buoy modify name int not null");
        assertThat(look()).contains("breaks GET /buoys/{buoyId}: The field 'name' is 'integer' now and was 'string'.");
    }

    @Test
    void aLostIndexAndARoutineThatTakesSomethingElseAreTold() throws Exception {
        alter("alter table buoy drop key by_lit");
        alter("analyze table buoy");
        assertThat(look())
                .anyMatch(note -> note.startsWith("weaker GET /buoys: The table 'buoy' has no index on lit"))
                .anyMatch(note -> note.startsWith("weaker GET /buoys: No index serves the filter 'lit'"))
                .noneMatch(note -> note.contains("/buoys/{buoyId}"));
        alter(
                "create or replace procedure light_buoy(in buoy_id int, in hue varchar(10)) update buoy set lit = 1 where id = buoy_id");
        assertThat(look())
                .anyMatch(note -> note.startsWith("breaks POST /lights/{buoyId}: The routine 'light_buoy' takes"));
    }

    @Test
    void theCommandLineSaysItTooAndFails() throws Exception {
        assertThat(new Launched(service).tidy("drift").out()).startsWith("Every database fits: ");
        alter("drop table buoy");
        Launched.Ended drift = new Launched(service).tidy("drift");
        assertThat(drift.code()).isEqualTo(1);
        assertThat(drift.out())
                .contains(name + "/v1\n", "  breaking  GET /buoys\n            The table 'buoy' is not there.\n");
        assertThat(new Launched(service).tidy("modules").out()).contains("drifted");
    }
}
