package tidybridge.core.definition;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;

/**
 * A named, versioned group of routes over one source.
 *
 * @param opened true when the text opens it to everybody with {@code public: true}; null when it says nothing, which leaves it closed
 * @param accepted the findings the text accepts for all of its operations
 */
public record ModuleDefinition(
        String name,
        Version version,
        String title,
        @Nullable String about,
        String source,
        Place sourcePlace,
        @Nullable Boolean opened,
        Place place,
        List<Acceptance> accepted,
        List<RouteDefinition> routes) {
    public ModuleDefinition {
        accepted = List.copyOf(accepted);
        routes = List.copyOf(routes);
    }

    /** True when anybody may call it. */
    public boolean open() {
        return opened != null && opened;
    }
}
