package tidybridge.core.sql;

import tidybridge.core.text.Place;

/**
 * One occurrence of a bind parameter.
 *
 * @param name without colon
 * @param when the innermost conditional part it stands in, as an index into {@link Statement#whens()}; -1 when it always applies
 */
public record Bind(String name, Place place, int when) {}
