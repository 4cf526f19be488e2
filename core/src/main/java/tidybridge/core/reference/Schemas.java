package tidybridge.core.reference;

import static tidybridge.core.reference.OpenApi.map;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.AnswerTerms;
import tidybridge.core.contract.BodyTerms;
import tidybridge.core.contract.ExampleValue;
import tidybridge.core.contract.FieldTerms;
import tidybridge.core.contract.InputTerms;
import tidybridge.core.contract.LimitTerms;
import tidybridge.core.contract.ListTerms;
import tidybridge.core.definition.BatchRule;
import tidybridge.core.definition.ParameterType;

/** JSON Schema 2020-12 for what travels. */
final class Schemas {

    private Schemas() {}

    static Map<String, Object> row(List<FieldTerms> fields) {
        Map<String, Object> root = object();
        for (FieldTerms field : fields) {
            Map<String, Object> at = root;
            List<String> path = field.path();
            for (String name : path.subList(0, path.size() - 1)) {
                at = inside(at, name);
            }
            required(at).add(path.getLast());
            properties(at).put(path.getLast(), field(field));
        }
        settleNested(root, "", fields);
        return root;
    }

    /** Makes a row one of which callers may choose fields: none must be there. */
    static void chosen(Map<String, Object> row) {
        row.remove("required");
        for (Object property : properties(row).values()) {
            if (property instanceof Map<?, ?> nested && nested.containsKey("properties")) {
                @SuppressWarnings("unchecked")
                Map<String, Object> object = (Map<String, Object>) nested;
                chosen(object);
            }
        }
    }

    private static Map<String, Object> object() {
        return map("type", "object", "required", new ArrayList<String>(), "properties", map());
    }

    @SuppressWarnings("unchecked")
    private static List<String> required(Map<String, Object> schema) {
        return (List<String>) schema.computeIfAbsent("required", key -> new ArrayList<String>());
    }

    @SuppressWarnings("unchecked")
    private static Map<String, Object> properties(Map<String, Object> schema) {
        return (Map<String, Object>) schema.computeIfAbsent("properties", key -> map());
    }

    @SuppressWarnings("unchecked")
    private static Map<String, Object> inside(Map<String, Object> schema, String name) {
        if (!properties(schema).containsKey(name)) {
            required(schema).add(name);
        }
        return (Map<String, Object>) properties(schema).computeIfAbsent(name, key -> object());
    }

    /** An object whose fields may all be null is null when they are. */
    @SuppressWarnings("unchecked")
    private static void settleNested(Map<String, Object> schema, String prefix, List<FieldTerms> fields) {
        properties(schema).forEach((name, property) -> {
            Map<String, Object> nested = (Map<String, Object>) property;
            String path = prefix + name + ".";
            List<FieldTerms> below = fields.stream()
                    .filter(field -> field.name().startsWith(path))
                    .toList();
            if (!below.isEmpty()) {
                settleNested(nested, path, fields);
                if (below.stream().allMatch(FieldTerms::nullable)) {
                    nested.put("type", List.of("object", "null"));
                }
            }
        });
    }

    static Map<String, Object> field(FieldTerms field) {
        Map<String, Object> schema = typed(field);
        Object type = schema.get("type");
        List<Object> members = new ArrayList<>(field.members());
        if (field.nullable() && type != null) {
            schema.put("type", List.of(type, "null"));
            members.add(null);
        }
        if (!field.members().isEmpty()) {
            schema.put("enum", members);
        }
        String about = field.about() == null ? "" : field.about();
        if (field.mask() != null) {
            String unless = field.unless();
            String masked = "Masked" + (unless == null ? "." : " for callers without the privilege " + unless + ".");
            about = about.isEmpty() ? masked : about + (about.endsWith(".") ? " " : ". ") + masked;
        }
        String described = OpenApi.described(about.isEmpty() ? null : about, field.deprecated());
        if (described != null) {
            schema.put("description", described);
        }
        if (field.deprecated() != null) {
            schema.put("deprecated", true);
        }
        if (field.example() != null) {
            schema.put("examples", List.of(field.example()));
        }
        return schema;
    }

