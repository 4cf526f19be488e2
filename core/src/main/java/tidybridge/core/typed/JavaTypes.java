package tidybridge.core.typed;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.reference.ApiText;
import tools.jackson.databind.json.JsonMapper;

/**
 * Writes schemas of JSON Schema 2020-12 as types of Java, all nested in one class: what is answered becomes a record that is made of parsed
 * JSON, what is sent a class whose constructor asks for what must be there. Not thread-safe.
 */
final class JavaTypes {

    /** What no member may be called: words of the language, and methods that every object has. */
    static final Set<String> RESERVED =
            Set.of(("abstract assert boolean break byte case catch char class const continue"
                            + " default do double else enum extends false final finally float for goto if implements import instanceof int"
                            + " interface long native new null package private protected public return short static strictfp super switch"
                            + " synchronized this throw throws transient true try void volatile while _ hashCode toString getClass notify"
                            + " notifyAll wait clone finalize say send segment put")
                    .split(" "));

    private static final String REFERENCE = "#/components/schemas/";

    /** A class has a few more parameters at most; what has more becomes a map. */
    private static final int MOST_MEMBERS = 200;

    private static final String MAP = "Map<String, Object>";

    private final Map<String, Object> schemas;
    private final Identifiers types;
    private final Map<String, Type> shared = new HashMap<>();
    private final StringBuilder declarations = new StringBuilder();

    /**
     * A type.
     *
     * @param name boxed
     * @param read a method that makes it of a parsed value that is not null, {@code Json::whole}; for a cast, empty
     */
    record Type(String name, String read) {

        static final Type ANY = new Type("Object", "");

        /** How a value is made of a parsed one. */
        String of(String value) {
            if (!read.isEmpty()) {
                return read.startsWith("*")
                        ? "Json.list(" + value + ", " + read.substring(1) + ")"
                        : "Json.of(" + value + ", " + read + ")";
            }
            return name.equals("Object") ? value : "(" + name + ") " + value;
        }

        /** The same as a function of an {@code Object}. */
        String function() {
            return read.isEmpty() || read.startsWith("*") ? "one -> " + of("one") : read;
        }
    }

    /**
     * Names the types of a document.
     *
     * @param schemas the shared ones, by name
     */
    JavaTypes(Map<String, Object> schemas, Identifiers types) {
        this.schemas = schemas;
        this.types = types;
    }

    /** Every type that was asked for. */
    String declarations() {
        return declarations.toString();
    }

    /**
     * The type of something that is answered.
     *
     * @param name what it is called unless it has a name of its own
     */
    Type answered(Map<String, Object> schema, String name) {
        String reference = ApiText.text(schema.get("$ref"));
        if (reference.startsWith(REFERENCE)) {
            String key = reference.substring(REFERENCE.length());
            Type known = shared.get(key);
            if (known == null) {
                // what refers to itself finds this
                shared.put(key, Type.ANY);
                known = answered(ApiText.at(schemas, key), key);
                shared.put(key, known);
            }
            return known;
        }
        return switch (kind(schema)) {
            case "array" -> {
                Type item = answered(ApiText.at(schema, "items"), name + "-item");
                yield new Type("List<" + item.name() + ">", "*" + item.function());
            }
            case "object" -> {
                Map<String, Object> properties = ApiText.at(schema, "properties");
                yield properties.isEmpty() || properties.size() > MOST_MEMBERS
                        ? new Type(MAP, "Json::object")
                        : row(schema, properties, types.type(name));
            }
            default -> scalar(schema);
        };
    }

    private Type row(Map<String, Object> schema, Map<String, Object> properties, String name) {
        Identifiers members = new Identifiers(RESERVED);
        List<String> components = new ArrayList<>();
        List<String> values = new ArrayList<>();
        List<String> about = new ArrayList<>(List.of(ApiText.text(schema.get("description"))));
        for (String property : properties.keySet()) {
            Map<String, Object> member = ApiText.at(properties, property);
            Type type = answered(member, name + "-" + property);
            String called = members.member(property);
            components.add(type.name() + " " + called);
            values.add(type.of("object.get(" + literal(property) + ")"));
            String said = ApiText.text(member.get("description"));
            if (!said.isEmpty()) {
                about.add("@param " + called + " " + said);
            }
        }
        declarations
                .append(comment(about, "    "))
                .append("    public record ")
                .append(name)
                .append("(\n            ")
                .append(String.join(",\n            ", components))
                .append(") {\n")
                .append("        private static ")
                .append(name)
                .append(
                        " read(Object json) {\n            Map<String, Object> object = Json.object(json);\n            return new ")
                .append(name)
                .append("(\n                    ")
                .append(String.join(",\n                    ", values))
                .append(");\n        }\n    }\n\n");
        return new Type(name, name + "::read");
    }

