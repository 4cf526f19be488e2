package tidybridge.core.assistant;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.definition.Method;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * The request that a tool's arguments make. What a value must be is left to the operation; here only its place is found.
 *
 * @param path below the module, percent-encoded
 * @param query percent-encoded; null for none
 * @param headers {@code Content-Type} among them where there is a body
 * @param inputs what stands in the query, the header and the cookies, by name; a list with commas between its items
 * @param body null for none
 */
public record ToolRequest(
        String method,
        String path,
        @Nullable String query,
        Map<String, String> headers,
        Map<String, String> cookies,
        Map<String, String> inputs,
        @Nullable String body) {

    private static final String MERGE_PATCH = "application/merge-patch+json";

    /**
     * Makes the request.
     *
     * @param arguments as they came
     * @throws BadArgument when one has no place in it
     */
    public static ToolRequest of(Tool tool, ObjectNode arguments) throws BadArgument {
        return new Maker(tool, arguments).request();
    }

    private static final class Maker {
        private final Tool tool;
        private final ObjectNode arguments;
        private final List<String> query = new ArrayList<>();
        private final Map<String, String> headers = new LinkedHashMap<>();
        private final Map<String, String> cookies = new LinkedHashMap<>();
        private final Map<String, String> inputs = new LinkedHashMap<>();

        Maker(Tool tool, ObjectNode arguments) {
            this.tool = tool;
            this.arguments = arguments;
        }

        ToolRequest request() throws BadArgument {
            for (String given : arguments.propertyNames()) {
                if (!tool.arguments().containsKey(given) && !given.equals(tool.body())) {
                    throw new BadArgument("The tool takes no '" + shown(given) + "'; it takes " + taken() + ".");
                }
            }
            OperationTerms operation = tool.operation();
            String path = operation.path();
            for (Map.Entry<String, Tool.Argument> entry : tool.arguments().entrySet()) {
                JsonNode value = arguments.get(entry.getKey());
                Tool.Argument argument = entry.getValue();
                if (argument.in().equals("path")) {
                    path = path.replace("{" + argument.name() + "}", encoded(segment(entry.getKey(), value)));
                } else if (value != null && argument.deep() && !value.isNull()) {
                    putConditions(entry.getKey(), argument, value);
                } else if (value != null && !value.isNull()) {
                    put(argument, texts(entry.getKey(), value));
                }
            }
            return new ToolRequest(
                    operation.method().name(),
                    path.equals("/") ? "" : path,
                    query.isEmpty() ? null : String.join("&", query),
                    headers,
                    cookies,
                    inputs,
                    body(operation));
        }

        private String taken() {
            List<String> names = new ArrayList<>(tool.arguments().keySet());
            if (tool.body() != null) {
                names.add(tool.body());
            }
            return names.isEmpty() ? "nothing" : String.join(", ", names);
        }

        /** A name that somebody sent, no longer than a name is. */
        private static String shown(String name) {
            return name.length() <= 64 ? name : name.substring(0, 64) + "...";
        }

        /** A value that stands in the path: one that would lead to another address is none. */
        private String segment(String name, @Nullable JsonNode value) throws BadArgument {
            List<String> texts = value == null || value.isNull() ? List.of() : texts(name, value);
            if (texts.size() != 1 || texts.getFirst().isEmpty()) {
                throw new BadArgument("'" + name + "' is needed, as one value that is not empty.");
            }
            String text = texts.getFirst();
            if (text.equals(".") || text.equals("..")) {
                throw new BadArgument("'" + name + "' cannot be dots alone.");
            }
            return text;
        }

        private void putConditions(String name, Tool.Argument argument, JsonNode value) throws BadArgument {
            if (!(value instanceof ObjectNode conditions)) {
                throw new BadArgument("'" + name + "' takes an object of conditions.");
            }
            for (Map.Entry<String, JsonNode> condition : conditions.properties()) {
                if (!condition.getValue().isNull()) {
                    String named = argument.name() + "[" + condition.getKey() + "]";
                    for (String text : texts(name, condition.getValue())) {
                        query.add(encoded(named) + "=" + encoded(text));
                    }
                }
            }
        }

        private void put(Tool.Argument argument, List<String> texts) throws BadArgument {
            switch (argument.in()) {
                case "query" -> texts.forEach(text -> query.add(encoded(argument.name()) + "=" + encoded(text)));
                case "header" -> headers.put(argument.name(), line(argument.name(), texts));
                default -> cookies.put(argument.name(), line(argument.name(), texts));
            }
            if (tool.rehearsal() && texts.size() > 1 && texts.stream().anyMatch(text -> text.indexOf(',') >= 0)) {
                throw new BadArgument(
                        "A rehearsal takes no list whose items have commas in '" + argument.name() + "'.");
            }
            inputs.put(argument.name(), String.join(",", texts));
        }

        private static String line(String name, List<String> texts) throws BadArgument {
            String line = String.join(", ", texts);
            if (line.chars().anyMatch(letter -> letter < ' ' || letter == 0x7f || letter > 0xff)) {
                throw new BadArgument("'" + name + "' travels in the header, where only Latin letters can.");
            }
            return line;
        }

        private static List<String> texts(String name, JsonNode value) throws BadArgument {
            List<String> texts = new ArrayList<>();
            for (JsonNode item : value.isArray() ? value : List.of(value)) {
                if (!item.isValueNode() || item.isNull()) {
                    throw new BadArgument("'" + name + "' takes a text, a number, true or false.");
                }
                texts.add(item.asString());
            }
            return texts;
        }

        private @Nullable String body(OperationTerms operation) throws BadArgument {
            JsonNode body = tool.body() == null ? null : arguments.get(tool.body());
            if (body == null || body.isNull()) {
                return null;
            }
            if (operation.body().kind() == BodyKind.FORM) {
                headers.put("Content-Type", BodyKind.FORM.mediaType());
                return form(body);
            }
            boolean patch =
                    operation.method() == Method.PATCH && operation.body().batch() == null;
            headers.put("Content-Type", patch ? MERGE_PATCH : BodyKind.JSON.mediaType());
            return body.toString();
        }

        private String form(JsonNode body) throws BadArgument {
            if (!(body instanceof ObjectNode fields)) {
                throw new BadArgument("'" + tool.body() + "' is an object with the fields of the form.");
            }
            List<String> pairs = new ArrayList<>();
            for (Map.Entry<String, JsonNode> field : fields.properties()) {
                if (!field.getValue().isNull()) {
                    texts(field.getKey(), field.getValue())
                            .forEach(text -> pairs.add(encoded(field.getKey()) + "=" + encoded(text)));
                }
            }
            return String.join("&", pairs);
        }

        private static String encoded(String text) {
            return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
        }
    }
}
