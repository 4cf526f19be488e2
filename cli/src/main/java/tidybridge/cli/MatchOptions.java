package tidybridge.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import picocli.CommandLine.Option;
import tools.jackson.databind.JsonNode;

/** What the operations of a document mean, where it is not what was proposed. */
final class MatchOptions {

    private static final Pattern TABLE = Pattern.compile("([A-Za-z]+ /\\S*?)=(.*)");
    private static final Pattern COLUMN = Pattern.compile("([A-Za-z]+ /\\S*?): *([^=]+)=(.*)");

    @Option(
            names = "--match",
            paramLabel = "OPERATION=TABLE",
            description = "The table that an operation is about; nothing behind the sign for none. May be repeated.")
    private List<String> tables = new ArrayList<>();

    @Option(
            names = "--column",
            paramLabel = "OPERATION:FIELD=COLUMN",
            description =
                    "The column that a field or parameter means, also one of a table that is referred to, as basin.name; nothing for none. May be repeated.")
    private List<String> columns = new ArrayList<>();

    /**
     * What was said; where columns are among it, together with what is proposed for the others.
     *
     * @param made makes the text with some matches
     */
    List<Map<String, Object>> chosen(Function<List<Map<String, Object>>, JsonNode> made) {
        return columns.isEmpty() ? tables() : all(made.apply(tables()));
    }

    private List<Map<String, Object>> tables() {
        List<Map<String, Object>> said = new ArrayList<>();
        for (String table : tables) {
            Matcher matcher = TABLE.matcher(table);
            if (!matcher.matches()) {
                throw CommandFailure.mistyped("Write '" + table + "' as --match 'GET /berths=berth'.");
            }
            said.add(Map.of("operation", operation(matcher.group(1)), "table", matcher.group(2)));
        }
        return said;
    }

    private static String operation(String written) {
        int space = written.indexOf(' ');
        return written.substring(0, space).toUpperCase(Locale.ROOT) + written.substring(space);
    }

    /** The same with the columns: what was proposed, but for what was said. */
    private List<Map<String, Object>> all(JsonNode proposed) {
        Map<String, Map<String, String>> said = new LinkedHashMap<>();
        for (String column : columns) {
            Matcher matcher = COLUMN.matcher(column);
            if (!matcher.matches()) {
                throw CommandFailure.mistyped("Write '" + column + "' as --column 'GET /berths: place=berth_no'.");
            }
            said.computeIfAbsent(operation(matcher.group(1)), key -> new LinkedHashMap<>())
                    .put(matcher.group(2).strip(), matcher.group(3).strip());
        }
        List<Map<String, Object>> all = new ArrayList<>(tables());
        for (JsonNode operation : proposed.path("document").path("operations")) {
            String label = operation.path("operation").asString();
            Map<String, String> own = said.remove(label);
            if (own != null) {
                all.removeIf(known -> label.equals(known.get("operation")));
                all.add(Map.of(
                        "operation",
                        label,
                        "table",
                        operation.path("table").asString(),
                        "columns",
                        columns(operation, own)));
            }
        }
        if (!said.isEmpty()) {
            throw CommandFailure.mistyped("The document has no operation "
                    + said.keySet().iterator().next() + "; write it as the list of operations does.");
        }
        return all;
    }

    private static Map<String, String> columns(JsonNode operation, Map<String, String> own) {
        Map<String, String> columns = new LinkedHashMap<>();
        for (JsonNode name : operation.path("names")) {
            columns.put(name.path("name").asString(), name.path("column").asString());
        }
        own.forEach((name, column) -> {
            if (columns.put(name, column) == null) {
                throw CommandFailure.mistyped("The operation "
                        + operation.path("operation").asString() + " has no field or parameter '" + name + "'.");
            }
        });
        return columns;
    }
}
