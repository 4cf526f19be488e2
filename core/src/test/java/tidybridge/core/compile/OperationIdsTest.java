package tidybridge.core.compile;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.ModuleReader;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationIds;
import tidybridge.core.reference.OpenApi;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class OperationIdsTest {

    private static final Catalog CATALOG = PlanFixture.describing(new Field("id", FieldType.INTEGER, false));

    private static String yaml(String... routes) {
        StringBuilder yaml =
                new StringBuilder("module: quays\nversion: 1.0.0\ntitle: Q\nsource: s\npublic: false\nroutes:\n");
        for (String route : routes) {
            String[] parts = route.split(" ");
            yaml.append("  ")
                    .append(parts[0])
                    .append(":\n    get:\n      about: A\n      sql: a.sql\n      answer: row\n");
            yaml.append(parts.length > 1 ? "      id: " + parts[1] + "\n" : "");
            if (parts[0].contains("{")) {
                String name = parts[0].replaceFirst(".*\\{(.*)}.*", "$1");
                yaml.append("      parameters: { ")
                        .append(name)
                        .append(": { in: path, type: integer, example: 1 } }\n");
            }
        }
        return yaml.toString();
    }

    private static PlanFixture.Result compile(String... routes) {
        return PlanFixture.compile(yaml(routes), Map.of("a.sql", "select id from t where id = :id"), CATALOG);
    }

    private static ModulePlan plan(String... routes) {
        Findings findings = new Findings();
        ModuleText text = new ModuleText("m", Map.of("module.yaml", yaml(routes), "a.sql", "select id from t"));
        ModulePlan plan = ModuleReader.read(text, findings)
                .flatMap(module -> Compiler.compileReleased(module, CATALOG, findings))
                .orElse(null);
        assertThat(plan).as("%s", findings.sorted()).isNotNull();
        return plan;
    }

    private static List<String> ids(String... routes) {
        return List.copyOf(OperationIds.of(plan(routes)).byLabel().values());
    }

    @Test
    void noTwoOperationsAreCalledTheSame() {
        String[] routes = {
            "/quays/by-id", "/quays/byId2", "/quays-by-id", "/quays/by/id", "/QUAYS/by_id", "/a/b", "/a-b"
        };
        List<String> ids = ids(routes);
        Set<String> lower = new HashSet<>();
        ids.forEach(id -> lower.add(id.toLowerCase()));
        assertThat(lower).hasSize(routes.length);
        JsonNode reference = JsonMapper.shared().readTree(OpenApi.json(PlanFixture.promised(plan(routes))));
        List<String> names = List.copyOf(reference.at("/components/schemas").propertyNames());
        assertThat(names).as("client code may be files of these names").doesNotHaveDuplicates();
        assertThat(names.stream().map(String::toLowerCase)).doesNotHaveDuplicates();
    }

    @Test
    void theOrderOfTheTextDoesNotMatter() {
        assertThat(ids("/a-b", "/a/b", "/c")).containsExactly("getAB", "getAB2", "getC");
        assertThat(ids("/c", "/a/b", "/a-b")).containsExactly("getC", "getAB2", "getAB");
    }

    @Test
    void whatTheTextSaysCounts() {
        assertThat(ids("/a", "/b getA", "/c listC")).containsExactly("getA2", "getA", "listC");
        assertThat(compile("/a one", "/b ONE").codes()).contains("operation-id-twice");
        assertThat(compile("/a 1a").codes()).contains("value-unfit");
    }

    @Test
    void aNameThatChangesUnderTheSameMajorIsFound() {
        Findings findings = new Findings();
        ModuleText text = new ModuleText(
                "m", Map.of("module.yaml", yaml("/a-b", "/a/b"), "a.sql", "select id from t where id = 1"));
        Map<String, String> live = Map.of("quays/v1 GET /a/b", "getAB");
        ModuleReader.read(text, findings)
                .flatMap(module -> Compiler.compile(module, CATALOG, findings, new Compiler.Known(live, null)));
        assertThat(findings.sorted())
                .filteredOn(finding -> finding.code().label().equals("operation-renamed"))
                .singleElement()
                .satisfies(finding -> {
                    assertThat(finding.message()).contains("'getAB2' now and 'getAB'");
                    assertThat(finding.remedy()).contains("Write 'id: getAB'");
                    assertThat(finding.operation()).isEqualTo("GET /a/b");
                });
    }
}
