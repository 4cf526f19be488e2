package tidybridge.core.bind;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.FilterOperator;
import tidybridge.core.definition.In;
import tidybridge.core.definition.ListRule;
import tidybridge.core.definition.ParameterDefinition;

/** The inputs of one operation, made ready for every request: where each comes from and how it is read. Immutable and thread-safe. */
final class CompiledInputs {

    private static final int MOST_QUERY_PAIRS = 200;
    private static final int MOST_FORM_PAIRS = 2_000;

    final List<ParameterDefinition> parameters;
    final Askable ask;
    final Set<String> own;
    final SortReader sort;
    final FieldsReader fields;
    final ValueReader[] readers;
    final @Nullable ListReader[] lists;
    final @Nullable Object[] defaults;
    final int[] placeholder;
    final boolean[] ofBody;
    final Names query = new Names("query", In.QUERY, new HashMap<>(), MOST_QUERY_PAIRS);
    final Names form = new Names("form", In.FORM, new HashMap<>(), MOST_FORM_PAIRS);
    final JsonBody body;
    final BodyKind bodyKind;

    /** The names of the parameters from one place, with their indexes. */
    record Names(String in, In place, Map<String, Integer> indexes, int mostPairs) {}

    CompiledInputs(List<ParameterDefinition> parameters, List<String> placeholders, Askable ask)
            throws ValueReader.Unfit {
        this.ask = ask;
        this.own = ask.names();
        this.sort = new SortReader(ask.sortable());
        this.fields = new FieldsReader(ask.fields());
        this.parameters = List.copyOf(parameters);
        int count = parameters.size();
        this.readers = new ValueReader[count];
        this.lists = new @Nullable ListReader[count];
        this.defaults = new @Nullable Object[count];
        this.placeholder = new int[count];
        this.ofBody = new boolean[count];
        Map<String, Integer> pointers = new HashMap<>();
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
                    ofBody[i] = true;
                    pointers.put(parameter.wireName(), i);
                }
                case PATH, HEADER, COOKIE, CALLER, REQUEST -> {}
            }
        }
        this.body = new JsonBody(pointers);
        this.bodyKind = !pointers.isEmpty() ? BodyKind.JSON : form.indexes.isEmpty() ? BodyKind.NONE : BodyKind.FORM;
    }

    /** What callers may write in one place as a list for people: the operators of a filter stand together, {@code length_m[gte|lte]}. */
    String listed(Names names) {
        Map<String, String> operators = new LinkedHashMap<>();
        for (String name : known(names)) {
            int bracket = name.endsWith("]") ? name.lastIndexOf('[') : -1;
            String operator = bracket < 0 ? "" : name.substring(bracket + 1, name.length() - 1);
            if (FilterOperator.named(operator).isPresent()) {
                operators.merge(name.substring(0, bracket), operator, (one, other) -> one + "|" + other);
            } else {
                operators.put(name, "");
            }
        }
        return operators.entrySet().stream()
                .map(entry ->
                        entry.getValue().isEmpty() ? entry.getKey() : entry.getKey() + "[" + entry.getValue() + "]")
                .collect(Collectors.joining(", "));
    }

    /** What callers may write in one place, the service's own parameters among them. */
    Set<String> known(Names names) {
        Set<String> known = new LinkedHashSet<>();
        for (ParameterDefinition parameter : parameters) {
            if (parameter.in() == names.place) {
                known.add(parameter.wireName());
            }
        }
        if (names == query) {
            known.addAll(own);
        }
        return known;
    }
}
