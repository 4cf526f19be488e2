package tidybridge.core.bind;

import java.nio.charset.StandardCharsets;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.In;
import tidybridge.core.definition.ListRule;
import tidybridge.core.definition.PageRule;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.problem.InputError;
import tidybridge.core.route.PathText;
import tidybridge.core.text.Nearest;
import tools.jackson.core.JsonPointer;
import tools.jackson.databind.JsonNode;

/** Turns the raw inputs of a request into checked values; compiled for one operation. Immutable and thread-safe. */
public final class Binder {

    /** The query parameter for the size of a page. */
    public static final String LIMIT = "limit";

    /** The query parameter that continues a collection. */
    public static final String AFTER = "after";

    /** The query parameter that asks what a change would touch. */
    public static final String PREVIEW = "preview";

    /** What {@link #PREVIEW} can ask for. */
    public static final String COUNT = "count";

    private static final int MOST_QUERY_PAIRS = 200;
    private static final int MOST_FORM_PAIRS = 2_000;

    /** A form is ASCII; everything else in it is percent-encoded (WHATWG URL, 5.1). */
    private static final int MOST_FORM_CHAR = 0x7f;

    /** The most mistakes one answer tells. */
    private static final int MOST_ERRORS = 50;

    private final List<ParameterDefinition> parameters;
    private final ValueReader[] readers;
    private final @Nullable ListReader[] lists;
    private final @Nullable Object[] defaults;
    private final int[] placeholder;
    private final Names query;
    private final Names form;
    private final @Nullable PageRule page;
    private final Set<String> own;
    private final BodyKind bodyKind;
    private final @Nullable JsonPointer[] pointers;
    private final JsonBody body;

    /** The names of the parameters from one place, with their indexes. */
    private record Names(String in, Map<String, Integer> indexes, int mostPairs) {}

    /**
     * Compiles a binder.
     *
     * @param placeholders the path's placeholders from left to right
     * @param page the page rule of a collection, null for other answers
     * @throws ValueReader.Unfit when a parameter's default does not fit its own type
     */
    public Binder(List<ParameterDefinition> parameters, List<String> placeholders, @Nullable PageRule page)
            throws ValueReader.Unfit {
        this(parameters, placeholders, page, page == null ? Set.of() : Set.of(LIMIT, AFTER));
    }

    /**
     * Compiles a binder for an operation that says which of the service's own query parameters it takes.
     *
     * @param own some of {@link #LIMIT}, {@link #AFTER} and {@link #PREVIEW}
     * @throws ValueReader.Unfit when a parameter's default does not fit its own type
     */
    public Binder(
            List<ParameterDefinition> parameters, List<String> placeholders, @Nullable PageRule page, Set<String> own)
            throws ValueReader.Unfit {
        this.parameters = List.copyOf(parameters);
        this.page = page;
        this.own = Set.copyOf(own);
        int count = parameters.size();
        this.readers = new ValueReader[count];
        this.lists = new @Nullable ListReader[count];
        this.defaults = new @Nullable Object[count];
        this.placeholder = new int[count];
        this.pointers = new @Nullable JsonPointer[count];
        this.query = new Names("query", new HashMap<>(), MOST_QUERY_PAIRS);
        this.form = new Names("form", new HashMap<>(), MOST_FORM_PAIRS);
        Set<String> bodyPointers = new HashSet<>();
        for (int i = 0; i < count; i++) {
            ParameterDefinition parameter = parameters.get(i);
            readers[i] = new ValueReader(parameter.type(), parameter.constraints());
            ListRule list = parameter.list();
            lists[i] = list == null ? null : new ListReader(list);
            String defaultText = parameter.defaultText();
            defaults[i] = defaultText == null ? null : readers[i].read(defaultText);
            placeholder[i] = placeholders.indexOf(parameter.wireName());
            switch (parameter.in()) {
                case QUERY -> query.indexes.put(parameter.wireName(), i);
                case FORM -> form.indexes.put(parameter.wireName(), i);
                case BODY -> {
                    pointers[i] = JsonBody.pointer(parameter.wireName());
                    bodyPointers.add(parameter.wireName());
                }
                case PATH, HEADER, COOKIE, CALLER, REQUEST -> {}
            }
        }
        this.body = new JsonBody(bodyPointers);
        this.bodyKind =
                !bodyPointers.isEmpty() ? BodyKind.JSON : form.indexes.isEmpty() ? BodyKind.NONE : BodyKind.FORM;
    }

