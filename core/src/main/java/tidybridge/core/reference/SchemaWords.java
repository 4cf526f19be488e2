package tidybridge.core.reference;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;

/** A JSON Schema of one value in words. */
final class SchemaWords {

    private SchemaWords() {}

    /** {@code string, date or null}; a list tells what is in it. */
    static String type(Map<?, ?> schema) {
        Object type = schema.get("type");
        List<?> types = type instanceof List<?> list ? list : type == null ? List.of("any") : List.of(type);
        String format = schema.get("format") instanceof String named && !named.equals("int64") ? ", " + named : "";
        String coded = "base64".equals(schema.get("contentEncoding")) ? ", base64" : "";
        return types.stream()
                .map(name -> "array".equals(name) && schema.get("items") instanceof Map<?, ?> items && !items.isEmpty()
                        ? "array of " + type(items)
                        : name + ("null".equals(name) ? "" : format + coded))
                .collect(Collectors.joining(" or "));
    }

    /** What a value must keep to, each in a few words; those of a list's items follow its own. */
    static List<String> limits(Map<?, ?> schema) {
        List<String> limits = new ArrayList<>();
        say(limits, schema, "minimum", "at least ");
        say(limits, schema, "exclusiveMinimum", "more than ");
        say(limits, schema, "maximum", "at most ");
        say(limits, schema, "exclusiveMaximum", "less than ");
        say(limits, schema, "multipleOf", "a multiple of ");
        count(limits, schema, "minLength", "maxLength", "character");
        count(limits, schema, "minItems", "maxItems", "item");
        if (Boolean.TRUE.equals(schema.get("uniqueItems"))) {
            limits.add("no item twice");
        }
        if (schema.get("pattern") instanceof String pattern) {
            limits.add("matches " + pattern);
        }
        if (schema.get("enum") instanceof List<?> allowed) {
            List<String> words = allowed.stream()
                    .filter(Objects::nonNull)
                    .map(String::valueOf)
                    .toList();
            limits.add((words.size() == 1 ? "only " : "one of ") + String.join(", ", words));
        }
        if (schema.get("items") instanceof Map<?, ?> items) {
            limits(items).forEach(limit -> limits.add("each " + limit));
        }
        return limits;
    }

    private static void say(List<String> limits, Map<?, ?> schema, String key, String words) {
        if (schema.get(key) != null) {
            limits.add(words + schema.get(key));
        }
    }

    private static void count(List<String> limits, Map<?, ?> schema, String least, String most, String what) {
        Object from = schema.get(least);
        Object to = schema.get(most);
        if (from != null && from.equals(to)) {
            limits.add(from + " " + plural(what, from));
        } else if (from != null && to != null) {
            limits.add(from + " to " + to + " " + plural(what, to));
        } else if (to != null) {
            limits.add("up to " + to + " " + plural(what, to));
        } else if (from != null) {
            limits.add("at least " + from + " " + plural(what, from));
        }
    }

    private static String plural(String what, Object count) {
        return count.equals(1) ? what : what + "s";
    }
}
