package tidybridge.core.reference;

import static tidybridge.core.reference.OpenApi.map;

import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Field;
import tidybridge.core.definition.Constraints;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.ParameterType;

/** JSON Schema 2020-12 for what travels. */
final class Schemas {

    private Schemas() {}

    static Map<String, Object> row(List<Field> fields) {
        Map<String, Object> properties = map();
        fields.forEach(field -> properties.put(field.name(), field(field)));
        return map(
                "type", "object", "required", fields.stream().map(Field::name).toList(), "properties", properties);
    }

    static Map<String, Object> field(Field field) {
        Map<String, Object> schema = switch (field.type()) {
            case INTEGER -> map("type", "integer", "format", "int64");
            case DECIMAL -> map("type", "number");
            case FLOAT -> map("type", "number", "format", "double");
            case BOOLEAN -> map("type", "boolean");
            case STRING -> map("type", "string");
            case DATE -> map("type", "string", "format", "date");
            case TIME -> map("type", "string", "format", "time-local");
            case LOCAL_DATE_TIME -> map("type", "string", "format", "date-time-local");
            case MOMENT -> map("type", "string", "format", "date-time");
            case JSON -> map();
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
        Object type = schema.get("type");
        if (field.nullable() && type != null) {
            schema.put("type", List.of(type, "null"));
        }
        return schema;
    }

    static Map<String, Object> parameter(ParameterDefinition parameter) {
        Map<String, Object> schema = switch (parameter.type()) {
            case STRING -> map("type", "string");
            case INTEGER -> map("type", "integer", "format", "int64");
            case NUMBER -> map("type", "number");
            case BOOLEAN -> map("type", "boolean");
            case DATE -> map("type", "string", "format", "date");
            case TIME -> map("type", "string", "format", "time-local");
            case DATE_TIME -> map("type", "string", "format", "date-time");
            case UUID -> map("type", "string", "format", "uuid");
        };
        Constraints limits = parameter.constraints();
        putIfSet(schema, "minimum", number(limits.minimum()));
        putIfSet(schema, "maximum", number(limits.maximum()));
        putIfSet(schema, "minLength", limits.minLength());
        putIfSet(schema, "maxLength", limits.maxLength());
        putIfSet(
                schema,
                "pattern",
                limits.pattern() == null ? null : limits.pattern().pattern());
        if (!limits.allowed().isEmpty()) {
            schema.put(
                    "enum",
                    limits.allowed().stream()
                            .map(text -> typed(parameter.type(), text))
                            .toList());
        }
        String defaultText = parameter.defaultText();
        if (defaultText != null) {
            schema.put("default", typed(parameter.type(), defaultText));
        }
        return schema;
    }

    /** A whole number is written without a point, in YAML too. */
    private static @Nullable Number number(@Nullable BigDecimal value) {
        if (value == null || value.stripTrailingZeros().scale() > 0) {
            return value;
        }
        return value.toBigInteger();
    }

    private static void putIfSet(Map<String, Object> schema, String key, @Nullable Object value) {
        if (value != null) {
            schema.put(key, value);
        }
    }

    /** A text from a definition as JSON shows it; it was checked to fit its type. */
    static Object typed(ParameterType type, String text) {
        return switch (type) {
            case INTEGER -> Long.valueOf(text);
            case NUMBER -> new BigDecimal(text);
            case BOOLEAN -> Boolean.valueOf(text);
            case STRING, DATE, TIME, DATE_TIME, UUID -> text;
        };
    }

    static Map<String, Object> page() {
        return map(
                "type", "object",
                "required", List.of("limit"),
                "properties",
                        map(
                                "limit", map("type", "integer", "description", "The size that was asked for."),
                                "next",
                                        map(
                                                "type", "string",
                                                "format", "uri-reference",
                                                "description",
                                                        "The address of the next page; absent on the last one.")));
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
                List.of("type", "title", "status", "detail"),
                "properties",
                map(
                        "type", map("type", "string", "format", "uri-reference"),
                        "title", map("type", "string"),
                        "status", map("type", "integer"),
                        "detail", map("type", "string"),
                        "errors", map("type", "array", "items", error)));
    }
}
