package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;

/** What a service makes of its records when it starts again, while a view that a module stands on has gone. */
class RestartTest {

    private static final String YAML = """
            module: fading
            version: 1.0.0
            title: Fading
            source: waterways
            public: true
            routes:
              /value:
                get: { about: A value, sql: value.sql, answer: value }
            """;

    private static RunningService service;
    private static String next;

    @BeforeAll
    static void startAgain() throws Exception {
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "create or replace view fading as select 1 as v");
        service = RunningService.apart("tidy_records_restart");
        service.publishDemo();
        assertThat(service.publish(YAML, Map.of("value.sql", "select v from fading"))
                        .statusCode())
                .isEqualTo(200);
        next = service.json("/api/moorings/v1/basins?limit=2")
                .path("page")
                .path("next")
                .asString();
        service.close();
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "drop view fading");
        service = service.again();
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @Test
    void aRestartServesWhatWasLive() throws Exception {
        assertThat(service.get("/api/moorings/v1/berths/17").statusCode()).isEqualTo(200);
        assertThat(service.json(next).path("data")).as("a position from before").hasSize(2);
    }

    @Test
    void aModuleThatNoLongerFitsItsDatabaseIsSaidAndTheOthersAreServed() throws Exception {
        assertThat(service.get("/api/fading/v1/value").statusCode()).isEqualTo(500);
        assertThat(service.desk("/desk/modules/fading/v1").body()).contains("cannot prepare the statement");
        assertThat(service.get("/api/moorings/v1/berths/17").statusCode()).isEqualTo(200);
    }

    @Test
    void aModuleWhoseSourceIsGoneAtStartWaitsForIt() throws Exception {
        String user = DemoDatabase.SOURCE_USER + "@'127.0.0.1'";
        TestDatabase.execute("", "alter user " + user + " account lock");
        try (RunningService waiting = service.beside()) {
            assertThat(waiting.get("/api/moorings/v1/berths/17").statusCode()).isEqualTo(503);
            assertThat(waiting.desk("/desk/modules").body()).contains("\"served\":false", "does not answer");
            TestDatabase.execute("", "alter user " + user + " account unlock");
            Until.seen(() -> waiting.get("/api/moorings/v1/berths/17").statusCode(), status -> status == 200);
        } finally {
            TestDatabase.execute("", "alter user " + user + " account unlock");
        }
    }
}
