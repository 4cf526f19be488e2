package tidybridge.engine;

import java.time.Duration;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.sql.TimeLimit;

/**
 * How long statements may run at a source, which never allows more than its settings say.
 *
 * @param most of the source
 * @param mostOfAll of the source, for all rows of a collection in one answer
 * @param usual what its sessions are opened with
 */
record TimeLimits(Duration most, Duration mostOfAll, Duration usual) {

    /** How much longer than the server's own limit a connection waits before it is given up. */
    static final Duration GRACE = Duration.ofSeconds(2);

    static TimeLimits of(SourceSettings settings) {
        return new TimeLimits(
                settings.timeout(),
                settings.allTimeout(),
                shorter(OperationDefinition.DEFAULT_TIMEOUT, settings.timeout()));
    }

    private static Duration shorter(Duration one, Duration other) {
        return one.compareTo(other) < 0 ? one : other;
    }

    /** How long a statement may run here of the time its operation allows. */
    Duration allowed(Duration asked) {
        return shorter(asked, most);
    }

    /** The same by what it is run for. */
    Duration allowed(TimeLimit asked) {
        return switch (asked.purpose()) {
            case PAGE, COUNT -> allowed(asked.time());
            case ALL -> shorter(asked.time(), mostOfAll);
        };
    }

    /** True when a session's own limit is the one that is meant. */
    boolean isUsual(Duration limit) {
        return limit.equals(usual);
    }

    /** How long a connection waits for a statement of that limit, in ms. */
    static int patienceMillis(Duration limit) {
        return (int) limit.plus(GRACE).toMillis();
    }
}
