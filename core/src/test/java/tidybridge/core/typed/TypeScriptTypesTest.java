package tidybridge.core.typed;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

class TypeScriptTypesTest {

    private static final Map<String, Object> SCHEMAS = Map.of(
            "berth-row",
            Map.of(
                    "type",
                    "object",
                    "description",
                    "A place */ to lie",
                    "required",
                    List.of("id"),
                    "properties",
                    ordered("id", Map.of("type", "integer"), "it's", Map.of("type", List.of("string", "null")))));

    private final TypeScriptTypes types = new TypeScriptTypes(SCHEMAS, new Identifiers(Set.of("BerthRow")));

    private static Map<String, Object> ordered(String first, Object one, String second, Object two) {
        Map<String, Object> map = new LinkedHashMap<>();
        map.put(first, one);
        map.put(second, two);
        return map;
    }

    @Test
    void aSharedSchemaIsAnInterfaceUnderANameThatIsFree() {
        assertThat(types.declarations()).isEqualTo("""
                /** A place * / to lie */
                export interface BerthRow2 {
                  id: number;
                  "it's"?: string | null;
                }
                """);
    }

    @Test
    void everySchemaIsAType() {
        assertThat(types.type(Map.of("$ref", "#/components/schemas/berth-row"))).isEqualTo("BerthRow2");
        assertThat(types.type(Map.of("$ref", "#/components/schemas/none"))).isEqualTo("unknown");
        assertThat(types.type(Map.of())).isEqualTo("unknown");
        assertThat(types.type(Map.of("enum", List.of("a\"b", 7, true)))).isEqualTo("\"a\\\"b\" | 7 | true");
        assertThat(types.type(Map.of("const", "a\u2028b"))).isEqualTo("\"a\\u2028b\"");
        assertThat(types.type(Map.of("type", "array", "items", Map.of("type", List.of("number", "null")))))
                .isEqualTo("(number | null)[]");
        assertThat(types.type(Map.of("oneOf", List.of(Map.of("type", "string"), Map.of("type", "string")))))
                .isEqualTo("string");
        assertThat(types.type(Map.of("type", "object", "additionalProperties", Map.of("type", "boolean"))))
                .isEqualTo("Record<string, boolean>");
        assertThat(types.type(Map.of("type", "object"))).isEqualTo("Record<string, unknown>");
    }

    @Test
    void namesBecomeIdentifiersEachOnce() {
        Identifiers identifiers = new Identifiers(Set.of("constructor"));
        assertThat(identifiers.member("If-Match")).isEqualTo("ifMatch");
        assertThat(identifiers.member("if_match")).isEqualTo("ifMatch2");
        assertThat(identifiers.member("constructor")).isEqualTo("constructor2");
        assertThat(identifiers.type("7-up")).isEqualTo("X7Up");
        assertThat(identifiers.type("---")).isEqualTo("X");
        assertThat(identifiers.free("new-id")).isEqualTo("new-id");
    }
}
