package tidybridge.core.definition;

import java.util.List;
import tidybridge.core.text.Place;

/**
 * The columns in which callers may search for words.
 *
 * @param columns as the statement names them
 */
public record SearchRule(List<String> columns, Place place) {
    public SearchRule {
        columns = List.copyOf(columns);
    }
}