    private static Map<String, Object> typed(FieldTerms field) {
        return field.asText() ? map("type", "string", "pattern", "^-?[0-9.eE+-]+$") : ofColumn(field);
    }

    private static Map<String, Object> ofColumn(FieldTerms field) {
        return switch (field.type()) {
            case INTEGER -> map("type", "integer", "format", "int64");
            case DECIMAL -> map("type", "number");
            case FLOAT -> map("type", "number", "format", "double");
            case BOOLEAN -> map("type", "boolean");
            case STRING -> map("type", "string");
            case DATE -> map("type", "string", "format", "date");
            case TIME -> map("type", "string", "format", "time-local");
            case LOCAL_DATE_TIME -> map("type", "string", "format", "date-time-local");
            case MOMENT -> map("type", "string", "format", "date-time");
            case JSON -> OpenApi.reference("schemas", "Json");
            case BINARY -> map("type", "string", "contentEncoding", "base64");
            case BITS -> map("type", "integer", "minimum", 0);
            case GEOMETRY ->
                map(
                        "type",
                        "object",
                        "description",
                        "GeoJSON of RFC 7946.",
                        "required",
                        List.of("type"),
                        "properties",
                        map("type", map("type", "string")));
        };
    }

    /** What a parameter may be. */
    static Map<String, Object> parameter(InputTerms parameter) {
        ListTerms list = parameter.list();
        Map<String, Object> schema = list == null
                ? limited(parameter.type(), parameter.limits())
                : map("type", "array", "items", limited(list.type(), list.limits()));
        if (list != null) {
            putIfSet(schema, "minItems", list.minItems() == 0 ? null : list.minItems());
            schema.put("maxItems", list.maxItems());
            putIfSet(schema, "uniqueItems", list.unique() ? Boolean.TRUE : null);
        }
        String usual = parameter.usual();
        if (usual != null) {
            schema.put("default", ExampleValue.typed(parameter.type(), usual));
        }
        if (parameter.nullable()) {
            schema.put("type", List.of(String.valueOf(schema.get("type")), "null"));
        }
        return schema;
    }

    private static Map<String, Object> limited(ParameterType type, LimitTerms limits) {
        Map<String, Object> schema = bare(type);
        BigDecimal most = limits.maximum();
        if (most != null && most.compareTo(BigDecimal.valueOf(Long.MAX_VALUE)) > 0) {
            schema.remove("format", "int64");
        }
        putIfSet(schema, "minimum", number(limits.minimum()));
        putIfSet(schema, "maximum", number(limits.maximum()));
        putIfSet(schema, "exclusiveMinimum", number(limits.exclusiveMinimum()));
        putIfSet(schema, "exclusiveMaximum", number(limits.exclusiveMaximum()));
        putIfSet(schema, "multipleOf", number(limits.multipleOf()));
        putIfSet(schema, "minLength", limits.minLength());
        putIfSet(schema, "maxLength", limits.maxLength());
        putIfSet(schema, "pattern", limits.pattern());
        if (!limits.allowed().isEmpty()) {
            schema.put(
                    "enum",
                    limits.allowed().stream()
                            .map(text -> ExampleValue.typed(type, text))
                            .toList());
        }
        return schema;
    }

    private static Map<String, Object> bare(ParameterType type) {
        return switch (type) {
            case STRING -> map("type", "string");
            case INTEGER -> map("type", "integer", "format", "int64");
            case NUMBER -> map("type", "number");
            case BOOLEAN -> map("type", "boolean");
            case DATE -> map("type", "string", "format", "date");
            case TIME -> map("type", "string", "format", "time-local");
            case DATE_TIME -> map("type", "string", "format", "date-time");
            case DATE_TIME_LOCAL -> map("type", "string", "format", "date-time-local");
            case UUID -> map("type", "string", "format", "uuid");
            case EMAIL -> map("type", "string", "format", "email");
            case BYTE -> map("type", "string", "contentEncoding", "base64");
            case ARRAY -> map("type", "array");
            case OBJECT -> map("type", "object");
        };
    }

