package tidybridge.core.document;

import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.Set;
import tools.jackson.core.JsonPointer;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.MissingNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Finds what a document's references mean, and makes one schema of those that are put together. A document that makes much work by few words is given
 * up. Used by one thread.
 */
final class Schemas {

    private static final int MOST_WORK = 400_000;
    private static final int DEEPEST = 30;
    private static final String REFERENCE = "$ref";

    private final JsonNode document;
    private final Remarks remarks;
    private int work;

    Schemas(JsonNode document, Remarks remarks) {
        this.document = document;
        this.remarks = remarks;
    }

    /** Carries the end of patience out of the recursion. */
    static final class TooMuch extends RuntimeException {
        TooMuch() {
            super("too much", null, false, false);
        }
    }

    /** A schema without references at its top, and the references that led to it. */
    record Found(JsonNode schema, Set<String> through, boolean nullable) {}

    private void count() {
        if (++work > MOST_WORK) {
            throw new TooMuch();
        }
    }

    /** What a part of the document is, after its reference, if it is one; missing, with a remark, when the reference leads nowhere. */
    JsonNode part(JsonNode node) {
        return followed(node, new HashSet<>());
    }

    private JsonNode followed(JsonNode node, Set<String> through) {
        JsonNode found = node;
        while (found.path(REFERENCE).isString()) {
            count();
            String reference = found.path(REFERENCE).asString();
            if (!through.add(reference)) {
                remarks.add(reference, "It refers to itself and to nothing else; it was left out.");
                return MissingNode.getInstance();
            }
            if (!reference.startsWith("#")) {
                remarks.add(reference, "It stands in another document, which is not read; put both into one document.");
                return MissingNode.getInstance();
            }
            found = at(reference);
            if (found.isMissingNode()) {
                remarks.add(reference, "The document refers to it, and does not have it; it was left out.");
            }
        }
        return found;
    }

    private JsonNode at(String reference) {
        try {
            // a plus is a plus in a fragment
            String pointer = URLDecoder.decode(reference.substring(1).replace("+", "%2B"), StandardCharsets.UTF_8);
            return pointer.isEmpty() ? document : document.at(JsonPointer.compile(pointer));
        } catch (IllegalArgumentException e) {
            return MissingNode.getInstance();
        }
    }

    /** The schema that is meant: references followed, {@code allOf} put together, null taken out of what may be one of several. */
    Found meant(JsonNode schema) {
        return meant(schema, 0);
    }

    private Found meant(JsonNode schema, int depth) {
        count();
        Set<String> through = new LinkedHashSet<>();
        JsonNode found = followed(schema, through);
        if (depth > DEEPEST) {
            return new Found(MissingNode.getInstance(), through, false);
        }
        boolean nullable = isNullable(found);
        for (String either : new String[] {"oneOf", "anyOf"}) {
            JsonNode forms = found.path(either);
            if (forms.isArray()) {
                Found one = oneOf(found, forms, either, depth);
                through.addAll(one.through());
                return new Found(one.schema(), through, nullable || one.nullable());
            }
        }
        if (found.path("allOf").isArray()) {
            Found whole = together(found, depth);
            through.addAll(whole.through());
            return new Found(whole.schema(), through, nullable || whole.nullable());
        }
        return new Found(found, through, nullable);
    }

    private static boolean isNullable(JsonNode schema) {
        JsonNode type = schema.path("type");
        boolean listed = type.isArray()
                && type.valueStream().anyMatch(one -> one.asString("").equals("null"));
        return listed || schema.path("nullable").asBoolean(false);
    }

    private static boolean isNull(JsonNode schema) {
        return schema.path("type").asString("").equals("null");
    }

    /** Of one or null, the one; of several objects, anything. */
    private Found oneOf(JsonNode whole, JsonNode forms, String either, int depth) {
        boolean nullable = false;
        JsonNode only = null;
        int number = 0;
        for (JsonNode form : forms) {
            count();
            if (isNull(form)) {
                nullable = true;
            } else {
                number++;
                only = form;
            }
        }
        if (number == 1 && only != null) {
            Found one = meant(only, depth + 1);
            return new Found(one.schema(), one.through(), nullable || one.nullable());
        }
        ObjectNode any = JsonNodeFactory.instance.objectNode();
        any.set("description", whole.path("description"));
        String type = commonType(forms, depth);
        if (!type.isEmpty()) {
            any.put("type", type);
        }
        remarks.add(
                either,
                "A value that is one of several forms is taken over as "
                        + (type.isEmpty() ? "an object" : "any " + type) + "; say its limits yourself.");
        return new Found(any, Set.of(), nullable);
    }

    private String commonType(JsonNode forms, int depth) {
        String common = "";
        for (JsonNode form : forms) {
            String type = isNull(form)
                    ? common
                    : meant(form, depth + 1).schema().path("type").asString("");
            if (type.isEmpty() || !common.isEmpty() && !type.equals(common)) {
                return "";
            }
            common = type;
        }
        return common;
    }

    private Found together(JsonNode whole, int depth) {
        ObjectNode result = JsonNodeFactory.instance.objectNode();
        ObjectNode properties = JsonNodeFactory.instance.objectNode();
        Set<String> required = new LinkedHashSet<>();
        Set<String> through = new LinkedHashSet<>();
        boolean nullable = false;
        for (JsonNode part : whole.path("allOf")) {
            Found found = meant(part, depth + 1);
            through.addAll(found.through());
            nullable |= found.nullable();
            take(found.schema(), result, properties, required);
        }
        take(whole, result, properties, required);
        if (!properties.isEmpty()) {
            result.set("properties", properties);
            result.set("required", result.arrayNode());
            required.forEach(name -> result.withArray("required").add(name));
        }
        return new Found(result, through, nullable);
    }

    private void take(JsonNode from, ObjectNode result, ObjectNode properties, Set<String> required) {
        for (var entry : from.properties()) {
            count();
            switch (entry.getKey()) {
                case "properties" ->
                    entry.getValue().properties().forEach(property -> {
                        count();
                        properties.set(property.getKey(), property.getValue());
                    });
                case "required" -> entry.getValue().forEach(name -> required.add(name.asString("")));
                case "allOf" -> {}
                default -> result.set(entry.getKey(), entry.getValue());
            }
        }
    }
}
