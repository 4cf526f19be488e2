package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;
import tidybridge.records.NewRelease;
import tidybridge.records.Publisher;
import tidybridge.records.Records;
import tidybridge.records.Release;
import tools.jackson.databind.JsonNode;

/** Equal nodes over one record store serve the same within a second, whichever of them was told. */
class NodesTest {

    private static RunningService one;
    private static RunningService other;

    @BeforeAll
    static void start() throws Exception {
        one = RunningService.apart("tidy_records_nodes");
        other = one.beside();
    }

    @AfterAll
    static void stop() {
        other.close();
        one.close();
    }

    private static String yaml(String name, String version) {
        return """
                module: %s
                version: %s
                title: Counter
                source: waterways
                public: true
                accept: { open-to-everybody: a test }
                routes:
                  /n: { get: { about: A number, sql: n.sql, answer: value } }
                """.formatted(name, version);
    }

    private static void publish(RunningService node, String name, String version, int answer) throws Exception {
        HttpResponse<String> published =
                node.publish(yaml(name, version), Map.of("n.sql", "select " + answer + " as n"));
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
    }

    private static void until(RunningService node, String name, String answer) throws Exception {
        Until.seen(() -> node.get("/api/" + name + "/v1/n").body(), body -> body.contains(answer));
    }

    private static JsonNode module(RunningService node, String name) throws Exception {
        return RunningService.json(node.desk("/desk/modules/" + name + "/v1"));
    }

    @Test
    void whatOneNodeIsToldIsLiveOnTheOther() throws Exception {
        publish(one, "shared", "1.0.0", 1);
        until(other, "shared", "\"value\":1");
        publish(other, "shared", "1.0.1", 2);
        until(one, "shared", "\"value\":2");
        assertThat(one.send("PUT", "/desk/modules/shared/v1/release", "{\"version\":\"1.0.0\"}", one.signed())
                        .statusCode())
                .isEqualTo(200);
        until(other, "shared", "\"value\":1");
        assertThat(other.send("DELETE", "/desk/modules/shared/v1/release?version=1.0.0&reason=over", "", other.signed())
                        .statusCode())
                .isEqualTo(200);
        until(one, "shared", "was retired");
        assertThat(other.get("/api/shared/changes").body()).contains("was retired");
    }

    @Test
    void everyNodeIsKnownToTheOthers() throws Exception {
        for (RunningService node : List.of(one, other)) {
            JsonNode nodes = Until.seen(
                    () -> RunningService.json(node.desk("/desk/nodes")).path("nodes"), all -> all.size() == 2);
            assertThat(nodes.valueStream().map(each -> each.path("state").asString()))
                    .containsExactly("serving", "serving");
            assertThat(nodes.valueStream().filter(each -> each.path("here").asBoolean()))
                    .hasSize(1);
            assertThat(nodes.path(0).path("version").asString()).matches("0\\.1\\.0, built \\d{4}-.*Z");
            assertThat(node.get("/ready").body()).isEqualTo("ready\n");
            assertThat(node.send("GET", "/ready", "", "X-Forwarded-Host", "elsewhere.example")
                            .statusCode())
                    .isEqualTo(200);
            assertThat(node.desk("/desk/metrics").body()).contains("tidy_nodes{state=\"serving\"} 2.0");
        }
    }

    /** Whoever changes something through one node and then asks the other, as a proxy has them do, sees it. */
    @Test
    void theManagementApiShowsWhatAnyNodeWasTold() throws Exception {
        for (int i = 1; i <= 5; i++) {
            RunningService told = i % 2 == 0 ? one : other;
            RunningService asked = i % 2 == 0 ? other : one;
            publish(told, "seen", "1." + i + ".0", i);
            assertThat(RunningService.json(asked.desk("/desk/modules/seen/v1"))
                            .path("version")
                            .asString())
                    .isEqualTo("1." + i + ".0");
            String name = Callers.fresh("seen");
            assertThat(told.send("PUT", "/desk/roles/" + name, "{\"holds\":[\"tolls.read\"]}", told.signed())
                            .statusCode())
                    .isEqualTo(200);
            assertThat(asked.desk("/desk/roles").body()).contains(name);
        }
    }

