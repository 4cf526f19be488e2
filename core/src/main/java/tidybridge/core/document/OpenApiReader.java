package tidybridge.core.document;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.In;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.route.PathTemplate;
import tidybridge.core.text.Written;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.MissingNode;

/** Reads one OpenAPI document of the versions 3.0 and 3.1. Used once. */
final class OpenApiReader {

    private static final Map<String, Method> METHODS = Map.of(
            "get", Method.GET, "post", Method.POST, "put", Method.PUT, "patch", Method.PATCH, "delete", Method.DELETE);
    private static final Set<String> OTHER_METHODS = Set.of("head", "options", "trace");

    /** Header fields that the service understands for every operation. */
    private static final Set<String> KNOWN_FIELDS = Set.of(
            "accept",
            "authorization",
            "content-type",
            "if-match",
            "if-none-match",
            "if-modified-since",
            "if-unmodified-since",
            "idempotency-key",
            "prefer");

    /** What lists are paged and sorted by elsewhere; here it is done for all of them in the same way. */
    private static final Set<String> PAGING = Set.of(
            "limit",
            "offset",
            "page",
            "pagesize",
            "perpage",
            "pagenumber",
            "cursor",
            "after",
            "skip",
            "top",
            "size",
            "sort",
            "orderby",
            "fields");

    private final JsonNode document;
    private final Remarks remarks;
    private final Schemas schemas;
    private final SchemaReader reader;
    private final AnswersReader answers;
    private final Set<String> ids = new HashSet<>();

    OpenApiReader(JsonNode document, Remarks remarks) {
        this.document = document;
        this.remarks = remarks;
        this.schemas = new Schemas(document, remarks);
        this.reader = new SchemaReader(schemas, remarks);
        this.answers = new AnswersReader(schemas, reader, remarks);
    }

    DocumentedApi read() throws UnreadableDocument {
        checkVersion();
        try {
            List<DocumentedOperation> operations = operations();
            if (operations.isEmpty()) {
                throw new UnreadableDocument("The document has no path with an operation that can be made here.");
            }
            for (String part : List.of("webhooks", "callbacks")) {
                if (document.has(part)) {
                    remarks.add(part, "They are calls from the service to others, and are not drafted.");
                }
            }
            return new DocumentedApi(
                    document.path("info").path("title").asString("").strip(), operations, remarks.all());
        } catch (Schemas.TooMuch e) {
            throw new UnreadableDocument(
                    "The document refers to itself so often that it was given up; leave out what is not needed.");
        }
    }

    private void checkVersion() throws UnreadableDocument {
        String version = document.path("openapi").isNumber()
                ? document.path("openapi").decimalValue().toPlainString()
                : document.path("openapi").asString("");
        if (version.startsWith("3.0") || version.startsWith("3.1")) {
            return;
        }
        throw new UnreadableDocument(
                document.has("swagger")
                        ? "The document is of version 2 of OpenAPI; convert it to 3.0 or 3.1 first."
                        : version.isEmpty()
                                ? "The document is no OpenAPI document: it has no 'openapi: 3.1.0' at its top."
                                : "The document says a version of OpenAPI that is not read here; 3.0 and 3.1 are.");
    }

    private List<DocumentedOperation> operations() {
        List<DocumentedOperation> operations = new ArrayList<>();
        for (var path : document.path("paths").properties()) {
            JsonNode item = schemas.part(path.getValue());
            for (var entry : item.properties()) {
                Method method = METHODS.get(entry.getKey());
                if (OTHER_METHODS.contains(entry.getKey())) {
                    remarks.add(
                            entry.getKey().toUpperCase(Locale.ROOT) + " " + path.getKey(),
                            "The service answers this method by itself, or not at all.");
                } else if (method != null && entry.getValue().isObject()) {
                    if (operations.size() == DocumentedApi.MOST_OPERATIONS) {
                        remarks.add(
                                "document",
                                "It has more than " + DocumentedApi.MOST_OPERATIONS
                                        + " operations; the others were left out.");
                        return operations;
                    }
                    DocumentedOperation operation = operation(method, path.getKey(), item, entry.getValue());
                    if (operation != null) {
                        operations.add(operation);
                    }
                }
            }
        }
        return operations;
    }

    private @Nullable DocumentedOperation operation(Method method, String written, JsonNode item, JsonNode operation) {
        String label = method + " " + written;
        Map<String, String> renamed = new HashMap<>();
        String path = path(label, written, renamed);
        if (path == null) {
            return null;
        }
        Map<String, DocumentedInput> inputs = new LinkedHashMap<>();
        PathTemplate.parse(path).placeholders().forEach(name -> inputs.put("path " + name, placeholder(name)));
        DocumentedAnswer answer = answers.of(label, path, operation.path("responses"));
        List<String> left = new ArrayList<>();
        for (JsonNode parameters : List.of(item.path("parameters"), operation.path("parameters"))) {
            for (JsonNode parameter : parameters) {
                input(label, schemas.part(parameter), renamed, answer, inputs, left);
            }
        }
        if (!left.isEmpty()) {
            remarks.add(
                    label,
                    "Left out: " + String.join(", ", left)
                            + ". Pages are asked for with 'limit' and 'after' here, and orders with 'sort' where the text allows them.");
        }
        List<DocumentedInput> all = new ArrayList<>(inputs.values());
        body(label, method, schemas.part(operation.path("requestBody")), all);
        return new DocumentedOperation(
                method,
                path,
                id(label, operation.path("operationId").asString("")),
                about(operation),
                operation.path("deprecated").asBoolean(false),
                all,
                answer,
                AnswersReader.statuses(operation.path("responses"), answer.status()));
    }

