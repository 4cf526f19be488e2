package tidybridge.core.typed;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tidybridge.core.reference.ApiText;
import tools.jackson.databind.json.JsonMapper;

/** Writes schemas of JSON Schema 2020-12 as types of TypeScript. */
final class TypeScriptTypes {

    private static final Pattern NAME = Pattern.compile("[A-Za-z_$][A-Za-z0-9_$]*");
    private static final String REFERENCE = "#/components/schemas/";
    private static final String INDENT = "  ";

    private final Map<String, Object> schemas;
    private final Map<String, String> names = new TreeMap<>();

    /**
     * Names the types of a document.
     *
     * @param schemas the shared ones, by name
     */
    TypeScriptTypes(Map<String, Object> schemas, Identifiers identifiers) {
        this.schemas = schemas;
        schemas.keySet().forEach(name -> names.put(name, identifiers.type(name)));
    }

    /** Every shared type. */
    String declarations() {
        return names.entrySet().stream()
                .map(name -> declaration(name.getValue(), ApiText.at(schemas, name.getKey())))
                .collect(Collectors.joining("\n"));
    }

    private String declaration(String name, Map<String, Object> schema) {
        String about = comment(schema, "");
        return hasProperties(schema) && schema.get("type") instanceof String
                ? about + "export interface " + name + " " + members(schema, "") + "\n"
                : about + "export type " + name + " = " + type(schema, "") + ";\n";
    }

    /** The type of a schema. */
    String type(Map<String, Object> schema) {
        return type(schema, INDENT);
    }

    private String type(Map<String, Object> schema, String indent) {
        String reference = ApiText.text(schema.get("$ref"));
        if (reference.startsWith(REFERENCE)) {
            return names.getOrDefault(reference.substring(REFERENCE.length()), "unknown");
        }
        if (schema.containsKey("const")) {
            return literal(schema.get("const"));
        }
        if (schema.get("enum") instanceof List<?> words) {
            return union(words.stream().map(TypeScriptTypes::literal));
        }
        for (String either : List.of("oneOf", "anyOf")) {
            if (schema.get(either) instanceof List<?>) {
                return union(ApiText.objects(schema.get(either)).stream().map(one -> type(one, indent)));
            }
        }
        Object type = schema.get("type");
        if (type instanceof List<?> several) {
            return union(several.stream().map(one -> single(String.valueOf(one), schema, indent)));
        }
        String named = hasProperties(schema) ? "object" : "anything";
        return single(type == null ? named : String.valueOf(type), schema, indent);
    }

    private String single(String type, Map<String, Object> schema, String indent) {
        return switch (type) {
            case "string" -> "string";
            case "integer", "number" -> "number";
            case "boolean" -> "boolean";
            case "null" -> "null";
            case "array" -> list(type(ApiText.at(schema, "items"), indent));
            case "object" -> object(schema, indent);
            default -> "unknown";
        };
    }

    private static String list(String item) {
        return (item.contains("|") ? "(" + item + ")" : item) + "[]";
    }

    private String object(Map<String, Object> schema, String indent) {
        if (hasProperties(schema)) {
            return members(schema, indent);
        }
        Map<String, Object> more = ApiText.at(schema, "additionalProperties");
        return "Record<string, " + (more.isEmpty() ? "unknown" : type(more, indent)) + ">";
    }

    private static boolean hasProperties(Map<String, Object> schema) {
        return !ApiText.at(schema, "properties").isEmpty();
    }

    private String members(Map<String, Object> schema, String indent) {
        List<?> required = schema.get("required") instanceof List<?> names ? names : List.of();
        StringBuilder text = new StringBuilder("{\n");
        String inner = indent + INDENT;
        for (String name : ApiText.at(schema, "properties").keySet()) {
            Map<String, Object> member = ApiText.at(schema, "properties", name);
            text.append(comment(member, inner))
                    .append(inner)
                    .append(key(name))
                    .append(required.contains(name) ? ": " : "?: ")
                    .append(type(member, inner))
                    .append(";\n");
        }
        return text.append(indent).append("}").toString();
    }

    /** A member's name, in quotes where it is no word. */
    static String key(String name) {
        return NAME.matcher(name).matches() ? name : literal(name);
    }

    /** A value as TypeScript writes it, which is as JSON does. */
    static String literal(@Nullable Object value) {
        return JsonMapper.shared()
                .writeValueAsString(value)
                .replace("\u2028", "\\u2028")
                .replace("\u2029", "\\u2029");
    }

    private static String union(Stream<String> types) {
        List<String> all = types.distinct().toList();
        return all.isEmpty() ? "unknown" : String.join(" | ", all);
    }

    private static String comment(Map<String, Object> schema, String indent) {
        List<String> lines = new ArrayList<>();
        String about = ApiText.text(schema.get("description"));
        if (!about.isEmpty()) {
            lines.add(about);
        }
        if (Boolean.TRUE.equals(schema.get("deprecated"))) {
            lines.add("@deprecated");
        }
        return comment(lines, indent);
    }

    /** A comment for editors; nothing for no lines. */
    static String comment(List<String> lines, String indent) {
        List<String> all = lines.stream()
                .flatMap(String::lines)
                .map(line -> line.replace("*/", "* /").strip())
                .filter(line -> !line.isEmpty())
                .toList();
        if (all.isEmpty()) {
            return "";
        }
        if (all.size() == 1) {
            return indent + "/** " + all.getFirst() + " */\n";
        }
        return indent + "/**\n"
                + all.stream().map(line -> indent + " * " + line + "\n").collect(Collectors.joining())
                + indent + " */\n";
    }
}
