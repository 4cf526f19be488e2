package tidybridge.service.trial;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.bind.Caller;
import tidybridge.core.bind.Inputs;
import tidybridge.core.definition.In;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.plan.OperationPlan;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Inputs typed in by name, put where each parameter is taken from. A name that no parameter has goes into the query, so that it is
 * told like any other mistake.
 *
 * @param captured the placeholders' texts as they stand in the path, percent-encoded
 * @param whole the request's body as it is; null for one put together from the inputs
 * @param given by the name callers write, or the bind parameter's; a body as a whole under its own parameter's name
 */
record TrialInputs(
        OperationPlan plan,
        List<String> captured,
        Map<String, String> given,
        @Nullable String whole,
        Caller caller,
        Instant now)
        implements Inputs {

    /** What makes a request conditional is a header field of every change, whether or not it has a parameter. */
    private static final Set<String> CONDITIONAL =
            Set.of("if-match", "if-none-match", "if-unmodified-since", "if-modified-since");

    private static final JsonMapper JSON = JsonMapper.shared();

    @Override
    public @Nullable String query() {
        List<String> pairs = new ArrayList<>();
        given.forEach((name, value) -> {
            ParameterDefinition parameter = parameter(name);
            if (parameter == null && !CONDITIONAL.contains(name.toLowerCase(Locale.ROOT))) {
                pairs.add(encoded(name) + "=" + encoded(value));
            } else if (parameter != null && parameter.in() == In.QUERY) {
                items(parameter, value).forEach(item -> pairs.add(encoded(parameter.wireName()) + "=" + encoded(item)));
            }
        });
        return pairs.isEmpty() ? null : String.join("&", pairs);
    }

    private @Nullable ParameterDefinition parameter(String name) {
        for (ParameterDefinition parameter : plan.parameters()) {
            if (parameter.wireName().equals(name)
                    || parameter.name().equals(name)
                    || parameter.wireName().equals("/" + name)) {
                return parameter;
            }
        }
        return null;
    }

    private static List<String> items(ParameterDefinition parameter, String value) {
        return parameter.list() == null ? List.of(value) : List.of(value.split(",", -1));
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }

    @Override
    public String path(int index) {
        return captured.get(index);
    }

    @Override
    public @Nullable String header(String name) {
        if (CONDITIONAL.contains(name.toLowerCase(Locale.ROOT))) {
            for (Map.Entry<String, String> entry : given.entrySet()) {
                if (entry.getKey().equalsIgnoreCase(name)) {
                    return entry.getValue();
                }
            }
        }
        return of(In.HEADER, name);
    }

    @Override
    public @Nullable String cookie(String name) {
        return of(In.COOKIE, name);
    }

    private @Nullable String of(In in, String wireName) {
        for (Map.Entry<String, String> entry : given.entrySet()) {
            ParameterDefinition parameter = parameter(entry.getKey());
            if (parameter != null
                    && parameter.in() == in
                    && parameter.wireName().equals(wireName)) {
                return entry.getValue();
            }
        }
        return null;
    }

    @Override
    public byte @Nullable [] body() {
        if (whole != null) {
            return whole.getBytes(StandardCharsets.UTF_8);
        }
        String text = plan.binder().bodyKind() == BodyKind.FORM ? form() : json();
        return text == null ? null : text.getBytes(StandardCharsets.UTF_8);
    }

    private @Nullable String form() {
        List<String> pairs = new ArrayList<>();
        given.forEach((name, value) -> {
            ParameterDefinition parameter = parameter(name);
            if (parameter != null && parameter.in() == In.FORM) {
                items(parameter, value).forEach(item -> pairs.add(encoded(parameter.wireName()) + "=" + encoded(item)));
            }
        });
        return pairs.isEmpty() ? null : String.join("&", pairs);
    }

    private @Nullable String json() {
        ObjectNode root = JSON.createObjectNode();
        boolean any = false;
        for (Map.Entry<String, String> entry : given.entrySet()) {
            ParameterDefinition parameter = parameter(entry.getKey());
            if (parameter != null && parameter.in() == In.BODY) {
                if (parameter.wireName().isEmpty()) {
                    return entry.getValue();
                }
                put(root, parameter, entry.getValue());
                any = true;
            }
        }
        return any ? root.toString() : null;
    }

    private static void put(ObjectNode root, ParameterDefinition parameter, String value) {
        String[] names = parameter.wireName().substring(1).split("/", -1);
        ObjectNode at = root;
        for (int i = 0; i < names.length - 1; i++) {
            String name = unescaped(names[i]);
            at = at.get(name) instanceof ObjectNode inside ? inside : at.putObject(name);
        }
        at.set(unescaped(names[names.length - 1]), node(parameter, value));
    }

    private static String unescaped(String name) {
        return name.replace("~1", "/").replace("~0", "~");
    }

    /** A list may be typed with commas; what is no JSON is a text, and is told to be none by the binder. */
    private static JsonNode node(ParameterDefinition parameter, String value) {
        if (parameter.list() != null && !value.stripLeading().startsWith("[")) {
            var array = JSON.createArrayNode();
            for (String item : value.split(",", -1)) {
                array.add(scalar(parameter.list().type().isNumber(), item.strip()));
            }
            return array;
        }
        boolean json = switch (parameter.type()) {
            case INTEGER, NUMBER, BOOLEAN, ARRAY, OBJECT -> true;
            case STRING, DATE, TIME, DATE_TIME, DATE_TIME_LOCAL, UUID, EMAIL, BYTE ->
                value.equals("null") && parameter.nullable();
        };
        return scalar(json, value);
    }

    private static JsonNode scalar(boolean json, String value) {
        if (json) {
            try {
                return JSON.readTree(value);
            } catch (JacksonException e) {
                return JSON.getNodeFactory().stringNode(value);
            }
        }
        return JSON.getNodeFactory().stringNode(value);
    }

    @Override
    public String requestId() {
        return "trial";
    }

    @Override
    public Instant requestTime() {
        return now;
    }
}
