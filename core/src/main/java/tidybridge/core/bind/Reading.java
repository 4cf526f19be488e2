package tidybridge.core.bind;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.route.PathText;
import tools.jackson.core.JsonToken;

/** The values of one request while they are read. Used by one thread, once. */
final class Reading {

    private final CompiledInputs compiled;
    private final Mistakes mistakes;
    private final @Nullable Object[] values;
    private final boolean[] seen;
    private final Effort effort = new Effort();

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
            values[index] = list == null ? compiled.readers[index].read(text, effort) : list.separated(text, effort);
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
            list.items(text, items, effort);
        } catch (ValueReader.Unfit e) {
            mistakes.of(compiled.parameters.get(index), e.clause());
        }
    }

    void json(byte[] bytes) {
        int before = mistakes.size();
        if (!compiled.body.read(bytes, new Parts())) {
            brokenOff(before);
        }
    }

    /** What could not be read to its end is not absent, and nothing else that is wrong with it matters. */
    private void brokenOff(int before) {
        if (!mistakes.isFlooded()) {
            mistakes.keepLast(before);
        }
        for (int i = 0; i < seen.length; i++) {
            seen[i] |= compiled.ofBody[i];
        }
    }

    /** Takes the parts of a body, or of one of its rows. */
    private class Parts implements JsonBody.Taker {
        @Override
        public void value(int parameter, BodyTokens tokens) throws BodyTokens.Broken {
            part(parameter, tokens);
        }

        @Override
        public void mistake(String pointer, String clause) {
            mistakes.ofBody(pointer, clause);
        }

        @Override
        public boolean isFlooded() {
            return mistakes.isFlooded();
        }
    }

    private void part(int index, BodyTokens tokens) throws BodyTokens.Broken {
        seen[index] = true;
        ParameterDefinition parameter = compiled.parameters.get(index);
        ListReader list = compiled.lists[index];
        try {
            if (tokens.token() == JsonToken.VALUE_NULL) {
                values[index] = Bound.Given.NULL;
                if (!parameter.nullable()) {
                    mistakes.of(parameter, "must not be null");
                }
            } else {
                values[index] = list == null ? compiled.readers[index].read(tokens, effort) : list.json(tokens, effort);
            }
        } catch (ValueReader.Unfit e) {
            mistakes.of(parameter, e.clause());
        }
    }

    /** Reads the rows of a batch; what the address gave is the same for all. */
    List<@Nullable Object[]> rows(byte @Nullable [] bytes, int most) {
        List<@Nullable Object[]> rows = new ArrayList<>();
        if (bytes == null || bytes.length == 0) {
            mistakes.ofBody("", "must be an array of rows, and there is none");
            return rows;
        }
        int before = mistakes.size();
        if (!compiled.body.rows(bytes, most, new Rows(rows))) {
            mistakes.within("");
            brokenOff(before);
        }
        return rows;
    }

    /** Takes the rows of a batch, each with values of its own. */
    private final class Rows extends Parts implements JsonBody.RowTaker {
        private final List<@Nullable Object[]> rows;

        Rows(List<@Nullable Object[]> rows) {
            this.rows = rows;
        }

        @Override
        public void begin(int row) {
            for (int i = 0; i < seen.length; i++) {
                if (compiled.ofBody[i]) {
                    values[i] = null;
                    seen[i] = false;
                }
            }
            mistakes.within("/" + row);
        }

        @Override
        public void end() {
            settle(true);
            mistakes.within("");
            rows.add(values.clone());
        }
    }

    /** Looks at what is absent, of the body's parameters or of the others. */
    void settle(boolean ofBody) {
        for (int i = 0; i < seen.length; i++) {
            if (ofBody == compiled.ofBody[i]) {
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
