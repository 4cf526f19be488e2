package tidybridge.engine;

import org.jspecify.annotations.Nullable;
import tidybridge.core.plan.Variant;
import tidybridge.core.sql.TimeLimit;

/**
 * A query with everything one run of it needs.
 *
 * @param values in the order of the operation's parameters, null when absent
 * @param position the order values to continue after, null for none
 * @param rows how many rows to read, for the slot {@link Variant#LIMIT}
 * @param readAhead how many rows to collect at a time; 0 collects all of them at once, which is fastest for a short page
 * @param limit after which the server stops it
 */
public record Query(
        Variant variant,
        @Nullable Object[] values,
        @Nullable Object @Nullable [] position,
        int rows,
        int readAhead,
        TimeLimit limit) {}
