package tidybridge.core.plan;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.function.ToIntFunction;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.plan.VariantCache.Form;
import tidybridge.core.plan.VariantCache.Given;
import tidybridge.core.sql.Bind;
import tidybridge.core.sql.ChangeTarget;
import tidybridge.core.sql.Purpose;
import tidybridge.core.sql.Rendered;
import tidybridge.core.sql.Renderer;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.WhenPart;

/**
 * The forms of an operation's statement, one for each combination of given optional parameters, sizes of lists and page, each written
 * when it is first needed and then only read. Thread-safe: two requests that meet at a new form use the same one.
 */
public final class StatementPlan {

    /** The most parameters that may switch parts of a statement: as many as two words of bits tell apart. */
    public static final int MOST_SWITCHES = 2 * Long.SIZE;

    private static final int MOST_EXPLAINED = 6;

    private final Statement statement;
    private final String mark;
    private final List<ParameterDefinition> parameters;
    private final Map<String, Integer> names;
    private final Writing writing;
    private final int[] switches;
    private final int[] lists;
    private final Bounds bounds;
    private final VariantCache kept = new VariantCache();

    /** The form of a statement that has only one; null until it is needed, and for every other statement. */
    private volatile @Nullable Variant only;

    /** Puts the time limit of a purpose around a statement. */
    @FunctionalInterface
    public interface Bounds {
        String bounded(String sql, Purpose purpose);
    }

    /** Writes the statement with what applies. */
    private interface Writing {
        Rendered write(Predicate<String> given, ToIntFunction<String> items, @Nullable Rendered conditions);
    }

    /**
     * The forms of a statement.
     *
     * @param mark what the database's own lists of statements show it as
     * @param names indexes of values by the names the statement uses; those behind the parameters come from earlier steps
     * @param bounds puts the statement's time limit around it
     */
    public StatementPlan(
            Statement statement,
            String mark,
            List<ParameterDefinition> parameters,
            Map<String, Integer> names,
            Bounds bounds) {
        this(statement, mark, parameters, names, bounds, new Renderer(statement)::render);
    }

    private StatementPlan(
            Statement statement,
            String mark,
            List<ParameterDefinition> parameters,
            Map<String, Integer> names,
            Bounds bounds,
            Writing writing) {
        this.bounds = bounds;
        this.writing = writing;
        this.statement = statement;
        this.parameters = List.copyOf(parameters);
        this.names = Map.copyOf(names);
        this.mark = mark;
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
    }

    /** The indexes of parameters by their names. */
    public static Map<String, Integer> indexes(List<ParameterDefinition> parameters) {
        Map<String, Integer> indexes = new HashMap<>();
        for (int i = 0; i < parameters.size(); i++) {
            indexes.put(parameters.get(i).name(), i);
        }
        return indexes;
    }

    /** The indexes of the values that may be absent and that some part of the statement waits for. */
    public static List<Integer> switches(
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
        Renderer renderer = new Renderer(statement);
        return statement
                .target()
                .filter(target -> target.from() < target.to() && isOfRows())
                .map(target -> new StatementPlan(
                        statement,
                        mark,
                        parameters,
                        names,
                        bounds,
                        (given, items, conditions) -> renderer.rows(target, select, given, items)));
    }

