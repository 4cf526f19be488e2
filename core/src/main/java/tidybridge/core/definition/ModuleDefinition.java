package tidybridge.core.definition;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;

/**
 * A named, versioned group of routes over one source.
 *
 * @param open true when the text opens it to everybody with {@code public: true}
 */
public record ModuleDefinition(
        String name,
        Version version,
        String title,
        @Nullable String about,
        String source,
        Place sourcePlace,
        boolean open,
        Place place,
        List<RouteDefinition> routes) {
    public ModuleDefinition {
        routes = List.copyOf(routes);
    }
}
