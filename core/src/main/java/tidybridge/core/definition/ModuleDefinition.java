package tidybridge.core.definition;

import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Admission;
import tidybridge.core.access.Needs;
import tidybridge.core.text.Place;

/**
 * A named, versioned group of routes over one source.
 *
 * @param listing how it is found
 * @param admission from where, how and how often it may be called
 * @param access who may call its operations, unless a route or an operation says otherwise
 * @param deprecated null while callers may begin to use it
 * @param asksReview whether a second person must approve what is published of it
 * @param accepted the findings the text accepts for all of its operations
 */
public record ModuleDefinition(
        String name,
        Version version,
        String title,
        @Nullable String about,
        Listing listing,
        String source,
        Place sourcePlace,
        Admission admission,
        AccessRule access,
        Place place,
        @Nullable Deprecation deprecated,
        boolean asksReview,
        List<Acceptance> accepted,
        List<RouteDefinition> routes) {
    public ModuleDefinition {
        accepted = List.copyOf(accepted);
        routes = List.copyOf(routes);
    }

    /** What an operation asks of its caller: the nearest that says something counts, and what says nothing anywhere is closed. */
    public Needs needs(RouteDefinition route, OperationDefinition operation) {
        boolean closed = false;
        for (AccessRule rule : List.of(operation.access(), route.access(), access)) {
            if (!rule.needs().isEmpty()) {
                return Needs.anyOf(rule.needs());
            }
            if (rule.opens() && !closed) {
                return Needs.NOTHING;
            }
            closed |= rule.closes();
        }
        return Needs.CLOSED;
    }

    /** What each of its operations asks, in the order of the text. */
    public Stream<Needs> needs() {
        return routes.stream().flatMap(route -> route.operations().stream().map(operation -> needs(route, operation)));
    }

    /** The same with other routes. */
    public ModuleDefinition with(List<RouteDefinition> others) {
        return new ModuleDefinition(
                name,
                version,
                title,
                about,
                listing,
                source,
                sourcePlace,
                admission,
                access,
                place,
                deprecated,
                asksReview,
                accepted,
                others);
    }
}
