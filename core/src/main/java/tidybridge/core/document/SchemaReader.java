package tidybridge.core.document;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.pattern.TextPattern;
import tidybridge.core.text.Written;
import tools.jackson.databind.JsonNode;

/** Reads schemas into values, and those of objects into fields with dotted names. */
final class SchemaReader {

    private static final int MOST_FIELDS = 500;
    private static final int DEEPEST = 8;
    private static final int MOST_CHOICES = 200;
    private static final int MOST_DIGITS = 100;
    private static final int LONGEST_TEXT = 1_000_000;
    private static final int LONGEST_ABOUT = 300;
    private static final Pattern NAME = Pattern.compile("[\\p{L}_][\\p{L}\\p{N}_$-]{0,99}");

    private final Schemas schemas;
    private final Remarks remarks;

    SchemaReader(Schemas schemas, Remarks remarks) {
        this.schemas = schemas;
        this.remarks = remarks;
    }

    /** One field, where it stands in its object, and whether it is always there. */
    record Part(String name, String pointer, DocumentedValue value, boolean required) {}

    /** The parts of an object, those of objects in it under dotted names; empty for what is no object with named parts. */
    List<Part> parts(String subject, JsonNode schema) {
        List<Part> parts = new ArrayList<>();
        Schemas.Found found = schemas.meant(schema);
        collect(subject, found, new Above("", "", true, false, use(found.schema()), found.through(), 0), parts);
        return parts;
    }

    private record Above(
            String name,
            String pointer,
            boolean required,
            boolean nullable,
            DocumentedValue.Use use,
            Set<String> through,
            int depth) {}

    private void collect(String subject, Schemas.Found object, Above above, List<Part> parts) {
        Set<String> required = new HashSet<>();
        object.schema().path("required").forEach(name -> required.add(name.asString("")));
        for (var property : object.schema().path("properties").properties()) {
            String name = property.getKey();
            if (!NAME.matcher(name).matches()) {
                remarks.add(
                        subject,
                        "The field '" + (name.length() > 60 ? name.substring(0, 60) + "..." : name)
                                + "' has a name that no field can have here; it was left out.");
                continue;
            }
            if (parts.size() >= MOST_FIELDS) {
                remarks.add(subject, "It has more than " + MOST_FIELDS + " fields; the others were left out.");
                return;
            }
            Schemas.Found found = schemas.meant(property.getValue());
            boolean always = above.required() && required.contains(name);
            boolean nullable = above.nullable() || found.nullable();
            String dotted = above.name() + name;
            String pointer = above.pointer() + "/" + name.replace("~", "~0").replace("/", "~1");
            DocumentedValue.Use use = above.use() == DocumentedValue.Use.BOTH ? use(found.schema()) : above.use();
            boolean known = found.through().stream().anyMatch(above.through()::contains);
            boolean nested = found.schema().path("properties").isObject()
                    && !found.schema().path("properties").isEmpty();
            if (nested && !known && above.depth() < DEEPEST) {
                Set<String> through = new HashSet<>(above.through());
                through.addAll(found.through());
                collect(
                        subject,
                        found,
                        new Above(dotted + ".", pointer, always, nullable || !always, use, through, above.depth() + 1),
                        parts);
            } else {
                if (nested) {
                    remarks.add(
                            subject,
                            "The field '" + dotted + "' nests further than a row can; it is taken as one object.");
                }
                parts.add(new Part(
                        dotted,
                        pointer,
                        value(subject, found).withNull(nullable).used(use),
                        always));
            }
        }
    }

    DocumentedValue value(String subject, JsonNode schema) {
        Schemas.Found found = schemas.meant(schema);
        return value(subject, found).withNull(found.nullable());
    }

    private DocumentedValue value(String subject, Schemas.Found found) {
        JsonNode schema = found.schema();
        ParameterType type = type(schema);
        Written.Collector limits = new Written.Collector();
        switch (type) {
            case INTEGER, NUMBER -> numbers(schema, limits);
            case STRING -> texts(subject, schema, limits);
            case EMAIL, BYTE -> lengths(schema, limits);
            case ARRAY -> {
                count(schema, limits, "minItems");
                count(schema, limits, "maxItems");
                if (schema.path("uniqueItems").asBoolean(false)) {
                    limits.flag("uniqueItems");
                }
            }
            case BOOLEAN, DATE, TIME, DATE_TIME, DATE_TIME_LOCAL, UUID, OBJECT -> {}
        }
        return new DocumentedValue(
                type,
                limits.keys(),
                found.nullable(),
                about(schema),
                exampleOf(schema, type),
                type == ParameterType.ARRAY ? items(subject, schema, found) : null,
                use(schema));
    }

    private @Nullable DocumentedValue items(String subject, JsonNode schema, Schemas.Found list) {
        if (!schema.path("items").isObject()) {
            return null;
        }
        Schemas.Found found = schemas.meant(schema.path("items"));
        boolean known = found.through().stream().anyMatch(list.through()::contains);
        ParameterType type = type(found.schema());
        // a list within a list, and one of objects, is bound as JSON as a whole
        return known || type == ParameterType.ARRAY || type == ParameterType.OBJECT ? null : value(subject, found);
    }

    private static DocumentedValue.Use use(JsonNode schema) {
        return schema.path("readOnly").asBoolean(false)
                ? DocumentedValue.Use.SHOWN
                : schema.path("writeOnly").asBoolean(false) ? DocumentedValue.Use.SENT : DocumentedValue.Use.BOTH;
    }

