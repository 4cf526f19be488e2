package tidybridge.core.catalog;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What a source's schema held when it was read: tables, views and routines, each ordered by name. Immutable and thread-safe. */
public final class Contents {

    private final String schema;
    private final Instant readAt;
    private final List<Relation> relations;
    private final List<Routine> routines;
    private final Map<String, Relation> relationsByName;
    private final Map<String, Relation> relationsByLower;
    private final Map<String, Routine> routinesByName;

    public Contents(String schema, Instant readAt, List<Relation> relations, List<Routine> routines) {
        this.schema = schema;
        this.readAt = readAt;
        this.relations = List.copyOf(relations);
        this.routines = List.copyOf(routines);
        this.relationsByName = relations.stream()
                .collect(Collectors.toUnmodifiableMap(Relation::name, Function.identity(), (one, other) -> one));
        this.relationsByLower = byLower(relations);
        this.routinesByName = routines.stream()
                .collect(Collectors.toUnmodifiableMap(
                        routine -> lower(routine.name()), Function.identity(), (one, other) -> one));
    }

    /** Those that differ from no other one by case alone. */
    private static Map<String, Relation> byLower(List<Relation> relations) {
        Map<String, List<Relation>> alike =
                relations.stream().collect(Collectors.groupingBy(relation -> lower(relation.name())));
        Map<String, Relation> names = new HashMap<>();
        alike.forEach((lower, same) -> {
            if (same.size() == 1) {
                names.put(lower, same.getFirst());
            }
        });
        return Map.copyOf(names);
    }

    public String schema() {
        return schema;
    }

    public Instant readAt() {
        return readAt;
    }

    public List<Relation> relations() {
        return relations;
    }

    public List<Routine> routines() {
        return routines;
    }

    /** Finds a table or view: by its very name first, because names may differ by case alone, and otherwise without case. */
    public Optional<Relation> relation(String name) {
        Relation exact = relationsByName.get(name);
        return Optional.ofNullable(exact == null ? relationsByLower.get(lower(name)) : exact);
    }

    /**
     * Finds a table or view as a statement names it.
     *
     * @param inSchema null for the source's own
     */
    public Optional<Relation> relation(@Nullable String inSchema, String name) {
        return inSchema == null || inSchema.equals(schema) ? relation(name) : Optional.empty();
    }

    /** Finds a procedure or function, without case. */
    public Optional<Routine> routine(String name) {
        return Optional.ofNullable(routinesByName.get(lower(name)));
    }

    private static String lower(String name) {
        return name.toLowerCase(Locale.ROOT);
    }
}
