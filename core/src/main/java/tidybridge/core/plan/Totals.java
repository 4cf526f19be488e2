package tidybridge.core.plan;

import java.time.Duration;
import java.util.Set;
import tidybridge.core.definition.Total;

/**
 * How callers may have the rows of a collection counted.
 *
 * @param timeout for the statement that counts
 */
public record Totals(Set<Total> offered, Duration timeout) {
    public Totals {
        offered = Set.copyOf(offered);
    }
}