    private boolean isOfRows() {
        return switch (statement.kind()) {
            case UPDATE, DELETE -> true;
            case QUERY, INSERT, REPLACE, CALL, SET, DDL, SESSION, INFORMATION, SCRIPT, UNKNOWN -> false;
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
     */
    public Variant variant(@Nullable Object[] values) {
        if (switches.length > 0 || lists.length > 0) {
            return kept(values, null);
        }
        Variant variant = only;
        if (variant == null) {
            variant = write(Form.withoutLists(Given.NOTHING, null));
            only = variant;
        }
        return variant;
    }

    /**
     * The form for these values and a page of the rows.
     *
     * @param values in the order of the parameters, null when absent
     */
    public Variant variant(@Nullable Object[] values, PageRequest page) {
        return kept(values, page);
    }

    private Variant kept(@Nullable Object[] values, @Nullable PageRequest page) {
        long low = 0;
        long high = 0;
        for (int i = 0; i < switches.length; i++) {
            if (values[switches[i]] != null) {
                low |= i < Long.SIZE ? 1L << i : 0;
                high |= i < Long.SIZE ? 0 : 1L << i - Long.SIZE;
            }
        }
        Given given = high == 0 && low == 0 ? Given.NOTHING : new Given(low, high);
        return kept.get(
                lists.length == 0 ? Form.withoutLists(given, page) : new Form(given, page, sizes(values)), this::write);
    }

    private int[] sizes(@Nullable Object[] values) {
        int[] sizes = new int[lists.length];
        for (int i = 0; i < sizes.length; i++) {
            sizes[i] = values[lists[i]] instanceof List<?> list ? ListSize.ofItems(list.size()) : 0;
        }
        return sizes;
    }

    /**
     * The forms worth asking a source about: nothing optional given, each alone, and all of them; lists with two items.
     *
     * @param page null for what is no collection
     */
    public List<Variant> samples(@Nullable PageRequest page) {
        List<Variant> samples = new ArrayList<>();
        samples.add(sample(Given.first(switches.length), page));
        if (switches.length > 0) {
            samples.add(sample(Given.NOTHING, page));
        }
        for (int i = 0; i < switches.length && switches.length > 1; i++) {
            samples.add(sample(Given.only(i), page));
        }
        return samples;
    }

    /**
     * The forms worth asking a source's plan for: few, because each takes a round trip.
     *
     * @param page null for what is no collection
     */
    public List<Variant> explained(@Nullable PageRequest page) {
        List<Variant> samples = samples(page);
        return samples.size() <= MOST_EXPLAINED ? samples : samples.subList(0, MOST_EXPLAINED);
    }

    /** The form of a page with nothing optional given but the conditions on it; lists with two items. */
    public Variant sample(PageRequest page) {
        return sample(Given.NOTHING, page);
    }

    private Variant sample(Given given, @Nullable PageRequest page) {
        int[] sizes = new int[lists.length];
        Arrays.fill(sizes, ListSize.ofItems(2));
        return write(new Form(given, page, sizes));
    }

    private String mark() {
        return "/* " + mark + " */ ";
    }

    /** The statement alone with everything given, as a source describes it best. */
    public String plain() {
        return mark() + writing.write(name -> true, name -> -1, null).sql();
    }

    /** A query as a page puts it into another. */
    public static String paged(String sql) {
        return "select * from (" + sql + ") as page_";
    }

    private Variant write(Form form) {
        PageRequest page = form.page();
        Rendered inside = page == null ? null : page.filters().inside();
        Rendered rendered =
                writing.write(name -> isGiven(name, form.given()), name -> marks(name, form.sizes()), inside);
        List<Integer> slots = slots(rendered);
        if (page != null) {
            Rendered around = page.filters().around();
            Variant paged = around == null
                    ? PagedSql.wrap(rendered.sql(), slots, null, List.of(), page, statement.dialect())
                    : PagedSql.wrap(rendered.sql(), slots, around.sql(), slots(around), page, statement.dialect());
            return new Variant(bounds.bounded(mark() + paged.sql(), page.purpose()), paged.slots());
        }
        return new Variant(
                bounds.bounded(mark() + rendered.sql(), Purpose.PAGE),
                slots.stream().mapToInt(Integer::intValue).toArray());
    }

    private boolean isGiven(String name, Given given) {
        Integer index = names.get(name);
        for (int i = 0; index != null && i < switches.length; i++) {
            if (switches[i] == index) {
                return given.has(i);
            }
        }
        return true;
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

    private List<Integer> slots(Rendered rendered) {
        return rendered.slots().stream().map(this::slot).toList();
    }

    private int slot(Rendered.Slot slot) {
        int index = index(slot.name());
        return slot.item() < 0 ? index : Variant.item(index, slot.item());
    }
}