    @Test
    void whatOneNodeFindsOfDriftTheOtherTells() throws Exception {
        TestDatabase.execute(
                DemoDatabase.SOURCE_SCHEMA, "create or replace table jetty (id int primary key, name varchar(20))");
        assertThat(one.publish(
                                yaml("jetties", "1.0.0").replace("answer: value", "answer: rows, order: [id]"),
                                Map.of("n.sql", "select id, name from jetty"))
                        .statusCode())
                .isEqualTo(200);
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "alter table jetty drop column name");
        one.post("/desk/drift", Map.of());
        Until.seen(() -> module(other, "jetties").path("drift"), drift -> !drift.isEmpty());
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "drop table jetty");
    }

    /** Sessions and one-time links, each used at once on the node that did not give it out. */
    @Test
    void whoSignsInOnOneNodeIsKnownOnTheOther() throws Exception {
        String password = "seven herons on a lock beam";
        Callers here = new Callers(one);
        Callers there = new Callers(other);
        for (int i = 0; i < 3; i++) {
            String name = here.person(password, "operator");
            String token = there.token(name, password);
            assertThat(one.send("GET", "/desk/account", "", "Authorization", "Bearer " + token)
                            .body())
                    .contains(name);
            String link = RunningService.json(here.desk("POST", "/desk/people/" + name + "/link", Map.of()))
                    .path("code")
                    .asString();
            assertThat(there.signIn(Map.of("code", link, "password", password + i))
                            .statusCode())
                    .isEqualTo(204);
            assertThat(here.signIn(Map.of("code", link, "password", password + i))
                            .statusCode())
                    .as("a link works once, wherever")
                    .isEqualTo(401);
            assertThat(here.signIn(Map.of("name", name, "password", password + i))
                            .statusCode())
                    .isEqualTo(204);
        }
    }

    /** Another node could compile it; this one says why it cannot, and goes on with what it has until it can. */
    @Test
    void aNodeThatCannotServeAReleaseGoesOnWithTheOneBefore() throws Exception {
        publish(one, "behind", "1.0.0", 1);
        until(other, "behind", "\"value\":1");
        Records records = one.context().getBean(Records.class);
        Release live = records.releases().live("behind", 1).orElseThrow();
        Map<String, String> files =
                Map.of("module.yaml", yaml("behind", "1.1.0"), "n.sql", "select no_such_column from no_such_table");
        records.releaseChanges()
                .publish(
                        List.of(new NewRelease(
                                "behind",
                                new Version(1, 1, 0),
                                "waterways",
                                new ModuleText("modules/behind", files),
                                records.releases().kept(live.id()).orElseThrow(),
                                live.id())),
                        new Publisher("another node", null, Instant.now()));
        JsonNode module = Until.seen(() -> module(one, "behind"), seen -> seen.has("trouble"));
        assertThat(module.path("trouble").asString())
                .startsWith("This node goes on with 1.0.0 because it cannot serve 1.1.0.")
                .contains("n.sql");
        assertThat(module.path("served").asBoolean()).isTrue();
        assertThat(one.get("/api/behind/v1/n").body()).contains("\"value\":1");
        JsonNode elsewhere = Until.seen(() -> module(other, "behind").path("elsewhere"), seen -> !seen.isEmpty());
        assertThat(elsewhere.path(0).path("words").asString())
                .as("the other nodes tell it too")
                .startsWith("This node goes on with 1.0.0");
        assertThat(RunningService.json(other.desk("/desk/nodes"))
                        .path("nodes")
                        .valueStream()
                        .flatMap(node -> node.path("troubles").valueStream())
                        .map(trouble -> trouble.path("module").asString()))
                .contains("behind/v1");
        // what can be served is taken over at once
        publish(other, "behind", "1.1.1", 3);
        until(one, "behind", "\"value\":3");
        assertThat(RunningService.json(one.desk("/desk/modules/behind/v1")).has("trouble"))
                .isFalse();
    }
}
