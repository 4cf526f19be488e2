package tidybridge.core.plan;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicReferenceArray;
import java.util.function.Predicate;
import java.util.function.ToIntFunction;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.sql.Bind;
import tidybridge.core.sql.ChangeTarget;
import tidybridge.core.sql.Rendered;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.WhenPart;

/**
 * The forms of an operation's statement, one for each combination of given optional parameters and sizes of lists, each written once
 * and then only read. Thread-safe: two requests that meet at a new form write the same one.
 */
public final class StatementPlan {

    /** The most parameters that may switch parts of a statement; each doubles the number of possible forms. */
    public static final int MOST_SWITCHES = 12;

    /** The most forms with lists that are kept; beyond them the kept ones are written anew when they are needed. */
    private static final int MOST_LIST_FORMS = 4_096;

    private static final int MOST_EXPLAINED = 6;

    private static final int STARTS = Start.values().length;

    private final Statement statement;
    private final String mark;
    private final List<ParameterDefinition> parameters;
    private final Map<String, Integer> names;
    private final Renderer renderer;
    private final int[] switches;
    private final int[] lists;
    private final @Nullable PageOrder order;
    private final UnaryOperator<String> bounded;
    private final AtomicReferenceArray<@Nullable Variant> variants;
    private final Map<Long, Variant> listVariants = new ConcurrentHashMap<>();

    /** Writes the statement with what applies. */
    private interface Renderer {
        Rendered render(Predicate<String> given, ToIntFunction<String> items);
    }

    StatementPlan(
            Statement statement,
            String mark,
            List<ParameterDefinition> parameters,
            @Nullable PageOrder order,
            UnaryOperator<String> bounded) {
        this(statement, mark, parameters, indexes(parameters), order, bounded, statement::render);
    }

    /**
     * The forms of a step's statement.
     *
     * @param names indexes of values by the names the statement uses; those behind the parameters come from earlier steps
     */
    StatementPlan(
            Statement statement,
            String mark,
            List<ParameterDefinition> parameters,
            Map<String, Integer> names,
            UnaryOperator<String> bounded) {
        this(statement, mark, parameters, names, null, bounded, statement::render);
    }

    private StatementPlan(
            Statement statement,
            String mark,
            List<ParameterDefinition> parameters,
            Map<String, Integer> names,
            @Nullable PageOrder order,
            UnaryOperator<String> bounded,
            Renderer renderer) {
        this.bounded = bounded;
        this.renderer = renderer;
        this.statement = statement;
        this.parameters = List.copyOf(parameters);
        this.names = Map.copyOf(names);
        this.mark = mark;
        this.order = order;
        this.lists = statement.binds().stream()
                .filter(Bind::inList)
                .map(bind -> names.getOrDefault(bind.name(), -1))
                .filter(index -> index >= 0 && index < parameters.size())
                .filter(index -> parameters.get(index).list() != null)
                .distinct()
                .mapToInt(Integer::intValue)
                .toArray();
        this.switches = switches(statement, parameters, names).stream()
                .mapToInt(Integer::intValue)
                .toArray();
        this.variants = new AtomicReferenceArray<>(STARTS << switches.length);
    }

    /** The indexes of parameters by their names. */
    static Map<String, Integer> indexes(List<ParameterDefinition> parameters) {
        Map<String, Integer> indexes = new HashMap<>();
        for (int i = 0; i < parameters.size(); i++) {
            indexes.put(parameters.get(i).name(), i);
        }
        return indexes;
    }

    /** The indexes of the values that may be absent and that some part of the statement waits for. */
    static List<Integer> switches(
            Statement statement, List<ParameterDefinition> parameters, Map<String, Integer> names) {
        Set<Integer> indexes = new TreeSet<>();
        for (WhenPart when : statement.whens()) {
            for (String name : when.names()) {
                Integer index = names.get(name);
                boolean ofStep = index != null && index >= parameters.size();
                if (index != null && (ofStep || parameters.get(index).mayBeAbsent())) {
                    indexes.add(index);
                }
            }
        }
        return List.copyOf(indexes);
    }

    /**
     * The same conditions as a query for the rows that this UPDATE or DELETE would change; empty when it changes several tables.
     *
     * @param select what stands between SELECT and FROM
     */
    public Optional<StatementPlan> rows(String select) {
        return statement
                .target()
                .filter(target -> target.from() < target.to() && isOfRows())
                .map(target -> new StatementPlan(
                        statement,
                        mark,
                        parameters,
                        names,
                        null,
                        bounded,
                        (given, items) -> statement.renderRows(target, select, given, items)));
    }

