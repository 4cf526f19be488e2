package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

/** References of modules that have one of everything: each operation has its page, and each download is what it says. */
class ReferencePagesTest {

    @RegisterExtension
    static final Situation ANSWERS = new Situation("answers");

    @RegisterExtension
    static final Situation STORES = new Situation("stores");

    @RegisterExtension
    static final Situation ROUTINES = new Situation("routines");

    private final RunningService service = ANSWERS.service();

    private HttpResponse<String> read(String path) throws Exception {
        HttpResponse<String> read = service.desk(path);
        assertThat(read.statusCode()).as(path + " " + read.body()).isEqualTo(200);
        return read;
    }

    @ParameterizedTest
    @ValueSource(strings = {"answers", "stores", "routines"})
    void everyOperationHasItsPage(String module) throws Exception {
        JsonNode paths =
                RunningService.json(read("/api/" + module + "/v1/openapi.json")).path("paths");
        assertThat(paths.size()).isPositive();
        String first = read("/reference/" + module + "/v1").body();
        for (JsonNode path : paths) {
            for (JsonNode operation : path) {
                String id = operation.path("operationId").asString();
                assertThat(first).contains("/reference/" + module + "/v1/" + id);
                String page = read("/reference/" + module + "/v1/" + id).body();
                for (JsonNode parameter : operation.path("parameters")) {
                    assertThat(page)
                            .as(id)
                            .contains("<code>" + parameter.path("name").asString());
                }
                for (String status : operation.path("responses").propertyNames()) {
                    assertThat(page).as(id).contains("id=\"status-" + status + "\"");
                }
            }
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"answers", "stores", "routines"})
    void everyDownloadTellsOfEveryOperation(String module) throws Exception {
        JsonNode newest = RunningService.json(read("/api/" + module + "/v1/openapi.json"));
        JsonNode older = RunningService.json(read("/reference/" + module + "/v1/openapi-3.0.json"));
        assertThat(older.path("openapi").asString()).isEqualTo("3.0.3");
        assertThat(List.copyOf(older.path("paths").propertyNames()))
                .isEqualTo(List.copyOf(newest.path("paths").propertyNames()));
        assertThat(RunningService.json(read("/reference/" + module + "/v1/schemas.json"))
                        .path("$defs")
                        .size())
                .isEqualTo(newest.path("components").path("schemas").size());
        int operations = 0;
        for (JsonNode path : newest.path("paths")) {
            operations += path.size();
        }
        assertThat(read("/reference/" + module + "/v1/calls.http")
                        .body()
                        .lines()
                        .filter(line -> line.startsWith("### ")))
                .hasSize(operations);
    }

    /** Each link of each module names an operation and one of its parameters; those of the demo are followed with what rows say. */
    @ParameterizedTest
    @ValueSource(strings = {"answers", "stores", "routines", "moorings", "passages"})
    void linksLeadFromRowsToOperations(String module) throws Exception {
        ANSWERS.service().publishDemo();
        JsonNode document = RunningService.json(read("/api/" + module + "/v1/openapi.json"));
        Map<String, String> paths = new TreeMap<>();
        document.path("paths")
                .propertyStream()
                .forEach(path -> path.getValue()
                        .forEach(operation ->
                                paths.put(operation.path("operationId").asString(), path.getKey())));
        int followed = 0;
        for (Map.Entry<String, JsonNode> path : document.path("paths").properties()) {
            for (JsonNode answer : path.getValue().path("get").path("responses")) {
                for (JsonNode link : answer.path("links")) {
                    String target = paths.get(link.path("operationId").asString());
                    assertThat(target).as(link.toString()).isNotNull();
                    for (String parameter : link.path("parameters").propertyNames()) {
                        assertThat(target).contains("{" + parameter + "}");
                    }
                    boolean reads = document.at("/paths/" + target.replace("/", "~1") + "/get")
                            .path("operationId")
                            .equals(link.path("operationId"));
                    if (reads && !path.getKey().contains("{")) {
                        HttpResponse<String> rows = service.desk("/api/" + module + "/v1" + path.getKey()
                                + (path.getKey().equals("/berths") ? "?from=2031-05-01&until=2031-05-04" : ""));
                        JsonNode body = RunningService.json(rows);
                        String address = target;
                        for (Map.Entry<String, JsonNode> parameter :
                                link.path("parameters").properties()) {
                            String value = body.at(
                                            parameter.getValue().asString().replace("$response.body#", ""))
                                    .asString("");
                            address = address.replace("{" + parameter.getKey() + "}", value);
                        }
                        if (body.path("data").size() > 0) {
                            assertThat(service.desk("/api/" + module + "/v1" + address)
                                            .statusCode())
                                    .as(link + " leads to " + address)
                                    .isIn(200, 204);
                            followed++;
                        }
                    }
                }
            }
        }
        assertThat(followed > 0 || !module.equals("moorings")).as(module).isTrue();
    }
}
