package tidybridge.core.definition;

import java.util.List;
import tidybridge.core.text.Place;

/**
 * A field that callers may filter a collection by.
 *
 * @param column as the statement names it
 * @param operators those that callers may use; empty for all that its type has
 */
public record FilterRule(String column, List<FilterOperator> operators, Place place) {
    public FilterRule {
        operators = List.copyOf(operators);
    }
}
