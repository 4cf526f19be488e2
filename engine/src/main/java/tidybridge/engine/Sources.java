package tidybridge.engine;

import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** The sources of this environment by name. Immutable and thread-safe. */
public final class Sources implements AutoCloseable {

    private final Map<String, Source> byName = new LinkedHashMap<>();

    /** Opens a pool for each. */
    public Sources(Collection<SourceSettings> settings) {
        for (SourceSettings one : settings) {
            byName.put(one.name(), new Source(one));
        }
    }

    public Optional<Source> find(String name) {
        return Optional.ofNullable(byName.get(name));
    }

    public Set<String> names() {
        return Set.copyOf(byName.keySet());
    }

    @Override
    public void close() {
        byName.values().forEach(Source::close);
    }
}