    /** What kind of body requests carry. */
    public BodyKind bodyKind() {
        return bodyKind;
    }

    /**
     * Binds a request.
     *
     * @throws BadInput with every mistake of the request
     */
    public Bound bind(Inputs inputs) throws BadInput {
        Reading reading = new Reading();
        address(inputs, reading);
        switch (bodyKind) {
            case NONE -> {}
            case JSON -> reading.json(inputs.body());
            case FORM -> reading.form(inputs.body());
        }
        return reading.finish();
    }

    /**
     * Binds a request whose body is an array of rows: each with values of its own for what its item holds.
     *
     * @param most rows
     * @return the values of each row, in their order
     * @throws BadInput with every mistake of the request; those of a row's own are found below its index
     */
    public List<@Nullable Object[]> bindEach(Inputs inputs, int most) throws BadInput {
        Reading reading = new Reading();
        address(inputs, reading);
        JsonNode root = reading.array(inputs.body(), most);
        List<@Nullable Object[]> rows = new ArrayList<>(root.size());
        for (int i = 0; i < root.size() && !reading.isFlooded(); i++) {
            rows.add(reading.row(i, root.get(i)));
        }
        reading.finishRows();
        return rows;
    }

    /** Reads everything but the body. */
    private void address(Inputs inputs, Reading reading) {
        for (int i = 0; i < readers.length; i++) {
            ParameterDefinition parameter = parameters.get(i);
            switch (parameter.in()) {
                case PATH -> reading.path(i, inputs.path(placeholder[i]));
                case HEADER -> reading.text(i, inputs.header(parameter.wireName()));
                case COOKIE -> reading.text(i, inputs.cookie(parameter.wireName()));
                case CALLER -> reading.known(i, of(inputs.caller(), parameter.wireName()));
                case REQUEST -> reading.known(i, ofRequest(inputs, parameter.wireName()));
                case QUERY, BODY, FORM -> {}
            }
        }
        String text = inputs.query();
        if (text != null) {
            reading.pairs(text, query);
        }
    }

    private static @Nullable Object of(Caller caller, String name) {
        return switch (name) {
            case "client" -> caller.client();
            case "roles" -> caller.roles();
            case "address" -> caller.address();
            default -> caller.name();
        };
    }

    /** A moment is bound in UTC, as the session's zone is. */
    private static Object ofRequest(Inputs inputs, String name) {
        return name.equals("time") ? LocalDateTime.ofInstant(inputs.requestTime(), ZoneOffset.UTC) : inputs.requestId();
    }

    /** The reading of one request. */
    private final class Reading {
        private final @Nullable Object[] values = new @Nullable Object[readers.length];
        private final boolean[] seen = new boolean[readers.length];
        private @Nullable List<InputError> errors;
        private int limit;
        private @Nullable String after;
        private boolean preview;

        /** The JSON Pointer of the row that is read; empty outside of batches. */
        private String row = "";

