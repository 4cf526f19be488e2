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
    private final MaskKey key;
    private final List<String> lifting;
    private final RowWriter forStrangers;
    private final Map<Set<String>, RowWriter> kept = new ConcurrentHashMap<>();

    public RowWriters(List<ShapedField> fields, MaskKey key) {
        this.fields = List.copyOf(fields);
        this.key = key;
        this.lifting = fields.stream()
                .filter(field -> field.mask() != null)
                .map(ShapedField::unless)
                .filter(Objects::nonNull)
                .distinct()
                .toList();
        this.forStrangers = new RowCompiler(key, Set.of()).compile(fields);
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
        RowWriter made = new RowCompiler(key, held).compile(fields);
        if (kept.size() < MOST_KEPT) {
            kept.putIfAbsent(Set.copyOf(held), made);
        }
        return made;
    }
}