    /**
     * The name of the type of something that is sent.
     *
     * @param name what its class is called, if it has one
     */
    String sent(Map<String, Object> schema, String name) {
        return switch (kind(schema)) {
            case "array" -> "List<" + sent(ApiText.at(schema, "items"), name + "-item") + ">";
            case "object" -> {
                Map<String, Object> properties = ApiText.at(schema, "properties");
                yield properties.isEmpty() || properties.size() > MOST_MEMBERS
                        ? "Map<String, ?>"
                        : body(schema, properties, types.type(name));
            }
            default -> scalar(schema).name();
        };
    }

    /**
     * A value that is said.
     *
     * @param keep how it is kept
     */
    record Member(String called, String type, String about, boolean required, boolean nullable, String keep) {}

    private String body(Map<String, Object> schema, Map<String, Object> properties, String name) {
        Identifiers members = new Identifiers(RESERVED);
        List<?> required = schema.get("required") instanceof List<?> names ? names : List.of();
        List<Member> all = new ArrayList<>();
        for (String property : properties.keySet()) {
            Map<String, Object> member = ApiText.at(properties, property);
            all.add(new Member(
                    members.member(property),
                    sent(member, name + "-" + property),
                    ApiText.text(member.get("description")),
                    required.contains(property),
                    member.get("type") instanceof List<?> kinds && kinds.contains("null"),
                    "put(" + literal(property) + ", value)"));
        }
        declarations.append(described(name, "Sent", ApiText.text(schema.get("description")), all));
        return name;
    }

    /** A class whose constructor asks for what must be said, with a method for everything else. */
    static String described(String name, String of, String about, List<Member> members) {
        List<Member> needed = members.stream().filter(Member::required).toList();
        StringBuilder text = new StringBuilder(comment(List.of(about), "    "))
                .append("    public static final class ")
                .append(name)
                .append(" extends ")
                .append(of)
                .append(" {\n        public ")
                .append(name)
                .append("(")
                .append(needed.stream()
                        .map(member -> member.type() + " " + member.called())
                        .collect(Collectors.joining(", ")))
                .append(") {\n");
        for (Member member : needed) {
            String value = member.nullable()
                    ? member.called()
                    : "java.util.Objects.requireNonNull(" + member.called() + ", " + literal(member.called()) + ")";
            text.append("            ")
                    .append(member.keep().replace(", value)", ", " + value + ")"))
                    .append(";\n");
        }
        text.append("        }\n");
        for (Member member : members) {
            if (!member.required()) {
                text.append("\n")
                        .append(comment(List.of(member.about()), "        "))
                        .append("        public ")
                        .append(name)
                        .append(" ")
                        .append(member.called())
                        .append("(")
                        .append(member.type())
                        .append(" value) {\n            ")
                        .append(member.keep())
                        .append(";\n            return this;\n        }\n");
            }
        }
        return text.append("    }\n\n").toString();
    }

    private static String kind(Map<String, Object> schema) {
        Object type = schema.get("type");
        if (type instanceof List<?> several) {
            List<String> kinds = several.stream()
                    .map(String::valueOf)
                    .filter(kind -> !kind.equals("null"))
                    .toList();
            return kinds.size() == 1 ? kinds.getFirst() : "";
        }
        return type == null ? "" : String.valueOf(type);
    }

    private static Type scalar(Map<String, Object> schema) {
        String format = ApiText.text(schema.get("format"));
        return switch (kind(schema)) {
            case "integer" ->
                format.equals("int64") || isLong(schema.get("maximum"))
                        ? new Type("Long", "Json::whole")
                        : new Type("BigInteger", "Json::integer");
            case "number" -> new Type("BigDecimal", "");
            case "boolean" -> new Type("Boolean", "");
            case "string" ->
                format.equals("date")
                        ? new Type("LocalDate", "day -> LocalDate.parse((String) day)")
                        : new Type("String", "");
            default -> Type.ANY;
        };
    }

    private static boolean isLong(@Nullable Object maximum) {
        return maximum instanceof Number number
                && new BigDecimal(number.toString()).compareTo(BigDecimal.valueOf(Long.MAX_VALUE)) <= 0;
    }

    /** A text as Java writes it. */
    static String literal(@Nullable Object value) {
        return JsonMapper.shared().writeValueAsString(String.valueOf(value));
    }

    /** A comment; nothing for no words. */
    static String comment(List<String> paragraphs, String indent) {
        Map<String, Boolean> lines = new LinkedHashMap<>();
        paragraphs.stream()
                .flatMap(String::lines)
                .map(line -> line.replace("&", "&amp;")
                        .replace("<", "&lt;")
                        .replace("\\", "&#92;")
                        .replace("*/", "*&#47;")
                        .strip())
                .map(line -> line.startsWith("@param ") ? line : line.replace("@", "&#64;"))
                .filter(line -> !line.isEmpty())
                .forEach(line -> lines.put(line, true));
        return lines.isEmpty()
                ? ""
                : indent + "/**\n"
                        + lines.keySet().stream()
                                .map(line -> indent + " * " + line + "\n")
                                .collect(Collectors.joining())
                        + indent + " */\n";
    }
}
