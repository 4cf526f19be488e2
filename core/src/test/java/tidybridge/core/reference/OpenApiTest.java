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
import tidybridge.core.compile.PlanFixture;
import tidybridge.core.plan.ModulePlan;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class OpenApiTest {

    static final String YAML = """
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
              /berths/search:
                post:
                  about: A search
                  sql: search.sql
                  answer: rows
                  order: [f_integer]
                  show: [f_integer, f_string, f_decimal, f_date]
                  fields:
                    f_string: { mask: last-2, unless: moorings.see, about: A text, example: ab }
                    f_decimal: { as: text, name: money.amount }
                    f_date: { name: when.day }
                  parameters:
                    names: { in: body, type: array, items: { type: string, maxLength: 5 }, maxItems: 3, uniqueItems: true, example: [a, b] }
                    least: { in: body, pointer: /size/least, type: number, exclusiveMinimum: 0, multipleOf: 0.5, required: true, example: 1 }
                    note: { in: body, type: string, nullable: true, deprecated: 2031-12-31, example: x }
                    who: { in: caller, name: name }
                    session: { in: cookie, type: string, example: s }
              /berths/{berthId}/photo:
                get:
                  about: A photo
                  sql: one.sql
                  answer: file
                  file: { content: f_binary, type: image/png }
                  deprecated: 2031-12-31
                  parameters:
                    berthId: { in: path, type: integer }
              /berths/{berthId}/there:
                get:
                  about: Whether it is there
                  sql: one.sql
                  answer: nothing
                  parameters:
                    berthId: { in: path, type: integer }
              /berths/{berthId}/count:
                get:
                  about: A count
                  sql: count.sql
                  answer: value
                  parameters:
                    berthId: { in: path, type: integer }
            """;

    static ModulePlan plan(String yaml) {
        Field[] every = Arrays.stream(FieldType.values())
                .map(type -> new Field("f_" + type.name().toLowerCase(), type, type == FieldType.DATE))
                .toArray(Field[]::new);
        Catalog catalog = sql -> sql.contains("count")
                ? new Described.Fields(java.util.List.of(new Field("n", FieldType.INTEGER, false)))
                : new Described.Fields(Arrays.asList(every));
        Map<String, String> statements = Map.of(
                "all.sql",
                        "select * from t where a = :from and b = :least\nand c = :kind -- when :kind\nand d = :quay -- when :quay",
                "search.sql",
                        "select f_integer from t where a in (:names) and b = :least and c = :note and d = :who and e = :session",
                "one.sql", "select * from t where id = :berthId",
                "count.sql", "select count(*) as n from t where id = :berthId");
        PlanFixture.Result result = PlanFixture.compile(yaml, statements, catalog);
        assertThat(result.findings()).noneMatch(finding -> finding.isError());
        return result.plan().orElseThrow();
    }

    @Test
    void theDocumentIsValidAgainstTheOfficialSchema() throws Exception {
        for (String yaml : new String[] {YAML, YAML.replace("source: waterways", "source: waterways\npublic: true")}) {
            String json = new String(OpenApi.json(PlanFixture.promised(plan(yaml))), StandardCharsets.UTF_8);
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
                .readTree(OpenApi.json(PlanFixture.promised(plan(YAML))))
                .path("components")
                .path("schemas");
        SchemaRegistry registry = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12);
        Schema meta = registry.getSchema(
                com.networknt.schema.SchemaLocation.of("https://json-schema.org/draft/2020-12/schema"));
        assertThat(schemas.propertyNames()).contains("BerthsRow", "BerthsPage", "Page", "Json", "Problem");
        schemas.forEach(schema ->
                assertThat(meta.validate(schema.toString(), InputFormat.JSON)).isEmpty());
    }

    @Test
    void parametersHaveTypesLimitsAndExamples() {
        JsonNode get = JsonMapper.shared()
                .readTree(OpenApi.json(PlanFixture.promised(plan(YAML))))
                .at("/paths/~1berths/get");
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
                .readTree(OpenApi.json(PlanFixture.promised(plan(YAML))))
                .at("/components/schemas/BerthsRow/properties");
        assertThat(row.at("/f_date/type").toString()).isEqualTo("[\"string\",\"null\"]");
        assertThat(row.at("/f_moment/format").asString()).isEqualTo("date-time");
        assertThat(row.at("/f_integer/type").asString()).isEqualTo("integer");
        assertThat(row.at("/f_binary/contentEncoding").asString()).isEqualTo("base64");
        assertThat(row.at("/f_json/$ref").asString()).isEqualTo("#/components/schemas/Json");
    }

    @Test
    void aBodyIsPutTogetherFromItsParts() {
        JsonNode post = JsonMapper.shared()
                .readTree(OpenApi.json(PlanFixture.promised(plan(YAML))))
                .at("/paths/~1berths~1search/post");
        JsonNode schema = post.at("/requestBody/content/application~1json/schema");
        assertThat(post.at("/requestBody/required").asBoolean()).isTrue();
        assertThat(schema.path("required").toString()).isEqualTo("[\"size\"]");
        assertThat(schema.at("/properties/names").toString())
                .isEqualTo("{\"type\":\"array\",\"items\":{\"type\":\"string\",\"maxLength\":5},\"maxItems\":3,"
                        + "\"uniqueItems\":true,\"examples\":[[\"a\",\"b\"]]}");
        assertThat(schema.at("/properties/size/properties/least").toString())
                .isEqualTo("{\"type\":\"number\",\"exclusiveMinimum\":0,\"multipleOf\":0.5,\"examples\":[1]}");
        assertThat(schema.at("/properties/note/type").toString()).isEqualTo("[\"string\",\"null\"]");
        assertThat(schema.at("/properties/note/deprecated").asBoolean()).isTrue();
        assertThat(post.path("parameters").valueStream().map(p -> p.path("name").asString()))
                .as("what the service knows by itself is nothing to send")
                .containsExactly("session", "limit", "after");
        assertThat(post.path("responses").propertyNames()).contains("413", "415");
    }

    @Test
    void answersAreDescribedAsTheyAreShaped() {
        JsonNode document = JsonMapper.shared().readTree(OpenApi.json(PlanFixture.promised(plan(YAML))));
        JsonNode row = document.at("/components/schemas/BerthsSearchRow");
        assertThat(row.path("required").toString()).isEqualTo("[\"f_integer\",\"f_string\",\"money\",\"when\"]");
        assertThat(row.at("/properties/f_string/description").asString())
                .isEqualTo("A text. Masked for callers without the privilege moorings.see.");
        assertThat(row.at("/properties/money/properties/amount/type").asString())
                .isEqualTo("string");
        assertThat(row.at("/properties/when/type").toString()).isEqualTo("[\"object\",\"null\"]");
        JsonNode photo = document.at("/paths/~1berths~1{berthId}~1photo/get");
        assertThat(photo.at("/responses/200/content").propertyNames()).containsExactly("image/png");
        assertThat(photo.path("deprecated").asBoolean()).isTrue();
        assertThat(document.at("/paths/~1berths~1{berthId}~1there/get/responses")
                        .propertyNames())
                .contains("204", "404")
                .doesNotContain("200");
    }

    @Test
    void jsonAndYamlSayTheSame() {
        ModulePlan plan = plan(YAML);
        Object yaml = new Load(LoadSettings.builder().build()).loadFromString(OpenApi.yaml(PlanFixture.promised(plan)));
        JsonMapper mapper = JsonMapper.shared();
        assertThat((Object) mapper.valueToTree(yaml))
                .hasToString(mapper.readTree(OpenApi.json(PlanFixture.promised(plan)))
                        .toString());
    }

    @Test
    void eachOperationSaysWhichPrivilegeItNeeds() {
        assertThat(security("")).as("closed").isEqualTo("[{\"oauth\":[]},{\"key\":[]}]");
        assertThat(security("needs: moorings.read\n")).isEqualTo("[{\"oauth\":[\"moorings.read\"]},{\"key\":[]}]");
        assertThat(security("needs: [moorings.read, moorings.audit]\n"))
                .as("one is enough")
                .isEqualTo("[{\"oauth\":[\"moorings.read\"]},{\"oauth\":[\"moorings.audit\"]},{\"key\":[]}]");
        assertThat(security("public: true\n"))
                .as("what is masked is shown to some")
                .isEqualTo("[{},{\"oauth\":[]},{\"key\":[]}]");
        assertThat(get("needs: [moorings.read, moorings.audit]\n")
                        .path("description")
                        .asString())
                .endsWith(" Needs the privilege moorings.read, or moorings.audit.");
    }

    @Test
    void onlyWhatAsksForAPrivilegeCanLackOne() {
        assertThat(responses("needs: moorings.read\n").propertyNames()).contains("401", "403");
        assertThat(responses("public: true\n").propertyNames()).contains("401").doesNotContain("403");
    }

    private static String security(String access) {
        return get(access).path("security").toString();
    }

    private static JsonNode responses(String access) {
        return get(access).path("responses");
    }

    private static JsonNode get(String access) {
        return JsonMapper.shared()
                .readTree(OpenApi.json(PlanFixture.promised(plan(YAML + access))))
                .at("/paths/~1berths/get");
    }
}
