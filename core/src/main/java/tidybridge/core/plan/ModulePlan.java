package tidybridge.core.plan;

import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Admission;
import tidybridge.core.access.Needs;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.Listing;
import tidybridge.core.definition.Version;

/**
 * A module as the gateway, the reference and the console read it. Immutable and thread-safe.
 *
 * @param listing how it is found
 * @param admission from where, how and how often it may be called
 * @param deprecated null while callers may begin to use it
 * @param asksReview whether a second person must approve what is published of it
 */
public record ModulePlan(
        String name,
        Version version,
        String title,
        @Nullable String about,
        Listing listing,
        String source,
        Admission admission,
        @Nullable Deprecation deprecated,
        boolean asksReview,
        List<RoutePlan> routes) {
    public ModulePlan {
        routes = List.copyOf(routes);
    }

    /** {@code moorings/v1}, what is live at most once. */
    public String identity() {
        return name + "/v" + version.major();
    }

    /** Its operations in the order of the text. */
    public Stream<OperationPlan> operations() {
        return routes.stream().flatMap(route -> route.operations().stream());
    }

    /** What its operations ask of their callers, in the order of the text. */
    public Stream<Needs> needs() {
        return operations().map(OperationPlan::needs);
    }

    /** Where it is served. */
    public String basePath() {
        return "/api/" + identity();
    }
}
