package tidybridge.core.plan;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.atomic.AtomicReferenceArray;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.sql.Rendered;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.WhenPart;

/**
 * The forms of an operation's statement, one for each combination of given optional parameters, each written once and then only
 * read. Thread-safe: two requests that meet at a new form write the same one.
 */
public final class StatementPlan {

    /** The most parameters that may switch parts of a statement; each doubles the number of possible forms. */
    public static final int MOST_SWITCHES = 12;

    private static final int STARTS = Start.values().length;

    private final Statement statement;
    private final String mark;
    private final Map<String, Integer> parameterIndex = new HashMap<>();
    private final int[] switches;
    private final @Nullable PageOrder order;
    private final UnaryOperator<String> bounded;
    private final AtomicReferenceArray<@Nullable Variant> variants;

    StatementPlan(
            Statement statement,
            String mark,
            List<ParameterDefinition> parameters,
            @Nullable PageOrder order,
            UnaryOperator<String> bounded) {
        this.bounded = bounded;
        this.statement = statement;
        this.mark = "/* " + mark + " */ ";
        this.order = order;
        for (int i = 0; i < parameters.size(); i++) {
            parameterIndex.put(parameters.get(i).name(), i);
        }
        this.switches = switches(statement, parameters).stream()
                .mapToInt(Integer::intValue)
                .toArray();
        this.variants = new AtomicReferenceArray<>(STARTS << switches.length);
    }

    /** The indexes of the optional parameters that some part of the statement waits for. */
    static List<Integer> switches(Statement statement, List<ParameterDefinition> parameters) {
        Set<String> names = new HashSet<>();
        for (WhenPart when : statement.whens()) {
            names.addAll(when.names());
        }
        List<Integer> indexes = new ArrayList<>();
        for (int i = 0; i < parameters.size(); i++) {
            if (names.contains(parameters.get(i).name()) && parameters.get(i).mayBeAbsent()) {
                indexes.add(i);
            }
        }
        return indexes;
    }

    /**
     * The form for these values.
     *
     * @param values in the order of the parameters, null when absent
     * @param start where the page begins; {@link Start#BEGINNING} for what is no collection
     */
    public Variant variant(@Nullable Object[] values, Start start) {
        int given = 0;
        for (int i = 0; i < switches.length; i++) {
            if (values[switches[i]] != null) {
                given |= 1 << i;
            }
        }
        int index = given * STARTS + start.ordinal();
        Variant variant = variants.get(index);
        if (variant == null) {
            variant = write(given, start);
            variants.set(index, variant);
        }
        return variant;
    }

    /** The forms worth asking a source about: nothing optional given, each alone, and all of them. */
    List<Variant> samples(Start start) {
        List<Variant> samples = new ArrayList<>();
        samples.add(write((1 << switches.length) - 1, start));
        if (switches.length > 0) {
            samples.add(write(0, start));
        }
        for (int i = 0; i < switches.length && switches.length > 1; i++) {
            samples.add(write(1 << i, start));
        }
        return samples;
    }

    /** The statement alone with everything given, as a source describes it best. */
    String plain() {
        return mark + statement.render(name -> true).sql();
    }

    private Variant write(int given, Start start) {
        Set<Integer> absent = new HashSet<>();
        for (int i = 0; i < switches.length; i++) {
            if ((given & 1 << i) == 0) {
                absent.add(switches[i]);
            }
        }
        Rendered rendered = statement.render(name -> !absent.contains(parameterIndex.get(name)));
        List<Integer> slots = rendered.binds().stream().map(parameterIndex::get).toList();
        if (order != null) {
            Variant page = PagedSql.wrap(rendered.sql(), slots, order, start);
            return new Variant(bounded.apply(mark + page.sql()), page.slots());
        }
        return new Variant(
                bounded.apply(mark + rendered.sql()),
                slots.stream().mapToInt(Integer::intValue).toArray());
    }
}
