package tidybridge.core.reference;

import static tidybridge.core.reference.OpenApi.map;
import static tidybridge.core.reference.OpenApi.reference;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import tidybridge.core.contract.OperationTerms;

/** Names the schemas of rows and pages by what they are rows of, so that typed clients have one type for one thing. Not thread-safe. */
final class RowSchemas {

    private static final String ROW = "Row";

    private final Map<String, Object> schemas;
    private final Map<Named, String> rows = new HashMap<>();

    /** Rows that are alike by chance are of different things. */
    private record Named(String tag, Map<String, Object> schema) {}

    /**
     * Names schemas.
     *
     * @param schemas takes them
     */
    RowSchemas(Map<String, Object> schemas) {
        this.schemas = schemas;
    }

    /**
     * The name of an operation's row: the same for equal rows of one resource. No two differ by upper and lower case alone.
     *
     * @param tag the resource
     */
    String row(OperationTerms operation, String tag, Map<String, Object> schema) {
        Named same = new Named(tag, schema);
        String known = rows.get(same);
        if (known != null) {
            return known;
        }
        String usual = of(operation.path());
        String name = usual.isEmpty() || isTaken(usual) ? pascal(operation.id()) : usual;
        String free = name;
        for (int number = 2; isTaken(free); number++) {
            free = name + number;
        }
        schemas.put(free + ROW, schema);
        rows.put(same, free + ROW);
        return free + ROW;
    }

    private boolean isTaken(String name) {
        return schemas.keySet().stream().anyMatch((name + ROW)::equalsIgnoreCase);
    }

    /** A page of rows of that name. */
    Map<String, Object> page(String row) {
        String name = row.substring(0, row.length() - ROW.length()) + "Page";
        schemas.put("Page", PageSchemas.page());

        schemas.put(
                name,
                map(
                        "type",
                        "object",
                        "required",
                        List.of("data", "page"),
                        "properties",
                        map(
                                "data",
                                map("type", "array", "items", reference("schemas", row)),
                                "page",
                                reference("schemas", "Page"))));
        return reference("schemas", name);
    }

    /** {@code /locks/{lockId}/readings} as {@code LocksReadings}. */
    private static String of(String path) {
        StringBuilder name = new StringBuilder();
        for (String segment : path.split("/")) {
            if (!segment.contains("{")) {
                for (String word : segment.split("[^A-Za-z0-9]+")) {
                    name.append(pascal(word));
                }
            }
        }
        return name.isEmpty() || Character.isDigit(name.charAt(0)) ? "" : name.toString();
    }

    static String pascal(String word) {
        return word.isEmpty() ? "" : Character.toUpperCase(word.charAt(0)) + word.substring(1);
    }
}
