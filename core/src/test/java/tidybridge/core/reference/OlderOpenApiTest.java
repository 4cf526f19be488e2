package tidybridge.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import com.networknt.schema.InputFormat;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import tidybridge.core.compile.PlanFixture;
import tidybridge.core.contract.Contract;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class OlderOpenApiTest {

    private static final String ORIGIN = "https://bridge.marrowby.example";
    private static final Contract BERTHS = PlanFixture.promised(OpenApiTest.plan(OpenApiTest.YAML));
    private static final JsonNode OLDER = JsonMapper.shared().readTree(OlderOpenApi.json(BERTHS, ORIGIN));

    /** Every schema of a document, wherever it stands. */
    private static void collect(JsonNode node, String key, List<JsonNode> schemas) {
        if (node.isObject()) {
            if (key.equals("schema") || key.equals("items")) {
                schemas.add(node);
            }
            node.properties().forEach(entry -> collect(entry.getValue(), entry.getKey(), schemas));
            if (node.path("properties").isObject()) {
                node.path("properties").forEach(schemas::add);
            }
        } else if (node.isArray()) {
            node.forEach(item -> collect(item, "", schemas));
        }
    }

    @Test
    void nothingIsLeftThatTheOlderDialectDoesNotKnow() {
        assertThat(OLDER.path("openapi").asString()).isEqualTo("3.0.3");
        assertThat(OLDER.path("servers").get(0).path("url").asString()).isEqualTo(ORIGIN + "/api/moorings/v1");
        List<JsonNode> schemas = new ArrayList<>();
        collect(OLDER, "", schemas);
        assertThat(schemas).hasSizeGreaterThan(50).allSatisfy(schema -> {
            assertThat(schema.path("type").isArray()).as(schema.toString()).isFalse();
            for (String key : List.of("examples", "contentEncoding", "const", "$defs")) {
                assertThat(schema.has(key)).as(key + " in " + schema).isFalse();
            }
            for (String key : List.of("exclusiveMinimum", "exclusiveMaximum")) {
                assertThat(!schema.has(key) || schema.path(key).isBoolean())
                        .as(schema.toString())
                        .isTrue();
            }
        });
    }

    @Test
    void valuesKeepTheirMeaning() {
        JsonNode search =
                OLDER.at("/paths/~1berths~1search/post/requestBody/content/application~1json/schema/properties");
        assertThat(search.at("/size/properties/least").toString())
                .contains("\"minimum\":0", "\"exclusiveMinimum\":true", "\"multipleOf\":0.5", "\"example\":1");
        assertThat(search.path("note").toString()).contains("\"type\":\"string\"", "\"nullable\":true");
        assertThat(OLDER.at("/components/schemas").toString()).contains("\"format\":\"byte\"");
    }

    @Test
    void theSchemasAloneAreOneDocumentWhoseReferencesLeadSomewhere() {
        String text = new String(OlderOpenApi.schemas(BERTHS, ORIGIN + "/s.json"), StandardCharsets.UTF_8);
        JsonNode schemas = JsonMapper.shared().readTree(text);
        assertThat(text).doesNotContain("#/components");
        assertThat(schemas.path("$defs").size()).isPositive();
        SchemaRegistry registry = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12);
        var problem = registry.getSchema("{\"$ref\":\"#/$defs/Problem\"," + text.substring(text.indexOf('{') + 1));
        assertThat(problem.validate(
                        "{\"type\":\"/problems/gone\",\"title\":\"a\",\"status\":410,\"detail\":\"b\",\"code\":\"gone\"}",
                        InputFormat.JSON))
                .isEmpty();
        assertThat(problem.validate("{\"status\":\"410\"}", InputFormat.JSON)).isNotEmpty();
    }
}
