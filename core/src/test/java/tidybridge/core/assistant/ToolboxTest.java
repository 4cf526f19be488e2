package tidybridge.core.assistant;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.networknt.schema.InputFormat;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.compile.PlanFixture;
import tidybridge.core.contract.Contract;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

class ToolboxTest {

    private static final JsonMapper JSON = JsonMapper.builder()
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .build();

    private static final String YAML = """
            module: quays
            version: 2.0.0
            title: Quays
            source: waterways
            needs: quays.use
            routes:
              /:
                get: { about: All of it., id: everything, sql: all.sql, answer: rows, order: [f_integer], filter: [f_decimal: [gte]] }
              /quays/{quayId}/cranes/{craneId}:
                get:
                  id: crane
                  sql: crane.sql
                  answer: row
                  tag: { column: f_integer }
                  parameters:
                    quayId:  { in: path, type: string, example: A }
                    craneId: { in: path, type: string, example: B }
                    ids:     { in: query, type: array, items: { type: integer }, maxItems: 3 }
                    size:    { in: query, name: Größe, type: number }
                    body:    { in: header, name: X-Quay, type: string }
                    who:     { in: cookie, type: string }
                put:
                  id: rehearse_crane
                  assistants: offered
                  sql: put.sql
                  answer: nothing
                  precondition: required
                  parameters:
                    quayId:  { in: path, type: string, example: A }
                    craneId: { in: path, type: string, example: B }
                    body:    { in: query, type: string }
                    tonnes:  { in: body, type: number, required: true }
                    note:    { in: body, pointer: /words/note, type: string, nullable: true }
                delete: { sql: remove.sql, answer: nothing, parameters: { quayId: { in: path, type: string }, craneId: { in: path, type: string } } }
              /plan:
                get: { id: plan, sql: plan.sql, answer: file, file: { content: f_binary, type: image/png } }
              /forms:
                post:
                  id: form
                  assistants: offered
                  sql: form.sql
                  answer: nothing
                  parameters: { name: { in: form, type: string, required: true }, tags: { in: form, type: array, items: { type: string }, maxItems: 3 } }
            """;

    private static final Map<String, String> SQL = Map.of(
            "all.sql", "select * from t",
            "crane.sql",
                    "select * from t where a = :quayId and b = :craneId and c in (:ids) and d = :size and e = :body and f = :who",
            "put.sql", "update t set a = :tonnes, b = :note, c = :body where d = :quayId and e = :craneId",
            "remove.sql", "delete from t where d = :quayId and e = :craneId",
            "plan.sql", "select * from t",
            "form.sql", "insert into t select :name from u where v in (:tags)");

    private static final Catalog CATALOG = PlanFixture.describing(
            new Field("f_integer", FieldType.INTEGER, false),
            new Field("f_decimal", FieldType.DECIMAL, false),
            new Field("f_binary", FieldType.BINARY, false));

    private static Contract contract(String yaml) {
        PlanFixture.Result result = PlanFixture.compile(yaml, SQL, CATALOG);
        assertThat(result.findings().stream().filter(finding -> finding.isError()))
                .isEmpty();
        return PlanFixture.promised(result.plan().orElseThrow());
    }

    private static final Toolbox TOOLS = Toolbox.of(contract(YAML));

    private static ToolRequest request(String tool, String arguments) throws BadArgument {
        return ToolRequest.of(TOOLS.find(tool).orElseThrow(), (ObjectNode) JSON.readTree(arguments));
    }

    @Test
    void readsAreToolsAndChangesThatTheTextOffersWithARehearsalEach() {
        assertThat(TOOLS.tools())
                .extracting(Tool::name)
                .containsExactly(
                        "everything", "crane", "rehearse_crane", "rehearse_rehearse_crane", "form", "rehearse_form");
        assertThat(TOOLS.tools()).extracting(Tool::isRead).containsExactly(true, true, false, false, false, false);
        assertThat(TOOLS.tools()).extracting(Tool::rehearsal).containsExactly(false, false, false, true, false, true);
        assertThat(TOOLS.tools())
                .extracting(Tool::isDestructive)
                .containsExactly(false, false, true, false, true, false);
        assertThat(TOOLS.tools()).extracting(Tool::isIdempotent).containsExactly(true, true, true, true, false, true);
    }

    @Test
    void aModuleMayWithholdWhatItDoesNotOfferByItself() {
        String withheld = YAML.replace("needs: quays.use", "needs: quays.use\nassistants: withheld");
        assertThat(Toolbox.of(contract(withheld)).tools())
                .extracting(Tool::name)
                .containsExactly("rehearse_crane", "rehearse_rehearse_crane", "form", "rehearse_form");
    }

