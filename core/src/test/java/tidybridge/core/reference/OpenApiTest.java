package tidybridge.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.snakeyaml.engine.v2.api.Load;
import org.snakeyaml.engine.v2.api.LoadSettings;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.PlanFixture;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class OpenApiTest {

    private static final String YAML = """
            module: moorings
            version: 1.2.0
            title: Berths
            about: Where a vessel can lie.
            source: waterways
            routes:
              /berths:
                get:
                  about: Free berths
                  sql: all.sql
                  answer: rows
                  order: [f_string, f_integer desc]
                  parameters:
                    from:  { in: query, type: date, required: true, example: 2031-05-01 }
                    least: { in: query, type: number, minimum: 0, maximum: 99.5, default: 1.50 }
                    kind:  { in: query, type: string, enum: [a, b], maxLength: 10, pattern: '^.' }
                    quay:  { in: header, name: X-Quay, type: integer }
              /berths/{berthId}:
                get:
                  about: One berth
                  sql: one.sql
                  answer: row
                  parameters:
                    berthId: { in: path, type: integer, minimum: 1, example: 17 }
              /berths/{berthId}/count:
                get:
                  about: A count
                  sql: count.sql
                  answer: value
                  parameters:
                    berthId: { in: path, type: integer }
            """;

    private static ModulePlan plan(String yaml) {
        Field[] every = Arrays.stream(FieldType.values())
                .map(type -> new Field("f_" + type.name().toLowerCase(), type, type == FieldType.DATE))
                .toArray(Field[]::new);
        Catalog catalog = sql -> sql.contains("count")
                ? new Described.Fields(java.util.List.of(new Field("n", FieldType.INTEGER, false)))
                : new Described.Fields(Arrays.asList(every));
        Map<String, String> statements = Map.of(
                "all.sql",
                        "select * from t where a = :from and b = :least\nand c = :kind -- when :kind\nand d = :quay -- when :quay",
                "one.sql", "select * from t where id = :berthId",
                "count.sql", "select count(*) as n from t where id = :berthId");
        PlanFixture.Result result = PlanFixture.compile(yaml, statements, catalog);
        assertThat(result.findings()).noneMatch(finding -> finding.isError());
        return result.plan().orElseThrow();
    }

    @Test
    void theDocumentIsValidAgainstTheOfficialSchema() throws Exception {
        for (String yaml : new String[] {YAML, YAML.replace("source: waterways", "source: waterways\npublic: true")}) {
            String json = new String(OpenApi.json(plan(yaml)), StandardCharsets.UTF_8);
            SchemaRegistry registry = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12);
            try (InputStream official = OpenApiTest.class.getResourceAsStream("openapi-3.1.schema.json")) {
                Schema schema = registry.getSchema(official);
                assertThat(schema.validate(json, InputFormat.JSON)).isEmpty();
                assertThat(schema.validate(json.replace("\"paths\"", "\"pathes\""), InputFormat.JSON))
                        .isNotEmpty();
            }
        }
    }

    @Test
    void everySchemaInItIsAJsonSchema() {
        JsonNode schemas = JsonMapper.shared()
                .readTree(OpenApi.json(plan(YAML)))
                .path("components")
                .path("schemas");
        SchemaRegistry registry = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12);
        Schema meta = registry.getSchema(
                com.networknt.schema.SchemaLocation.of("https://json-schema.org/draft/2020-12/schema"));
        assertThat(schemas.propertyNames()).contains("GetBerthsRow", "GetBerthsByBerthIdRow", "Problem");
        schemas.forEach(schema ->
                assertThat(meta.validate(schema.toString(), InputFormat.JSON)).isEmpty());
    }

    @Test
    void parametersHaveTypesLimitsAndExamples() {
        JsonNode get = JsonMapper.shared().readTree(OpenApi.json(plan(YAML))).at("/paths/~1berths/get");
        assertThat(get.path("parameters").valueStream().map(p -> p.path("name").asString()))
                .containsExactly("from", "least", "kind", "X-Quay", "limit", "after");
        assertThat(get.at("/parameters/0/example").asString()).isEqualTo("2031-05-01");
        assertThat(get.at("/parameters/1/schema").toString())
                .isEqualTo("{\"type\":\"number\",\"minimum\":0,\"maximum\":99.5,\"default\":1.5}");
        assertThat(get.at("/parameters/4/schema/maximum").asInt()).isEqualTo(200);
        assertThat(get.at("/parameters/5/description").asString()).contains("f_string, f_integer (descending)");
    }

    @Test
    void answersHaveTheColumnsTypesAndNullability() {
        JsonNode row = JsonMapper.shared()
                .readTree(OpenApi.json(plan(YAML)))
                .at("/components/schemas/GetBerthsRow/properties");
        assertThat(row.at("/f_date/type").toString()).isEqualTo("[\"string\",\"null\"]");
        assertThat(row.at("/f_moment/format").asString()).isEqualTo("date-time");
        assertThat(row.at("/f_integer/type").asString()).isEqualTo("integer");
        assertThat(row.at("/f_binary/contentEncoding").asString()).isEqualTo("base64");
        assertThat(row.path("f_json").isEmpty()).isTrue();
    }

    @Test
    void jsonAndYamlSayTheSame() {
        ModulePlan plan = plan(YAML);
        Object yaml = new Load(LoadSettings.builder().build()).loadFromString(OpenApi.yaml(plan));
        JsonMapper mapper = JsonMapper.shared();
        assertThat((Object) mapper.valueToTree(yaml))
                .hasToString(mapper.readTree(OpenApi.json(plan)).toString());
    }

    @Test
    void aClosedModuleSaysThatItNeedsACredential() {
        JsonNode closed = JsonMapper.shared().readTree(OpenApi.json(plan(YAML)));
        JsonNode open = JsonMapper.shared().readTree(OpenApi.json(plan(YAML + "public: true\n")));
        assertThat(closed.at("/paths/~1berths/get/responses").has("401")).isTrue();
        assertThat(closed.has("security")).isTrue();
        assertThat(open.at("/paths/~1berths/get/responses").has("401")).isFalse();
        assertThat(open.has("security")).isFalse();
    }
}
