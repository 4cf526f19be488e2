package tidybridge.core.answer;

import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Predicate;

/**
 * The writers of one operation's rows: one for all callers where nothing is masked, else one for each set of privileges that lifts masks,
 * made when it is first met and then kept. Thread-safe.
 */
public final class RowWriters {

    /** Beyond this many sets of privileges their writers are made anew for each call; an operation with so many has a design fault. */
    private static final int MOST_KEPT = 256;

    private final List<ShapedField> fields;
    private final RowShape shape;
    private final MaskKey key;
    private final List<String> lifting;
    private final RowWriter forStrangers;
    private final Map<Set<String>, RowWriter> kept = new ConcurrentHashMap<>();
    private final Map<RowShape, RowWriters> shaped = new ConcurrentHashMap<>();

    public RowWriters(List<ShapedField> fields, MaskKey key) {
        this(fields, RowShape.WHOLE, key);
    }

    private RowWriters(List<ShapedField> fields, RowShape shape, MaskKey key) {
        this.shape = shape;
        this.fields = List.copyOf(fields);
        this.key = key;
        this.lifting = fields.stream()
                .filter(field -> field.mask() != null)
                .map(ShapedField::unless)
                .filter(Objects::nonNull)
                .distinct()
                .toList();
        this.forStrangers = new RowCompiler(fields, key, Set.of()).compile(shape);
    }

    /** The columns that tell whether the objects around a field are there. */
    public static Set<Integer> tellingObjects(List<ShapedField> all, ShapedField field) {
        Set<Integer> columns = new HashSet<>();
        for (int size = 1; size < field.path().size(); size++) {
            for (int column : RowCompiler.nullTogether(all, field.path().subList(0, size))) {
                columns.add(column);
            }
        }
        return columns;
    }

    /** The writers of the same rows in another shape; of the shapes that were asked for, so many are kept as of privileges. */
    public RowWriters as(RowShape shape) {
        if (shape == RowShape.WHOLE) {
            return this;
        }
        RowWriters known = shaped.get(shape);
        if (known != null) {
            return known;
        }
        return made(shape);
    }

    private RowWriters made(RowShape shape) {
        if (shaped.size() >= MOST_KEPT) {
            shaped.clear();
        }
        return shaped.computeIfAbsent(shape, another -> new RowWriters(fields, another, key));
    }

    /** True when some caller may see more than others. */
    public boolean isMasked() {
        return !lifting.isEmpty();
    }

    /** The writer for somebody who holds nothing. */
    public RowWriter forStrangers() {
        return forStrangers;
    }

    /** The writer for somebody who holds some privileges. */
    public RowWriter of(Predicate<String> privileges) {
        if (lifting.isEmpty()) {
            return forStrangers;
        }
        Set<String> held = new HashSet<>();
        for (String privilege : lifting) {
            if (privileges.test(privilege)) {
                held.add(privilege);
            }
        }
        return held.isEmpty() ? forStrangers : kept(held);
    }

    private RowWriter kept(Set<String> held) {
        RowWriter known = kept.get(held);
        if (known != null) {
            return known;
        }
        RowWriter made = new RowCompiler(fields, key, held).compile(shape);
        if (kept.size() < MOST_KEPT) {
            kept.putIfAbsent(Set.copyOf(held), made);
        }
        return made;
    }
}