        void path(int index, String raw) {
            String text = PathText.decode(raw, 0, raw.length(), false);
            if (text == null) {
                seen[index] = true;
                fail(parameters.get(index), "is not properly percent-encoded UTF-8");
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
            ListReader list = lists[index];
            try {
                values[index] = list == null ? readers[index].read(text) : list.separated(text);
            } catch (ValueReader.Unfit e) {
                fail(parameters.get(index), e.clause());
            }
        }

        void form(byte @Nullable [] bytes) {
            if (bytes == null) {
                return;
            }
            String text = new String(bytes, StandardCharsets.UTF_8);
            if (text.chars().anyMatch(c -> c > MOST_FORM_CHAR)) {
                add("form", "form", "must be percent-encoded");
            } else {
                pairs(text, form);
            }
        }

        void pairs(String text, Names names) {
            int start = 0;
            int pairs = 0;
            while (start <= text.length()) {
                int end = text.indexOf('&', start);
                end = end < 0 ? text.length() : end;
                if (end > start) {
                    if (++pairs > names.mostPairs) {
                        flooded(names);
                        return;
                    }
                    pair(text, start, end, names);
                }
                start = end + 1;
            }
        }

        /** Said in place of the mistakes before it, which are as many and say less. */
        private void flooded(Names names) {
            errors = new ArrayList<>();
            add(names.in, names.in, "has more than " + names.mostPairs + " parameters");
        }

        private void pair(String text, int start, int end, Names names) {
            int equals = text.indexOf('=', start);
            int nameEnd = equals < 0 || equals > end ? end : equals;
            String name = PathText.decode(text, start, nameEnd, true);
            String value = nameEnd == end ? "" : PathText.decode(text, nameEnd + 1, end, true);
            if (name == null || value == null) {
                add(name == null ? names.in : shown(name), names.in, "is not properly percent-encoded UTF-8");
                return;
            }
            Integer index = names.indexes.get(name);
            if (index != null) {
                pair(index, value);
            } else if (names == query && page != null && name.equals(LIMIT)) {
                limit(value, page);
            } else if (names == query && page != null && name.equals(AFTER)) {
                after(value);
            } else if (names == query && own.contains(PREVIEW) && name.equals(PREVIEW)) {
                preview(value);
            } else {
                Set<String> known = namesOf(names);
                add(
                        shown(name),
                        names.in,
                        "is not known here." + Nearest.hint(shown(name), known) + list(names.in, known));
            }
        }

        private void pair(int index, String text) {
            ListReader list = lists[index];
            if (list != null) {
                item(index, list, text);
            } else if (seen[index]) {
                fail(parameters.get(index), "is given more than once");
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
                fail(parameters.get(index), e.clause());
            }
        }

        void json(byte @Nullable [] bytes) {
            if (bytes == null) {
                return;
            }
            JsonNode root = JsonBody.parse(bytes, this::failBody);
            if (root.isMissingNode()) {
                for (int i = 0; i < pointers.length; i++) {
                    seen[i] |= pointers[i] != null;
                }
                return;
            }
            parts(root);
        }

        private void parts(JsonNode root) {
            body.refuseUnknown(root, this::failBody);
            for (int i = 0; i < pointers.length; i++) {
                JsonPointer pointer = pointers[i];
                if (pointer != null) {
                    part(i, root.at(pointer));
                }
            }
        }

        /** The rows of a batch; nothing, with a mistake, for what is no array of some rows. */
        JsonNode array(byte @Nullable [] bytes, int most) {
            JsonNode root = bytes == null ? null : JsonBody.parse(bytes, this::failBody);
            if (root == null) {
                failBody("", "must be an array of rows, and there is none");
            } else if (root.isArray() && (root.isEmpty() || root.size() > most)) {
                failBody("", root.isEmpty() ? "holds no row" : "holds more than " + most + " rows");
            } else if (!root.isArray() && !root.isMissingNode()) {
                failBody("", "must be an array of rows");
            }
            return root == null || !root.isArray() || root.size() > most ? JsonBody.nothing() : root;
        }

        /** Reads one row of a batch; what the address gave is the same for all. */
        @Nullable
        Object[] row(int index, JsonNode item) {
            for (int i = 0; i < pointers.length; i++) {
                if (pointers[i] != null) {
                    values[i] = null;
                    seen[i] = false;
                }
            }
            row = "/" + index;
            parts(item);
            settle(true);
            row = "";
            return values.clone();
        }

        boolean isFlooded() {
            return errors != null && errors.size() >= MOST_ERRORS;
        }

        void finishRows() throws BadInput {
            settle(false);
            if (errors != null) {
                throw new BadInput(errors);
            }
        }

        private void part(int index, JsonNode node) {
            if (node.isMissingNode()) {
                return;
            }
            seen[index] = true;
            ParameterDefinition parameter = parameters.get(index);
            ListReader list = lists[index];
            try {
                if (node.isNull()) {
                    values[index] = Bound.Given.NULL;
                    if (!parameter.nullable()) {
                        fail(parameter, "must not be null");
                    }
                } else {
                    values[index] = list == null ? readers[index].read(node) : list.json(node);
                }
            } catch (ValueReader.Unfit e) {
                fail(parameter, e.clause());
            }
        }

        private void failBody(String pointer, String clause) {
            add(row + pointer, "body", clause);
        }

        private void limit(String text, PageRule rule) {
            int number = rows(text);
            if (limit != 0) {
                add(LIMIT, "query", "is given more than once");
            } else if (number < 1 || number > rule.most()) {
                add(LIMIT, "query", "must be a whole number from 1 to " + rule.most());
            } else {
                limit = number;
            }
        }

        /** Up to nine digits without a leading zero as a number; 0 for anything else. */
        private static int rows(String text) {
            int number = 0;
            for (int i = 0; i < text.length(); i++) {
                char digit = text.charAt(i);
                if (digit < '0' || digit > '9' || i == 9 || digit == '0' && i == 0) {
                    return 0;
                }
                number = 10 * number + digit - '0';
            }
            return number;
        }

        private void preview(String text) {
            if (preview) {
                add(PREVIEW, "query", "is given more than once");
            } else if (!text.equals(COUNT)) {
                add(PREVIEW, "query", "can only be '" + COUNT + "'");
            }
            preview = true;
        }

        private void after(String text) {
            if (after != null) {
                add(AFTER, "query", "is given more than once");
            }
            after = text;
        }

        /** Looks at what is absent, of the body's parameters or of the others. */
        private void settle(boolean ofBody) {
            for (int i = 0; i < readers.length; i++) {
                if (ofBody == (pointers[i] != null)) {
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

        Bound finish() throws BadInput {
            settle(false);
            settle(true);
            if (errors != null) {
                throw new BadInput(errors);
            }
            int rows = page == null ? 0 : limit == 0 ? page.limit() : limit;
            return new Bound(values, rows, after, preview);
        }

        @SuppressWarnings("unchecked")
        private void gathered(int index, List<?> list) {
            ListReader reader = lists[index];
            if (reader == null || errors != null) {
                return;
            }
            try {
                reader.checked((List<Object>) list);
            } catch (ValueReader.Unfit e) {
                fail(parameters.get(index), e.clause());
            }
        }

        private void absent(int index) {
            ParameterDefinition parameter = parameters.get(index);
            values[index] = defaults[index];
            if (parameter.required() && defaults[index] == null) {
                String example = parameter.example();
                fail(parameter, "is required" + (example == null ? "" : "; for example " + example));
            }
        }

        private void fail(ParameterDefinition parameter, String clause) {
            String name = parameter.in() == In.BODY ? row + parameter.wireName() : parameter.wireName();
            add(name, parameter.in().name().toLowerCase(Locale.ROOT), clause);
        }

        private void add(String name, String in, String clause) {
            if (errors == null) {
                errors = new ArrayList<>();
            }
            if (errors.size() < MOST_ERRORS) {
                String end = clause.endsWith(".") || clause.endsWith("?") ? "" : ".";
                String subject = in.equals("body") && name.isEmpty() ? "The body" : "'" + name + "'";
                errors.add(new InputError(name, in, subject + " " + clause + end));
            }
        }
    }

    private Set<String> namesOf(Names place) {
        Set<String> names = new LinkedHashSet<>();
        In in = place == query ? In.QUERY : In.FORM;
        for (ParameterDefinition parameter : parameters) {
            if (parameter.in() == in) {
                names.add(parameter.wireName());
            }
        }
        if (place == query) {
            List.of(LIMIT, AFTER, PREVIEW).stream().filter(own::contains).forEach(names::add);
        }
        return names;
    }

    private static String list(String in, Set<String> names) {
        return names.isEmpty()
                ? " This call has no " + in + " parameters."
                : " Known here: " + String.join(", ", names) + ".";
    }

    /** A name is the caller's own text: cut it, so that an answer cannot be made arbitrarily long. */
    private static String shown(String name) {
        return name.length() <= 60 ? name : name.substring(0, 60) + "...";
    }
}