    ParameterType type(JsonNode schema) {
        String type = word(schema);
        return switch (type) {
            case "integer" -> ParameterType.INTEGER;
            case "number" -> ParameterType.NUMBER;
            case "boolean" -> ParameterType.BOOLEAN;
            case "array" -> ParameterType.ARRAY;
            case "string" ->
                switch (schema.path("format").asString("")) {
                    case "date" -> ParameterType.DATE;
                    case "date-time" -> ParameterType.DATE_TIME;
                    case "date-time-local" -> ParameterType.DATE_TIME_LOCAL;
                    case "time" -> ParameterType.TIME;
                    case "uuid" -> ParameterType.UUID;
                    case "email" -> ParameterType.EMAIL;
                    case "byte", "binary" -> ParameterType.BYTE;
                    default -> ParameterType.STRING;
                };
            default -> ParameterType.OBJECT;
        };
    }

    private static String word(JsonNode schema) {
        JsonNode type = schema.path("type");
        if (type.isString()) {
            return type.asString();
        }
        if (type.isArray()) {
            return type.valueStream()
                    .map(one -> one.asString(""))
                    .filter(one -> !one.equals("null"))
                    .findFirst()
                    .orElse("object");
        }
        JsonNode sample =
                schema.has("const") ? schema.path("const") : schema.path("enum").path(0);
        boolean text = sample.isString() || schema.has("format") || schema.has("pattern") || schema.has("maxLength");
        boolean number = sample.isNumber() || schema.has("minimum") || schema.has("maximum");
        return text
                ? "string"
                : number
                        ? sample.isIntegralNumber() ? "integer" : "number"
                        : sample.isBoolean() ? "boolean" : schema.has("items") ? "array" : "object";
    }

    private static void numbers(JsonNode schema, Written.Collector limits) {
        bound(schema, limits, "minimum", "exclusiveMinimum");
        bound(schema, limits, "maximum", "exclusiveMaximum");
        BigDecimal step = number(schema.path("multipleOf"));
        if (step != null && step.signum() > 0) {
            limits.put("multipleOf", Written.typed(plain(step)));
        }
    }

    /** In OpenAPI 3.0 {@code exclusiveMinimum} is a flag beside {@code minimum}, later it is a number of its own. */
    private static void bound(JsonNode schema, Written.Collector limits, String including, String excluding) {
        BigDecimal bound = number(schema.path(including));
        BigDecimal beyond = number(schema.path(excluding));
        if (bound != null) {
            boolean exclusive =
                    schema.path(excluding).isBoolean() && schema.path(excluding).booleanValue();
            limits.put(exclusive ? excluding : including, Written.typed(plain(bound)));
        } else if (beyond != null) {
            limits.put(excluding, Written.typed(plain(beyond)));
        }
    }

    /** A number that can be written out; null for everything else. */
    private static @Nullable BigDecimal number(JsonNode node) {
        if (!node.isNumber()) {
            return null;
        }
        BigDecimal number = node.decimalValue();
        return Math.abs((long) number.scale()) + number.precision() > MOST_DIGITS ? null : number;
    }

    private static String plain(BigDecimal number) {
        return number.signum() == 0 ? "0" : number.stripTrailingZeros().toPlainString();
    }

    private void texts(String subject, JsonNode schema, Written.Collector limits) {
        lengths(schema, limits);
        String pattern = schema.path("pattern").asString("");
        if (!pattern.isEmpty()) {
            try {
                limits.put("pattern", TextPattern.of(pattern).text());
            } catch (TextPattern.Unfit e) {
                remarks.add(subject, "The pattern '" + shortened(pattern) + "' " + e.clause() + "; it was left out.");
            }
        }
        JsonNode choices = schema.has("const") ? schema : schema.path("enum");
        List<String> words = new ArrayList<>();
        if (schema.has("const")) {
            words.add(schema.path("const").asString(""));
        } else if (choices.isArray()) {
            choices.forEach(choice -> {
                if (choice.isString()) {
                    words.add(choice.asString());
                }
            });
        }
        if (words.size() > MOST_CHOICES) {
            remarks.add(subject, "A list of " + words.size() + " allowed values was left out.");
        } else if (!words.isEmpty()) {
            limits.put("enum", Written.texts(words.stream().distinct().toList()));
        }
    }

    private static String shortened(String text) {
        return text.length() <= 60 ? text : text.substring(0, 60) + "...";
    }

    private static void lengths(JsonNode schema, Written.Collector limits) {
        count(schema, limits, "minLength");
        count(schema, limits, "maxLength");
    }

    private static void count(JsonNode schema, Written.Collector limits, String key) {
        JsonNode count = schema.path(key);
        if (count.isIntegralNumber() && count.canConvertToInt() && count.intValue() >= 0) {
            limits.put(key, Written.typed(Math.min(count.intValue(), LONGEST_TEXT)));
        }
    }

    static String about(JsonNode described) {
        String text = described.path("description").asString("").strip().replaceAll("\\s+", " ");
        return text.length() <= LONGEST_ABOUT ? text : text.substring(0, LONGEST_ABOUT - 3) + "...";
    }

    private static @Nullable Written exampleOf(JsonNode schema, ParameterType type) {
        JsonNode example = schema.has("example")
                ? schema.path("example")
                : schema.path("examples").path(0);
        return example(example, type);
    }

    /** An example that a definition can have: a single value of the type. */
    static @Nullable Written example(JsonNode example, ParameterType type) {
        if (type.isNumber()) {
            BigDecimal number = number(example);
            return number == null ? null : Written.typed(plain(number));
        }
        if (type == ParameterType.BOOLEAN) {
            return example.isBoolean() ? Written.typed(example.booleanValue()) : null;
        }
        boolean fits = example.isString()
                && !example.asString().isEmpty()
                && example.asString().length() <= 200;
        return fits && type != ParameterType.ARRAY && type != ParameterType.OBJECT
                ? Written.text(example.asString())
                : null;
    }
}