    @Test
    void everyInputIsASchemaWithoutReferencesWhoseNamesAllProgramsTake() {
        var metaSchema = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
                .getSchema(com.networknt.schema.SchemaLocation.of("https://json-schema.org/draft/2020-12/schema"));
        for (Tool tool : TOOLS.tools()) {
            String text = JSON.writeValueAsString(tool.input());
            assertThat(metaSchema.validate(text, InputFormat.JSON)).as(text).isEmpty();
            assertThat(text).doesNotContain("$ref");
            assertThat(((Map<?, ?>) tool.input().get("properties")).keySet())
                    .allSatisfy(name -> assertThat(name.toString()).matches("[A-Za-z0-9_.-]{1,64}"));
        }
        assertThat(TOOLS.find("crane").orElseThrow().arguments().keySet())
                .containsExactly("quayId", "craneId", "ids", "Gr.e", "X-Quay", "who");
        assertThat(TOOLS.find("everything").orElseThrow().arguments().keySet())
                .containsExactly("f_decimal", "limit", "after");
        assertThat(TOOLS.find("everything").orElseThrow().title()).isEqualTo("All of it");
        Map<String, Object> output = TOOLS.find("everything").orElseThrow().output();
        assertThat(JSON.writeValueAsString(output)).contains("\"data\"").doesNotContain("$ref");
    }

    @Test
    void argumentsFindTheirPlaces() throws Exception {
        ToolRequest read = request(
                "crane",
                "{\"quayId\": \"A/ä {craneId}?\", \"craneId\": 7, \"ids\": [1, 2], \"Gr.e\": 12.50, \"X-Quay\": \"ü\", \"who\": null}");
        assertThat(read.path()).isEqualTo("/quays/A%2F%C3%A4%20%7BcraneId%7D%3F/cranes/7");
        assertThat(read.query()).isEqualTo("ids=1&ids=2&Gr%C3%B6%C3%9Fe=12.50");
        assertThat(read.headers()).containsExactly(Map.entry("X-Quay", "ü"));
        assertThat(read.cookies()).isEmpty();
        assertThat(read.body()).isNull();
        ToolRequest change = request(
                "rehearse_crane",
                "{\"quayId\": \"A\", \"craneId\": \"B\", \"body\": \"b\", \"body_2\": {\"tonnes\": 1.10, \"words\": {\"note\": null}}, \"If-Match\": \"*\"}");
        assertThat(change.query()).isEqualTo("body=b");
        assertThat(change.body()).isEqualTo("{\"tonnes\":1.10,\"words\":{\"note\":null}}");
        assertThat(change.headers()).containsEntry("If-Match", "*").containsEntry("Content-Type", "application/json");
        assertThat(request("form", "{\"body\": {\"name\": \"a b&c\", \"tags\": [\"x\", \"y\"]}}")
                        .body())
                .isEqualTo("name=a%20b%26c&tags=x&tags=y");
        assertThat(request("everything", "{}").path()).isEmpty();
        assertThat(request("everything", "{\"f_decimal\": {\"gte\": 1e999999999, \"lte\": null}}")
                        .query())
                .isEqualTo("f_decimal%5Bgte%5D=1E%2B999999999");
    }

    @Test
    void whatHasNoPlaceIsRefusedAndLeadsNowhereElse() {
        for (String arguments : List.of(
                "{\"quayId\": \"..\", \"craneId\": \"1\"}",
                "{\"quayId\": \".\", \"craneId\": \"1\"}",
                "{\"quayId\": \"\", \"craneId\": \"1\"}",
                "{\"craneId\": \"1\"}",
                "{\"quayId\": [\"a\", \"b\"], \"craneId\": \"1\"}",
                "{\"quayId\": {\"a\": 1}, \"craneId\": \"1\"}",
                "{\"quayId\": \"a\", \"craneId\": \"1\", \"X-Quay\": \"a\\r\\nHost: b\"}",
                "{\"quayId\": \"a\", \"craneId\": \"1\", \"who\": \"\\u2028\"}",
                "{\"quayId\": \"a\", \"craneId\": \"1\", \"ids\": [[1]]}",
                "{\"quayId\": \"a\", \"craneId\": \"1\", \"other\": 1}")) {
            assertThatThrownBy(() -> request("crane", arguments)).as(arguments).isInstanceOf(BadArgument.class);
        }
        assertThatThrownBy(() -> request("everything", "{\"f_decimal\": 7}"))
                .isInstanceOf(BadArgument.class)
                .hasMessageContaining("conditions");
        assertThatThrownBy(() -> request("form", "{\"body\": [1]}")).hasMessageContaining("an object");
    }

    @Test
    void aFileIsNoToolAndCannotBeOffered() {
        var compiled = PlanFixture.compile(YAML.replace("id: plan,", "id: plan, assistants: offered,"), SQL, CATALOG);
        assertThat(compiled.findings().toString()).contains("cannot be 'offered' where a file is answered");
    }
}