    private boolean isOfRows() {
        return switch (statement.kind()) {
            case UPDATE, DELETE -> true;
            case QUERY, INSERT, REPLACE, CALL, SET, DDL, SESSION, SCRIPT, UNKNOWN -> false;
        };
    }

    /** The statement's file inside the module's folder. */
    public String file() {
        return statement.source().file();
    }

    /** The statement as it is written. */
    public String text() {
        return statement.source().text();
    }

    /** The table that the statement changes; empty when it changes none or several, or a procedure does. */
    public Optional<String> table() {
        return statement.target().map(ChangeTarget::table);
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
        if (lists.length > 0) {
            return listVariant(values, given, index, start);
        }
        Variant variant = variants.get(index);
        if (variant == null) {
            variant = write(given, start, new int[0]);
            variants.set(index, variant);
        }
        return variant;
    }

    private Variant listVariant(@Nullable Object[] values, int given, int index, Start start) {
        int[] sizes = new int[lists.length];
        long key = index;
        for (int i = 0; i < lists.length; i++) {
            sizes[i] = values[lists[i]] instanceof List<?> list ? ListSize.ofItems(list.size()) : 0;
            key = key * ListSize.CLASSES + sizes[i];
        }
        Variant variant = listVariants.get(key);
        if (variant == null) {
            if (listVariants.size() >= MOST_LIST_FORMS) {
                listVariants.clear();
            }
            variant = write(given, start, sizes);
            listVariants.put(key, variant);
        }
        return variant;
    }

    /** The forms worth asking a source about: nothing optional given, each alone, and all of them; lists with two items. */
    List<Variant> samples(Start start) {
        List<Variant> samples = new ArrayList<>();
        samples.add(sample((1 << switches.length) - 1, start));
        if (switches.length > 0) {
            samples.add(sample(0, start));
        }
        for (int i = 0; i < switches.length && switches.length > 1; i++) {
            samples.add(sample(1 << i, start));
        }
        return samples;
    }

    /** The forms of a first page worth asking a source's plan for: few, because each takes a round trip. */
    List<Variant> explained() {
        List<Variant> samples = samples(Start.BEGINNING);
        return samples.size() <= MOST_EXPLAINED ? samples : samples.subList(0, MOST_EXPLAINED);
    }

    private Variant sample(int given, Start start) {
        int[] sizes = new int[lists.length];
        Arrays.fill(sizes, ListSize.ofItems(2));
        return write(given, start, sizes);
    }

    private String mark() {
        return "/* " + mark + " */ ";
    }

    /** The statement alone with everything given, as a source describes it best. */
    String plain() {
        return mark() + renderer.render(name -> true, name -> -1).sql();
    }

    private Variant write(int given, Start start, int[] sizes) {
        Set<Integer> absent = new HashSet<>();
        for (int i = 0; i < switches.length; i++) {
            if ((given & 1 << i) == 0) {
                absent.add(switches[i]);
            }
        }
        Rendered rendered = renderer.render(name -> !absent.contains(names.get(name)), name -> marks(name, sizes));
        List<Integer> slots = rendered.slots().stream().map(this::slot).toList();
        if (order != null) {
            Variant page = PagedSql.wrap(rendered.sql(), slots, order, start);
            return new Variant(bounded.apply(mark() + page.sql()), page.slots());
        }
        return new Variant(
                bounded.apply(mark() + rendered.sql()),
                slots.stream().mapToInt(Integer::intValue).toArray());
    }

    private int marks(String name, int[] sizes) {
        int index = index(name);
        for (int i = 0; i < lists.length; i++) {
            if (lists[i] == index) {
                return ListSize.marks(sizes[i]);
            }
        }
        return -1;
    }

    /** Every bind parameter has a parameter; that was checked before. */
    private int index(String name) {
        Integer index = names.get(name);
        if (index == null) {
            throw new IllegalStateException("no parameter for :" + name);
        }
        return index;
    }

    private int slot(Rendered.Slot slot) {
        int index = index(slot.name());
        return slot.item() < 0 ? index : Variant.item(index, slot.item());
    }
}
