package tidybridge.core.reference;

import static tidybridge.core.reference.OpenApi.map;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.contract.BodyTerms;
import tidybridge.core.contract.ExampleValue;
import tidybridge.core.contract.InputTerms;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.definition.In;
import tidybridge.core.definition.Method;

/** The body of a request: one schema put together from the parameters that take parts of it. */
final class RequestBody {

    private RequestBody() {}

    /** What a partial update is sent as (RFC 7396). */
    private static final String MERGE_PATCH = "application/merge-patch+json";

    static Map<String, Object> of(OperationTerms operation) {
        List<InputTerms> parts =
                operation.inputs().stream().filter(InputTerms::inBody).toList();
        boolean required = parts.stream().anyMatch(InputTerms::required);
        Map<String, Object> schema = parts.getFirst().name().isEmpty() ? described(parts.getFirst()) : object(parts);
        BodyTerms.BatchTerms batch = operation.body().batch();
        Map<String, Object> body =
                batch == null ? schema : map("type", "array", "minItems", 1, "maxItems", batch.most(), "items", schema);
        Map<String, Object> content = map();
        BodyKind kind = operation.body().kind();
        if (operation.method() == Method.PATCH && kind == BodyKind.JSON && batch == null) {
            body.put(
                    "description",
                    "A JSON Merge Patch (RFC 7396): what it does not name stays as it is, and nothing else can be changed.");
            content.put(MERGE_PATCH, map("schema", body));
        }
        content.put(kind.mediaType(), map("schema", body));
        boolean needed = required || batch != null || operation.method() == Method.PATCH;
        return map("required", needed, "content", content);
    }

    private static Map<String, Object> object(List<InputTerms> parts) {
        Map<String, Object> root = empty();
        for (InputTerms part : parts) {
            Map<String, Object> at = root;
            List<String> names = names(part);
            for (String name : names.subList(0, names.size() - 1)) {
                if (part.required()) {
                    require(at, name);
                }
                at = inside(at, name);
            }
            properties(at).put(names.getLast(), described(part));
            if (part.required()) {
                require(at, names.getLast());
            }
        }
        return root;
    }

    /** The names along a JSON Pointer; a form field's own name. */
    private static List<String> names(InputTerms part) {
        if (part.in() == In.FORM) {
            return List.of(part.name());
        }
        List<String> names = new ArrayList<>();
        for (String name : part.name().substring(1).split("/", -1)) {
            names.add(name.replace("~1", "/").replace("~0", "~"));
        }
        return names;
    }

    private static Map<String, Object> described(InputTerms part) {
        Map<String, Object> schema = Schemas.parameter(part);
        String about = OpenApi.described(part.about(), part.deprecated());
        if (about != null) {
            schema.put("description", about);
        }
        if (part.deprecated() != null) {
            schema.put("deprecated", true);
        }
        Object example = ExampleValue.of(part);
        if (example != null) {
            schema.put("examples", List.of(example));
        }
        return schema;
    }

    private static Map<String, Object> empty() {
        return map("type", "object", "properties", map(), "additionalProperties", false);
    }

    @SuppressWarnings("unchecked")
    private static Map<String, Object> properties(Map<String, Object> schema) {
        return (Map<String, Object>) schema.computeIfAbsent("properties", key -> map());
    }

    @SuppressWarnings("unchecked")
    private static Map<String, Object> inside(Map<String, Object> schema, String name) {
        return (Map<String, Object>) properties(schema).computeIfAbsent(name, key -> empty());
    }

    @SuppressWarnings("unchecked")
    private static void require(Map<String, Object> schema, String name) {
        List<String> required = (List<String>) schema.computeIfAbsent("required", key -> new ArrayList<String>());
        if (!required.contains(name)) {
            required.add(name);
        }
    }
}
