package tidybridge.core.bind;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.In;
import tidybridge.core.definition.PageRule;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.problem.InputError;
import tidybridge.core.route.PathText;
import tidybridge.core.text.Nearest;

/** Turns the raw inputs of a request into checked values; compiled for one operation. Immutable and thread-safe. */
public final class Binder {

    /** The query parameter for the size of a page. */
    public static final String LIMIT = "limit";

    /** The query parameter that continues a collection. */
    public static final String AFTER = "after";

    private static final int MOST_QUERY_PAIRS = 200;

    private final List<ParameterDefinition> parameters;
    private final ValueReader[] readers;
    private final @Nullable Object[] defaults;
    private final int[] placeholder;
    private final Map<String, Integer> byQueryName = new HashMap<>();
    private final @Nullable PageRule page;

    /**
     * Compiles a binder.
     *
     * @param placeholders the path's placeholders from left to right
     * @param page the page rule of a collection, null for other answers
     * @throws ValueReader.Unfit when a parameter's default does not fit its own type
     */
    public Binder(List<ParameterDefinition> parameters, List<String> placeholders, @Nullable PageRule page)
            throws ValueReader.Unfit {
        this.parameters = List.copyOf(parameters);
        this.page = page;
        this.readers = new ValueReader[parameters.size()];
        this.defaults = new @Nullable Object[readers.length];
        this.placeholder = new int[readers.length];
        for (int i = 0; i < readers.length; i++) {
            ParameterDefinition parameter = parameters.get(i);
            readers[i] = new ValueReader(parameter.type(), parameter.constraints());
            String defaultText = parameter.defaultText();
            defaults[i] = defaultText == null ? null : readers[i].read(defaultText);
            placeholder[i] = placeholders.indexOf(parameter.wireName());
            if (parameter.in() == In.QUERY) {
                byQueryName.put(parameter.wireName(), i);
            }
        }
    }

    /**
     * Binds a request.
     *
     * @throws BadInput with every mistake of the request
     */
    public Bound bind(Inputs inputs) throws BadInput {
        Reading reading = new Reading();
        for (int i = 0; i < readers.length; i++) {
            switch (parameters.get(i).in()) {
                case PATH -> reading.path(i, inputs.path(placeholder[i]));
                case HEADER -> reading.header(i, inputs.header(parameters.get(i).wireName()));
                case QUERY -> {}
            }
        }
        String query = inputs.query();
        if (query != null) {
            reading.query(query);
        }
        return reading.finish();
    }

    /** The reading of one request. */
    private final class Reading {
        private final @Nullable Object[] values = new @Nullable Object[readers.length];
        private final boolean[] seen = new boolean[readers.length];
        private @Nullable List<InputError> errors;
        private int limit;
        private @Nullable String after;

        void path(int index, String raw) {
            String text = PathText.decode(raw, 0, raw.length(), false);
            if (text == null) {
                seen[index] = true;
                fail(parameters.get(index), "is not properly percent-encoded UTF-8");
            } else {
                value(index, text);
            }
        }

        void header(int index, @Nullable String text) {
            if (text != null) {
                value(index, text);
            }
        }

        void query(String query) {
            int start = 0;
            int pairs = 0;
            while (start <= query.length()) {
                int end = query.indexOf('&', start);
                end = end < 0 ? query.length() : end;
                if (end > start) {
                    if (++pairs > MOST_QUERY_PAIRS) {
                        fail("query", "has more than " + MOST_QUERY_PAIRS + " parameters");
                        return;
                    }
                    pair(query, start, end);
                }
                start = end + 1;
            }
        }

        private void pair(String query, int start, int end) {
            int equals = query.indexOf('=', start);
            int nameEnd = equals < 0 || equals > end ? end : equals;
            String name = PathText.decode(query, start, nameEnd, true);
            String text = nameEnd == end ? "" : PathText.decode(query, nameEnd + 1, end, true);
            if (name == null || text == null) {
                fail(name == null ? "query" : shown(name), "is not properly percent-encoded UTF-8");
                return;
            }
            Integer index = byQueryName.get(name);
            if (index != null) {
                once(index, text);
            } else if (page != null && name.equals(LIMIT)) {
                limit(text, page);
            } else if (page != null && name.equals(AFTER)) {
                after(text);
            } else {
                fail(shown(name), "is not known here." + Nearest.hint(shown(name), queryNames()) + known());
            }
        }

        private void once(int index, String text) {
            if (seen[index]) {
                fail(parameters.get(index), "is given more than once");
            } else {
                value(index, text);
            }
        }

        private void value(int index, String text) {
            seen[index] = true;
            try {
                values[index] = readers[index].read(text);
            } catch (ValueReader.Unfit e) {
                fail(parameters.get(index), e.clause());
            }
        }

        private void limit(String text, PageRule rule) {
            int number = rows(text);
            if (limit != 0) {
                fail(LIMIT, "is given more than once");
            } else if (number < 1 || number > rule.most()) {
                fail(LIMIT, "must be a whole number from 1 to " + rule.most());
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

        private void after(String text) {
            if (after != null) {
                fail(AFTER, "is given more than once");
            }
            after = text;
        }

        Bound finish() throws BadInput {
            for (int i = 0; i < readers.length; i++) {
                if (!seen[i]) {
                    absent(i);
                }
            }
            if (errors != null) {
                throw new BadInput(errors);
            }
            int rows = page == null ? 0 : limit == 0 ? page.limit() : limit;
            return new Bound(values, rows, after);
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
            add(parameter.wireName(), parameter.in().name().toLowerCase(Locale.ROOT), clause);
        }

        private void fail(String name, String clause) {
            add(name, "query", clause);
        }

        private void add(String name, String in, String clause) {
            if (errors == null) {
                errors = new ArrayList<>();
            }
            String end = clause.endsWith(".") || clause.endsWith("?") ? "" : ".";
            errors.add(new InputError(name, in, "'" + name + "' " + clause + end));
        }
    }

    private Set<String> queryNames() {
        Set<String> names = new LinkedHashSet<>();
        for (ParameterDefinition parameter : parameters) {
            if (parameter.in() == In.QUERY) {
                names.add(parameter.wireName());
            }
        }
        if (page != null) {
            names.add(LIMIT);
            names.add(AFTER);
        }
        return names;
    }

    private String known() {
        Set<String> names = queryNames();
        return names.isEmpty()
                ? " This call has no query parameters."
                : " Known here: " + String.join(", ", names) + ".";
    }

    /** A name is the caller's own text: cut it, so that an answer cannot be made arbitrarily long. */
    private static String shown(String name) {
        return name.length() <= 60 ? name : name.substring(0, 60) + "...";
    }
}
