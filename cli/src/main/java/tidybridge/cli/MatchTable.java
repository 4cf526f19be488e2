package tidybridge.cli;

import java.util.ArrayList;
import java.util.List;
import tools.jackson.databind.JsonNode;

/** What the operations of a document were taken to mean, one a line. */
final class MatchTable {

    private MatchTable() {}

    static String draw(JsonNode document) {
        List<List<String>> rows = new ArrayList<>();
        for (JsonNode operation : document.path("operations")) {
            String table = operation.path("table").asString("");
            List<String> lacking = new ArrayList<>();
            int found = 0;
            for (JsonNode name : operation.path("names")) {
                if (name.path("column").asString("").isEmpty()) {
                    lacking.add(name.path("name").asString());
                } else {
                    found++;
                }
            }
            rows.add(List.of(
                    operation.path("operation").asString(),
                    table.isEmpty() ? "to be written" : table,
                    table.isEmpty()
                            ? ""
                            : found + " of " + operation.path("names").size(),
                    table.isEmpty() ? "" : String.join(", ", lacking)));
        }
        return Table.draw(
                List.of("Operation", "Table", "Fields", "Without a column"), List.of(false, false, true, false), rows);
    }
}
