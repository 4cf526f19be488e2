package tidybridge.core.sql;

import tidybridge.core.text.Place;

/**
 * One occurrence of a bind parameter.
 *
 * @param name without colon
 * @param when the innermost conditional part it stands in, as an index into {@link Statement#whens()}; -1 when it always applies
 * @param inList true when it stands alone in the parentheses of {@code in (:name)}, where a list can take its place
 */
public record Bind(String name, Place place, int when, boolean inList) {}
