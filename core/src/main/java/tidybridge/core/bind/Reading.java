package tidybridge.core.bind;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.route.PathText;
import tools.jackson.core.JsonPointer;
import tools.jackson.databind.JsonNode;

/** The values of one request while they are read. Used by one thread, once. */
final class Reading {

    private final CompiledInputs compiled;
    private final Mistakes mistakes;
    private final @Nullable Object[] values;
    private final boolean[] seen;

    Reading(CompiledInputs compiled, Mistakes mistakes) {
        this.compiled = compiled;
        this.mistakes = mistakes;
        this.values = new @Nullable Object[compiled.readers.length];
        this.seen = new boolean[compiled.readers.length];
    }

    @Nullable
    Object[] values() {
        return values;
    }

    void path(int index, String raw) {
        String text = PathText.decode(raw, 0, raw.length(), false);
        if (text == null) {
            seen[index] = true;
            mistakes.of(compiled.parameters.get(index), "is not properly percent-encoded UTF-8");
        } else {
            text(index, text);
        }
    }

    /** A value that the service knows by itself; null when it does not. */
    void known(int index, @Nullable Object value) {
        if (value != null) {
            seen[index] = true;
            values[index] = value;
        }
    }

    /** Reads a single text, or a list with commas. */
    void text(int index, @Nullable String text) {
        if (text == null) {
            return;
        }
        seen[index] = true;
        ListReader list = compiled.lists[index];
        try {
            values[index] = list == null ? compiled.readers[index].read(text) : list.separated(text);
        } catch (ValueReader.Unfit e) {
            mistakes.of(compiled.parameters.get(index), e.clause());
        }
    }

    void pair(int index, String text) {
        ListReader list = compiled.lists[index];
        if (list != null) {
            item(index, list, text);
        } else if (seen[index]) {
            mistakes.of(compiled.parameters.get(index), "is given more than once");
        } else {
            text(index, text);
        }
    }

    /** A list is its name again and again; the items gather until the end. */
    @SuppressWarnings("unchecked")
    private void item(int index, ListReader list, String text) {
        seen[index] = true;
        Object before = values[index];
        List<Object> items = before == null ? new ArrayList<>() : (List<Object>) before;
        values[index] = items;
        if (items.size() > list.most()) {
            return;
        }
        try {
            items.add(list.item(text));
        } catch (ValueReader.Unfit e) {
            mistakes.of(compiled.parameters.get(index), e.clause());
        }
    }

    void json(byte[] bytes) {
        JsonNode root = JsonBody.parse(bytes, mistakes::ofBody);
        if (root.isMissingNode()) {
            for (int i = 0; i < seen.length; i++) {
                seen[i] |= compiled.pointers[i] != null;
            }
            return;
        }
        parts(root);
    }

    private void parts(JsonNode root) {
        compiled.body.refuseUnknown(root, mistakes::ofBody);
        for (int i = 0; i < seen.length; i++) {
            JsonPointer pointer = compiled.pointers[i];
            if (pointer != null) {
                part(i, root.at(pointer));
            }
        }
    }

    private void part(int index, JsonNode node) {
        if (node.isMissingNode()) {
            return;
        }
        seen[index] = true;
        ParameterDefinition parameter = compiled.parameters.get(index);
        ListReader list = compiled.lists[index];
        try {
            if (node.isNull()) {
                values[index] = Bound.Given.NULL;
                if (!parameter.nullable()) {
                    mistakes.of(parameter, "must not be null");
                }
            } else {
                values[index] = list == null ? compiled.readers[index].read(node) : list.json(node);
            }
        } catch (ValueReader.Unfit e) {
            mistakes.of(parameter, e.clause());
        }
    }

    /** The rows of a batch; nothing, with a mistake, for what is no array of some rows. */
    JsonNode array(byte @Nullable [] bytes, int most) {
        JsonNode root = bytes == null ? null : JsonBody.parse(bytes, mistakes::ofBody);
        if (root == null) {
            mistakes.ofBody("", "must be an array of rows, and there is none");
        } else if (root.isArray() && (root.isEmpty() || root.size() > most)) {
            mistakes.ofBody("", root.isEmpty() ? "holds no row" : "holds more than " + most + " rows");
        } else if (!root.isArray() && !root.isMissingNode()) {
            mistakes.ofBody("", "must be an array of rows");
        }
        return root == null || !root.isArray() || root.size() > most ? JsonBody.nothing() : root;
    }

    /** Reads one row of a batch; what the address gave is the same for all. */
    @Nullable
    Object[] row(int index, JsonNode item) {
        for (int i = 0; i < seen.length; i++) {
            if (compiled.pointers[i] != null) {
                values[i] = null;
                seen[i] = false;
            }
        }
        mistakes.within("/" + index);
        parts(item);
        settle(true);
        mistakes.within("");
        return values.clone();
    }

    /** Looks at what is absent, of the body's parameters or of the others. */
    void settle(boolean ofBody) {
        for (int i = 0; i < seen.length; i++) {
            if (ofBody == (compiled.pointers[i] != null)) {
                settle(i);
            }
        }
    }

    private void settle(int index) {
        if (!seen[index]) {
            absent(index);
        } else if (values[index] instanceof List<?> list) {
            gathered(index, list);
        }
    }

    @SuppressWarnings("unchecked")
    private void gathered(int index, List<?> list) {
        ListReader reader = compiled.lists[index];
        if (reader == null || !mistakes.isEmpty()) {
            return;
        }
        try {
            reader.checked((List<Object>) list);
        } catch (ValueReader.Unfit e) {
            mistakes.of(compiled.parameters.get(index), e.clause());
        }
    }

    private void absent(int index) {
        ParameterDefinition parameter = compiled.parameters.get(index);
        Object otherwise = compiled.defaults[index];
        values[index] = otherwise;
        if (parameter.required() && otherwise == null) {
            String example = parameter.example();
            mistakes.of(parameter, "is required" + (example == null ? "" : "; for example " + example));
        }
    }
}
