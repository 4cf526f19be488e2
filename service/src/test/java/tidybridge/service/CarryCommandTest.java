package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.service.Launched.Ended;
import tools.jackson.databind.JsonNode;

/** The same text from one server to another, compared first. */
class CarryCommandTest {

    private static RunningService test;
    private static RunningService production;

    @TempDir
    static Path folder;

    @BeforeAll
    static void start() throws Exception {
        test = RunningService.apart("tidy_records_from");
        production = RunningService.apart("tidy_records_to");
        Files.writeString(folder.resolve("sign-ins.json"), """
                { "servers": { "production": { "url": "%s", "token": "%s", "who": "administrator", "endsAt": "2099-01-01T00:00:00Z", "trust": "" } } }
                """.formatted(production.address(), production.token()));
    }

    @AfterAll
    static void stop() {
        test.close();
        production.close();
    }

    private static Launched launched() {
        return new Launched(test, folder.resolve("sign-ins.json"));
    }

    private static String yaml(String name, String version) {
        return """
                module: %s
                version: %s
                title: Slips
                source: waterways
                public: true
                accept: { open-to-everybody: a test }
                routes:
                  /slips:
                    get: { about: Slips, sql: slips.sql, answer: rows, order: [id] }
                """.formatted(name, version);
    }

    @Test
    void aReleaseIsShownAskedForPublishedAndRemembered() throws Exception {
        test.publish(yaml("slips", "1.0.0"), Map.of("slips.sql", "select id from berth"));
        Ended first = launched()
                .asProcess()
                .tidyReading("yes\n", "carry", "slips/v1", "--to", "production", "--note", "Tested.");
        assertThat(first.code()).as(first.err()).isZero();
        assertThat(first.out())
                .contains("slips 1.0.0  to " + production.address() + ", the first of its name there")
                .endsWith("published  slips 1.0.0 at " + production.address() + "/api/slips/v1\n");
        assertThat(production.get("/api/slips/v1/slips?limit=1").statusCode()).isEqualTo(200);
        JsonNode kept = RunningService.json(production.desk("/desk/releases/slips/1.0.0"));
        assertThat(kept.path("from").asString()).isEqualTo(test.address() + " slips 1.0.0");
        assertThat(kept.path("note").asString()).isEqualTo("Tested.");
        assertThat(kept.path("text"))
                .isEqualTo(RunningService.json(test.desk("/desk/releases/slips/1.0.0"))
                        .path("text"));

        test.publish(yaml("slips", "1.1.0"), Map.of("slips.sql", "select id, berth_no from berth"));
        Ended asked = launched().tidyReading("no\n", "carry", "slips/v1", "--to", "production");
        assertThat(asked.out()).contains("where 1.0.0 is: 1 safe", "The field 'berth_no' is new.");
        assertThat(asked.err()).isEqualTo("tidy: Nothing was published.\n");
        Ended nobody = launched().tidyReading("", "carry", "slips/v1", "--to", "production");
        assertThat(nobody.code()).isEqualTo(1);
        assertThat(production.desk("/desk/releases/slips/1.1.0").statusCode()).isEqualTo(404);
        Ended sure = launched().tidy("carry", "slips/v1", "--to", "production", "--yes", "--json");
        assertThat(sure.out()).contains("\"outcome\" : \"published\"");
    }

    @Test
    void whatTheDatabaseThereLacksIsNamed() throws Exception {
        TestDatabase.execute(
                DemoDatabase.SOURCE_SCHEMA,
                "create or replace table slip (id int primary key, hue varchar(9) not null)");
        test.publish(yaml("lacks", "1.0.0"), Map.of("slips.sql", "select id, hue from slip"));
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "alter table slip drop column hue");
        Ended lacking = launched().tidy("carry", "lacks/1.0.0", "--to", "production", "--yes");
        assertThat(lacking.code()).isEqualTo(1);
        assertThat(lacking.out()).contains("The table 'slip' has no column 'hue'.");
        assertThat(lacking.err()).contains("lacks what lacks 1.0.0 needs; nothing was published.");
        assertThat(production.desk("/desk/releases/lacks").statusCode()).isEqualTo(404);
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "drop table slip");
    }

    @Test
    void mistakesAreSaid() throws Exception {
        assertThat(launched().tidy("carry", "slips/v1").err()).contains("Name the server it is on with --from");
        assertThat(launched().tidy("carry", "slips", "--to", "production").err())
                .contains("'slips' is no release");
        assertThat(launched().tidy("carry", "nobody/v1", "--to", "production").err())
                .contains("404");
    }
}
