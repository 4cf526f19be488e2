package tidybridge.core.definition;

import tidybridge.core.text.Place;

/**
 * A field that callers may sort a collection by.
 *
 * @param column as the statement names it
 */
public record SortRule(String column, Place place) {}
