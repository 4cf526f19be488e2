package tidybridge.core.sample;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.contract.ChangeTerms;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.ExampleValue;
import tidybridge.core.contract.InputTerms;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.definition.Need;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * One call of an operation, filled from the examples of its text: what it cannot do without, and a whole body. Immutable and thread-safe.
 *
 * @param path with query, below the service's origin; ready to be sent
 * @param headers beside {@code Authorization}, by name
 * @param body null for none
 * @param secret true when a credential must be sent
 */
public record SampleCall(
        String method,
        String path,
        Map<String, String> headers,
        @Nullable String body,
        boolean secret) {

    /** Stands where nothing is known of a value. */
    private static final String UNKNOWN = "...";

    private static final JsonMapper JSON = JsonMapper.shared();

    public SampleCall {
        headers = Collections.unmodifiableMap(new LinkedHashMap<>(headers));
    }

    /** The call of an operation as its text's examples tell it. */
    public static SampleCall of(Contract contract, OperationTerms operation) {
        Map<String, String> headers = new LinkedHashMap<>();
        List<String> query = new ArrayList<>();
        List<String> cookies = new ArrayList<>();
        String path = operation.path();
        for (InputTerms input : operation.inputs()) {
            switch (input.in()) {
                case PATH -> path = path.replace("{" + input.name() + "}", encoded(value(input)));
                case QUERY -> {
                    if (input.required()) {
                        query.add(pairs(input));
                    }
                }
                case HEADER -> {
                    if (input.required()) {
                        headers.put(input.name(), value(input));
                    }
                }
                case COOKIE -> {
                    if (input.required()) {
                        cookies.add(input.name() + "=" + value(input));
                    }
                }
                case BODY, FORM, CALLER, REQUEST -> {}
            }
        }
        if (!cookies.isEmpty()) {
            headers.put("Cookie", String.join("; ", cookies));
        }
        addOwn(operation.change(), headers);
        String body = body(operation);
        if (body != null) {
            headers.put("Content-Type", operation.body().kind().mediaType());
        }
        String address = contract.basePath() + (path.equals("/") ? "" : path);
        return new SampleCall(
                operation.method().name(),
                query.isEmpty() ? address : address + "?" + String.join("&", query),
                headers,
                body,
                !operation.needs().open());
    }

    /** The same without a field of the header. */
    SampleCall without(String header) {
        Map<String, String> others = new LinkedHashMap<>(headers);
        others.remove(header);
        return new SampleCall(method, path, others, body, secret);
    }

    private static void addOwn(@Nullable ChangeTerms change, Map<String, String> headers) {
        if (change != null && change.precondition() == Need.REQUIRED) {
            headers.put("If-Match", "\"the ETag of what was read\"");
        }
        if (change != null && change.idempotencyKey() == Need.REQUIRED) {
            headers.put("Idempotency-Key", "a text of your own");
        }
    }

    private static @Nullable String body(OperationTerms operation) {
        List<InputTerms> parts =
                operation.inputs().stream().filter(InputTerms::inBody).toList();
        if (operation.body().kind() == BodyKind.NONE || parts.isEmpty()) {
            return null;
        }
        if (operation.body().kind() == BodyKind.FORM) {
            return String.join("&", parts.stream().map(SampleCall::pairs).toList());
        }
        JsonNode whole = parts.getFirst().name().isEmpty() ? JSON.valueToTree(json(parts.getFirst())) : object(parts);
        return JsonLines.of(
                operation.body().batch() == null
                        ? whole
                        : JSON.createArrayNode().add(whole));
    }

    /** A list has its name again for each item. */
    private static String pairs(InputTerms input) {
        String[] items = input.list() == null
                ? new String[] {value(input)}
                : value(input).split(",", -1);
        return Arrays.stream(items)
                .map(item -> encoded(input.name()) + "=" + encoded(item))
                .collect(Collectors.joining("&"));
    }

    private static ObjectNode object(List<InputTerms> parts) {
        ObjectNode root = JSON.createObjectNode();
        for (InputTerms part : parts) {
            String[] names = part.name().substring(1).split("/", -1);
            ObjectNode at = root;
            for (int i = 0; i < names.length - 1; i++) {
                String name = unescaped(names[i]);
                at = at.get(name) instanceof ObjectNode inner ? inner : at.putObject(name);
            }
            at.set(unescaped(names[names.length - 1]), JSON.valueToTree(json(part)));
        }
        return root;
    }

    private static String unescaped(String name) {
        return name.replace("~1", "/").replace("~0", "~");
    }

    /** What a part of a body is as JSON: its example, or what stands for it. */
    private static Object json(InputTerms part) {
        Object example = ExampleValue.of(part);
        if (example != null) {
            return example;
        }
        String value = value(part);
        return part.list() == null && !value.equals(UNKNOWN) ? ExampleValue.typed(part.type(), value) : List.of();
    }

    /** What an input says in the sample: its example, its default, or the first of the few values there are. */
    private static String value(InputTerms input) {
        if (input.example() != null) {
            return input.example();
        }
        if (input.usual() != null) {
            return input.usual();
        }
        if (!input.limits().allowed().isEmpty()) {
            return input.limits().allowed().getFirst();
        }
        return UNKNOWN;
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
    }
}
