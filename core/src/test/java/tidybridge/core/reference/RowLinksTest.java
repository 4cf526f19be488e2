package tidybridge.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.compile.PlanFixture;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.OperationTerms;

class RowLinksTest {

    /** A module of many parts that all ask for the number of a basin, and one list whose rows tell it. */
    private static Contract contract(int parts) {
        StringBuilder yaml = new StringBuilder("""
                module: quays
                version: 1.0.0
                title: Quays
                source: waterways
                needs: quays.use
                routes:
                """);
        for (int i = 0; i < parts; i++) {
            yaml.append(
                    "  /part%d/{basin_id}: { get: { sql: part.sql, answer: row, parameters: { basin_id: { in: path, type: integer } } } }\n"
                            .formatted(i));
        }
        yaml.append("""
                  /berths: { get: { id: list, sql: list.sql, answer: rows, order: [id] } }
                  /berths/{berthId}: { get: { id: one, sql: one.sql, answer: row, parameters: { berthId: { in: path, type: integer } } } }
                  /berths-by-day/{berthId}: { get: { id: other, sql: one.sql, answer: row, parameters: { berthId: { in: path, type: integer } } } }
                """);
        return PlanFixture.promised(PlanFixture.compile(
                        yaml.toString(),
                        Map.of(
                                "part.sql", "select id, basin_id from basin where id = :basin_id",
                                "list.sql", "select id, basin_id from berth",
                                "one.sql", "select id, basin_id from berth where id = :berthId"),
                        PlanFixture.describing(
                                new Field("id", FieldType.INTEGER, false),
                                new Field("basin_id", FieldType.INTEGER, false)))
                .plan()
                .orElseThrow());
    }

    private static Map<String, Object> links(Contract contract) {
        OperationTerms list = contract.operations().stream()
                .filter(operation -> operation.id().equals("list"))
                .findFirst()
                .orElseThrow();
        return new RowLinks(contract).of(list);
    }

    @Test
    void aRowLeadsToItselfByItsOwnNumberAndElsewhereByTheNumbersOfOthers() {
        assertThat(links(contract(2))).containsOnlyKeys("one", "getPart0ByBasinId", "getPart1ByBasinId");
        assertThat(links(contract(2)).get("one").toString()).contains("berthId=$response.body#/data/0/id");
        assertThat(links(contract(2)).get("getPart1ByBasinId").toString())
                .contains("basin_id=$response.body#/data/0/basin_id");
    }

    @Test
    void ofManyTheNearestAreTold() {
        Map<String, Object> links = links(contract(300));
        assertThat(links).hasSize(12);
        assertThat(links.keySet().iterator().next()).isEqualTo("one");
    }
}
