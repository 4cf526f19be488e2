package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;

/** Sources through the management API, with definitions that change while modules are live. */
class SourcesTest {

    private static final String OTHER = """
              other:
                host: 127.0.0.1
                port: PORT
                schema: waterways
                user: waterways_service
                secret: { file: database.secret }
            """;

    @RegisterExtension
    static final DemoService DEMO = new DemoService();

    @AfterEach
    void asItWas() throws Exception {
        define(RunningService.workspace(""));
        DEMO.running().post("/desk/sources/reload", Map.of());
    }

    private static void define(String text) throws Exception {
        Files.writeString(DEMO.running().home().resolve("workspace.yaml"), text);
    }

    private static JsonNode reload() throws Exception {
        return RunningService.json(DEMO.running().post("/desk/sources/reload", Map.of()));
    }

    @Test
    void theyAreListedWithoutTheirSecrets() throws Exception {
        HttpResponse<String> response = DEMO.running().desk("/desk/sources");
        assertThat(response.body()).doesNotContain(TestDatabase.PASSWORD).doesNotContain("secret");
        JsonNode source = RunningService.json(response).at("/sources/0");
        assertThat(source.path("name").asString()).isEqualTo("waterways");
        assertThat(source.path("readOnly").asBoolean()).isFalse();
        assertThat(source.path("transport").asString()).isEqualTo("plain");
    }

    @Test
    void contentsAndSamplesAreShown() throws Exception {
        JsonNode contents = RunningService.json(DEMO.running().desk("/desk/sources/waterways/contents"));
        assertThat(contents.path("relations")
                        .valueStream()
                        .map(one -> one.path("name").asString()))
                .contains("berth", "basin_overview");
        assertThat(contents.path("routines")
                        .valueStream()
                        .map(one -> one.path("name").asString()))
                .containsExactly("book_berth", "toll_due");
        JsonNode sample =
                RunningService.json(DEMO.running().desk("/desk/sources/waterways/contents/berth/sample?rows=2"));
        assertThat(sample.path("rows").size()).isEqualTo(2);
        assertThat(sample.path("columns").get(0).asString()).isEqualTo("id");
        assertThat(DEMO.running()
                        .desk("/desk/sources/waterways/contents/berth/sample?rows=1000")
                        .statusCode())
                .isEqualTo(400);
        assertThat(DEMO.running()
                        .desk("/desk/sources/waterways/contents/berht/sample")
                        .body())
                .contains("Did you mean 'berth'?");
        assertThat(DEMO.running().desk("/desk/sources/elsewhere/contents").statusCode())
                .isEqualTo(404);
    }

    @Test
    void aNewSourceIsTestedBeforeItIsUsedAndUsedAfterAReload() throws Exception {
        String port = String.valueOf(TestDatabase.server().port());
        define(RunningService.workspace(OTHER.replace("PORT", "1")));
        JsonNode failed = RunningService.json(DEMO.running().post("/desk/sources/other/test", Map.of()));
        assertThat(failed.path("passed").asBoolean()).isFalse();
        assertThat(failed.path("steps")
                        .valueStream()
                        .map(step -> step.path("step").asString()))
                .containsExactly("name", "port");
        define(RunningService.workspace(OTHER.replace("PORT", port)));
        assertThat(RunningService.json(DEMO.running().post("/desk/sources/other/test", Map.of()))
                        .path("passed")
                        .asBoolean())
                .isTrue();
        assertThat(DEMO.running().desk("/desk/sources/other/contents").statusCode())
                .isEqualTo(404);
        assertThat(reload().path("changed").valueStream().map(JsonNode::asString))
                .containsExactly("other");
        assertThat(DEMO.running().desk("/desk/sources/other/contents").statusCode())
                .isEqualTo(200);
    }

    @Test
    void liveModulesFollowTheirSource() throws Exception {
        define(RunningService.workspace("").replaceFirst("port: \\d+", "port: 1"));
        assertThat(reload().path("changed").valueStream().map(JsonNode::asString))
                .containsExactly("waterways");
        assertThat(DEMO.running().get("/api/moorings/v1/basins").statusCode()).isEqualTo(503);
        define(RunningService.workspace(""));
        reload();
        assertThat(DEMO.running().get("/api/moorings/v1/basins").statusCode()).isEqualTo(200);
    }

    @Test
    void aDefinitionThatCannotBeReadChangesNothing() throws Exception {
        define(RunningService.workspace("").replace("secret: { file: database.secret }", "secret: sesame"));
        HttpResponse<String> response = DEMO.running().post("/desk/sources/reload", Map.of());
        assertThat(response.statusCode()).isEqualTo(400);
        assertThat(response.body())
                .contains("workspace.yaml:9:13: A secret must not stand in text")
                .doesNotContain("sesame");
        assertThat(DEMO.running().get("/api/moorings/v1/basins").statusCode()).isEqualTo(200);
    }
}
