package tidybridge.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.compile.PlanFixture;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What the reference says of operations that change data. */
class ChangeReferenceTest {

    private static final String YAML = """
            module: stores
            version: 1.0.0
            title: Stores
            source: waterways
            public: true
            conditions: { crate_in_shed: { status: 422, message: No shed has this number. } }
            routes:
              /crates:
                post:
                  about: Put down
                  sql: add.sql
                  answer: row
                  location: /crates/{key}
                  idempotency-key: required
                  conditions: { 45001: { status: 418, message: Not here. } }
                  parameters: { label: { in: body, type: string, required: true, example: a } }
                delete:
                  about: Clear
                  sql: clear.sql
                  answer: row
                  changes: { most: 5 }
                  preview: true
                  parameters: { above: { in: query, type: integer, required: true, example: 1 } }
              /crates/all:
                post:
                  about: Many
                  sql: add.sql
                  answer: row
                  batch: { most: 50, outcome: separate }
                  parameters: { label: { in: body, type: string, required: true, example: a } }
              /crates/{id}:
                get:
                  about: Read
                  sql: crate.sql
                  answer: row
                  tag: representation
                  parameters: { id: { in: path, type: integer, example: 1 } }
                patch:
                  about: Change
                  sql: change.sql
                  answer: nothing
                  precondition: required
                  parameters:
                    id: { in: path, type: integer, example: 1 }
                    label: { in: body, type: string, nullable: true, example: a }
            """;

    private static JsonNode paths() {
        return document().path("paths");
    }

    private static JsonNode document() {
        Catalog catalog = sql -> new Described.Fields(
                sql.contains("select") ? List.of(new Field("id", FieldType.INTEGER, false)) : List.of());
        PlanFixture.Result result = PlanFixture.compile(
                YAML,
                new HashMap<>(Map.of(
                        "add.sql", "insert into crate (label) values (:label)",
                        "clear.sql", "delete from crate where kilos > :above",
                        "crate.sql", "select id from crate where id = :id",
                        "change.sql", "update crate\nset label = :label -- when :label\nwhere id = :id")),
                catalog);
        assertThat(result.findings()).noneMatch(finding -> finding.isError());
        return JsonMapper.shared()
                .readTree(OpenApi.json(PlanFixture.promised(result.plan().orElseThrow())));
    }

    private static JsonNode parameter(JsonNode operation, String name) {
        return operation
                .path("parameters")
                .valueStream()
                .filter(one -> one.path("name").asString().equals(name))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void anInsertTellsWhereItIsAndWhatIsRefused() {
        JsonNode post = paths().path("/crates").path("post");
        assertThat(post.at("/responses/201/headers/Location").isMissingNode()).isFalse();
        assertThat(post.at("/responses/418/description").asString()).endsWith("Not here.");
        assertThat(post.at("/responses/422/description").asString()).endsWith("No shed has this number.");
        assertThat(post.at("/responses/409").isMissingNode()).isFalse();
        assertThat(post.at("/responses/418/content/application~1problem+json/examples")
                        .propertyNames())
                .as("each rule under its code")
                .hasSize(1);
        JsonNode refused = post.at("/responses/422/content/application~1problem+json/examples")
                .iterator()
                .next()
                .path("value");
        assertThat(refused.path("type").asString())
                .isEqualTo("/problems/rule-broken#stores/v1/"
                        + refused.path("code").asString());
        assertThat(post.at("/responses/201/headers").propertyNames())
                .as("what the read at its location tells")
                .contains("Location", "ETag");
        assertThat(parameter(post, "Idempotency-Key").path("schema").toString())
                .isEqualTo("{\"type\":\"string\",\"minLength\":1,\"maxLength\":255}");
        assertThat(post.path("tags").toString()).isEqualTo("[\"crates\"]");
        assertThat(post.path("responses").propertyNames()).contains("401", "405", "408", "413", "415", "default");
        assertThat(parameter(post, "Idempotency-Key").path("required").asBoolean())
                .isTrue();
    }

    @Test
    void aPatchSaysWhichFieldsMayChangeAndThatAStateIsNeeded() {
        JsonNode patch = paths().path("/crates/{id}").path("patch");
        JsonNode content = patch.at("/requestBody/content");
        assertThat(content.propertyNames()).containsExactly("application/merge-patch+json", "application/json");
        JsonNode schema = content.path("application/merge-patch+json").path("schema");
        assertThat(schema.path("properties").propertyNames()).containsExactly("label");
        assertThat(schema.path("additionalProperties").asBoolean(true)).isFalse();
        assertThat(parameter(patch, "If-Match").path("required").asBoolean()).isTrue();
        assertThat(patch.at("/responses").propertyNames()).contains("204", "404", "412", "428");
        assertThat(patch.at("/responses/204/headers/ETag").isMissingNode()).isFalse();
        JsonNode get = paths().path("/crates/{id}").path("get");
        assertThat(get.at("/responses").propertyNames())
                .contains("200", "304", "404", "default")
                .as("a read cannot break the rules of a change")
                .doesNotContain("409", "418", "422");
        assertThat(get.at("/responses/304/headers").propertyNames()).containsExactly("ETag");
        assertThat(patch.at("/requestBody/required").asBoolean()).isTrue();
        assertThat(parameter(get, "If-None-Match").path("required").asBoolean()).isFalse();
    }

    @Test
    void aBatchIsAnArrayWithResultsAndAPreviewAnotherAnswer() {
        JsonNode all = paths().path("/crates/all").path("post");
        JsonNode body = all.at("/requestBody/content/application~1json/schema");
        assertThat(body.path("type").asString()).isEqualTo("array");
        assertThat(body.path("maxItems").asInt()).isEqualTo(50);
        assertThat(body.at("/items/required/0").asString()).isEqualTo("label");
        assertThat(all.at("/responses/200/content/application~1json/schema/required")
                        .toString())
                .isEqualTo("[\"data\",\"changed\",\"refused\"]");
        JsonNode delete = paths().path("/crates").path("delete");
        assertThat(parameter(delete, "preview").at("/schema/enum/0").asString()).isEqualTo("count");
        assertThat(delete.at("/responses/200/content/application~1json/schema/$ref")
                        .asString())
                .isEqualTo("#/components/schemas/DeleteCratesAnswer");
        JsonNode flat = document().at("/components/schemas/DeleteCratesAnswer");
        assertThat(flat.path("properties").propertyNames())
                .contains("matching", "most", "allowed")
                .hasSizeGreaterThan(3);
        assertThat(flat.has("required") || flat.has("oneOf")).isFalse();
    }
}
