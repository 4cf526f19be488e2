package tidybridge.core.catalog;

import java.util.HashSet;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * How many rows a query has by the server's plan of it, as MariaDB writes it with {@code EXPLAIN FORMAT=JSON}. A whole table, or a stretch
 * of one index, is known from samples of its pages, and rarely wrong by more than a factor of three; rows of other tables that are found by
 * a unique key change nothing. Whatever else a plan says is a guess, and is called so.
 */
public final class PlannedRows {

    private static final double PERCENT = 100;
    private static final int FACTOR = 3;
    private static final Set<String> ONE_ROW_EACH = Set.of("eq_ref", "const", "system");

    private double rows = 1;
    private int stretches;
    private boolean isGuess;

    private PlannedRows() {}

    /**
     * The number of rows.
     *
     * @return null when the server knows it without a plan, so that counting costs nothing
     */
    public static RowCount.@Nullable Estimate of(String plan) {
        JsonNode block = JsonMapper.shared().readTree(plan).path("query_block");
        String message = block.at("/table/message").asString("");
        if (message.startsWith("Select tables optimized away")) {
            return null;
        }
        if (!message.isEmpty()) {
            return new RowCount.Estimate(0, 0, 0);
        }
        PlannedRows planned = new PlannedRows();
        if (block.has("table")) {
            planned.add(block.path("table"));
        }
        block.path("nested_loop").forEach(part -> planned.add(part.path("table")));
        return planned.bounded();
    }

    /** True when the server would tell the first rows without reading the others: nothing is sorted, and nothing put aside. */
    public static boolean areInOrder(String plan) {
        JsonNode block = JsonMapper.shared().readTree(plan);
        return block.findValue("filesort") == null
                && block.findValue("temporary_table") == null
                && block.findValue("materialized") == null
                && block.findValue("message") == null;
    }

    private void add(JsonNode table) {
        double filtered = table.path("filtered").asDouble(PERCENT);
        rows *= Math.max(1, table.path("rows").asDouble(1)) * filtered / PERCENT;
        boolean isOneEach = ONE_ROW_EACH.contains(table.path("access_type").asString(""));
        stretches += isOneEach ? 0 : 1;
        isGuess |= filtered < PERCENT
                || stretches > 1
                || table.isMissingNode()
                || table.has("materialized")
                || !(isOneEach ? isUnconditional(table) : isStretch(table));
    }

    private static boolean isUnconditional(JsonNode table) {
        return !table.has("attached_condition") && !table.has("index_condition");
    }

    /** True when every condition is one that the stretch of the index is cut out by. */
    private static boolean isStretch(JsonNode table) {
        if (isUnconditional(table)) {
            return true;
        }
        Set<String> parts = new HashSet<>();
        table.path("used_key_parts").forEach(part -> parts.add(part.asString()));
        boolean isRange = table.path("access_type").asString("").equals("range")
                || table.path("access_type").asString("").equals("ref");
        return isRange
                && PlainCondition.isOn(parts, table.path("attached_condition").asString(""))
                && PlainCondition.isOn(parts, table.path("index_condition").asString(""));
    }

    private RowCount.Estimate bounded() {
        long expected = Math.round(rows);
        return isGuess
                ? new RowCount.Estimate(expected, 0, -1)
                : new RowCount.Estimate(expected, expected / FACTOR, expected * FACTOR);
    }
}
