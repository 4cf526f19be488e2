package tidybridge.core.definition;

import static org.assertj.core.api.Assertions.assertThat;

import com.networknt.schema.Error;
import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaLocation;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.snakeyaml.engine.v2.api.Load;
import org.snakeyaml.engine.v2.api.LoadSettings;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Severity;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class DefinitionSchemaTest {

    private static final SchemaRegistry REGISTRY =
            SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12);
    private static final Path DEMO = Path.of("..", "demo", "workspace");

    private static String text(DefinitionSchema schema) {
        return new String(schema.bytes(), StandardCharsets.UTF_8);
    }

    private static List<Error> validate(DefinitionSchema schema, String yaml) {
        Object loaded = new Load(LoadSettings.builder().build()).loadFromString(yaml);
        return REGISTRY.getSchema(text(schema))
                .validate(JsonMapper.shared().writeValueAsString(loaded), InputFormat.JSON);
    }

    private static List<String> names(JsonNode object) {
        return List.copyOf(object.propertyNames());
    }

    private static <E extends Enum<E>> String[] words(Class<E> type) {
        return Arrays.stream(type.getEnumConstants())
                .map(constant -> constant.name().toLowerCase(Locale.ROOT).replace('_', '-'))
                .toArray(String[]::new);
    }

    @ParameterizedTest
    @EnumSource(DefinitionSchema.class)
    void eachIsAJsonSchema(DefinitionSchema schema) {
        Schema meta = REGISTRY.getSchema(SchemaLocation.of("https://json-schema.org/draft/2020-12/schema"));
        assertThat(meta.validate(text(schema), InputFormat.JSON)).isEmpty();
        assertThat(DefinitionSchema.named(schema.file())).contains(schema);
    }

    @Test
    void theDemoFits() throws Exception {
        assertThat(validate(DefinitionSchema.WORKSPACE, Files.readString(DEMO.resolve("workspace.yaml"))))
                .isEmpty();
        try (Stream<Path> files = Files.walk(DEMO)) {
            List<Path> modules =
                    files.filter(file -> file.endsWith("module.yaml")).toList();
            assertThat(modules).hasSize(3);
            for (Path module : modules) {
                assertThat(validate(DefinitionSchema.MODULE, Files.readString(module)))
                        .as(module.toString())
                        .isEmpty();
            }
        }
    }

    /** What the schema knows is what the reader knows. */
    @Test
    void keysAndWordsAreTheReaders() {
        JsonNode module = JsonMapper.shared().readTree(text(DefinitionSchema.MODULE));
        JsonNode operation = module.at("/$defs/operation/properties");
        JsonNode parameter = module.at("/$defs/parameter/properties");
        assertThat(names(module.path("properties"))).containsExactlyInAnyOrderElementsOf(ModuleReader.MODULE_KEYS);
        assertThat(names(operation)).containsExactlyInAnyOrderElementsOf(ModuleReader.OPERATION_KEYS);
        JsonNode limits = module.at("/$defs/limits/properties");
        assertThat(names(parameter)).containsExactlyInAnyOrderElementsOf(ParameterReader.KEYS);
        assertThat(names(limits)).containsExactlyInAnyOrderElementsOf(ParameterReader.ITEM_KEYS);
        assertThat(names(module.at("/$defs/field/properties")))
                .containsExactlyInAnyOrderElementsOf(AnswerReader.FIELD_KEYS);
        assertThat(names(operation.at("/file/properties"))).containsExactlyInAnyOrderElementsOf(AnswerReader.FILE_KEYS);
        assertThat(names(module.at("/properties/routes/additionalProperties/properties")))
                .containsExactlyInAnyOrderElementsOf(ModuleReader.ROUTE_KEYS);
        assertThat(module.at("/$defs/names/enum").valueStream().map(JsonNode::asString))
                .containsExactly(words(NameStyle.class));
        assertThat(operation.at("/answer/enum").valueStream().map(JsonNode::asString))
                .containsExactly(words(AnswerKind.class));
        assertThat(parameter.at("/in/enum").valueStream().map(JsonNode::asString))
                .containsExactly(words(In.class));
        assertThat(limits.at("/type/enum").valueStream().map(JsonNode::asString))
                .containsExactly(words(ParameterType.class));
        assertThat(module.at("/$defs/page/properties/most/maximum").asInt()).isEqualTo(PageRule.CEILING);
        assertThat(module.at("/$defs/accept/propertyNames/enum").valueStream().map(JsonNode::asString))
                .as("the findings that can be accepted")
                .containsExactlyInAnyOrderElementsOf(Stream.of(Code.values())
                        .filter(code -> code.severity() != Severity.ERROR)
                        .map(Code::label)
                        .toList());
        JsonNode workspace = JsonMapper.shared().readTree(text(DefinitionSchema.WORKSPACE));
        JsonNode source = workspace.at("/$defs/source/properties");
        assertThat(names(workspace.path("properties")))
                .containsExactlyInAnyOrderElementsOf(SourceReader.WORKSPACE_KEYS);
        assertThat(names(source)).containsExactlyInAnyOrderElementsOf(SourceReader.SOURCE_KEYS);
        assertThat(names(source.at("/secret/properties")))
                .containsExactlyInAnyOrderElementsOf(SourceReader.SECRET_KEYS);
        assertThat(source.at("/transport/enum").valueStream().map(JsonNode::asString))
                .containsExactly(words(Transport.class));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    title: Berths   | titel: Berths
                    answer: row     | answer: rwo
                    version: 1.0.0  | version: 1.0
                    in: path        | in: cellar
                    sql: berth.sql  | statement: berth.sql
                    /berths         | berths
                    """)
    void mistakesAreSeenWhileWriting(String good, String bad) {
        String yaml = """
                module: moorings
                version: 1.0.0
                title: Berths
                source: waterways
                routes:
                  /berths/{berthId}:
                    get:
                      sql: berth.sql
                      answer: row
                      parameters:
                        berthId: { in: path, type: integer, example: 17 }
                """;
        assertThat(validate(DefinitionSchema.MODULE, yaml)).isEmpty();
        assertThat(validate(DefinitionSchema.MODULE, yaml.replace(good, bad))).isNotEmpty();
    }

    /** Files and sources are completed, and others stay allowed: a file is named before it is written. */
    @Test
    void thatOfAModuleCompletesItsFilesAndSources() throws Exception {
        Path module = DEMO.resolve("modules/moorings/v1");
        List<String> files;
        try (Stream<Path> paths = Files.list(module)) {
            files = paths.map(path -> path.getFileName().toString()).toList();
        }
        String text = ModuleSchema.of(files, List.of("waterways", "tolls"));
        JsonNode schema = JsonMapper.shared().readTree(text);
        assertThat(schema.at("/$defs/operation/properties/sql/anyOf/0/enum").toString())
                .contains("\"basins.sql\"")
                .doesNotContain("module.yaml");
        assertThat(schema.at("/$defs/step/properties/sql/anyOf/0/enum")).isNotEmpty();
        assertThat(schema.at("/properties/source/anyOf/0/enum").toString()).isEqualTo("[\"tolls\",\"waterways\"]");
        Object yaml = new Load(LoadSettings.builder().build())
                .loadFromString(Files.readString(module.resolve("module.yaml"))
                        .replace("source: waterways", "source: another"));
        assertThat(REGISTRY.getSchema(text).validate(JsonMapper.shared().writeValueAsString(yaml), InputFormat.JSON))
                .isEmpty();
    }
}
