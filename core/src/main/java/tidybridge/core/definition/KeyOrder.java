package tidybridge.core.definition;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** In which order keys stand: that of the JSON Schema, which editors and the console follow too. Immutable and thread-safe. */
final class KeyOrder {

    private static final KeyOrder MODULE = new KeyOrder(JsonMapper.shared().readTree(DefinitionSchema.MODULE.bytes()));

    private final JsonNode root;

    private KeyOrder(JsonNode root) {
        this.root = root;
    }

    static KeyOrder ofModule() {
        return MODULE;
    }

    /** The keys below a path, in their order; empty where names are the writer's own, and where the schema knows nothing. */
    List<String> of(List<String> path) {
        JsonNode schema = root;
        for (String step : path) {
            schema = schema == null ? null : below(schema, step);
        }
        return schema == null ? List.of() : new ArrayList<>(names(schema));
    }

    private @Nullable JsonNode below(JsonNode schema, String step) {
        for (JsonNode form : forms(schema)) {
            JsonNode known = form.path("properties").path(step);
            if (known.isObject()) {
                return known;
            }
            if (form.path("additionalProperties").isObject()) {
                return form.path("additionalProperties");
            }
        }
        return null;
    }

    private Set<String> names(JsonNode schema) {
        Set<String> names = new LinkedHashSet<>();
        forms(schema).forEach(form -> names.addAll(form.path("properties").propertyNames()));
        return names;
    }

    /** A schema, what it refers to, and what it can be instead. */
    private List<JsonNode> forms(JsonNode schema) {
        List<JsonNode> forms = new ArrayList<>(List.of(schema));
        String reference = schema.path("$ref").asString("");
        if (reference.startsWith("#")) {
            forms.addAll(forms(root.at(reference.substring(1))));
        }
        schema.path("oneOf").forEach(one -> forms.addAll(forms(one)));
        return forms;
    }
}