    private static @Nullable Number number(@Nullable BigDecimal value) {
        return value == null ? null : ExampleValue.plain(value);
    }

    private static void putIfSet(Map<String, Object> schema, String key, @Nullable Object value) {
        if (value != null) {
            schema.put(key, value);
        }
    }

    /** What a JSON column holds. */
    static Map<String, Object> json() {
        return map(
                "description",
                "Any JSON value.",
                "type",
                List.of("object", "array", "string", "number", "boolean", "null"),
                "items",
                map());
    }

    /** An answer, or what is told in its place with {@code preview=count}, in one flat object: typed clients know no choice. */
    @SuppressWarnings("unchecked")
    static Map<String, Object> orPreview(Map<String, Object> answer) {
        Map<String, Object> preview = preview();
        Map<String, Object> properties = map();
        ((Map<String, Object>) answer.getOrDefault("properties", map())).forEach(properties::put);
        ((Map<String, Object>) preview.getOrDefault("properties", map())).forEach(properties::putIfAbsent);
        return map(
                "type",
                "object",
                "description",
                "What was done; with preview=count in its place 'matching', 'most' and 'allowed': how many rows would be changed, and whether that is allowed at once.",
                "properties",
                properties);
    }

    private static Map<String, Object> preview() {
        return map(
                "type",
                "object",
                "properties",
                map(
                        "matching", map("type", "integer", "minimum", 0),
                        "most", map("type", "integer"),
                        "allowed", map("type", "boolean")));
    }

    /** What a batch answers: counts, and for rows on their own what became of each. */
    static Map<String, Object> batch(BodyTerms.BatchTerms batch) {
        Map<String, Object> count = map("type", "integer", "minimum", 0);
        if (batch.outcome() == BatchRule.Outcome.TOGETHER) {
            return map("type", "object", "required", List.of("changed"), "properties", map("changed", count));
        }
        Map<String, Object> row = map(
                "type",
                "object",
                "required",
                List.of("index", "status"),
                "properties",
                map(
                        "index", count,
                        "status", map("type", "integer"),
                        "changed", count,
                        "key", map("type", "integer"),
                        "problem", OpenApi.reference("schemas", "Problem")));
        return map(
                "type", "object",
                "required", List.of("data", "changed", "refused"),
                "properties", map("data", map("type", "array", "items", row), "changed", count, "refused", count));
    }

    /** A procedure's result sets are described by their names alone: only running it tells their columns. */
    @SuppressWarnings("unchecked")
    static Map<String, Object> withResults(Map<String, Object> row, List<AnswerTerms.ResultTerms> results) {
        if (results.isEmpty()) {
            return row;
        }
        Map<String, Object> properties = (Map<String, Object>) row.computeIfAbsent("properties", key -> map());
        for (AnswerTerms.ResultTerms named : results) {
            properties.put(
                    named.name(),
                    named.single()
                            ? map("type", List.of("object", "null"))
                            : map("type", "array", "items", map("type", "object")));
        }
        return row;
    }

    static Map<String, Object> problem() {
        Map<String, Object> error = map(
                "type", "object",
                "required", List.of("in", "detail"),
                "properties",
                        map(
                                "parameter", map("type", "string"),
                                "pointer", map("type", "string", "format", "json-pointer"),
                                "in", map("type", "string"),
                                "detail", map("type", "string")));
        return map(
                "type",
                "object",
                "description",
                "A problem document of RFC 9457.",
                "required",
                List.of("type", "title", "status", "detail", "code"),
                "properties",
                map(
                        "type", map("type", "string", "format", "uri-reference"),
                        "title", map("type", "string"),
                        "status", map("type", "integer"),
                        "detail", map("type", "string"),
                        "code", map("type", "string", "description", "What programs know the problem by."),
                        "requestId", map("type", "string", "description", "What the request is called in logs."),
                        "errors", map("type", "array", "items", error)));
    }
}
