package tidybridge.core.document;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** Makes of a sample of rows the document that would describe them: the fields of all rows, each with the type that all of its values have. */
final class SampleReader {

    private static final int MOST_ROWS = 10_000;
    private static final Pattern DATE = Pattern.compile("\\d{4}-\\d\\d-\\d\\d");
    private static final Pattern MOMENT =
            Pattern.compile("\\d{4}-\\d\\d-\\d\\d[Tt]\\d\\d:\\d\\d(:\\d\\d(\\.\\d+)?)?([Zz]|[+-]\\d\\d:?\\d\\d)");
    private static final Pattern LOCAL = Pattern.compile("\\d{4}-\\d\\d-\\d\\d[Tt ]\\d\\d:\\d\\d(:\\d\\d(\\.\\d+)?)?");
    private static final Pattern TIME = Pattern.compile("\\d\\d:\\d\\d:\\d\\d(\\.\\d+)?");
    private static final Pattern UUID =
            Pattern.compile("(?i)[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}");
    private static final Map<String, Pattern> FORMATS = new LinkedHashMap<>();

    static {
        FORMATS.put("date", DATE);
        FORMATS.put("date-time", MOMENT);
        FORMATS.put("date-time-local", LOCAL);
        FORMATS.put("time", TIME);
        FORMATS.put("uuid", UUID);
    }

    private static final JsonNodeFactory NODES = JsonNodeFactory.instance;

    private final Remarks remarks;
    private final String path;

    SampleReader(Remarks remarks, String path) {
        this.remarks = remarks;
        this.path = path;
    }

    /** The document: one path that answers with these rows. */
    ObjectNode document(JsonNode sample) throws UnreadableDocument {
        ObjectNode rows = NODES.objectNode().put("type", "array");
        rows.set("items", schema("", rows(sample)));
        ObjectNode envelope = NODES.objectNode().put("type", "object");
        envelope.putObject("properties").set("data", rows);
        ObjectNode document = NODES.objectNode().put("openapi", "3.1.0");
        ObjectNode operation = document.putObject("paths").putObject(path).putObject("get");
        operation.put("summary", "Rows");
        operation
                .putObject("responses")
                .putObject("200")
                .putObject("content")
                .putObject("application/json")
                .set("schema", envelope);
        return document;
    }

    private List<JsonNode> rows(JsonNode sample) throws UnreadableDocument {
        JsonNode list = sample;
        if (sample.isObject()) {
            var lists = sample.properties().stream()
                    .filter(property -> property.getValue().isArray()
                            && property.getValue().path(0).isObject())
                    .toList();
            boolean only = lists.size() == 1
                    && sample.properties().stream()
                            .allMatch(property -> property.getValue().isContainer() || sample.size() <= 4);
            if (!only) {
                return List.of(sample);
            }
            list = lists.getFirst().getValue();
            remarks.add(
                    "sample",
                    "Its rows are taken from '" + lists.getFirst().getKey() + "'; here rows stand in 'data'.");
        }
        List<JsonNode> rows = list.valueStream().filter(JsonNode::isObject).toList();
        if (rows.isEmpty()) {
            throw new UnreadableDocument(
                    "The sample holds no row: it must be an object, or a list of objects, in JSON.");
        }
        if (rows.size() < list.size()) {
            remarks.add(
                    "sample",
                    "It has " + (list.size() - rows.size()) + " rows that are no objects; they were left out.");
        }
        if (rows.size() > MOST_ROWS) {
            remarks.add("sample", "Types are told from its first " + MOST_ROWS + " rows.");
        }
        return rows.subList(0, Math.min(rows.size(), MOST_ROWS));
    }

    /** What describes all of some values; null among them makes it nullable. */
    private ObjectNode schema(String name, List<JsonNode> values) {
        ObjectNode schema = NODES.objectNode();
        List<JsonNode> said = values.stream().filter(value -> !value.isNull()).toList();
        Set<String> kinds = new LinkedHashSet<>();
        said.forEach(value -> kinds.add(kind(value)));
        if (kinds.contains("number")) {
            kinds.remove("integer");
        }
        if (kinds.size() > 1) {
            remarks.add(
                    "sample",
                    "The field '" + name + "' is " + String.join(" here and ", kinds)
                            + " there; it is taken as a string. Say which is meant.");
        }
        String type = kinds.size() == 1 ? kinds.iterator().next() : "string";
        schema.put("type", type);
        if (said.size() < values.size()) {
            schema.put("nullable", true);
        }
        if (said.isEmpty()) {
            remarks.add("sample", "The field '" + name + "' has no value in any row; it is taken as a string.");
        } else if (kinds.size() == 1) {
            switch (type) {
                case "object" -> fields(name, said, schema);
                case "array" ->
                    schema.set(
                            "items",
                            schema(
                                    name,
                                    said.stream()
                                            .flatMap(JsonNode::valueStream)
                                            .limit(MOST_ROWS)
                                            .toList()));
                case "string" -> format(said, schema);
                default -> {}
            }
            if (!said.getFirst().isContainer()) {
                schema.set("example", said.getFirst());
            }
        }
        return schema;
    }

    private void fields(String above, List<JsonNode> objects, ObjectNode schema) {
        Map<String, List<JsonNode>> values = new LinkedHashMap<>();
        objects.forEach(object -> object.properties()
                .forEach(property -> values.computeIfAbsent(property.getKey(), key -> new ArrayList<>())
                        .add(property.getValue())));
        ObjectNode properties = schema.putObject("properties");
        var required = schema.putArray("required");
        values.forEach((name, found) -> {
            properties.set(name, schema(above.isEmpty() ? name : above + "." + name, found));
            if (found.size() == objects.size()) {
                required.add(name);
            }
        });
    }

    private static void format(List<JsonNode> texts, ObjectNode schema) {
        FORMATS.entrySet().stream()
                .filter(format -> texts.stream()
                        .allMatch(text ->
                                format.getValue().matcher(text.asString("")).matches()))
                .findFirst()
                .ifPresent(format -> schema.put("format", format.getKey()));
    }

    private static String kind(JsonNode value) {
        return value.isObject()
                ? "object"
                : value.isArray()
                        ? "array"
                        : value.isBoolean()
                                ? "boolean"
                                : value.isIntegralNumber() ? "integer" : value.isNumber() ? "number" : "string";
    }
}
