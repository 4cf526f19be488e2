package tidybridge.core.definition;

import java.util.List;
import tidybridge.core.text.Place;

/**
 * A URL path inside a module with the operations on it.
 *
 * @param path starts with a slash, may hold {@code {placeholders}}
 * @param access who may call its operations, unless they say otherwise
 */
public record RouteDefinition(String path, Place place, AccessRule access, List<OperationDefinition> operations) {
    public RouteDefinition {
        operations = List.copyOf(operations);
    }

    /** The same with other operations. */
    public RouteDefinition with(List<OperationDefinition> others) {
        return new RouteDefinition(path, place, access, others);
    }
}
