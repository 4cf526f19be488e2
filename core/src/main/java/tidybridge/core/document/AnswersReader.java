package tidybridge.core.document;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.ParameterType;
import tools.jackson.databind.JsonNode;

/** Reads what a document tells of answers: which is hoped for, what it holds, and the statuses of all. */
final class AnswersReader {

    private static final Set<String> LINKS = Set.of("_links", "links");

    private final Schemas schemas;
    private final SchemaReader reader;
    private final Remarks remarks;

    AnswersReader(Schemas schemas, SchemaReader reader, Remarks remarks) {
        this.schemas = schemas;
        this.reader = reader;
        this.remarks = remarks;
    }

    /** The first media type that is JSON; null for none. */
    static @Nullable String json(JsonNode content) {
        return content.propertyNames().stream()
                .filter(name -> name.matches("(?i)(application/([\\w.-]+\\+)?json\\b.*|\\*/\\*|application/\\*)"))
                .findFirst()
                .orElse(null);
    }

    /** The hoped-for answer of an operation. */
    DocumentedAnswer of(String label, String path, JsonNode responses) {
        String status = responses.propertyNames().stream()
                .filter(name -> name.matches("2\\d\\d|2XX"))
                .sorted()
                .findFirst()
                .orElse("default");
        JsonNode response = schemas.part(responses.path(status));
        int number = status.matches("2\\d\\d") ? Integer.parseInt(status) : 200;
        JsonNode content = response.path("content");
        if (content.isEmpty() || number == 204) {
            return new DocumentedAnswer(AnswerKind.NOTHING, status.matches("2\\d\\d") ? number : 204, List.of(), null);
        }
        String media = json(content);
        if (media == null) {
            String type = content.propertyNames().iterator().next();
            return new DocumentedAnswer(AnswerKind.FILE, number, List.of(), type);
        }
        return shaped(label, path, number, content.path(media).path("schema"));
    }

    private DocumentedAnswer shaped(String label, String path, int status, JsonNode schema) {
        Schemas.Found found = schemas.meant(schema);
        ParameterType type = reader.type(found.schema());
        if (type == ParameterType.ARRAY) {
            remarks.add(label, "Its list stands by itself in the document; here rows stand in 'data', beside 'page'.");
            return rows(label, status, found.schema().path("items"));
        }
        if (type != ParameterType.OBJECT) {
            return new DocumentedAnswer(
                    AnswerKind.VALUE, status, List.of(new DocumentedField("value", reader.value(label, schema))), null);
        }
        List<String> lists = path.endsWith("}") ? List.of() : lists(found.schema());
        if (lists.size() == 1) {
            if (!lists.getFirst().equals("data")) {
                remarks.add(
                        label,
                        "Its list stands in '" + lists.getFirst()
                                + "' in the document; here rows stand in 'data', beside 'page'.");
            }
            JsonNode list = schemas.meant(found.schema().path("properties").path(lists.getFirst()))
                    .schema();
            return rows(label, status, list.path("items"));
        }
        return new DocumentedAnswer(AnswerKind.ROW, status, fields(label, schema), null);
    }

    /** The properties that are lists of objects; links to elsewhere are no rows. */
    private List<String> lists(JsonNode schema) {
        List<String> lists = new ArrayList<>();
        for (var property : schema.path("properties").properties()) {
            JsonNode found = schemas.meant(property.getValue()).schema();
            if (!LINKS.contains(property.getKey())
                    && reader.type(found) == ParameterType.ARRAY
                    && schemas.meant(found.path("items")).schema().has("properties")) {
                lists.add(property.getKey());
            }
        }
        return lists;
    }

    private DocumentedAnswer rows(String label, int status, JsonNode items) {
        return new DocumentedAnswer(AnswerKind.ROWS, status, fields(label, items), null);
    }

    private List<DocumentedField> fields(String label, JsonNode schema) {
        return reader.parts(label, schema).stream()
                .filter(part -> part.value().use() != DocumentedValue.Use.SENT)
                .map(part -> new DocumentedField(part.name(), part.value().withNull(!part.required())))
                .toList();
    }

    /** All statuses in rising order: the hoped-for one, and those of problems. */
    static List<Integer> statuses(JsonNode responses, int hoped) {
        Set<Integer> statuses = new TreeSet<>(Set.of(hoped));
        responses.propertyNames().stream()
                .filter(name -> name.matches("[45]\\d\\d"))
                .map(Integer::valueOf)
                .forEach(statuses::add);
        return List.copyOf(statuses);
    }
}