    /** A path that a route can have; null, with a remark, for one that it cannot. */
    private @Nullable String path(String label, String written, Map<String, String> renamed) {
        StringBuilder path = new StringBuilder();
        String bare =
                written.length() > 1 && written.endsWith("/") ? written.substring(0, written.length() - 1) : written;
        int at = 0;
        for (int open = bare.indexOf('{'); open >= 0; open = bare.indexOf('{', at)) {
            int close = bare.indexOf('}', open);
            if (close < 0) {
                break;
            }
            String name = bare.substring(open + 1, close);
            String plain = name.replaceAll("[^A-Za-z0-9_]+", "_").replaceFirst("^(?=\\d|$)", "p");
            renamed.put(name, plain);
            path.append(bare, at, open).append('{').append(plain).append('}');
            at = close + 1;
        }
        path.append(bare.substring(at));
        try {
            return PathTemplate.parse(path.toString()).text();
        } catch (IllegalArgumentException e) {
            remarks.add(label, "No route can have this path: " + e.getMessage() + ".");
            return null;
        }
    }

    private static DocumentedInput placeholder(String name) {
        return new DocumentedInput(
                name,
                In.PATH,
                "",
                new DocumentedValue(
                        ParameterType.STRING,
                        new Written.Keys(List.of()),
                        false,
                        "",
                        null,
                        null,
                        DocumentedValue.Use.BOTH),
                true,
                null);
    }

    private void input(
            String label,
            JsonNode parameter,
            Map<String, String> renamed,
            DocumentedAnswer answer,
            Map<String, DocumentedInput> inputs,
            List<String> left) {
        String name = parameter.path("name").asString("");
        In in = switch (parameter.path("in").asString("")) {
            case "path" -> In.PATH;
            case "query" -> In.QUERY;
            case "header" -> In.HEADER;
            case "cookie" -> In.COOKIE;
            default -> null;
        };
        if (in == null || name.isEmpty() || name.length() > 100) {
            return;
        }
        if (in == In.HEADER && KNOWN_FIELDS.contains(name.toLowerCase(Locale.ROOT))) {
            return;
        }
        JsonNode schema = parameter.has("schema") ? parameter.path("schema") : firstSchema(parameter.path("content"));
        DocumentedValue value = reader.value(label, schema.isMissingNode() ? textSchema() : schema);
        boolean paging = PAGING.contains(name.toLowerCase(Locale.ROOT).replaceAll("[^a-z]", ""))
                && (value.type() == ParameterType.INTEGER || value.type() == ParameterType.STRING);
        if (in == In.QUERY && answer.kind() == AnswerKind.ROWS && paging) {
            left.add(name);
            return;
        }
        String about = SchemaReader.about(parameter);
        var example = SchemaReader.example(parameter.path("example"), value.type());
        value = new DocumentedValue(
                value.type(),
                value.limits(),
                false,
                about.isEmpty() ? value.about() : about,
                example == null ? value.example() : example,
                value.items(),
                value.use());
        String known = in == In.PATH ? renamed.getOrDefault(name, name) : name;
        if (in == In.PATH && !inputs.containsKey("path " + known)) {
            remarks.add(label, "The parameter '" + name + "' has no place in the path; it was left out.");
            return;
        }
        inputs.put(
                parameter.path("in").asString("") + " " + known,
                new DocumentedInput(
                        known,
                        in,
                        "",
                        value,
                        in == In.PATH || parameter.path("required").asBoolean(false),
                        SchemaReader.example(schemas.meant(schema).schema().path("default"), value.type())));
    }

    private static JsonNode textSchema() {
        return JsonNodeFactory.instance.objectNode().put("type", "string");
    }

    private static JsonNode firstSchema(JsonNode content) {
        return content.valueStream()
                .map(media -> media.path("schema"))
                .findFirst()
                .orElse(MissingNode.getInstance());
    }

    private void body(String label, Method method, JsonNode body, List<DocumentedInput> inputs) {
        JsonNode content = body.path("content");
        if (content.isEmpty()) {
            return;
        }
        if (method == Method.GET || method == Method.DELETE) {
            remarks.add(label, "A body of " + method + " is not read here; its parts were left out.");
            return;
        }
        String media = AnswersReader.json(content);
        boolean form = media == null && content.has("application/x-www-form-urlencoded");
        if (media == null && !form) {
            remarks.add(label, "Its body is neither JSON nor a form; it was left out.");
            return;
        }
        JsonNode schema = content.path(form ? "application/x-www-form-urlencoded" : String.valueOf(media))
                .path("schema");
        boolean required = body.path("required").asBoolean(false);
        List<SchemaReader.Part> parts = reader.parts(label, schema);
        for (SchemaReader.Part part : parts) {
            if (part.value().use() != DocumentedValue.Use.SHOWN) {
                inputs.add(new DocumentedInput(
                        part.name(),
                        form ? In.FORM : In.BODY,
                        form ? "" : part.pointer(),
                        form ? part.value().withoutNull() : part.value(),
                        part.required() && required,
                        null));
            }
        }
        if (parts.isEmpty() && !schema.isMissingNode() && !form) {
            inputs.add(new DocumentedInput("", In.BODY, "", reader.value(label, schema), required, null));
        }
    }

    private @Nullable String id(String label, String written) {
        if (written.isEmpty()) {
            return null;
        }
        if (!written.matches("[A-Za-z][A-Za-z0-9_]{0,99}") || !ids.add(written)) {
            remarks.add(
                    label,
                    "Its operationId is no name that every programming language takes, or is there twice; it was left out.");
            return null;
        }
        return written;
    }

    private static String about(JsonNode operation) {
        String summary = operation.path("summary").asString("").strip().replaceAll("\\s+", " ");
        return summary.isEmpty() || summary.length() > 300 ? SchemaReader.about(operation) : summary;
    }
}
