package tidybridge.core.assistant;

import static java.util.stream.Collectors.toMap;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Binder;
import tidybridge.core.contract.AnswerTerms;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.reference.ApiText;
import tidybridge.core.reference.OpenApi;
import tidybridge.core.reference.OwnParameters;

/**
 * The tools of a module, made from its OpenAPI document: one for each operation that is offered, and one more for each change, which
 * rehearses it. Immutable and thread-safe.
 */
public final class Toolbox {

    /** Names of the input that every program takes. */
    private static final String STRANGE = "[^A-Za-z0-9_.-]+";

    private static final int LONGEST_NAME = 64;
    private static final String BODY = "body";

    /** What would change the form of an answer, or leave it out. */
    private static final Set<String> LEFT_OUT =
            Set.of(Binder.FORMAT, Binder.HEADER, "If-None-Match", "If-Modified-Since");

    /** What is nothing to a change that is undone. */
    private static final Set<String> UNREHEARSED = Set.of("Idempotency-Key", Binder.PREVIEW);

    private final Map<String, Object> document;
    private final List<Tool> tools = new ArrayList<>();
    private final Map<String, Tool> byName;
    private final Set<String> taken = new HashSet<>();

    private Toolbox(Contract contract) {
        this.document = OpenApi.document(contract);
        List<OperationTerms> offered =
                contract.operations().stream().filter(OperationTerms::offered).toList();
        offered.forEach(operation -> taken.add(operation.id()));
        for (OperationTerms operation : offered) {
            Map<String, Object> described = ApiText.at(
                    document,
                    "paths",
                    operation.path(),
                    operation.method().name().toLowerCase(Locale.ROOT));
            tools.add(tool(operation, described, operation.id(), false));
            if (!operation.reads()) {
                tools.add(tool(operation, described, free("rehearse_" + operation.id(), taken), true));
            }
        }
        byName = tools.stream().collect(toMap(Tool::name, Function.identity()));
    }

    /** What a module offers. */
    public static Toolbox of(Contract contract) {
        return new Toolbox(contract);
    }

    /** In the order of the module's text. */
    public List<Tool> tools() {
        return List.copyOf(tools);
    }

    public Optional<Tool> find(String name) {
        return Optional.ofNullable(byName.get(name));
    }

    private Tool tool(OperationTerms operation, Map<String, Object> described, String name, boolean rehearsal) {
        Map<String, Object> properties = new LinkedHashMap<>();
        List<String> required = new ArrayList<>();
        Map<String, Tool.Argument> arguments = new LinkedHashMap<>();
        Set<String> names = new HashSet<>();
        for (Map<String, Object> parameter : ApiText.objects(described.get("parameters"))) {
            String wireName = ApiText.text(parameter.get("name"));
            if (isLeftOut(operation, wireName, rehearsal)) {
                continue;
            }
            String argument = free(plain(wireName), names);
            arguments.put(
                    argument,
                    new Tool.Argument(
                            wireName, ApiText.text(parameter.get("in")), "deepObject".equals(parameter.get("style"))));
            properties.put(argument, property(parameter));
            if (Boolean.TRUE.equals(parameter.get("required"))) {
                required.add(argument);
            }
        }
        String body = null;
        Map<String, Object> request = ApiText.at(described, "requestBody");
        if (!request.isEmpty()) {
            body = free(BODY, names);
            String type = ApiText.at(request, "content").keySet().iterator().next();
            properties.put(body, inlined(ApiText.at(request, "content", type, "schema")));
            if (Boolean.TRUE.equals(request.get("required"))) {
                required.add(body);
            }
        }
        Map<String, Object> input = new LinkedHashMap<>();
        input.put("type", "object");
        input.put("properties", properties);
        if (!required.isEmpty()) {
            input.put("required", required);
        }
        input.put("additionalProperties", false);
        String about = operation.about() == null ? operation.label() : operation.about();
        String title = about.endsWith(".") ? about.substring(0, about.length() - 1) : about;
        String description = ApiText.text(described.get("description"));
        return new Tool(
                name,
                rehearsal ? "Rehearse: " + title : title,
                rehearsal ? rehearsed(operation, title) : description,
                input,
                rehearsal ? null : output(operation, described),
                rehearsal,
                operation,
                arguments,
                body);
    }

    private static String rehearsed(OperationTerms operation, String title) {
        return "Does '" + title + "' (" + operation.label()
                + "), tells which rows it would change and what it would answer, and undoes all of it. Needs the privilege tidy.rehearse.";
    }

    /** What the service itself understands of every operation, unless the operation has an input of that name. */
    private static boolean isLeftOut(OperationTerms operation, String name, boolean rehearsal) {
        boolean own =
                operation.inputs().stream().noneMatch(input -> input.name().equals(name))
                        && OwnParameters.of(operation).stream()
                                .anyMatch(parameter -> parameter.name().equals(name));
        return own && (LEFT_OUT.contains(name) || rehearsal && UNREHEARSED.contains(name));
    }

    private static String plain(String name) {
        String plain = name.replaceAll(STRANGE, ".").replaceAll("^\\.+|\\.+$", "");
        String short_ = plain.length() > LONGEST_NAME ? plain.substring(0, LONGEST_NAME) : plain;
        return short_.isEmpty() ? "argument" : short_;
    }

    private static String free(String name, Set<String> taken) {
        String free = name;
        for (int i = 2; !taken.add(free); i++) {
            free = name + "_" + i;
        }
        return free;
    }

    private Map<String, Object> property(Map<String, Object> parameter) {
        Map<String, Object> property = new LinkedHashMap<>(inlined(ApiText.at(parameter, "schema")));
        String about = ApiText.text(parameter.get("description"));
        if (!about.isEmpty()) {
            property.put("description", about);
        }
        Object example = parameter.get("example");
        if (example != null) {
            property.put("examples", List.of(example));
        }
        return property;
    }

    /** The schema of the one answer there is when all goes well; null for several, and for what is no object. */
    private @Nullable Map<String, Object> output(OperationTerms operation, Map<String, Object> described) {
        AnswerTerms answer = operation.answer();
        boolean one = operation.body().batch() == null
                && (operation.change() == null || !operation.change().preview());
        if (answer.kind() == AnswerKind.NOTHING || !one) {
            return null;
        }
        Map<String, Object> schema = inlined(ApiText.at(
                described, "responses", String.valueOf(answer.status()), "content", "application/json", "schema"));
        return "object".equals(schema.get("type")) ? schema : null;
    }

    private Map<String, Object> inlined(Map<String, Object> schema) {
        return inlined(schema, Set.of());
    }

    /** A schema with what it refers to in the place of each reference; what refers to itself may be anything there. */
    private Map<String, Object> inlined(Map<String, Object> schema, Set<String> within) {
        if (schema.get("$ref") instanceof String reference) {
            String name = reference.substring(reference.lastIndexOf('/') + 1);
            if (within.contains(name)) {
                return Map.of();
            }
            Set<String> deeper = new HashSet<>(within);
            deeper.add(name);
            return inlined(ApiText.at(document, "components", "schemas", name), deeper);
        }
        Map<String, Object> whole = new LinkedHashMap<>();
        schema.forEach((key, value) -> whole.put(key, part(value, within)));
        return whole;
    }

    @SuppressWarnings("unchecked")
    private Object part(Object value, Set<String> within) {
        return switch (value) {
            case Map<?, ?> map -> inlined((Map<String, Object>) map, within);
            case List<?> list -> list.stream().map(item -> part(item, within)).toList();
            default -> value;
        };
    }
}
