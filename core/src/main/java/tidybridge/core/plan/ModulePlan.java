package tidybridge.core.plan;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Version;

/**
 * A module as the gateway, the reference and the console read it. Immutable and thread-safe.
 *
 * @param open true when anybody may call it
 */
public record ModulePlan(
        String name,
        Version version,
        String title,
        @Nullable String about,
        String source,
        boolean open,
        List<RoutePlan> routes) {
    public ModulePlan {
        routes = List.copyOf(routes);
    }

    /** {@code moorings/v1}, what is live at most once. */
    public String identity() {
        return name + "/v" + version.major();
    }

    /** Where it is served. */
    public String basePath() {
        return "/api/" + identity();
    }
}
