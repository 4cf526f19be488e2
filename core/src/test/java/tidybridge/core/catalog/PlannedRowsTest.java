package tidybridge.core.catalog;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class PlannedRowsTest {

    private static final Set<String> PARTS = Set.of("passed_at", "id");

    private static RowCount.Estimate of(String tables) {
        return PlannedRows.of("{\"query_block\": {\"select_id\": 1, \"nested_loop\": [" + tables + "]}}");
    }

    private static String table(String access, int rows, String more) {
        return """
                {"table": {"table_name": "p", "access_type": "%s", "used_key_parts": ["passed_at"], "rows": %d, "filtered": 100%s}}
                """.formatted(access, rows, more);
    }

    @Test
    void aStretchOfOneIndexIsKnownWithinAFactor() {
        String condition = ", \"attached_condition\": \"p.passed_at >= '2031-01-01' and p.passed_at < '2031-03-01'\"";
        assertThat(of(table("range", 1_000, condition))).isEqualTo(new RowCount.Estimate(1_000, 333, 3_000));
        assertThat(of(table("index", 300, ""))).isEqualTo(new RowCount.Estimate(300, 100, 900));
        assertThat(of(table("range", 1_000, condition) + "," + table("eq_ref", 1, "")))
                .isEqualTo(new RowCount.Estimate(1_000, 333, 3_000));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                ", \"attached_condition\": \"p.passed_at >= '2031-01-01' and p.kind = 'barge'\"",
                ", \"index_condition\": \"month(p.passed_at) = 3\"",
                ", \"materialized\": {}",
            })
    void whatNoIndexServesIsAGuess(String more) {
        assertThat(of(table("range", 1_000, more))).isEqualTo(new RowCount.Estimate(1_000, 0, -1));
    }

    @Test
    void severalTablesTogetherAreAGuess() {
        assertThat(of(table("ALL", 10, "") + "," + table("ref", 7, ""))).isEqualTo(new RowCount.Estimate(70, 0, -1));
        assertThat(of(table("ALL", 10, ", \"attached_condition\": \"p.passed_at > '2031-01-01'\""))
                        .most())
                .isEqualTo(-1);
    }

    @Test
    void whatTheServerKnowsNeedsNoPlan() {
        String message = "{\"query_block\": {\"select_id\": 1, \"table\": {\"message\": \"%s\"}}}";
        assertThat(PlannedRows.of(message.formatted("Impossible WHERE"))).isEqualTo(new RowCount.Estimate(0, 0, 0));
        assertThat(PlannedRows.of(message.formatted("Select tables optimized away")))
                .isNull();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "p.passed_at >= '2031-01-01'",
                "p.`id` in (18,19,30)",
                "page_.`passed_at` between DATE'2031-01-01' and <cache>(TIMESTAMP'2031-02-01 00:00:00')",
                "p.passed_at > 'it''s \\' and x' and p.`id` <=> -7.5 and p.`id` is not null",
            })
    void plainConditionsAreRead(String text) {
        assertThat(PlainCondition.isOn(PARTS, text)).isTrue();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "p.kind = 1",
                "p.passed_at = p.`id`",
                "p.passed_at > 'open",
                "p.passed_at > '1' or p.`id` = 2",
                "p.`id` in (1,p.kind)",
                "p.`id",
                "year(p.passed_at) = 2031",
                "p.passed_at like 'a%'",
                "p.`id` = 1 and",
            })
    void othersAreNot(String text) {
        assertThat(PlainCondition.isOn(PARTS, text)).isFalse();
    }
}
