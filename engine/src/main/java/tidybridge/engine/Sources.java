package tidybridge.engine;

import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** The sources of this environment by name, which may be defined anew while others are used. Thread-safe. */
public final class Sources implements AutoCloseable {

    private volatile Map<String, Source> byName = Map.of();

    /** Opens a pool for each. */
    public Sources(Collection<SourceSettings> settings) {
        replace(settings);
    }

    /**
     * Takes new definitions. A source whose settings stay the same keeps its pool; callers close the ones that are returned once
     * nothing uses them any more.
     *
     * @return the sources that are no longer defined, or are defined in another way
     */
    public synchronized List<Source> replace(Collection<SourceSettings> settings) {
        Map<String, Source> before = byName;
        Map<String, Source> next = new LinkedHashMap<>();
        for (SourceSettings one : settings) {
            Source known = before.get(one.name());
            boolean same = known != null && known.settings().equals(one);
            next.put(one.name(), same ? known : new Source(one));
        }
        byName = next;
        return before.values().stream()
                .filter(source -> next.get(source.settings().name()) != source)
                .toList();
    }

    public Optional<Source> find(String name) {
        return Optional.ofNullable(byName.get(name));
    }

    public Set<String> names() {
        return Set.copyOf(byName.keySet());
    }

    /** All of them in the order of their definition. */
    public List<Source> all() {
        return List.copyOf(byName.values());
    }

    @Override
    public void close() {
        byName.values().forEach(Source::close);
    }
}
