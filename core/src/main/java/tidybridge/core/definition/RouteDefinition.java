package tidybridge.core.definition;

import java.util.List;
import tidybridge.core.text.Place;

/**
 * A URL path inside a module with the operations on it.
 *
 * @param path starts with a slash, may hold {@code {placeholders}}
 */
public record RouteDefinition(String path, Place place, List<OperationDefinition> operations) {
    public RouteDefinition {
        operations = List.copyOf(operations);
    }
}
